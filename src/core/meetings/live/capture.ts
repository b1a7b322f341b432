import { z } from 'zod';
import type { IsoDate } from '../../dates/calendar.ts';
import { readDates } from '../../dates/read.ts';
import { type Person, Roster } from '../../language/people.ts';
import { trimEnd, trimMarks } from '../../language/trim.ts';
import { readEntry } from '../../ledger/entry.ts';

/** What a line written in a meeting can be. */
export const LINE_KINDS = ['action', 'decision', 'question', 'point'] as const;
export type LineKind = (typeof LINE_KINDS)[number];

/** The signs somebody writes in front of a line, by kind; a line without one is a point. */
export const LegendSchema = z.object({ action: z.string().trim().min(1).max(4), decision: z.string().trim().min(1).max(4), question: z.string().trim().min(1).max(4), point: z.string().trim().min(1).max(4) }).refine((l) => new Set(Object.values(l)).size === LINE_KINDS.length, 'needs a sign of its own for each');
export type Legend = z.infer<typeof LegendSchema>;
export const USUAL_LEGEND: Legend = { action: '!', decision: '=', question: '?', point: '-' };

/** What is understood of a line. */
export interface Captured {
  kind: LineKind;
  /** what it says, without its sign, and for an action without owner and date */
  text: string;
  owner: string[];
  due: IsoDate | null;
  /** the words the date was read from */
  duePhrase: string | null;
}

/**
 * Reads a line as people write it in a meeting: a sign in front says what it is, and in an action a name and a date may stand
 * anywhere.
 *
 *     readCapture('! tell kit the training day moves, ruth before friday', …)
 *     // an action for Ruth, due that Friday: Tell kit the training day moves
 *
 * @param writer who writes it: *I* and *me* is them
 */
export function readCapture(line: string, { legend, people, writer, date, next }: { legend: Legend; people: readonly Person[] | Roster; writer: string; date: IsoDate; next: IsoDate | null }): Captured {
  const { kind, rest } = signOf(line, legend);
  if (kind !== 'action') return { kind, text: capital(rest), owner: [], due: null, duePhrase: null };
  const roster = people instanceof Roster ? people : new Roster(people);
  const dated = datedIn(rest, { date, next });
  const bare = dated ? `${rest.slice(0, dated.from)} ${rest.slice(dated.to)}`.replace(/\s+/g, ' ').trim() : rest;
  const { owner, text } = ownerIn(bare, roster, writer, { date, next });
  return { kind, text: capital(trimMarks(trimEnd(text, ',;:(–-'), ',;:–-')), owner, due: dated?.date ?? null, duePhrase: dated?.words ?? null };
}

/** The sign in front of a line, and what follows it. A longer sign counts before a shorter one it begins with. */
export function signOf(line: string, legend: Legend): { kind: LineKind; rest: string } {
  const text = line.trim();
  const signs = LINE_KINDS.map((kind) => ({ kind, sign: legend[kind] })).sort((a, b) => b.sign.length - a.sign.length);
  const found = signs.find(({ sign }) => text.startsWith(sign) && (!/\w$/.test(sign) || /^\s/.test(text.slice(sign.length))));
  return found ? { kind: found.kind, rest: text.slice(found.sign.length).trim() } : { kind: 'point', rest: text };
}

/**
 * A line in the signs of another legend. Lines are kept in the usual ones, so that what somebody wrote stays what it was when
 * they choose other signs.
 */
export function inSigns(line: string, from: Legend, to: Legend): string {
  const { kind, rest } = signOf(line, from);
  return `${to[kind]} ${rest}`.trim();
}

/** The same line as another kind. */
export const asKind = (line: string, kind: LineKind, legend: Legend): string => `${legend[kind]} ${signOf(line, legend).rest}`;

/** The last date of a line that is meant as one: with a word such as *by* before it, at the end, or set off by a comma. */
function datedIn(text: string, context: { date: IsoDate; next: IsoDate | null }): { date: IsoDate; from: number; to: number; words: string } | null {
  const found = readDates(text, context)
    .filter((d) => d.date !== null && (d.lead !== '' || /^[\s,.;)]*$/.test(text.slice(d.to)) || /[,;(–-]\s*$/.test(text.slice(0, d.from)) || /^\s*,/.test(text.slice(d.to))))
    .at(-1);
  if (!found?.date) return null;
  return { date: found.date, from: found.from, to: found.to, words: text.slice(found.from, found.to).trim() };
}

/** `@name` anywhere; else names at the beginning or the end, a part of the line that is names alone, or whoever writes. */
function ownerIn(text: string, roster: Roster, writer: string, context: { date: IsoDate; next: IsoDate | null }): { owner: string[]; text: string } {
  const at = [...text.matchAll(/@([\p{L}][\p{L}'’-]{0,40}(?: [\p{Lu}][\p{L}'’-]{0,40})?)/gu)].map((m) => ({ words: m[0], id: roster.voice(m[1]!) ?? roster.voice(m[1]!.split(' ')[0]!) })).filter((m) => m.id !== null);
  if (at.length)
    return {
      owner: [...new Set(at.map((m) => m.id!))],
      text: at
        .reduce((t, m) => t.replace(m.words, ''), text)
        .replace(/\s+/g, ' ')
        .trim(),
    };
  const entry = readEntry(text, roster, context);
  if (entry.owner.length) return { owner: entry.owner, text: entry.text };
  const parts = text.split(/[,;]/).map((part) => part.trim());
  const named = parts.map((part) => namesIn(part, roster));
  const n = named.findLastIndex((ids) => ids !== null);
  if (n >= 0 && parts.length > 1) return { owner: named[n]!, text: parts.filter((_, k) => k !== n).join(', ') };
  const mine = /^(?:I|me|I’ll|I'll|I will|ich)\b[\s:,]*(?:to\b|will\b)?/i.exec(text);
  if (mine && mine[0].length < text.length) return { owner: [writer], text: text.slice(mine[0].length).trim() };
  // somebody’s name in front says who does it: Ruth sends the papers
  const first = roster.voice(text.split(/\s/, 1)[0]!.replace(/[’']s$/, ''));
  if (first !== null && /^\p{Lu}\p{L}/u.test(text)) return { owner: [first], text };
  return { owner: [], text };
}

/** Ids where words are names and nothing else. */
function namesIn(words: string, roster: Roster): string[] | null {
  const parts = words
    .split(/&| and /)
    .map((p) => p.trim())
    .filter((p) => p !== '');
  const ids = parts.map((p) => roster.voice(p));
  return parts.length > 0 && ids.every((id) => id !== null) ? [...new Set(ids as string[])] : null;
}

const capital = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : '');
