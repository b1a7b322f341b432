import type { IsoDate } from '../dates/calendar.ts';
import { readDates } from '../dates/read.ts';
import { type Person, Roster } from '../language/people.ts';
import { trimEnd, trimMarks } from '../language/trim.ts';

/** What is understood of a commitment typed in one line. */
export interface Entry {
  text: string;
  owner: string[];
  due: IsoDate | null;
}

/** `Bram:`, `Bram and Ruth to`, `@Bram` at the beginning. */
const LEAD = /^\s*@?(?<names>[^:]{2,60}?)\s*(?::|(?:\s(?:to|will|muss|soll)\s))/iu;
/** `(Bram)`, `- Bram` or `, Bram` at the end; in *call Bram* he is called, and does not call. */
const TAIL = /[,(–-][\s,(–-]{0,9}@?(?<names>\p{L}[^(),;:]{1,60})$/u;

/**
 * Reads a line such as `Bram to pour the plinth by Friday` or `Pour the plinth, Bram, 14 May`: who, what, by when.
 * Names that nobody has, and words that are no date, stay in the text.
 */
export function readEntry(line: string, people: readonly Person[] | Roster, context: { date: IsoDate; next: IsoDate | null }): Entry {
  const roster = people instanceof Roster ? people : new Roster(people);
  // within a line `the second` is a thing and no day: a day has a word such as “by” before it, or stands at the end
  const dated = readDates(line, context).filter((d) => d.date !== null && (d.lead !== '' || /^[\s,.;)]*$/.test(line.slice(d.to)) || /[,;(–-]\s*$/.test(line.slice(0, d.from))));
  const date = dated.at(-1);
  let text = date ? `${line.slice(0, date.from)} ${line.slice(date.to)}` : line;
  text = text.replace(/\s+/g, ' ').trim();
  const owners = (names: string): string[] | null => {
    const parts = names
      .split(/,|&|\band\b|\bund\b|\bet\b/u)
      .map((n) => n.trim())
      .filter(Boolean);
    const found = parts.map((p) => roster.voice(p));
    return parts.length > 0 && found.every((f) => f !== null) ? [...new Set(found as string[])] : null;
  };
  let owner: string[] = [];
  const lead = LEAD.exec(text);
  const first = lead ? owners(lead.groups!.names!) : null;
  if (first) {
    owner = first;
    text = text.slice(lead![0].length);
  } else {
    const tail = TAIL.exec(trimEnd(trimEnd(text, ',').replace(/\)$/, ''), ' '));
    const last = tail ? owners(tail.groups!.names!) : null;
    if (last) {
      owner = last;
      text = text.slice(0, tail!.index);
    }
  }
  text = trimMarks(trimEnd(text, ',;:(–-'), ',;:–-');
  return { text: text ? text[0]!.toUpperCase() + text.slice(1) : '', owner, due: date?.date ?? null };
}
