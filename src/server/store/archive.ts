import { createReadStream, createWriteStream, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Sqlite from 'better-sqlite3';
import { z } from 'zod';
import { Refusal } from '../refusal.ts';
import { openDatabase, type Shape } from './database.ts';

/**
 * The open archive of a workspace: a folder with one JSON object a line for each row, a file for each table, and what
 * people gave or wrote as files of its own: records as they were brought in, answers as they came.
 */
const FORMAT = 'ottik archive';
const VERSION = 1;
const ManifestSchema = z.object({ format: z.literal(FORMAT), version: z.literal(VERSION), shape: z.string(), at: z.string(), rows: z.record(z.string(), z.number()) });

/** What is left behind: who may sign in and by what, passwords of mail servers, and the find index, which is made anew. Accounts are set anew by an invitation. */
const NOT_TABLES = /^(?:sqlite_|kysely_|passage|(?:users|sessions|credentials|verifications|twoFactor)$)/;
const SETTINGS_WITH_SECRETS = new Set(['mail out', 'mail in', 'model']);

/** Columns of bytes, and what the files they become are called. */
const FILES: Record<string, { column: string; folder: string; name: (row: Row) => string }> = {
  records: { column: 'bytes', folder: 'records', name: (r) => `${r.id}-${safe(String(r.file_name ?? `pasted.${r.format}`))}` },
  replies: { column: 'raw', folder: 'answers', name: (r) => `${r.id}.eml` },
};
type Row = Record<string, unknown>;

const safe = (name: string) =>
  basename(name)
    .replace(/[^\p{L}\p{N}._-]+/gu, '_')
    .slice(-120) || 'file';

/**
 * Writes a database into an empty folder.
 * @returns rows by table
 * @throws Refusal where the folder holds something
 */
export async function writeArchive(file: string, folder: string): Promise<Record<string, number>> {
  if (existsSync(folder) && readdirSync(folder).length) throw new Refusal('conflict', `${folder} is not empty.`, 'Name a folder that is empty, or none yet.');
  mkdirSync(join(folder, 'tables'), { recursive: true });
  for (const f of Object.values(FILES)) mkdirSync(join(folder, f.folder), { recursive: true });
  const db = new Sqlite(file, { readonly: true, fileMustExist: true });
  const rows: Record<string, number> = {};
  try {
    // one moment of the database, whatever is written meanwhile
    db.exec('BEGIN');
    const tables = db.prepare("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name").pluck().all() as string[];
    for (const table of tables.filter((t) => !NOT_TABLES.test(t))) {
      rows[table] = 0;
      const lines = function* () {
        for (const row of db.prepare(`SELECT * FROM "${table}" ORDER BY rowid`).iterate() as Iterable<Row>) {
          rows[table]!++;
          yield `${JSON.stringify(outgoingRow(table, row, folder))}\n`;
        }
      };
      await pipeline(Readable.from(lines()), createWriteStream(join(folder, 'tables', `${table}.jsonl`)));
    }
    const shape = db.prepare('SELECT name FROM kysely_migration ORDER BY name DESC LIMIT 1').pluck().get();
    writeFileSync(join(folder, 'archive.json'), `${JSON.stringify({ format: FORMAT, version: VERSION, shape, at: new Date().toISOString(), rows }, null, 2)}\n`);
  } finally {
    db.close();
  }
  return rows;
}

function outgoingRow(table: string, row: Row, folder: string): Row {
  const f = FILES[table];
  if (f && row[f.column] !== null) {
    const path = `${f.folder}/${f.name(row)}`;
    writeFileSync(join(folder, path), row[f.column] as Buffer);
    return { ...row, [f.column]: { file: path } };
  }
  if (table === 'settings' && SETTINGS_WITH_SECRETS.has(String(row.name))) return { ...row, value: JSON.stringify({ ...(JSON.parse(String(row.value)) as object), secret: null }) };
  return row;
}

/**
 * Makes a database of an archive. All of it or nothing: where something is wrong, there is no database afterwards.
 * @throws Refusal that names the file and the line
 */
export async function readArchive(folder: string, file: string): Promise<Record<string, number>> {
  if (existsSync(file)) throw new Refusal('conflict', `${file} is there already.`, 'An archive is read into a new database; name another file.');
  const manifest = manifestOf(folder);
  try {
    const made = await openDatabase(file, manifest.shape as Shape);
    await made.destroy();
    const db = new Sqlite(file);
    try {
      await fill(db, folder, manifest.rows);
    } finally {
      db.close();
    }
    // and on to the newest shape
    await (await openDatabase(file)).destroy();
    return manifest.rows;
  } catch (error) {
    for (const end of ['', '-wal', '-shm']) rmSync(file + end, { force: true });
    throw error;
  }
}

function manifestOf(folder: string): z.infer<typeof ManifestSchema> {
  try {
    return ManifestSchema.parse(JSON.parse(readFileSync(join(folder, 'archive.json'), 'utf8')));
  } catch {
    throw new Refusal('bad-input', `${folder} is not an archive of Ottik, or of a newer one.`, 'It holds a file archive.json that says what it is.');
  }
}

async function fill(db: Sqlite.Database, folder: string, rows: Record<string, number>): Promise<void> {
  db.pragma('foreign_keys = OFF');
  db.exec('BEGIN IMMEDIATE');
  // triggers guard what people do; this puts back what was allowed once
  const triggers = db.prepare("SELECT name, sql FROM sqlite_master WHERE type = 'trigger'").all() as { name: string; sql: string }[];
  for (const t of triggers) db.exec(`DROP TRIGGER "${t.name}"`);
  for (const table of Object.keys(rows)) {
    const columns = new Set(db.prepare('SELECT name FROM pragma_table_info(?)').pluck().all(table) as string[]);
    if (columns.size === 0) throw new Refusal('bad-input', `tables/${table}.jsonl: there is no such table.`);
    db.exec(`DELETE FROM "${table}"`);
    let n = 0;
    for await (const line of createInterface({ input: createReadStream(join(folder, 'tables', `${table}.jsonl`)), crlfDelay: Number.POSITIVE_INFINITY })) {
      n++;
      try {
        insert(db, table, columns, incomingRow(table, JSON.parse(line) as Row, folder));
      } catch (error) {
        throw new Refusal('bad-input', `tables/${table}.jsonl, line ${n}: ${(error as Error).message.slice(0, 200)}.`, null, n);
      }
    }
    if (n !== rows[table]) throw new Refusal('bad-input', `tables/${table}.jsonl has ${n} lines, and archive.json speaks of ${rows[table]}.`);
  }
  for (const t of triggers) db.exec(t.sql);
  const loose = db.pragma('foreign_key_check') as { table: string; rowid: number; parent: string }[];
  if (loose.length) throw new Refusal('bad-input', `A row of ${loose[0]!.table} speaks of a row of ${loose[0]!.parent} that is not there.`);
  db.exec('COMMIT');
}

function incomingRow(table: string, row: Row, folder: string): Row {
  const f = FILES[table];
  const named = f && (row[f.column] as { file?: unknown } | null)?.file;
  if (!f || typeof named !== 'string') return row;
  // a path in an archive leads nowhere but into the archive
  if (named !== `${f.folder}/${basename(named)}`) throw new Error('it names a file outside the archive');
  return { ...row, [f.column]: readFileSync(join(folder, named)) };
}

function insert(db: Sqlite.Database, table: string, columns: ReadonlySet<string>, row: Row): void {
  const names = Object.keys(row);
  const unknown = names.find((n) => !columns.has(n));
  if (unknown !== undefined) throw new Error(`there is no column ${unknown.slice(0, 60)}`);
  db.prepare(`INSERT INTO "${table}" (${names.map((n) => `"${n}"`).join(', ')}) VALUES (${names.map(() => '?').join(', ')})`).run(names.map((n) => row[n]));
}
