import { readOwners } from '../../core/language/owners.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import type { Asker } from './asker.ts';
import { addPerson, peopleOf } from './people.ts';

/** People by id, and new ones by `new:Name`, which may turn out to be somebody who is known, or several. */
export async function resolveOwners(asker: Asker, tx: Db, project: string, owner: readonly string[]): Promise<string[]> {
  const people = await peopleOf(asker, tx, project);
  const out: string[] = [];
  for (const o of owner) {
    if (!o.startsWith('new:')) {
      out.push(o);
      continue;
    }
    const { known, unknown, refused } = readOwners(o.slice(4), people, asker.person);
    if (refused[0]) throw new Refusal('bad-input', refused[0].why, 'Type the name of somebody.');
    out.push(...known);
    for (const name of unknown) out.push(await addPerson(asker, tx, project, name));
  }
  return [...new Set(out)];
}
