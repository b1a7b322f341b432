import type { Listed } from './listed.ts';
import { isVcards, readVcards } from './vcards.ts';

/** More people than any project has; what is beyond is told and left. */
const MOST = 2_000;

/** What columns of a table with a heading are called, common words of address books. */
const COLUMNS: readonly [keyof Omit<Listed, 'line'>, RegExp][] = [
  ['mail', /^(?:e-?mail|mail)(?: address)?$/i],
  ['role', /^(?:role|function|job(?: title)?|position)$/i],
  ['organisation', /^(?:organi[sz]ation|company|firm|employer)$/i],
  ['name', /^(?:full )?name$/i],
];

const ADDRESS = /^[^\s<>@,;"]{1,64}@[^\s<>@,;"]{1,190}$/;

/**
 * Reads a list of people, one a line: `Bram Osei <bram@example.org>, welder, Marrow Sound`, `bram@example.org (Bram Osei)`,
 * a bare address, a bare name, or a table with a heading and commas, semicolons or tabs between its columns. Several
 * addresses in one line, as a mail program writes them (RFC 5322, 3.4), are several people. Address cards (vCard) are read
 * as what they are.
 * @returns who was read, each address once, and the lines that name nobody with the reason
 */
export function readPeopleList(text: string): { people: Listed[]; wrong: { line: number; why: string }[] } {
  if (isVcards(text)) return once(readVcards(text));
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n?|\n/);
  const people: Listed[] = [];
  const wrong: { line: number; why: string }[] = [];
  const heading = headingOf(lines.find((l) => l.trim()) ?? '');
  let headed = heading !== null;
  for (const [i, full] of lines.entries()) {
    const line = full.trim();
    if (!line) continue;
    if (headed) {
      headed = false;
      continue;
    }
    if (line.length > 2000) {
      wrong.push({ line: i + 1, why: 'is too long for one person' });
      continue;
    }
    const read = heading ? [inColumns(line, heading)] : inLine(line);
    for (const p of read) {
      const name = p.name || nameFrom(p.mail);
      if (!/\p{L}.*\p{L}/u.test(name) || name.length > 120) wrong.push({ line: i + 1, why: 'has no name in it' });
      else if (p.mail !== null && !ADDRESS.test(p.mail)) wrong.push({ line: i + 1, why: `“${p.mail.slice(0, 80)}” is not a mail address` });
      else if (people.length >= MOST) wrong.push({ line: i + 1, why: `is beyond the ${MOST} people that a list may have` });
      else if (!people.some((q) => (p.mail !== null && q.mail?.toLowerCase() === p.mail.toLowerCase()) || (q.name.toLowerCase() === name.toLowerCase() && (p.mail === null || q.mail === null)))) people.push({ name, mail: p.mail, role: p.role.slice(0, 120), organisation: p.organisation.slice(0, 120), line: i + 1 });
    }
  }
  return { people, wrong };
}

/** Each address once, and no more people than a list may have. */
function once({ people, wrong }: ReturnType<typeof readPeopleList>): ReturnType<typeof readPeopleList> {
  const kept: Listed[] = [];
  for (const p of people) {
    if (p.mail !== null && !ADDRESS.test(p.mail)) wrong.push({ line: p.line, why: `“${p.mail.slice(0, 80)}” is not a mail address` });
    else if (kept.length >= MOST) wrong.push({ line: p.line, why: `is beyond the ${MOST} people that a list may have` });
    else if (!kept.some((q) => p.mail !== null && q.mail?.toLowerCase() === p.mail.toLowerCase())) kept.push(p);
  }
  return { people: kept, wrong };
}

interface Heading {
  separator: string;
  columns: (keyof Omit<Listed, 'line'> | null)[];
}

function headingOf(line: string): Heading | null {
  for (const separator of ['\t', ';', ',']) {
    const cells = cellsOf(line, separator);
    const columns = cells.map((c) => COLUMNS.find(([, called]) => called.test(c))?.[0] ?? null);
    if (columns.includes('name') || columns.includes('mail')) return { separator, columns };
  }
  return null;
}

function inColumns(line: string, { separator, columns }: Heading): Omit<Listed, 'line'> {
  const cells = cellsOf(line, separator);
  const of = (column: keyof Omit<Listed, 'line'>) => cells[columns.indexOf(column)] ?? '';
  return { name: asSpoken(of('name')), mail: of('mail') || null, role: of('role'), organisation: of('organisation') };
}

/**
 * The cells of a line. Quotes stand around what holds the separator, also in the midst of a cell: a reader of RFC 4180 takes
 * `"Osei, Bram" <bram@example.org>` for a mistake, and mail programs write it (RFC 5322).
 */
function cellsOf(line: string, separator: string): string[] {
  const out: string[] = [''];
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const c = line[i]!;
    if (c === '"') {
      if (quoted && line[i + 1] === '"') {
        out[out.length - 1] += '"';
        i++;
      } else quoted = !quoted;
    } else if (c === separator && !quoted) out.push('');
    else out[out.length - 1] += c;
  }
  return out.map((c) => c.replace(/\s+/g, ' ').trim());
}

/** People of a line without a heading: addresses begin somebody new, other cells say who they are. */
function inLine(line: string): Omit<Listed, 'line'>[] {
  const separator = line.includes('\t') ? '\t' : line.includes(';') ? ';' : ',';
  const out: Omit<Listed, 'line'>[] = [];
  for (const cell of cellsOf(line, separator)) {
    if (!cell) continue;
    const framed = /^(.{0,200}?)\s?<([^<>]{1,260})>$/.exec(cell) ?? /^([^()]{0,200}?)\s?\(([^()@]{1,200})\)$/.exec(cell);
    const address = framed?.[2]?.includes('@') ? framed[2].trim() : cell.includes('@') ? cell.replace(/\s?\([^()]{0,200}\)$/, '') : null;
    const last = out.at(-1);
    if (address !== null) {
      const name = framed?.[2]?.includes('@') ? asSpoken(framed[1]!) : (/\(([^()]{1,200})\)$/.exec(cell)?.[1] ?? '');
      // “Bram Osei, bram@example.org” is one person; “a@x, b@x” are two
      if (last && last.mail === null && !name) last.mail = address;
      else out.push({ name, mail: address, role: '', organisation: '' });
    } else if (!last) out.push({ name: cell, mail: null, role: '', organisation: '' });
    else if (!last.role) last.role = cell;
    else if (!last.organisation) last.organisation = cell;
  }
  return out;
}

/** `Osei, Bram` as it is spoken. */
function asSpoken(name: string): string {
  const clean = name.replace(/^['"]|['"]$/g, '').trim();
  const turned = /^([^,]{1,60}), ?([^,]{1,60})$/.exec(clean);
  return turned ? `${turned[2]} ${turned[1]}` : clean;
}

/** A name from an address, where that is all there is: `bram.osei@example.org` gives `Bram Osei`. */
function nameFrom(mail: string | null): string {
  const local = mail?.split('@')[0] ?? '';
  return local
    .split(/[._+-]+/)
    .filter((p) => /\p{L}/u.test(p))
    .map((p) => p[0]!.toUpperCase() + p.slice(1))
    .join(' ');
}
