import { Refusal } from '../refusal.ts';
import { ownerOf } from './owner.ts';
import type { Workspace } from './workspace.ts';

/** Settings are for whoever this Ottik was set up for. */
export async function mustKeepHouse(ws: Workspace): Promise<void> {
  if ((await ownerOf(ws.db)) !== ws.asker.person) throw new Refusal('forbidden', 'Only whoever set up this Ottik may change that.');
}
