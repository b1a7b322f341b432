import { listOf, shortDay } from '../../core/language/days.ts';
import { publicAddress } from '../store/addresses.ts';
import type { Doing } from './doing.ts';

/** Longest that is quoted of an answer, in characters. */
const LONGEST = 600;

/** What the fields of a text stand for, by what started the run. */
export async function valuesFor({ ws, routine, meeting, commitment, reply }: Doing): Promise<Record<string, unknown>> {
  const project = await ws.db.selectFrom('projects').select('name').where('id', '=', ws.project).executeTakeFirstOrThrow();
  const m = meeting === null ? undefined : await ws.db.selectFrom('meetings').select(['id', 'title', 'date']).where('id', '=', meeting).executeTakeFirst();
  const c = commitment === null ? undefined : await ws.db.selectFrom('commitments').select(['number', 'text', 'due']).where('id', '=', commitment).executeTakeFirst();
  const owners = commitment === null ? [] : await ws.db.selectFrom('commitment_owners as o').innerJoin('people as p', 'p.id', 'o.person_id').select('p.name').where('o.commitment_id', '=', commitment).orderBy('p.name').execute();
  const r = reply === null ? undefined : await ws.db.selectFrom('replies as r').leftJoin('people as p', 'p.id', 'r.person_id').select(['r.subject', 'r.words', 'r.from_address', 'p.name']).where('r.id', '=', reply).executeTakeFirst();
  return {
    routine: { name: routine.name },
    project,
    today: shortDay(ws.today),
    ...(m ? { meeting: { title: m.title, date: shortDay(m.date, ws.today), link: `${publicAddress()}/meetings/${m.id}/sift` } } : {}),
    ...(c ? { commitment: { ref: `C-${c.number}`, text: c.text, owner: owners.length ? listOf(owners.map((o) => o.name)) : 'nobody yet', due: c.due ? shortDay(c.due, ws.today) : 'no date', link: `${publicAddress()}/ledger/C-${c.number}` } } : {}),
    ...(r ? { answer: { from: r.name ?? r.from_address, subject: r.subject, words: r.words.slice(0, LONGEST) } } : {}),
  };
}
