import ICAL from 'ical.js';
import Papa from 'papaparse';
import { z } from 'zod';
import { entriesOf, foldCalendar, unfoldCalendar } from '../core/dates/calendar-lines.ts';
import { shortDay } from '../core/language/days.ts';
import { IMPORT_FIELDS, type ImportField, type ImportLine, type ImportReading, matchColumns, readImport } from '../core/ledger/bring-in.ts';
import { type Asker, mustSee } from './asker.ts';
import type { Db } from './database.ts';
import { resolveOwners } from './judging.ts';
import { inTransaction, type LedgerRow, ledgerRows, makeCommitment, recordEvent } from './ledger.ts';
import { answerAddress } from './letters/links.ts';
import { peopleOf } from './people.ts';
import { Refusal } from './refusal.ts';

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
  const host = answerAddress('').split('@')[1];
  for (const r of rows) {
    const todo = new ICAL.Component('vtodo');
    todo.updatePropertyWithValue('uid', `commitment-${r.id}@${host}`);
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

/** What a CSV or iCalendar file would bring in: which column is which, what is there already, and every line it refuses, and why. */
export async function previewImport(asker: Asker, db: Db, project: string, file: { name: string; text: string; columns?: Record<ImportField, number | null> | undefined }, today: string): Promise<ImportPreview> {
  mustSee(asker, project, 'project');
  const { headings, rows, lines, broken } = /^\s*BEGIN:VCALENDAR/i.test(file.text) ? calendarTable(file.text) : csvTable(file.text);
  const columns = file.columns ?? matchColumns(headings);
  if (columns.text === null) throw new Refusal('bad-input', 'No column says what is to be done.', `Its headings are ${headings.slice(0, 12).join(', ') || 'missing'}; choose the column, or call one “what”.`);
  const people = await peopleOf(asker, db, project);
  const known = await db.selectFrom('commitments').select(['id', 'number', 'text']).where('project_id', '=', project).where('state', '!=', 'withdrawn').execute();
  const reading = readImport(
    rows,
    columns,
    people,
    known.map((k) => ({ id: k.id, ref: `C-${k.number}`, text: k.text })),
    today,
    0,
  );
  // rows were counted from nought: each stands on a line of the file
  const at = (row: number) => lines[row] ?? row;
  const same = reading.lines.flatMap((l) => (l.same ? [l.same.id] : []));
  const now = new Map((await ledgerRows(asker, db, { project, state: 'all', ids: same, lives: false })).map((r) => [r.id, r]));
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

/** A list as rows of cells, with the line of the file each stands on, and what could not be made a row. */
interface Table {
  headings: string[];
  rows: string[][];
  lines: number[];
  broken: ImportReading['refused'];
}

function csvTable(text: string): Table {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false });
  const rows = parsed.data.filter((r) => Array.isArray(r));
  const [headings, ...rest] = rows;
  if (!headings || rest.length === 0) throw new Refusal('bad-input', 'There is nothing in this file but headings.', 'It needs a line of headings and a line for each commitment.');
  return { headings: headings.map((h) => h.trim()), rows: rest, lines: rest.map((_, i) => i + 2), broken: [] };
}

/** To-dos of a calendar file, each read by itself: one that is broken is refused with the line it begins on. */
function calendarTable(text: string): Table {
  const table: Table = { headings: ['ref', 'what', 'owner', 'due', 'state'], rows: [], lines: [], broken: [] };
  for (const entry of entriesOf(text, 'VTODO')) {
    try {
      if (entry.text === null) throw new Error('its end is missing');
      const todo = new ICAL.Component(ICAL.parse(entry.text) as [string, unknown[], unknown[]]).getFirstSubcomponent('vtodo')!;
      const summary = String(todo.getFirstPropertyValue('summary') ?? '');
      const ref = /^C-\d+\b/.exec(summary)?.[0] ?? '';
      const status = String(todo.getFirstPropertyValue('status') ?? '');
      table.rows.push([ref, summary.slice(ref.length).trim(), String(todo.getFirstProperty('attendee')?.getParameter('cn') ?? ''), dayOfEntry(entry.text), status === 'COMPLETED' ? 'done' : status === 'CANCELLED' ? 'dropped' : '']);
      table.lines.push(entry.line);
    } catch (error) {
      table.broken.push({ line: entry.line, what: `is a to-do that cannot be read: ${error instanceof Error ? error.message.slice(0, 120) : 'it is broken'}` });
    }
  }
  if (table.rows.length + table.broken.length === 0) throw new Refusal('bad-input', 'This calendar has no to-dos.', 'Ottik brings in VTODO entries; meetings come in under Meetings.');
  return table;
}

/** The day of a DUE line, with or without VALUE=DATE; words that are no day stay as they are, to be refused by name. */
function dayOfEntry(text: string): string {
  const due = unfoldCalendar(text).find((l) => /^DUE[;:]/i.test(l.words))?.words;
  const value = due?.slice(due.lastIndexOf(':') + 1).trim() ?? '';
  const basic = /^(\d{4})-?(\d{2})-?(\d{2})(?:T|$)/.exec(value);
  return basic ? `${basic[1]}-${basic[2]}-${basic[3]}` : value;
}

/** Brings in what can be; what is there already gets a changed date, owner or end, and nothing else happens to it. */
export async function keepImport(asker: Asker, db: Db, project: string, file: Parameters<typeof previewImport>[3], today: string): Promise<{ made: number; changed: number; refused: ImportReading['refused']; events: number[] }> {
  const { lines, refused } = await previewImport(asker, db, project, file, today);
  const events: number[] = [];
  const record = async (tx: Db, commitment: number, event: Parameters<typeof recordEvent>[3]) => events.push(await recordEvent(asker, tx, commitment, event));
  let made = 0;
  let changed = 0;
  await inTransaction(db, async (tx) => {
    const people = new Map<string, string>();
    const owners = async (list: readonly string[]) => {
      const out: string[] = [];
      for (const o of list) {
        if (!people.has(o)) people.set(o, (await resolveOwners(asker, tx, project, [o]))[0]!);
        out.push(people.get(o)!);
      }
      return out;
    };
    for (const l of lines) {
      const base = { on: today, meeting: null, evidence: [] };
      if (l.same) {
        const [now] = await ledgerRows(asker, tx, { project, state: 'all', ids: [l.same.id] });
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
          await record(tx, l.same.id, { ...base, kind: 'handed over', data: { owner, reason: 'brought in' } });
        if (l.due && l.due !== now.due) await record(tx, l.same.id, { ...base, kind: 'moved', data: { due: l.due, reason: 'brought in' } });
        if (l.state !== 'open') await record(tx, l.same.id, { ...base, kind: l.state === 'done' ? 'done' : 'dropped', data: { reason: 'brought in' } });
        if (events.length > before) changed++;
        continue;
      }
      const { id, event } = await makeCommitment(asker, tx, project, { meeting: null, series: null }, { ...base, on: l.made ?? today, data: { text: l.text, owner: await owners(l.owner), due: l.due } });
      events.push(event);
      // when it was done the list does not say; it is not called late for that
      if (l.state !== 'open') await record(tx, id, { ...base, on: l.due && l.due < today ? l.due : today, kind: l.state === 'done' ? 'done' : 'dropped', data: {} });
      made++;
    }
  });
  return { made, changed, refused, events: events.reverse() };
}
