import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';

/**
 * Asks before somebody gets a second letter on one day: one letter a person a day is the rule of the plan, and a hand may
 * break it only knowingly. Round-ups are not counted, which go to all who were invited, nor answers to what somebody wrote.
 * @param except the letter that is to go
 * @throws Refusal of the kind `insist`
 */
export async function mustBeFirstOfTheDay(db: Db, project: string, to: readonly string[], today: string, except: number | null): Promise<void> {
  if (to.length === 0) return;
  const sent = await db
    .selectFrom('letter_recipients as r')
    .innerJoin('letters as l', 'l.id', 'r.letter_id')
    .innerJoin('people as p', 'p.id', 'r.person_id')
    .select(['p.name', 'l.subject', 'l.id', 'l.state'])
    .where('l.project_id', '=', project)
    .where('r.person_id', 'in', [...to])
    .where('l.kind', 'not in', ['round-up', 'answer'])
    .where((eb) => eb.or([eb('r.sent_at', '>=', today), eb('l.state', '=', 'queued'), eb.and([eb('l.state', '=', 'draft'), eb('l.planned_on', '=', today)])]))
    .where('l.id', '!=', except ?? -1)
    .orderBy('r.sent_at', 'desc')
    .executeTakeFirst();
  if (sent?.state === 'draft') throw new Refusal('insist', `A draft of today waits for ${sent.name}: “${sent.subject.slice(0, 80)}”.`, 'Drop that draft, and both are planned as one letter; or press G again to send two.');
  if (sent) throw new Refusal('insist', `${sent.name} already has a letter of today: “${sent.subject.slice(0, 80)}”.`, 'Press G again to send this one too, or move it to another day.');
}
