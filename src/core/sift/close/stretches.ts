import type { Reading } from '../reading.ts';
import type { WordPieces } from './word-pieces.ts';

/** What the encoder is given at once: numbers of the pieces, to which of two parts each belongs, and where the units stand. */
export interface Stretch {
  ids: number[];
  parts: number[];
  /** for each unit of the stretch, its index and the place of its marker among the pieces */
  units: { unit: number; at: number }[];
  /** the open commitment the units are read against, or null when they are read for what they are */
  open: string | null;
}

/** The same bounds as in training; see training/train.py. */
const TURN_PIECES = 256;
const ABOUT_PIECES = 112;
const UNIT_PIECES = 56;
const OPEN_PIECES = 32;
/** Units that two stretches share at each side of their border, so that each has something before and after it in one of them. */
const LEAD_IN = 1;

/** The units of a reading as pieces, each with its speaker before it. */
export function piecesOf(reading: Reading, pieces: WordPieces): number[][] {
  return reading.units.map((u) => {
    const who = u.speaker ? reading.roster.firstName(u.speaker) : (u.source.voice ?? '');
    return pieces.numbers(who ? `${who}: ${u.text}` : u.text, UNIT_PIECES);
  });
}

function assemble(units: readonly (readonly number[])[], from: number, to: number, pieces: WordPieces, about: { open: string; ids: readonly number[] } | null): Stretch {
  const stretch: Stretch = { ids: [pieces.start, ...(about?.ids ?? [])], parts: [], units: [], open: about?.open ?? null };
  stretch.parts = stretch.ids.map(() => 0);
  const part = about ? 1 : 0;
  for (let i = from; i < to; i++) {
    stretch.units.push({ unit: i, at: stretch.ids.length });
    stretch.ids.push(pieces.end, ...units[i]!);
    for (let k = 0; k <= units[i]!.length; k++) stretch.parts.push(part);
  }
  return stretch;
}

/** Stretches in which the units are read for what they are, the whole record over, each with some units of the one before. */
export function turnStretches(units: readonly (readonly number[])[], pieces: WordPieces): Stretch[] {
  const out: Stretch[] = [];
  for (let from = 0; from < units.length; ) {
    let size = 1;
    let to = from;
    while (to < units.length && size + units[to]!.length + 1 <= TURN_PIECES) size += units[to++]!.length + 1;
    to = Math.max(to, from + 1);
    out.push(assemble(units, from, to, pieces, null));
    if (to >= units.length) break;
    from = Math.max(to - 2 * LEAD_IN, from + 1);
  }
  return out;
}

/**
 * Stretches in which units are read against one open commitment: each grown to both sides from a unit that may speak of
 * it, as in training, unless that unit already stands well inside an earlier one.
 * @param likely the units that may, likeliest first
 */
export function aboutStretches(units: readonly (readonly number[])[], pieces: WordPieces, open: { id: string; text: string; who: string }, likely: readonly number[]): Stretch[] {
  const ids = pieces.numbers(`${open.who}: ${open.text}`, OPEN_PIECES);
  const out: Stretch[] = [];
  const inside = new Set<number>();
  for (const unit of likely) {
    if (inside.has(unit)) continue;
    const [from, to] = around(units, unit);
    for (let i = from + 1; i < to - 1; i++) inside.add(i);
    inside.add(unit);
    out.push(assemble(units, from, to, pieces, { open: open.id, ids }));
  }
  return out;
}

/** The units around one, before and after it in turn, as many as there is room for. */
function around(units: readonly (readonly number[])[], unit: number): [number, number] {
  const room = ABOUT_PIECES - OPEN_PIECES;
  let [from, to] = [unit, unit + 1];
  let size = units[unit]!.length + 1;
  for (let grown = true; grown; ) {
    grown = false;
    for (const k of [from - 1, to]) {
      const more = units[k] ? units[k].length + 1 : room + 1;
      if (size + more > room) continue;
      size += more;
      if (k < from) from = k;
      else to = k + 1;
      grown = true;
    }
  }
  return [from, to];
}
