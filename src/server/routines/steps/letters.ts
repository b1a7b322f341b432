import { listOf, shortDay } from '../../../core/language/days.ts';
import type { Letter } from '../../letters/letters.ts';
import { planOf, writePlanned } from '../../letters/plan.ts';
import { queueLetter } from '../../letters/queue.ts';
import { recomposeRoundUp, roundUpsFor, roundUpsOf } from '../../letters/round-up.ts';
import { Refusal } from '../../refusal.ts';
import type { Doers, Doing } from '../doing.ts';

const readers = (letters: readonly Letter[]): number => letters.reduce((n, l) => n + l.recipients.length, 0);
const people = (n: number) => `${n} ${n === 1 ? 'person' : 'people'}`;

/** Drafts the round-up of a meeting, or sends it: drafts that nobody has put into their own words tell what is taken by now. */
export const roundUp: Doers['round-up'] = async ({ act }, { ws, meeting, now }) => {
  const before = await roundUpsOf(ws, meeting!);
  const gone = before.filter((l) => l.state !== 'draft');
  if (before.length > 0 && gone.length === before.length) return { said: gone.some((l) => l.state === 'queued') ? 'the round-up is on its way already' : `the round-up went out already${gone[0]!.sentAt ? `, on ${shortDay(gone[0]!.sentAt.slice(0, 10), ws.today)}` : ''}` };
  const letters = before.length === 0 ? await roundUpsFor(ws, meeting!) : await brought(ws, before);
  if (act === 'draft') return { said: before.length ? 'the round-up is drafted already' : `drafted for ${people(readers(letters))}`, details: letters.map((l) => l.subject) };
  const drafts = letters.filter((l) => l.state === 'draft');
  for (const l of drafts) {
    if (l.recipients.length === 0) throw new Refusal('conflict', 'The round-up has no recipients.', 'Add a mail address under People, or choose who gets it on the meeting’s Follow up page.');
    await ws.db.updateTable('letters').set({ by_itself: 1 }).where('id', '=', l.id).execute();
    await queueLetter(ws, l.id, now);
  }
  return { said: `on its way to ${people(readers(drafts))}`, details: drafts.map((l) => `${l.subject}: ${listOf(l.recipients.map((r) => r.name))}`) };
};

/** Drafts of before, composed anew where they are still in Ottik's words. */
async function brought(ws: Doing['ws'], letters: readonly Letter[]): Promise<Letter[]> {
  const edited = new Set(
    (
      await ws.db
        .selectFrom('letters')
        .select('id')
        .where(
          'id',
          'in',
          letters.map((l) => l.id),
        )
        .where('edited', '=', 1)
        .execute()
    ).map((l) => l.id),
  );
  const out: Letter[] = [];
  for (const l of letters) out.push(edited.has(l.id) ? l : await recomposeRoundUp(ws, l.id));
  return out;
}

/** Writes the letters the plan has for today as drafts; none goes out by this. */
export const planned: Doers['letters'] = async (_, { ws }) => {
  const plan = await planOf(ws.db, ws.project, ws.today, 1);
  const due = plan.letters.filter((l) => l.day <= ws.today && !l.held);
  const drafted: string[] = [];
  const details: string[] = [];
  for (const l of due) {
    const name = plan.readers.get(l.to)?.name ?? l.to;
    try {
      const letter = await writePlanned(ws, ws.project, l.to, l.day);
      drafted.push(name);
      details.push(`${name}: ${letter.subject}`);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      details.push(`Not to ${name}: ${error.message}`);
    }
  }
  return { said: drafted.length ? `drafted ${drafted.length} ${drafted.length === 1 ? 'letter' : 'letters'}` : 'no letter is planned for the day', details };
};
