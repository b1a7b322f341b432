import { z } from 'zod';
import { MONDAY_TO_FRIDAY } from '../../core/dates/working-days.ts';
import { ReaderWishesSchema } from '../../core/letters/rules.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { inTransaction } from '../store/transactions.ts';
import { beginProject, ProjectName } from './beginning.ts';
import { MailSchema, newPersonId, PersonName, WorkingDaysSchema } from './details.ts';
import { ownerOf, setOwner } from './owner.ts';
import { mustBeHardToGuess, PasswordSchema } from './passwords.ts';
import { onThisMachineOnly, setPassword } from './signing-in.ts';

/** What a new Ottik asks for before anything else. */
export const BeginSchema = z.object({ name: PersonName, mail: MailSchema, zone: ReaderWishesSchema.shape.zone, country: ReaderWishesSchema.shape.country, workingDays: WorkingDaysSchema.default(MONDAY_TO_FRIDAY), project: ProjectName, password: PasswordSchema.optional() });

/** The first run: a person with an account, and their first project. Both or neither; a second first run is refused. */
export async function begin(db: Db, first: z.infer<typeof BeginSchema>, today: string): Promise<{ person: string; project: string }> {
  if (!onThisMachineOnly() && !first.password) throw new Refusal('bad-input', 'Others can reach this Ottik, so it needs a password.', 'Choose one of at least twelve characters.');
  if (first.password && !first.mail) throw new Refusal('bad-input', 'Whoever signs in does so by their mail address.', 'Enter yours.');
  if (first.password) await mustBeHardToGuess(first.password, [first.name, first.mail ?? '', first.project]);
  const begun = await inTransaction(db, async (tx) => {
    if ((await ownerOf(tx)) !== null) throw new Refusal('conflict', 'This Ottik has been set up already.', 'Load the page again.');
    const person = await newPersonId(tx, first.name);
    await tx.insertInto('people').values({ id: person, name: first.name, aliases: '[]', role: '', mail: first.mail, organisation: '', account: 1, zone: first.zone, country: first.country, working_days: first.workingDays }).execute();
    await setOwner(tx, person);
    return { person, project: await beginProject(tx, person, first.project, today, { country: first.country, workingDays: first.workingDays }) };
  });
  if (first.password) await setPassword(db, begun.person, first.password);
  return begun;
}
