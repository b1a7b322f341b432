import { readOwners } from '../../core/language/owners.ts';
import { Refusal } from '../refusal.ts';
import { addPerson, peopleOf } from './people.ts';
import type { Workspace } from './workspace.ts';

/** People by id, and new ones by `new:Name`, which may turn out to be somebody who is known, or several. */
export async function resolveOwners(ws: Workspace, project: string, owner: readonly string[]): Promise<string[]> {
  const people = await peopleOf(ws, project);
  const out: string[] = [];
  for (const o of owner) {
    if (!o.startsWith('new:')) {
      out.push(o);
      continue;
    }
    const { known, unknown, refused } = readOwners(o.slice(4), people, ws.asker.person);
    if (refused[0]) throw new Refusal('bad-input', refused[0].why, 'Type the name of somebody.');
    out.push(...known);
    for (const name of unknown) out.push(await addPerson(ws, project, name));
  }
  return [...new Set(out)];
}
