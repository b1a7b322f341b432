import { Refusal } from '../refusal.ts';
import { isDemo } from './signing-in.ts';
import { mustSee, type Workspace } from './workspace.ts';

/** Lets somebody of the demo's project be acted for; their account comes with it. Nowhere but in the demo. */
export async function stepInto(ws: Workspace, person: string): Promise<{ name: string }> {
  if (!isDemo()) throw new Refusal('not-found', 'Stepping into others is for the demo.');
  mustSee(ws, ws.project, 'project');
  const row = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name']).where('m.project_id', '=', ws.project).where('p.id', '=', person).executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'There is no such person in this project.');
  await ws.transaction(async (ws) => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', person).execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', person).execute();
  });
  return { name: row.name };
}
