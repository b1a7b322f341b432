/** Octets a line of a calendar may have, its break not counted (RFC 5545, 3.1). */
const LONGEST = 75;

/**
 * A calendar with its long lines folded: at most 75 octets each, goes on after a line break and a space, and no character is
 * cut in two.
 * @param text lines of any length, folded at other places or not at all
 * @returns lines that end with CRLF, as the format wants them
 */
export function foldCalendar(text: string): string {
  return unfoldCalendar(text)
    .flatMap(({ words }) => folded(words))
    .join('\r\n')
    .concat('\r\n');
}

function folded(line: string): string[] {
  const out: string[] = [];
  let now = '';
  let size = 0;
  for (const ch of line) {
    const octets = octetsOf(ch);
    if (size + octets > LONGEST) {
      out.push(now);
      now = ' ';
      size = 1;
    }
    now += ch;
    size += octets;
  }
  return [...out, now];
}

/** Octets of a character in UTF-8. */
function octetsOf(ch: string): number {
  const code = ch.codePointAt(0)!;
  return code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
}

/** The lines of a calendar as they were before they were folded, each with the number of the line it begins on; blank ones are left out. */
export function unfoldCalendar(text: string): { words: string; line: number }[] {
  const out: { words: string; line: number }[] = [];
  text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .forEach((raw, i) => {
      if (/^[ \t]/.test(raw) && out.length) out.at(-1)!.words += raw.slice(1);
      else if (raw !== '') out.push({ words: raw, line: i + 1 });
    });
  return out;
}

/** One component of a calendar by itself, whatever stands around it. */
export interface CalendarEntry {
  /** where it begins */
  line: number;
  /** a whole calendar with nothing else in it, or null where its end is missing */
  text: string | null;
}

/**
 * The components of a kind in a file: of all its calendars, each apart, so that a broken one leaves the others.
 * @param kind `VTODO`, `VEVENT`
 */
export function entriesOf(text: string, kind: string): CalendarEntry[] {
  const out: CalendarEntry[] = [];
  let open: { line: number; words: string[] } | null = null;
  for (const { words, line } of unfoldCalendar(text)) {
    const mark = words.trim().toUpperCase();
    if (mark === `BEGIN:${kind}`) {
      if (open) out.push({ line: open.line, text: null });
      open = { line, words: [] };
    } else if (mark === `END:${kind}` && open) {
      out.push({ line: open.line, text: ['BEGIN:VCALENDAR', 'VERSION:2.0', `BEGIN:${kind}`, ...open.words, `END:${kind}`, 'END:VCALENDAR'].join('\r\n') });
      open = null;
    } else if (mark.startsWith('END:VCALENDAR') && open) {
      out.push({ line: open.line, text: null });
      open = null;
    } else open?.words.push(words);
  }
  if (open) out.push({ line: open.line, text: null });
  return out;
}
