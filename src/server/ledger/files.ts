import ICAL from 'ical.js';
import Papa from 'papaparse';
import { z } from 'zod';
import { foldCalendar } from '../../core/dates/calendar-lines.ts';
import { shortDay } from '../../core/language/days.ts';
import { IMPORT_FIELDS, type ImportField, type ImportLine, type ImportReading, matchColumns } from '../../core/ledger/bring-in.ts';
import { RecordError } from '../../core/record/model.ts';
import { resolveOwners } from '../people/owners.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ourDomain } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { work } from '../work/pool.ts';
import { type LedgerRow, ledgerRows, makeCommitment, recordEvent } from './commitments.ts';
import { ledgerStamp } from './live.ts';

export const LEDGER_FORMATS = { csv: 'text/csv; charset=utf-8', json: 'application/json; charset=utf-8', md: 'text/markdown; charset=utf-8', ics: 'text/calendar; charset=utf-8' } as const;
export type LedgerFormat = keyof typeof LEDGER_FORMATS;
export const isLedgerFormat = (f: string | undefined): f is LedgerFormat => f !== undefined && Object.hasOwn(LEDGER_FORMATS, f);

/** A state as the screen says it. */
const stateWord = (r: LedgerRow) => (r.state === 'blocked' ? 'waiting' : r.state);
const plain = (r: LedgerRow) => ({ ref: r.ref, what: r.text, owner: r.owner.map((o) => o.name).join('; '), due: r.due ?? '', state: stateWord(r), made: r.madeOn, ended: r.endedOn ?? '', carried: r.carried, moved: r.moved, from: r.from });

/** Lines of the Ledger as a file in an open format: CSV (RFC 4180), JSON, Markdown, or iCalendar to-dos (RFC 5545). */
export function ledgerFile(rows: readonly LedgerRow[], format: LedgerFormat, today: string): string {
  switch (format) {
    case 'csv':
      // cells that a spreadsheet would take for a formula are quoted as text
      return `\uFEFF${Papa.unparse(rows.map(plain), { escapeFormulae: true, newline: '\r\n' })}\r\n`;
    case 'json':
      return `${JSON.stringify({ commitments: rows.map((r) => ({ ref: r.ref, text: r.text, owner: r.owner.map((o) => o.name), due: r.due, state: stateWord(r), madeOn: r.madeOn, endedOn: r.endedOn, carried: r.carried, moved: r.moved, from: r.from, lastOn: r.lastOn, history: r.life })) }, null, 2)}\n`;
    case 'md': {
      const cell = (s: string) => s.replace(/\|/g, '\\|').replace(/[\r\n]+/g, ' ');
      return `# Ledger, ${shortDay(today)}\n\n| Ref | What | Owner | Due | State |\n|---|---|---|---|---|\n${rows.map((r) => `| ${r.ref} | ${cell(r.text)} | ${cell(r.owner.map((o) => o.name).join(', ') || 'nobody yet')} | ${r.due ?? 'no date'} | ${stateWord(r)} |`).join('\n')}\n`;
    }
    default:
      return todoCalendar(rows);
  }
}

const STATUS: Record<string, string> = { done: 'COMPLETED', dropped: 'CANCELLED', merged: 'CANCELLED', blocked: 'NEEDS-ACTION', open: 'NEEDS-ACTION' };

/** To-dos with identifiers that stay the same, so that a subscribed calendar follows changes. */
function todoCalendar(rows: readonly LedgerRow[]): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.updatePropertyWithValue('version', '2.0');
  calendar.updatePropertyWithValue('prodid', '-//Ottik//Ledger//EN');
  for (const r of rows) {
    const todo = new ICAL.Component('vtodo');
    todo.updatePropertyWithValue('uid', `commitment-${r.id}@${ourDomain()}`);
    todo.updatePropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(`${r.lastOn}T00:00:00Z`), true));
    todo.updatePropertyWithValue('summary', `${r.ref} ${r.text}`);
    if (r.due) todo.updatePropertyWithValue('due', ICAL.Time.fromDateString(r.due));
    todo.updatePropertyWithValue('created', ICAL.Time.fromJSDate(new Date(`${r.madeOn}T00:00:00Z`), true));
    todo.updatePropertyWithValue('status', STATUS[r.state] ?? 'NEEDS-ACTION');
    if (r.state === 'done' && r.endedOn) todo.updatePropertyWithValue('completed', ICAL.Time.fromJSDate(new Date(`${r.endedOn}T00:00:00Z`), true));
    if (r.owner.length) todo.updatePropertyWithValue('description', `${r.owner.map((o) => o.name).join(', ')}; from ${r.from}`);
    calendar.addSubcomponent(todo);
  }
  return foldCalendar(calendar.toString());
}

const Columns = z.object(Object.fromEntries(IMPORT_FIELDS.map((f) => [f, z.number().int().min(0).max(200).nullable()])) as Record<ImportField, z.ZodNullable<z.ZodNumber>>);
export const ImportSchema = z.object({ do: z.enum(['preview', 'keep']), name: z.string().max(300), text: z.string().max(20_000_000), columns: Columns.optional() });

export interface ImportPreview extends ImportReading {
  headings: string[];
  columns: Record<ImportField, number | null>;
  people: Record<string, string>;
}

/** What could not be read, in words of a refusal. */
function refusedAsRead(error: unknown): never {
  if (error instanceof RecordError) throw new Refusal('bad-input', error.message, error.advice, error.line);
  throw error;
}

/** A file as a table, read apart from the pages. */
const tableOf = (text: string) => work('table', { text }).catch(refusedAsRead);

/** What a CSV or iCalendar file would bring in: which column is which, what is there already, and every line it refuses, and why. */
export async function previewImport(ws: Workspace, project: string, file: { name: string; text: string; columns?: Record<ImportField, number | null> | undefined }): Promise<ImportPreview> {
  mustSee(ws, project, 'project');
  const { headings, rows, lines, broken } = await tableOf(file.text);
  const columns = file.columns ?? matchColumns(headings);
  if (columns.text === null) throw new Refusal('bad-input', 'No column says what is to be done.', `Its headings are ${headings.slice(0, 12).join(', ') || 'missing'}; choose the column, or call one “what”.`);
  const people = await peopleOf(ws, project);
  const known = await ws.db.selectFrom('commitments').select(['id', 'number', 'text']).where('project_id', '=', project).where('state', '!=', 'withdrawn').execute();
  const reading = await work('importing', { rows, columns, people, known: known.map((k) => ({ id: k.id, ref: `C-${k.number}`, text: k.text })), today: ws.today }).catch(refusedAsRead);
  // rows were counted from nought: each stands on a line of the file
  const at = (row: number) => lines[row] ?? row;
  const same = reading.lines.flatMap((l) => (l.same ? [l.same.id] : []));
  const now = new Map((await ledgerRows(ws, { project, state: 'all', ids: same, lives: false })).map((r) => [r.id, r]));
  const names = Object.fromEntries(people.map((p) => [p.id, p.name]));
  const read = reading.lines.map((l): ImportLine => ({ ...l, line: at(l.line), same: l.same && { ...l.same, changes: changesOf(l, now.get(l.same.id), names) } }));
  const refused = [...reading.refused.map((r) => ({ what: r.what.replace(/line (\d+)$/, (_, n: string) => `line ${at(Number(n))}`), line: at(r.line) })), ...broken].sort((a, b) => a.line - b.line);
  return { headings, columns, lines: read, refused, people: Object.fromEntries(people.map((p) => [p.id, p.name])) };
}

/** What bringing a line in would change in a commitment that is there already, in words; an older date is said to be one. */
function changesOf(l: ImportLine, now: LedgerRow | undefined, names: Readonly<Record<string, string>>): string[] {
  if (!now || now.endedOn) return [];
  const out: string[] = [];
  const owner = l.owner.map((o) => names[o] ?? o.replace(/^new:/, ''));
  const had = now.owner.map((o) => o.name);
  if (owner.length && owner.toSorted().join() !== had.toSorted().join()) out.push(`owner ${had.join(', ') || 'nobody'} to ${owner.join(', ')}`);
  if (l.due && l.due !== now.due) out.push(`${now.due && l.due < now.due ? 'back from' : 'date'} ${now.due ? shortDay(now.due) : 'none'} to ${shortDay(l.due)}`);
  if (l.state !== 'open') out.push(l.state);
  return out;
}

/** Brings in what can be; what is there already gets a changed date, owner or end, and nothing else happens to it. */
export async function keepImport(ws: Workspace, project: string, file: Parameters<typeof previewImport>[2]): Promise<Imported> {
  // what is there already is told before the lines are written; where something happened in between, it is told once more
  for (let tries = 0; tries < 8; tries++) {
    const asOf = await ledgerStamp(ws.db);
    const preview = await previewImport(ws, project, file);
    const kept = await ws.transaction(async (ws) => ((await ledgerStamp(ws.db)) === asOf ? keepLines(ws, project, preview) : null));
    if (kept) return kept;
  }
  throw new Refusal('conflict', 'The Ledger is being changed all the time just now.', 'Nothing was brought in. Try once more.');
}

/** What an import did: how many lines were made and changed, what was refused, and its events, the last first. */
interface Imported {
  made: number;
  changed: number;
  refused: ImportReading['refused'];
  events: number[];
}

async function keepLines(ws: Workspace, project: string, { lines, refused }: Pick<ImportReading, 'lines' | 'refused'>): Promise<Imported> {
  const events: number[] = [];
  const record = async (tx: Db, commitment: number, event: Parameters<typeof recordEvent>[2]) => events.push(await recordEvent(ws.with({ db: tx }), commitment, event));
  let made = 0;
  let changed = 0;
  await ws.transaction(async (ws) => {
    const people = new Map<string, string>();
    const owners = async (list: readonly string[]) => {
      const out: string[] = [];
      for (const o of list) {
        if (!people.has(o)) people.set(o, (await resolveOwners(ws, project, [o]))[0]!);
        out.push(people.get(o)!);
      }
      return out;
    };
    for (const l of lines) {
      const base = { on: ws.today, meeting: null, evidence: [] };
      if (l.same) {
        const [now] = await ledgerRows(ws, { project, state: 'all', ids: [l.same.id] });
        if (!now || now.endedOn) continue;
        const before = events.length;
        const owner = await owners(l.owner);
        if (
          owner.length &&
          owner.toSorted().join() !==
            now.owner
              .map((o) => o.id)
              .sort()
              .join()
        )
          await record(ws.db, l.same.id, { ...base, kind: 'handed over', data: { owner, reason: 'brought in' } });
        if (l.due && l.due !== now.due) await record(ws.db, l.same.id, { ...base, kind: 'moved', data: { due: l.due, reason: 'brought in' } });
        if (l.state !== 'open') await record(ws.db, l.same.id, { ...base, kind: l.state === 'done' ? 'done' : 'dropped', data: { reason: 'brought in' } });
        if (events.length > before) changed++;
        continue;
      }
      const { id, event } = await makeCommitment(ws, project, { meeting: null, series: null }, { ...base, on: l.made ?? ws.today, data: { text: l.text, owner: await owners(l.owner), due: l.due } });
      events.push(event);
      // when it was done the list does not say; it is not called late for that
      if (l.state !== 'open') await record(ws.db, id, { ...base, on: l.due && l.due < ws.today ? l.due : ws.today, kind: l.state === 'done' ? 'done' : 'dropped', data: {} });
      made++;
    }
  });
  return { made, changed, refused, events: events.reverse() };
}
