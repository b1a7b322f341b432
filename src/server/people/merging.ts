import { sql } from 'kysely';
import { z } from 'zod';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import { usesOf } from './people.ts';
import type { Workspace } from './workspace.ts';
import { mustSee } from './workspace.ts';

export const PersonChangeSchema = z.discriminatedUnion('do', [
  /** this entry and the other are one person; the other one is kept */
  z.object({ do: z.literal('merge'), into: z.string().max(140) }),
  z.object({ do: z.literal('part'), merge: z.number().int() }),
  z.object({ do: z.literal('remove') }),
  z.object({ do: z.literal('put back') }),
]);

/** Columns that hold a person's id. Events are never changed: they are read as of the one who was kept, see {@link samePeople}. */
const COLUMNS = [
  ['commitment_owners', 'person_id'],
  ['attendance', 'person_id'],
  ['series_people', 'person_id'],
  ['memberships', 'person_id'],
  ['letter_wishes', 'person_id'],
  ['series_voices', 'person_id'],
  ['letter_recipients', 'person_id'],
  ['replies', 'person_id'],
  ['meetings', 'author_id'],
  ['projects', 'manager_id'],
  ['passages', 'person_id'],
  ['routines', 'person_id'],
] as const;
/** Columns of JSON in which ids stand as strings of their own. */
const DOCUMENTS = [
  ['finds', 'data'],
  ['own_finds', 'finds'],
  ['answers', 'data'],
  ['records', 'voices'],
  ['records', 'said_by'],
  ['routines', 'routine'],
] as const;
/** Columns of keys in which an id stands between colons. */
const KEYS = [
  ['letter_items', 'key'],
  ['plan_marks', 'key'],
] as const;

type Changed = ReturnType<typeof CODECS.merged.read>;

const namesIt = (json: string, id: string) => json.includes(JSON.stringify(id));

/** A JSON document in which one id stands for another; a list that has the other already has it once. */
function renamed(json: string, from: string, into: string): string {
  const walk = (value: unknown): unknown => {
    if (value === from) return into;
    if (Array.isArray(value)) {
      const out = value.map(walk);
      return value.includes(from) ? out.filter((v, i) => v !== into || out.indexOf(v) === i) : out;
    }
    return value !== null && typeof value === 'object' ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, walk(v)])) : value;
  };
  return JSON.stringify(walk(JSON.parse(json)));
}

async function seen(ws: Workspace, id: string) {
  const person = await ws.db.selectFrom('people').select(['id', 'name', 'aliases', 'account']).where('id', '=', id).executeTakeFirst();
  const projects = person ? (await ws.db.selectFrom('memberships').select('project_id').where('person_id', '=', id).execute()).map((m) => m.project_id) : [];
  if (!person || projects.length === 0) throw new Refusal('not-found', 'There is no such person.');
  for (const p of projects) mustSee(ws, p, 'person');
  return { ...person, projects };
}

/**
 * Merges two entries that are one person: whatever named the first names the second, in every project, and the first one's
 * name leads to the second from now on. Events stay as they were written and are read as the second's. Issued minutes and letters that went out keep the words they had.
 * @returns the merge's number, by which it can be taken back
 * @throws Refusal where the first has an account, or somebody may not see all projects of both
 */
export async function mergePeople(ws: Workspace, from: string, into: string): Promise<{ merge: number }> {
  return ws.transaction(async (ws) => {
    if (from === into) throw new Refusal('bad-input', 'That is the same entry.', 'Choose another person.');
    const [gone, kept] = [await seen(ws, from), await seen(ws, into)];
    if (gone.account) throw new Refusal('conflict', `${gone.name} signs in here and stays.`, `Merge the other way: from ${kept.name} into ${gone.name}.`);
    const changed: Changed = { moved: [], doubled: [], written: [], aliases: kept.aliases };
    for (const [table, column] of COLUMNS) {
      const { rows } = await sql<{ n: number }>`SELECT rowid AS n FROM ${sql.table(table)} WHERE ${sql.ref(column)} = ${from}`.execute(ws.db);
      if (rows.length === 0) continue;
      await sql`UPDATE OR IGNORE ${sql.table(table)} SET ${sql.ref(column)} = ${into} WHERE ${sql.ref(column)} = ${from}`.execute(ws.db);
      // where the kept one stood already, the other's row goes
      const left = await sql<Record<string, string | number | null>>`SELECT * FROM ${sql.table(table)} WHERE ${sql.ref(column)} = ${from}`.execute(ws.db);
      const { rows: over } = await sql<{ n: number }>`DELETE FROM ${sql.table(table)} WHERE ${sql.ref(column)} = ${from} RETURNING rowid AS n`.execute(ws.db);
      changed.doubled.push(...left.rows.map((row) => ({ table, row })));
      changed.moved.push({ table, column, rows: rows.map((r) => r.n).filter((n) => !over.some((o) => o.n === n)) });
    }
    await ws.db.updateTable('jottings').set({ about_id: into }).where('about_kind', '=', 'person').where('about_id', '=', from).execute();
    const rewrite = async (table: string, column: string, holds: (text: string) => boolean, to: (text: string) => string) => {
      const { rows } = await sql<{ n: number; text: string }>`SELECT rowid AS n, ${sql.ref(column)} AS text FROM ${sql.table(table)} WHERE instr(${sql.ref(column)}, ${from}) > 0`.execute(ws.db);
      for (const r of rows) {
        if (!holds(r.text)) continue;
        const after = to(r.text);
        const done = await sql`UPDATE OR IGNORE ${sql.table(table)} SET ${sql.ref(column)} = ${after} WHERE rowid = ${r.n}`.execute(ws.db);
        if (done.numAffectedRows) changed.written.push({ table, column, row: r.n, before: r.text, after });
      }
    };
    for (const [table, column] of DOCUMENTS) {
      await rewrite(
        table,
        column,
        (text) => namesIt(text, from),
        (text) => renamed(text, from, into),
      );
    }
    for (const [table, column] of KEYS) {
      await rewrite(
        table,
        column,
        (text) => text.split(':').includes(from),
        (text) =>
          text
            .split(':')
            .map((part) => (part === from ? into : part))
            .join(':'),
      );
    }
    const aliases = [...new Set([...CODECS.aliases.read(kept.aliases), gone.name, ...CODECS.aliases.read(gone.aliases)])].filter((a) => a !== kept.name);
    await ws.db
      .updateTable('people')
      .set({ aliases: CODECS.aliases.write(aliases) })
      .where('id', '=', into)
      .execute();
    const { id } = await ws.db
      .insertInto('people_merges')
      .values({ gone: from, kept: into, changed: CODECS.merged.write(changed), at: new Date().toISOString(), by_person: ws.asker.person })
      .returning('id')
      .executeTakeFirstOrThrow();
    return { merge: id };
  });
}

/** Takes a merge back: what it changed is as it was, but for what somebody has changed since. */
export async function partPeople(ws: Workspace, merge: number): Promise<void> {
  await ws.transaction(async (ws) => {
    const row = await ws.db.selectFrom('people_merges').selectAll().where('id', '=', merge).where('undone_at', 'is', null).executeTakeFirst();
    if (!row) throw new Refusal('conflict', 'This was taken back already.');
    await seen(ws, row.kept);
    const changed = CODECS.merged.read(row.changed);
    for (const w of changed.written) await sql`UPDATE OR IGNORE ${sql.table(w.table)} SET ${sql.ref(w.column)} = ${w.before} WHERE rowid = ${w.row} AND ${sql.ref(w.column)} = ${w.after}`.execute(ws.db);
    for (const m of changed.moved) for (const n of m.rows) await sql`UPDATE OR IGNORE ${sql.table(m.table)} SET ${sql.ref(m.column)} = ${row.gone} WHERE rowid = ${n} AND ${sql.ref(m.column)} = ${row.kept}`.execute(ws.db);
    for (const d of changed.doubled) await sql`INSERT OR IGNORE INTO ${sql.table(d.table)} (${sql.join(Object.keys(d.row).map((c) => sql.ref(c)))}) VALUES (${sql.join(Object.values(d.row))})`.execute(ws.db);
    await ws.db.updateTable('people').set({ aliases: changed.aliases }).where('id', '=', row.kept).execute();
    await ws.db.updateTable('people_merges').set({ undone_at: new Date().toISOString() }).where('id', '=', merge).execute();
  });
}

/**
 * Takes somebody off a project who has nothing to do with it.
 * @throws Refusal that names what they have to do with it, where there is something
 */
export async function removePerson(ws: Workspace, project: string, id: string): Promise<void> {
  mustSee(ws, project, 'project');
  await ws.transaction(async (ws) => {
    const person = await seen(ws, id);
    if (id === ws.asker.person) throw new Refusal('conflict', 'You cannot take yourself off the project.');
    const uses = await usesOf(ws.db, project, id);
    if (uses.length) throw new Refusal('conflict', `${person.name} ${uses.join(', ')}.`, 'Merge the entry with another person, or settle these first.');
    await ws.db.deleteFrom('memberships').where('project_id', '=', project).where('person_id', '=', id).execute();
  });
}

/** Puts somebody back who was taken off a project. */
export async function putBack(ws: Workspace, project: string, id: string): Promise<void> {
  mustSee(ws, project, 'project');
  const known = await ws.db.selectFrom('people').select('id').where('id', '=', id).executeTakeFirst();
  if (!known) throw new Refusal('not-found', 'There is no such person.');
  await ws.db
    .insertInto('memberships')
    .values({ project_id: project, person_id: id, sees: 0 })
    .onConflict((c) => c.doNothing())
    .execute();
}
