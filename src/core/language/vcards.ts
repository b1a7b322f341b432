import ICAL from 'ical.js';
import type { Listed } from './listed.ts';

/** Whether a text is a file of address cards rather than a list. */
export const isVcards = (text: string): boolean => text.slice(0, 2000).split('\n').some(begins);

/** Whether a line begins a card. A mark of byte order before it counts as a space. */
const begins = (line: string): boolean => line.trim().toUpperCase() === 'BEGIN:VCARD';
const ends = (line: string): boolean => line.trim().toUpperCase() === 'END:VCARD';

/** Cards longer than this hold pictures; their words come before. */
const LONGEST_CARD = 200_000;

type Property = [string, Record<string, string | string[]>, string, ...unknown[]];

/**
 * Reads address cards (vCard 4.0, RFC 6350, and 3.0, RFC 2426): name, preferred mail address, title or role, organisation.
 * Groups and organisations (KIND) are no people and are left out with the reason.
 * @returns who was read, and the cards that name nobody, each by the line it begins on
 */
export function readVcards(text: string): { people: Listed[]; wrong: { line: number; why: string }[] } {
  const people: Listed[] = [];
  const wrong: { line: number; why: string }[] = [];
  for (const { card, line } of cardsIn(text)) {
    let properties: Property[];
    try {
      if (card.length > LONGEST_CARD) throw new Error('it is longer than a card is');
      properties = (ICAL.parse(withoutPictures(card)) as unknown as [string, Property[]])[1];
    } catch (error) {
      wrong.push({ line, why: `is no card that can be read: ${(error as Error).message.slice(0, 80)}` });
      continue;
    }
    const first = (name: string) => [...properties].filter((p) => p[0] === name).sort((a, b) => preference(a) - preference(b))[0];
    const words = (name: string) => flat(first(name)?.[3]);
    const kind = words('kind').toLowerCase();
    const name = words('fn') || nameFrom(first('n')?.[3]);
    if (kind && kind !== 'individual') wrong.push({ line, why: `is a ${kind.slice(0, 30)}, and no person` });
    else if (!/\p{L}.*\p{L}/u.test(name) || name.length > 120) wrong.push({ line, why: 'has no name in it' });
    else people.push({ name, mail: words('email').replace(/^mailto:/i, '') || null, role: (words('title') || words('role')).slice(0, 120), organisation: orgOf(first('org')?.[3]).slice(0, 120), line });
  }
  return { people, wrong };
}

/** The cards of a file with the line each begins on. */
function cardsIn(text: string): { card: string; line: number }[] {
  const out: { card: string; line: number }[] = [];
  let begun: { line: number; lines: string[] } | null = null;
  for (const [i, line] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n?|\n/)
    .entries()) {
    if (begins(line)) begun = { line: i + 1, lines: [] };
    begun?.lines.push(line);
    if (begun && ends(line)) {
      out.push({ card: begun.lines.join('\r\n'), line: begun.line });
      begun = null;
    }
  }
  if (begun) out.push({ card: begun.lines.join('\r\n'), line: begun.line });
  return out;
}

/** Pictures, sounds and keys are not asked for, and are most of a card; so are groups before a property's name. */
function withoutPictures(card: string): string {
  const lines = card.replace(/\r\n[ \t]/g, '').split('\r\n');
  return lines
    .filter((l) => !/^(?:[\w-]+\.)?(?:PHOTO|LOGO|SOUND|KEY)[;:]/i.test(l))
    .map(withoutGroup)
    .join('\r\n');
}

/** `item1.EMAIL:…` is `EMAIL:…` of a group (RFC 6350, 3.3). */
function withoutGroup(line: string): string {
  const [dot, end] = [line.indexOf('.'), line.search(/[;:]/)];
  return dot > 0 && dot < end ? line.slice(dot + 1) : line;
}

/** The lower, the rather (RFC 6350, 5.3); 3.0 says it as a type. */
function preference([, parameters]: Property): number {
  if (parameters.pref !== undefined) return Number(parameters.pref) || 100;
  return [parameters.type].flat().some((t) => String(t).toLowerCase() === 'pref') ? 1 : 101;
}

const flat = (value: unknown): string => (Array.isArray(value) ? value.flat().join(' ') : String(value ?? '')).replace(/\s+/g, ' ').trim();

/** Given and family name of `N:Family;Given;Additional;Prefix;Suffix`. */
function nameFrom(n: unknown): string {
  if (!Array.isArray(n)) return '';
  return [n[1], n[0]].map(flat).filter(Boolean).join(' ');
}

/** The organisation without its units. */
const orgOf = (org: unknown): string => flat(Array.isArray(org) ? org[0] : org);
