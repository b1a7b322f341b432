import { cutAtWord } from '../language/trim.ts';
import type { Marked } from './highlight.ts';

/** A piece of a passage as it is shown: plain, or one of the words looked for. */
export interface Piece {
  text: string;
  hit: boolean;
}

const AROUND = 110;
/** Longest text that is shown whole, in characters. */
const WHOLE = 320;

/** The words around the marked ones: all of a short text, of a long one what stands next to them. */
export function snippetOf(text: string, marks: readonly Marked[]): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  for (const m of marks) {
    if (m.from > at) pieces.push({ text: text.slice(at, m.from), hit: false });
    pieces.push({ text: text.slice(m.from, m.to), hit: true });
    at = m.to;
  }
  if (at < text.length) pieces.push({ text: text.slice(at), hit: false });
  return text.length <= WHOLE ? pieces : shortened(pieces);
}

/** Of the plain words between hits only those next to one stay. */
function shortened(pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = [];
  let length = 0;
  for (const [i, p] of pieces.entries()) {
    if (length > WHOLE) {
      out.push({ text: ' …', hit: false });
      break;
    }
    const shown = p.hit ? p.text : aroundHits(p.text, i > 0, i < pieces.length - 1);
    out.push({ text: shown, hit: p.hit });
    length += shown.length;
  }
  return out;
}

function aroundHits(text: string, after: boolean, before: boolean): string {
  if (!after && !before) return `${cutAtWord(text, WHOLE)} …`;
  if (text.length <= AROUND * (after && before ? 2 : 1)) return text;
  const head = after ? cutAtWord(text, AROUND) : '';
  const tail = before ? text.slice(-AROUND).replace(/^\S*\s+/, '') : '';
  return `${head}${head ? ' ' : ''}…${tail ? ' ' : ''}${tail}`;
}
