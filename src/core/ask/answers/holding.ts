import { capitalised, listOf, shortDay } from '../../language/days.ts';
import { isOpen } from '../../ledger/state.ts';
import { type Answer, Answering } from '../answer.ts';
import { about } from '../fits.ts';
import type { CommitmentOnRecord, OnRecord, Source } from '../on-record.ts';
import type { Question } from '../question.ts';
import { byUrgency, dueWords, holders, lastSaid, promises, standing, takenOn } from '../standing.ts';

const MOST = 5;

/** The commitments a question is about: of one person where one is named. */
function meant(q: Question, r: OnRecord): CommitmentOnRecord[] {
  const fitting = about(r.commitments, q.about, r.weight);
  const theirs = q.who === null ? fitting : fitting.filter((c) => c.owner.some((o) => o.id === q.who));
  return theirs.sort(byUrgency);
}

const sources = (...given: (Source | undefined)[]): Source[] => given.filter((s): s is Source => s !== undefined);

/** What Sift has found since and nobody has settled: said, and not counted. */
function waiting(answer: Answering, c: CommitmentOnRecord): void {
  if (c.waiting.length) answer.say('A newer record says more about it; nobody has taken that yet.', c.waiting);
}

/** Who holds a commitment, and since when. */
export function owner(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const all = meant({ ...q, who: null }, r);
  const open = all.filter((c) => isOpen(c.state));
  for (const c of (open.length ? open : all).slice(0, MOST)) {
    const you = c.owner.length === 1 && c.owner[0]!.id === r.me;
    const holds = isOpen(c.state) ? (you ? 'hold' : c.owner.length > 1 ? 'hold' : 'holds') : 'held';
    const after = isOpen(c.state) ? dueWords(c.due, r.today) : `it ${standing(c, r.today)}`;
    answer.say(c.owner.length ? `${capitalised(holders(c, r.me))} ${holds} ${c.ref}, ${c.text}; ${after}.` : `Nobody holds ${c.ref}, ${c.text}; ${after}.`, sources(takenOn(c)?.source), c);
    waiting(answer, c);
  }
  if (answer.empty) answer.missing(`Nothing on record says who holds ${q.about}.`);
  return answer.done();
}

/** How something stands: the commitment, what was heard of it last, or what was decided. */
export function state(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  for (const c of meant(q, r).slice(0, 3)) {
    const last = lastSaid(c);
    answer.say(`${c.ref}, ${c.text}, ${standing(c, r.today)}; ${c.owner.length ? `held by ${holders(c, r.me)}` : 'nobody holds it'}.`, sources(takenOn(c)?.source), c);
    if (last && last.kind !== 'made') answer.say(`Last heard of on ${shortDay(last.on, r.today)}: ${SAID[last.kind] ?? last.kind}.`, [last.source], c);
    waiting(answer, c);
  }
  if (!answer.empty) return answer.done();
  for (const s of about(r.statements, q.about, r.weight).slice(0, 2)) answer.say(s.kind === 'decision' ? `Decided on ${shortDay(s.on, r.today)}: ${s.text}` : s.open ? `It is an open question: ${s.text}` : `It was asked, and answered: ${s.closed}`, s.sources, s);
  if (answer.empty) answer.missing(`Nothing on record says how ${q.about} stands.`);
  return answer.done();
}

const SAID: Readonly<Record<string, string>> = {
  restated: 'still on it',
  moved: 'its date was moved',
  'handed over': 'it was handed over',
  blocked: 'it is waiting',
  done: 'it is done',
  dropped: 'it was dropped',
  reopened: 'it was opened again',
  reworded: 'it was worded anew',
  answered: 'an answer came',
  'no date': 'it needs no date',
  merged: 'it was merged',
};

/** When something is due, and which days were named before. */
export function due(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  for (const c of meant(q, r).slice(0, MOST)) {
    const named = promises(c).filter((p) => p.due !== null);
    const before = [...new Set(named.map((p) => p.due!))].filter((d) => d !== c.due);
    const earlier = before.length ? `; promised before for ${listOf(before.map((d) => shortDay(d, r.today)))}` : '';
    answer.say(`${c.ref}, ${c.text}, ${standing(c, r.today)}${earlier}.`, named.length ? named.slice(-2).map((p) => p.source) : sources(takenOn(c)?.source), c);
    waiting(answer, c);
  }
  if (answer.empty) answer.missing(`No date is on record for ${q.about}.`);
  return answer.done();
}
