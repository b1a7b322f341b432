import { loadDemo } from '../../demo/load.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { openDatabase } from '../../src/server/store/database.ts';

export const TODAY = '2026-03-05';

/** A database of its own with the demo in it, as the demo’s manager sees it. */
export async function demoWorld(): Promise<Workspace> {
  const db = await openDatabase(':memory:');
  await loadDemo(db, TODAY, null);
  return (await workspaceOf(db, 'ines', TODAY)).with({ project: 'quiet-crossing' });
}

export const bytes = (text: string) => new TextEncoder().encode(text);
