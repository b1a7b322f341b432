import type { LetterKind } from '../../core/letters/kinds.ts';
import { daysAhead, fortnight, type PlannedLetter } from '../../core/letters/plan.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import { correspondenceOf } from '../letters/correspondence.ts';
import { type Letter, lettersOf } from '../letters/letters.ts';
import { type Plan, planOf } from '../letters/plan.ts';
import { type Reply, repliesOf } from '../letters/replies.ts';
import { calendarOf } from '../letters/rules.ts';
import { straysOf } from '../letters/strays.ts';
import { meetingRows } from '../meetings/meetings.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { nextSitting } from '../records/bringing-in.ts';
import type { Db } from '../store/database.ts';
import { mailboxAddress } from './follow-up.ts';

/** A letter that is to come, as the page shows it. */
export interface ToCome {
  to: string;
  name: string;
  day: string;
  kind: LetterKind;
  /** references of what it is about, and why each is in it */
  about: { ref: string; text: string; kind: LetterKind; why: string; from: string | null }[];
  byItself: boolean;
  held: boolean;
}

/** A mark on the strip of the fortnight. */
export interface StripMark {
  day: string;
  what: 'sent' | 'waits' | 'planned' | 'held' | 'answered' | 'bounced';
  words: string;
  late: boolean;
}

export interface PostProps {
  today: string;
  days: { day: string; works: boolean }[];
  rows: { id: string; name: string; marks: StripMark[] }[];
  toCome: ToCome[];
  drafts: Letter[];
  /** round-ups nobody has written yet */
  unwritten: { meeting: number; date: string; title: string }[];
  sent: Letter[];
  replies: Reply[];
  /** mail that belongs to no letter and no project */
  strays: Reply[];
  /** commitments that mail can be about */
  open: { ref: string; text: string }[];
  silent: { person: string; name: string; silentFor: number; unanswered: number; never: boolean; lastWritten: string | null; bounced: string | null }[];
  people: Choice[];
  next: string | null;
  mailboxes: string | null;
  hours: { usual: string; digest: string };
  quiet: boolean;
}

const ALL = 'all';

/** The letter plan of a fortnight, what waits for a look, what came back, what went out. */
export async function postPage(ws: Workspace): Promise<PostProps> {
  const plan = await planOf(ws.db, ws.project, ws.today, daysAhead(ws.today));
  const [letters, meetings, replies, people, silence] = await Promise.all([lettersOf(ws, ws.project, 120), meetingRows(ws, { project: ws.project }), repliesOf(ws, ws.project, { limit: 60 }), peopleOf(ws, ws.project), correspondenceOf(ws.db, ws.project, ws.today)]);
  const names = new Map(people.map((p) => [p.id, p.name]));
  const toCome = plan.letters.map((l) => comes(l, plan, names));
  const sent = letters.filter((l) => l.state === 'sent' || l.state === 'part sent');
  const days = fortnight(ws.today);
  return {
    today: ws.today,
    days: days.map((day) => ({ day, works: calendarOf('', ws.today)(day) })),
    rows: strip(days, ws.today, toCome, letters, replies, names),
    toCome,
    drafts: letters.filter((l) => l.state === 'draft' || l.state === 'queued' || l.state === 'part sent'),
    unwritten: meetings.filter((m) => m.records > 0 && m.findsLeft === 0 && m.letter === 'none').map((m) => ({ meeting: m.id, date: m.date, title: `${m.title}${m.number ? ` no. ${m.number}` : ''}` })),
    sent: sent.slice(0, 40),
    replies,
    strays: await straysOf(ws, ws.project),
    open: (await ledgerRows(ws, { project: ws.project, lives: false, limit: 2000 })).map((r) => ({ ref: r.ref, text: r.text })),
    silent: silence.filter((s) => s.silentFor !== null && (s.silentFor >= 3 || s.bounced)).map((s) => ({ person: s.person, name: names.get(s.person) ?? s.person, silentFor: s.silentFor!, unanswered: s.unanswered, never: s.neverAnswered, lastWritten: s.lastWritten, bounced: s.bounced })),
    people: choicesOf(people, ws.asker),
    next: await firstSitting(ws.db, ws.project, ws.today),
    mailboxes: mailboxAddress(),
    hours: { usual: plan.rules.hour, digest: plan.rules.digest.hour },
    quiet: plan.rules.quiet !== null,
  };
}

async function firstSitting(db: Db, project: string, today: string): Promise<string | null> {
  const s = await db.selectFrom('series').select('id').where('project_id', '=', project).orderBy('id').limit(1).executeTakeFirst();
  return nextSitting(db, s?.id ?? null, today);
}

function comes(l: PlannedLetter, plan: Plan, names: ReadonlyMap<string, string>): ToCome {
  return {
    to: l.to,
    name: names.get(l.to) ?? l.to,
    day: l.day,
    kind: l.kind,
    about: l.parts.map((p) => ({ ref: p.commitment === null ? '' : (plan.refs.get(p.commitment)?.ref ?? ''), text: p.commitment === null ? 'the next sitting' : (plan.refs.get(p.commitment)?.text ?? ''), kind: p.kind, why: p.why, from: p.from })),
    byItself: l.byItself,
    held: l.held,
  };
}

/** One row for each person something goes to or comes from in the fortnight. */
function strip(days: readonly string[], today: string, toCome: readonly ToCome[], letters: readonly Letter[], replies: readonly Reply[], names: ReadonlyMap<string, string>): PostProps['rows'] {
  const rows = new Map<string, StripMark[]>();
  const put = (id: string, mark: StripMark) => {
    if (mark.day < days[0]! || mark.day > days.at(-1)!) return;
    rows.set(id, [...(rows.get(id) ?? []), mark]);
  };
  for (const l of letters) {
    const many = l.kind === 'round-up';
    for (const r of many ? l.recipients.slice(0, 1) : l.recipients) {
      if (r.id === 'chat' || (!many && !names.has(r.id))) continue;
      const day = r.sentAt?.slice(0, 10) ?? (l.state === 'draft' || l.state === 'queued' ? today : null);
      if (day) put(many ? ALL : r.id, { day, what: r.state === 'bounced' ? 'bounced' : r.sentAt ? 'sent' : 'waits', words: l.kind === 'answer' ? 'written back' : l.items.length > 1 && l.kind !== 'digest' ? `${l.items.length} things` : l.kind, late: l.kind === 'overdue' || l.kind === 'escalation' });
    }
  }
  for (const l of toCome) put(l.to, { day: l.day, what: l.held ? 'held' : l.day === today ? 'waits' : 'planned', words: l.about.length > 1 && l.kind !== 'digest' ? `${l.about.length} things` : l.kind, late: l.kind === 'overdue' || l.kind === 'escalation' });
  for (const r of replies) if (r.person && r.nature === 'answer') put(r.person, { day: r.receivedAt.slice(0, 10), what: 'answered', words: 'answered', late: false });
  const order = (id: string) => (id === ALL ? '\uffff' : (names.get(id) ?? id));
  return [...rows].map(([id, marks]) => ({ id, name: id === ALL ? 'everybody invited' : (names.get(id) ?? id), marks: marks.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0)) })).sort((a, b) => (order(a.name === 'everybody invited' ? ALL : a.id) < order(b.name === 'everybody invited' ? ALL : b.id) ? -1 : 1));
}
