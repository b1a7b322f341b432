import { shortDay } from '../language/days.ts';

/** What a round-up letter is composed from. */
export interface RoundUpInput {
  meeting: { title: string; date: string; number: number | null; next: string | null };
  /** commitments made in the meeting, in the order of their references */
  actions: { ref: string; text: string; owner: string[]; due: string | null }[];
  decisions: { ref: string; text: string }[];
  questions: { ref: string; text: string }[];
  /** news of commitments that were open before */
  updates: { ref: string; text: string; owner: string[]; news: string }[];
  sender: { name: string };
}

/**
 * The round-up's template, in the Liquid template language. Variables of the meeting are filled in when the letter is
 * composed; those of the recipient (`recipient.first`, `recipient.name`) stay in the letter until it is sent, so that
 * one letter can be looked at and edited and each recipient is still addressed by name.
 */
export const ROUND_UP_TEMPLATE = {
  subject: '{{ meeting.title }}, {{ meeting.day }}: {{ summary }}',
  body: `Dear {{ "{{ recipient.first }}" }},

this is what came out of {{ meeting.title }}{% if meeting.number %} no. {{ meeting.number }}{% endif %} on {{ meeting.day }}.
{% if actions.size > 0 %}
Who does what
{% for a in actions %}- {{ a.ref }}  {{ a.text }}. {{ a.owner }}, {{ a.due }}
{% endfor %}{% endif %}{% if decisions.size > 0 %}
Decided
{% for d in decisions %}- {{ d.ref }}  {{ d.text }}
{% endfor %}{% endif %}{% if updates.size > 0 %}
From before
{% for u in updates %}- {{ u.ref }}  {{ u.text }}: {{ u.news }}
{% endfor %}{% endif %}{% if questions.size > 0 %}
Left open
{% for q in questions %}- {{ q.ref }}  {{ q.text }}
{% endfor %}{% endif %}{% if nothing %}
Nothing was decided and nobody took anything on.
{% endif %}
If something here is not what you remember, a short answer puts it right.{% if meeting.next %} We meet again on {{ meeting.next }}.{% endif %}

{{ sender.name }}
`,
} as const;

/** Fills a Liquid template with values; passed in, so that the core stays free of the library's loading. */
export type Fill = (template: string, values: Record<string, unknown>) => string;

/** Subject and body of the round-up, ready to be looked at. */
export function composeRoundUp(input: RoundUpInput, fill: Fill, template: { subject: string; body: string } = ROUND_UP_TEMPLATE): { subject: string; body: string } {
  const counts = [
    [input.actions.length, 'action', 'actions'],
    [input.decisions.length, 'decision', 'decisions'],
    [input.questions.length, 'open question', 'open questions'],
  ] as const;
  const summary =
    counts
      .filter(([n]) => n > 0)
      .map(([n, one, many]) => `${n} ${n === 1 ? one : many}`)
      .join(', ') || 'what came of it';
  const end = (text: string) => text.replace(/[.\s]+$/, '');
  const values = {
    meeting: { title: input.meeting.title, day: shortDay(input.meeting.date), number: input.meeting.number, next: input.meeting.next ? shortDay(input.meeting.next) : null },
    summary,
    actions: input.actions.map((a) => ({ ref: a.ref, text: end(a.text), owner: a.owner.join(' and ') || 'nobody yet', due: a.due ? `by ${shortDay(a.due)}` : 'no date yet' })),
    decisions: input.decisions.map((d) => ({ ref: d.ref, text: end(d.text) })),
    questions: input.questions,
    updates: input.updates.map((u) => ({ ...u, text: end(u.text) })),
    nothing: input.actions.length + input.decisions.length + input.questions.length + input.updates.length === 0,
    sender: input.sender,
  };
  return {
    subject: fill(template.subject, values).trim(),
    body: `${fill(template.body, values)
      .replace(/\n{3,}/g, '\n\n')
      .trim()}\n`,
  };
}

const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * The HTML part of a letter, from its plain part: blank lines part paragraphs, `- ` begins an item, a short line right
 * above a list is its heading. Every word is escaped; there is no markup in a letter but what is made here.
 */
export function letterHtml(body: string): string {
  const out: string[] = [];
  for (const block of body
    .replace(/\r\n?/g, '\n')
    .trim()
    .split(/\n{2,}/)) {
    const lines = block.split('\n').map((l) => l.trim());
    let list: string[] = [];
    let words: string[] = [];
    const flush = () => {
      if (words.length) out.push(`<p style="margin:0 0 12px">${words.join('<br>')}</p>`);
      if (list.length) out.push(`<ul style="margin:0 0 16px;padding:0;list-style:none">${list.join('')}</ul>`);
      words = [];
      list = [];
    };
    lines.forEach((line, i) => {
      if (line.startsWith('- ')) {
        if (words.length) flush();
        const item = /^([CDQ]-\d+)\s+(.*)$/.exec(line.slice(2));
        list.push(item ? `<li style="margin:0 0 6px;padding-left:56px;text-indent:-56px"><b style="display:inline-block;width:56px;text-indent:0">${escapeHtml(item[1]!)}</b>${escapeHtml(item[2]!)}</li>` : `<li style="margin:0 0 6px">${escapeHtml(line.slice(2))}</li>`);
      } else {
        if (list.length) flush();
        words.push(lines[i + 1]?.startsWith('- ') && line.length < 60 ? `<b>${escapeHtml(line)}</b>` : escapeHtml(line));
      }
    });
    flush();
  }
  return `<!doctype html><html><head><meta charset="utf-8"></head><body style="margin:0;padding:24px;background:#ffffff;color:#15201B;font:16px/24px Georgia,serif"><div style="max-width:560px">${out.join('\n')}</div></body></html>`;
}
