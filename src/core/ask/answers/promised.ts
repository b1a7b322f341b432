import { capitalised, shortDay } from '../../language/days.ts';
import { isOpen } from '../../ledger/state.ts';
import { type Answer, Answering } from '../answer.ts';
import { about, share } from '../fits.ts';
import type { CommitmentOnRecord, OnRecord } from '../on-record.ts';
import { type Question, stemsOf } from '../question.ts';
import { byUrgency, holders, nameOf, promises, standing, takenOn } from '../standing.ts';
import { within } from '../when.ts';

const MOST = 10;
/** Passages are about the subject when they have so much of it, and nearly all where a yes or no hangs on them. */
const NEAR = 0.75;

const heldBy = (c: CommitmentOnRecord, person: string) => c.owner.some((o) => o.id === person);
/** Also what they took on and handed over since. */
const everHeldBy = (c: CommitmentOnRecord, person: string) => heldBy(c, person) || c.history.some((h) => h.owner?.includes(person));

/** What somebody promised, for when, and whether they did it: each date they named with the words. */
export function promised(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const who = q.who;
  const all = r.commitments.filter((c) => (who === null || everHeldBy(c, who)) && within(c.madeOn, q.when));
  const fitting = (q.about ? about(all, q.about, r.weight) : [...all]).sort(byUrgency);
  const done = fitting.filter((c) => c.state === 'done').length;
  if (fitting.length > 2) answer.say(`${who === null ? 'On record are' : `${capitalised(nameOf(who, r))} took on`} ${fitting.length} commitments: ${done} done, ${fitting.filter((c) => isOpen(c.state)).length} open.`);
  for (const c of fitting.slice(0, MOST)) sayPromise(answer, c, r);
  if (fitting.length > MOST) answer.say(`${fitting.length - MOST} more stand in the Ledger.`);
  if (answer.empty) answer.missing(`Nothing on record says that ${who === null ? 'anybody' : nameOf(who, r)} promised anything${q.about ? ` about ${q.about}` : ''}.`);
  return answer.done();
}

function sayPromise(answer: Answering, c: CommitmentOnRecord, r: OnRecord): void {
  const named = promises(c).filter((p) => p.due !== null);
  const began = c.history.slice(0, 1).map((h) => h.source);
  if (named.length < 2) {
    const date = named[0] ? `, promised for ${shortDay(named[0].due!, r.today)}` : '';
    answer.say(`${c.ref}, ${c.text}${date}. It ${standing(c, r.today)}.`, named[0] ? [named[0].source] : began, c);
  } else {
    // a line for each date that was named, so that each stands beside its own words
    for (const [i, p] of named.entries()) answer.say(i === 0 ? `${c.ref}, ${c.text}: promised for ${shortDay(p.due!, r.today)},` : `then for ${shortDay(p.due!, r.today)}${i < named.length - 1 ? ',' : '.'}`, [p.source], i === 0 ? c : null);
    answer.say(`It ${standing(c, r.today)}.`);
  }
  if (c.waiting.length) answer.say('A newer record says more about it; nobody has taken that yet.', c.waiting);
}

/** Whether somebody promised something: yes with the words, no where somebody else did, or that nothing says so. */
export function whether(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const fitting = about(r.commitments, q.about, r.weight);
  const theirs = fitting.filter((c) => (q.who === null ? c.owner.length > 0 : everHeldBy(c, q.who)));
  for (const c of theirs.slice(0, 3)) {
    answer.say(
      `Yes: ${q.who === null ? holders(c, r.me) : nameOf(q.who, r)} took on ${c.ref}, ${c.text}, on ${shortDay(c.madeOn, r.today)}; it ${standing(c, r.today)}${q.who !== null && !heldBy(c, q.who) ? `, and ${holders(c, r.me)} ${c.owner.length > 1 ? 'hold' : 'holds'} it now` : ''}.`,
      takenOn(c) ? [takenOn(c)!.source] : [],
      c,
    );
  }
  if (!answer.empty) return answer.done();
  for (const c of fitting.slice(0, 2)) answer.say(`${c.owner.length ? `${capitalised(holders(c, r.me))} took that on` : 'That is on record, and nobody has taken it on'}: ${c.ref}, ${c.text}; it ${standing(c, r.today)}.`, takenOn(c) ? [takenOn(c)!.source] : [], c);
  const stems = stemsOf(q.about);
  const near = r.passages.filter((p) => (q.who === null || p.person === q.who) && p.kind === 'said' && share(stems, p.words, r.weight) >= NEAR).slice(0, 2);
  for (const p of near) answer.say(`The nearest that ${q.who === null ? 'was said' : `${nameOf(q.who, r)} said`}:`, [p]);
  answer.missing(`Nothing on record says that ${q.who === null ? 'anybody' : nameOf(q.who, r)} promised ${q.about}.`);
  return answer.done();
}

/** What whoever asks owes somebody: what they took on in meetings both were at, or that names them. */
export function owed(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const name = q.who === null ? '' : (r.names.get(q.who) ?? '');
  const mine = r.commitments.filter((c) => heldBy(c, r.me) && isOpen(c.state));
  const theirs = mine.filter((c) => share(stemsOf(name.split(' ')[0] ?? ''), `${c.text} ${c.words}`, () => 1) === 1);
  for (const c of theirs.sort(byUrgency).slice(0, MOST)) answer.say(`${c.ref}, ${c.text}; it ${standing(c, r.today)}.`, takenOn(c) ? [takenOn(c)!.source] : [], c);
  if (answer.empty) answer.missing(q.who === null ? `Nobody called ${q.unknown} is known here.` : `Nothing you hold is on record as owed to ${name}.`);
  return answer.done();
}
