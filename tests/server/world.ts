import { loadDemo } from '../../demo/load.ts';
import { type Asker, askerFor } from '../../src/server/people/asker.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';

export const TODAY = '2026-03-05';

/** A database of its own with the demo in it, and the demo's person. */
export async function demoWorld(): Promise<{ db: Db; asker: Asker }> {
  const db = await openDatabase(':memory:');
  await loadDemo(db, TODAY, null);
  return { db, asker: await askerFor(db, 'ines') };
}

export const bytes = (text: string) => new TextEncoder().encode(text);
