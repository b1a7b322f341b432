import { trimEnd } from '../language/trim.ts';
import type { UpdateKind } from '../sift/find.ts';
import { dayIn, type Fill } from './compose.ts';
import type { Language, LetterLength, Tone } from './kinds.ts';
import { type LetterTemplate, templateFor, WORDS } from './templates.ts';

/** What a round-up letter is composed from. */
export interface RoundUpInput {
  meeting: { title: string; date: string; number: number | null; next: string | null };
  project: { name: string };
  /** commitments made in the meeting, in the order of their references */
  actions: { ref: string; text: string; owner: string[]; due: string | null }[];
  decisions: { ref: string; text: string }[];
  questions: { ref: string; text: string }[];
  /** news of commitments that were open before, with the new date or owners where they changed */
  updates: { ref: string; text: string; owner: string[]; news: UpdateKind; due: string | null }[];
  sender: { name: string };
  today: string;
  language?: Language;
  tone?: Tone;
  length?: LetterLength;
}

/** Words that go into a text which is filled a second time when it is sent: nothing in them is a variable. */
const plain = (text: string) => trimEnd(text.replace(/\{(?=[{%])/g, '{ '), '.');

/** Subject, body and short form of the round-up, ready to be looked at. */
export function composeRoundUp(input: RoundUpInput, fill: Fill, template: LetterTemplate = templateFor('round-up', input.language ?? 'en')): { subject: string; body: string; short: string } {
  const language = input.language ?? 'en';
  const { roundUp: w, noDate, nobody } = WORDS[language];
  const people = (owner: readonly string[]) => plain(owner.join(w.and)) || nobody;
  const counted: [number, [string, string]][] = [
    [input.actions.length, w.action],
    [input.decisions.length, w.decision],
    [input.questions.length, w.question],
  ];
  const news = (u: RoundUpInput['updates'][number]) => (u.news === 'moved' && u.due ? w.now(dayIn(language, u.due)) : u.news === 'reassigned' && u.owner.length ? w.with(people(u.owner)) : w.news[u.news]);
  const values = {
    meeting: { title: plain(input.meeting.title), day: dayIn(language, input.meeting.date), number: input.meeting.number, next: input.meeting.next ? dayIn(language, input.meeting.next) : null },
    project: input.project,
    today: dayIn(language, input.today),
    tone: input.tone ?? 'plain',
    length: input.length ?? 'usual',
    summary:
      counted
        .filter(([n]) => n > 0)
        .map(([n, [one, many]]) => `${n} ${n === 1 ? one : many}`)
        .join(', ') || w.whatCame,
    actions: input.actions.map((a) => ({ ref: a.ref, text: plain(a.text), owner: people(a.owner), due: a.due ? w.by(dayIn(language, a.due)) : noDate })),
    decisions: input.decisions.map((d) => ({ ref: d.ref, text: plain(d.text) })),
    questions: input.questions.map((q) => ({ ref: q.ref, text: plain(q.text) })),
    updates: input.updates.map((u) => ({ ref: u.ref, text: plain(u.text), owner: people(u.owner), news: news(u) })),
    nothing: input.actions.length + input.decisions.length + input.questions.length + input.updates.length === 0,
    sender: input.sender,
    // an own template may name the recipient: the variable stays until it is sent
    recipient: { first: '{{ recipient.first }}', name: '{{ recipient.name }}' },
  };
  const tidy = (text: string) => text.replace(/\n{3,}/g, '\n\n').trim();
  return { subject: fill(template.subject, values).trim(), body: `${tidy(fill(template.body, values))}\n`, short: tidy(fill(template.short, values)) };
}
