import { sql } from 'kysely';
import { z } from 'zod';
import { DEEDS, type Entry } from '../../core/people/deeds.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { ownerOf } from './owner.ts';
import type { Workspace } from './workspace.ts';

/** Entries on a page of the audit. */
const PAGE = 200;
/** The same person who sees the same thing again within this time, in milliseconds, is told of once. */
const AGAIN = 10 * 60_000;

/** Adds an entry. Nothing else can be done to the audit, neither here nor in the database. */
export async function note(db: Db, person: string, project: string | null, entry: Entry, now: Date): Promise<void> {
  if (entry.did === 'saw') {
    const before = await db.selectFrom('audit').select(['at', 'did', 'what', 'about']).where('person_id', '=', person).orderBy('id', 'desc').limit(1).executeTakeFirst();
    if (before?.did === 'saw' && before.what === entry.what && before.about === entry.about && now.getTime() - Date.parse(before.at) < AGAIN) return;
  }
  await db
    .insertInto('audit')
    .values({ at: now.toISOString(), person_id: person, project_id: project, ...entry })
    .execute();
}

export const AuditQuerySchema = z.object({ words: z.string().max(200).default(''), person: z.string().max(140).default(''), did: z.enum(DEEDS).or(z.literal('')).default(''), before: z.coerce.number().int().positive().optional() });

/** What was done, the latest first; for whoever keeps this Ottik. */
export async function auditPage(ws: Workspace, asked: z.infer<typeof AuditQuerySchema>) {
  if ((await ownerOf(ws.db)) !== ws.asker.person) throw new Refusal('forbidden', 'The audit is for whoever set up this Ottik.');
  let query = ws.db.selectFrom('audit as a').leftJoin('people as p', 'p.id', 'a.person_id').leftJoin('projects as r', 'r.id', 'a.project_id').select(['a.id', 'a.at', 'a.did', 'a.what', 'a.about', 'p.name as person', 'r.name as project']);
  if (asked.person) query = query.where('a.person_id', '=', asked.person);
  if (asked.did) query = query.where('a.did', '=', asked.did);
  if (asked.before) query = query.where('a.id', '<', asked.before);
  const has = (column: 'a.what' | 'a.about' | 'p.name') => sql<boolean>`instr(lower(coalesce(${sql.ref(column)}, '')), ${asked.words.toLowerCase()}) > 0`;
  if (asked.words) query = query.where((eb) => eb.or([has('a.what'), has('a.about'), has('p.name')]));
  const rows = await query
    .orderBy('a.id', 'desc')
    .limit(PAGE + 1)
    .execute();
  return { rows: rows.slice(0, PAGE), more: rows.length > PAGE ? rows[PAGE - 1]!.id : null, zone: ws.asker.zone };
}
