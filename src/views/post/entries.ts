import { listOf, shortDay } from '../../core/language/days.ts';
import type { Letter } from '../../server/letters/letters.ts';
import type { Reply } from '../../server/letters/replies.ts';
import type { PostProps, ToCome } from '../../server/pages/post.ts';

/** Something the page can open. */
export type Entry = { at: 'planned'; id: string; letter: ToCome } | { at: 'draft'; id: string; letter: Letter } | { at: 'unwritten'; id: string; meeting: { meeting: number; date: string; title: string } } | { at: 'reply'; id: string; reply: Reply } | { at: 'sent'; id: string; letter: Letter };

export interface Section {
  title: string;
  count: string;
  entries: Entry[];
  /** what to say when it is empty; null leaves an empty section out */
  empty: string | null;
}

/** Answers that wait for a person: what is open in them, and what belongs to no letter. */
export const waits = (r: Reply) => r.answers.some((a) => a.verdict === 'open') || r.nature === 'unmatched';

/** Lists of the page, in the order of what needs a person first. */
export function sectionsOf(p: Pick<PostProps, 'toCome' | 'drafts' | 'unwritten' | 'replies' | 'strays' | 'sent' | 'today'>): Section[] {
  const planned = (letters: readonly ToCome[]): Entry[] => letters.map((letter) => ({ at: 'planned', id: `plan ${letter.to} ${letter.day} ${letter.held}`, letter }));
  const back = p.replies.filter(waits);
  const today: Entry[] = [...p.drafts.map((letter): Entry => ({ at: 'draft', id: `draft ${letter.id}`, letter })), ...planned(p.toCome.filter((l) => l.day <= p.today && !l.held)), ...p.unwritten.map((meeting): Entry => ({ at: 'unwritten', id: `meeting ${meeting.meeting}`, meeting }))];
  const held = p.toCome.filter((l) => l.held);
  const later = p.toCome.filter((l) => l.day > p.today && !l.held);
  const settled = p.replies.filter((r) => !waits(r));
  return [
    { title: 'Came back, to look at', count: `${back.length}`, entries: back.map((reply): Entry => ({ at: 'reply', id: `reply ${reply.id}`, reply })), empty: null },
    { title: 'From nobody we know', count: `${p.strays.length}`, entries: p.strays.map((reply): Entry => ({ at: 'reply', id: `reply ${reply.id}`, reply })), empty: null },
    { title: 'Waiting for your look', count: `${today.length}`, entries: today, empty: 'No letter waits today.' },
    { title: 'Held', count: `${held.length}`, entries: planned(held), empty: null },
    { title: 'To come', count: `${later.length} in this fortnight`, entries: planned(later), empty: null },
    { title: 'Came back', count: `${settled.length}`, entries: settled.map((reply): Entry => ({ at: 'reply', id: `reply ${reply.id}`, reply })), empty: null },
    { title: 'Went out', count: `${p.sent.length}`, entries: p.sent.map((letter): Entry => ({ at: 'sent', id: `sent ${letter.id}`, letter })), empty: 'Nothing was sent yet.' },
  ].filter((s) => s.entries.length > 0 || s.empty !== null) as Section[];
}

/** What is looked at once the entry that was is gone: the next one of its list, or else the first of all. */
export function standIn(sections: readonly Section[], { section, at }: { section: string; at: number }): Entry | undefined {
  const own = sections.find((s) => s.title === section && s.entries.length > 0);
  return own ? own.entries[Math.min(at, own.entries.length - 1)] : sections.flatMap((s) => s.entries)[0];
}

const KIND: Record<string, string> = { 'round-up': 'round-up', digest: 'all that is with them', check: 'how does it stand' };
const refs = (about: readonly { ref: string; kind: string }[]) => listOf(about.map((a) => a.ref || 'invitation').slice(0, 4)) + (about.length > 4 ? ` and ${about.length - 4} more` : '');

/** What a line of a list says: who, what, and when or how it stands. */
export function lineOf(e: Entry, today: string): { who: string; what: string; end: string; tone: 'late' | 'ok' | 'soon' | '' } {
  switch (e.at) {
    case 'planned': {
      const late = e.letter.kind === 'overdue' || e.letter.kind === 'escalation';
      return { who: e.letter.name, what: [...new Set([refs(e.letter.about), KIND[e.letter.kind] ?? e.letter.kind])].join(', '), end: e.letter.held ? 'held' : e.letter.day === today ? (e.letter.byItself ? 'by itself' : 'today') : shortDay(e.letter.day), tone: late ? 'late' : '' };
    }
    case 'draft': {
      const l = e.letter;
      const failed = l.recipients.find((r) => r.error);
      return {
        who: l.kind === 'round-up' ? `${l.recipients.length} invited` : (l.recipients[0]?.name ?? 'nobody'),
        what: l.subject,
        end: l.state === 'queued' ? (failed ? 'tried again' : 'on its way') : l.state === 'part sent' ? 'part sent' : l.stale.length ? 'has changed' : 'draft',
        tone: l.state === 'part sent' || failed ? 'late' : 'soon',
      };
    }
    case 'unwritten':
      return { who: 'all invited', what: `Round-up of ${e.meeting.title}`, end: 'to write', tone: 'soon' };
    case 'reply': {
      const r = e.reply;
      const open = r.answers.filter((a) => a.verdict === 'open').length;
      const what =
        r.nature === 'bounce'
          ? `not delivered: ${r.note}`
          : r.nature === 'away' || r.nature === 'automatic' || r.nature === 'put away'
            ? (r.note ?? '')
            : r.nature === 'unmatched'
              ? r.subject || 'no subject'
              : open > 0
                ? r.words.replace(/\s+/g, ' ')
                : listOf(r.answers.filter((a) => a.verdict === 'taken').map((a) => `${a.ref ?? 'a word'} ${ANSWERED[a.kind] ?? a.kind}`)) || r.words.replace(/\s+/g, ' ') || 'nothing in it';
      return { who: r.nature === 'unmatched' ? r.address : r.from, what, end: r.receivedAt.slice(0, 10) === today ? r.receivedAt.slice(11, 16) : shortDay(r.receivedAt.slice(0, 10)), tone: r.nature === 'bounce' ? 'late' : '' };
    }
    default: {
      const l = e.letter;
      const gone = l.recipients.filter((r) => r.state === 'bounced').length;
      return { who: l.kind === 'round-up' ? `${l.recipients.length} invited` : (l.recipients[0]?.name ?? ''), what: l.subject, end: gone ? 'bounced' : l.sentAt ? shortDay(l.sentAt.slice(0, 10)) : '', tone: gone ? 'late' : '' };
    }
  }
}

/** How an answer is told of, once it is taken. */
export const ANSWERED: Record<string, string> = { done: 'done', moved: 'moved', reassigned: 'handed over', dropped: 'dropped', blocked: 'waits', progress: 'still on it', confirmed: 'confirmed', declined: 'not theirs', question: 'asked', remark: 'noted' };
