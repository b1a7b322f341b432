import { shortDay } from '../../language/days.ts';
import { type Answer, Answering } from '../answer.ts';
import { about } from '../fits.ts';
import type { OnRecord } from '../on-record.ts';
import type { Question } from '../question.ts';
import { within } from '../when.ts';

/** Decisions a list gives at most. */
const MOST = 12;

/** What was decided about a subject, the newest first; what a later decision replaced is said as that. */
export function decided(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const all = r.statements.filter((s) => s.kind === 'decision' && within(s.on, q.when));
  const fitting = q.about ? about(all, q.about, r.weight) : all;
  for (const d of [...fitting].sort((a, b) => (a.on < b.on ? 1 : -1)).slice(0, MOST)) answer.say(`${shortDay(d.on, r.today)}: ${d.text}${d.closed === null ? '' : ` (replaced by ${d.closed})`}`, d.sources, d);
  if (fitting.length > MOST) answer.say(`${fitting.length - MOST} more stand in the register.`);
  if (answer.empty) {
    answer.missing(q.about ? `Nothing is on record as decided about ${q.about}.` : 'No decision is on record.');
    // an open question on it is the nearest there is
    for (const s of about(
      r.statements.filter((s) => s.kind === 'question' && s.open),
      q.about,
      r.weight,
    ).slice(0, q.about ? 2 : 0))
      answer.say(`It is an open question: ${s.text}`, s.sources, s);
  }
  return answer.done();
}
