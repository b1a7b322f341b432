import ICAL from 'ical.js';
import Papa from 'papaparse';
import { entriesOf, unfoldCalendar } from '../../core/dates/calendar-lines.ts';
import type { ImportReading } from '../../core/ledger/bring-in.ts';
import { RecordError } from '../../core/record/model.ts';

/** A list as rows of cells, with the line of the file each stands on, and what could not be made a row. */
export interface Table {
  headings: string[];
  rows: string[][];
  lines: number[];
  broken: ImportReading['refused'];
}

function csvTable(text: string): Table {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false });
  const rows = parsed.data.filter((r) => Array.isArray(r));
  const [headings, ...rest] = rows;
  if (!headings || rest.length === 0) throw new RecordError('There is nothing in this file but headings.', 'It needs a line of headings and a line for each commitment.');
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
  if (table.rows.length + table.broken.length === 0) throw new RecordError('This calendar has no to-dos.', 'Ottik brings in VTODO entries; meetings come in under Meetings.');
  return table;
}

/** The day of a DUE line, with or without VALUE=DATE; words that are no day stay as they are, to be refused by name. */
function dayOfEntry(text: string): string {
  const due = unfoldCalendar(text).find((l) => /^DUE[;:]/i.test(l.words))?.words;
  const value = due?.slice(due.lastIndexOf(':') + 1).trim() ?? '';
  const basic = /^(\d{4})-?(\d{2})-?(\d{2})(?:T|$)/.exec(value);
  return basic ? `${basic[1]}-${basic[2]}-${basic[3]}` : value;
}

/** A CSV or iCalendar file as a table. */
export const importTable = (text: string): Table => (/^\s*BEGIN:VCALENDAR/i.test(text.slice(0, 200)) ? calendarTable(text) : csvTable(text));
