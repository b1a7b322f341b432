import { addDays, endOfMonth } from '../../dates/calendar.ts';
import { shortDay } from '../../language/days.ts';
import { relativeDay } from '../../ledger/due.ts';
import { countsAsOpen, isLate, isLoose } from '../../ledger/predicates.ts';
import { type Answer, Answering } from '../answer.ts';
import { about } from '../fits.ts';
import type { CommitmentOnRecord, OnRecord, Source } from '../on-record.ts';
import type { Question } from '../question.ts';
import { byUrgency, dueWords, holders, nameOf, takenOn } from '../standing.ts';
import { within } from '../when.ts';

const MOST = 15;

/** The commitments of one person, of a subject, or all. */
function of(q: Question, r: OnRecord, counts: (c: CommitmentOnRecord) => boolean): CommitmentOnRecord[] {
  const some = r.commitments.filter((c) => counts(c) && (q.who === null || c.owner.some((o) => o.id === q.who)));
  return (q.about ? about(some, q.about, r.weight) : some).sort(byUrgency);
}

const evidence = (c: CommitmentOnRecord): Source[] => (takenOn(c) ? [takenOn(c)!.source] : []);

function list(answer: Answering, some: readonly CommitmentOnRecord[], r: OnRecord, said: (c: CommitmentOnRecord) => string, holder = true): void {
  for (const c of some.slice(0, MOST)) answer.say(`${c.ref}, ${c.text}${holder ? `; ${holders(c, r.me)}` : ''}, ${said(c)}`, evidence(c), c);
  if (some.length > MOST) answer.say(`${some.length - MOST} more stand in the Ledger.`);
}

const whose = (q: Question, r: OnRecord) => (q.who !== null ? ` with ${nameOf(q.who, r)}` : q.about ? ` on ${q.about}` : '');

/** What is open with somebody or about something: commitments, and questions that wait for an answer. */
export function open(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  list(
    answer,
    of(q, r, (c) => countsAsOpen(c, r.today)),
    r,
    (c) => dueWords(c.due, r.today),
    q.who === null,
  );
  const questions = r.statements.filter((s) => s.kind === 'question' && s.open);
  if (q.about) for (const s of about(questions, q.about, r.weight).slice(0, 5)) answer.say(`Open question: ${s.text}`, s.sources, s);
  if (answer.empty) answer.missing(`Nothing is open${whose(q, r)}.`);
  return answer.done();
}

/** What is late, the longest first. */
export function late(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  list(
    answer,
    of(q, r, (c) => isLate(c, r.today)),
    r,
    (c) => `${relativeDay(c.due!, r.today)}, was due ${shortDay(c.due!, r.today)}`,
    q.who === null,
  );
  if (answer.empty) answer.missing(`Nothing is late${whose(q, r)}.`);
  return answer.done();
}

/** What falls due in a time to come; the next two weeks where none is named. */
export function upcoming(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const until = q.when?.to && q.when.to >= r.today ? q.when.to : addDays(r.today, 14);
  const from = q.when?.from && q.when.from > r.today ? q.when.from : r.today;
  const some = of(q, r, (c) => countsAsOpen(c, r.today) && c.due !== null && c.due >= from && c.due <= until);
  list(answer, some, r, (c) => dueWords(c.due, r.today));
  const days = until === from ? `on ${shortDay(from, r.today)}` : until === endOfMonth(from) ? 'until the end of the month' : `until ${shortDay(until, r.today)}`;
  if (answer.empty) answer.missing(`Nothing falls due ${days}.`);
  return answer.done();
}

/** Questions that wait for an answer. */
export function questions(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const all = openQuestions(q, r);
  for (const s of all.slice(0, MOST)) answer.say(`${shortDay(s.on, r.today)}: ${s.text}`, s.sources, s);
  if (all.length > MOST) answer.say(`${all.length - MOST} more stand in the parking lot.`);
  if (answer.empty) answer.missing(`No question is open${whose(q, r)}.`);
  return answer.done();
}

function openQuestions(q: Question, r: OnRecord): OnRecord['statements'][number][] {
  const all = r.statements.filter((s) => s.kind === 'question' && s.open && within(s.on, q.when));
  return q.about ? about(all, q.about, r.weight) : all;
}

/** What is not settled: questions without an answer, commitments that wait, and those without an owner or a date. */
export function unresolved(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const asked = openQuestions(q, r);
  if (asked.length) answer.head(`Questions without an answer: ${asked.length}`);
  for (const s of asked.slice(0, MOST)) answer.say(`${shortDay(s.on, r.today)}: ${s.text}`, s.sources, s);
  const waits = of(q, r, (c) => c.state === 'blocked' && countsAsOpen(c, r.today));
  if (waits.length) answer.head(`Waiting: ${waits.length}`);
  list(answer, waits, r, (c) => dueWords(c.due, r.today));
  const loose = of(q, r, (c) => isLoose(c) && countsAsOpen(c, r.today) && c.state !== 'blocked');
  if (loose.length) answer.head(`Loose: ${loose.length}`);
  list(answer, loose, r, (c) => (c.owner.length === 0 ? 'nobody holds it' : 'it has no date'), false);
  if (answer.empty) answer.missing(`Nothing is unresolved${whose(q, r)}.`);
  return answer.done();
}

const NEWS: readonly (readonly [kind: string, head: string])[] = [
  ['made', 'Taken on'],
  ['done', 'Done'],
  ['moved', 'Moved'],
  ['handed over', 'Handed over'],
  ['blocked', 'Now waiting'],
  ['dropped', 'Dropped'],
  ['reopened', 'Opened again'],
];

/** What happened in a time: since the last seven days where none is named. */
export function changed(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const when = q.when ?? { from: addDays(r.today, -7), to: null };
  for (const [kind, head] of NEWS) {
    const some = r.commitments.flatMap((c) => {
      const h = c.history.findLast((h) => h.kind === kind && within(h.on, when));
      return h ? [{ c, h }] : [];
    });
    if (some.length === 0) continue;
    answer.head(`${head}: ${some.length}`);
    for (const { c, h } of some.slice(0, 8)) answer.say(`${c.ref}, ${c.text}; ${kind === 'moved' && h.due ? `to ${shortDay(h.due, r.today)}` : kind === 'done' || kind === 'dropped' ? shortDay(h.on, r.today) : holders(c, r.me)}`, [h.source], c);
    if (some.length > 8) answer.say(`${some.length - 8} more`);
  }
  for (const [kind, head] of [
    ['decision', 'Decided'],
    ['question', 'Asked, and open'],
  ] as const) {
    const some = r.statements.filter((s) => s.kind === kind && within(s.on, when) && (kind === 'decision' || s.open));
    if (some.length) answer.head(`${head}: ${some.length}`);
    for (const s of some.slice(0, 8)) answer.say(s.text, s.sources, s);
  }
  if (answer.empty) answer.missing(`Nothing on record has changed${q.whenWords ? ` ${q.whenWords}` : ' in the last seven days'}.`);
  return answer.done();
}
