import { matterWords } from '../matter-words.ts';
import type { Reading, ReadUnit } from '../reading.ts';
import type { WordPieces } from './word-pieces.ts';

/** What the encoder is given at once: numbers of the pieces, to which of two parts each belongs, and where the units stand. */
export interface Stretch {
  ids: number[];
  parts: number[];
  /** for each unit of the stretch, its index and the place of its marker among the pieces */
  units: { unit: number; at: number }[];
  /** the open commitment the units are read against, or null when they are read for what they are */
  open: string | null;
  /** of a stretch that asks about one unit's matter: that unit, and where dates, names, voices and words of matter stand */
  settle?: { unit: number; dates: { unit: number; which: number; at: number }[]; people: { person: string; named: boolean; at: number }[]; words: { unit: number; word: number; at: number }[] };
}

/** The places of a stretch whose numbers are wanted: its units' markers; where it asks about a matter, its first piece, the dates, the people and the words. */
export function marksOf({ units, settle }: Stretch): number[] {
  return settle ? [0, ...settle.dates.map((d) => d.at), ...settle.people.map((p) => p.at), ...settle.words.map((w) => w.at)] : units.map((u) => u.at);
}

/** The same bounds as in training; see training/train.py. */
const TURN_PIECES = 512;
const ABOUT_PIECES = 160;
const SETTLE_PIECES = 224;
const UNIT_PIECES = 56;
const OPEN_PIECES = 32;
/** Units that two stretches share at each side of their border, so that each has something before and after it in one of them. */
const LEAD_IN = 1;

/** The units of a reading as pieces, each with its speaker before it. */
export function piecesOf(reading: Reading, pieces: WordPieces): number[][] {
  return reading.units.map((u) => pieces.numbers(said(reading, u), UNIT_PIECES));
}

/** A unit's words up to a place, its speaker before them. */
function said(reading: Reading, u: ReadUnit, to = u.text.length): string {
  const who = u.speaker ? reading.roster.firstName(u.speaker) : (u.source.voice ?? '');
  return who ? `${who}: ${u.text.slice(0, to)}` : u.text.slice(0, to);
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
    const [from, to] = around(units, unit, ABOUT_PIECES - OPEN_PIECES);
    for (let i = from + 1; i < to - 1; i++) inside.add(i);
    inside.add(unit);
    out.push(assemble(units, from, to, pieces, { open: open.id, ids }));
  }
  return out;
}

/** The units around one, before and after it in turn, as many as there is room for. */
function around(units: readonly (readonly number[])[], unit: number, room: number): [number, number] {
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

/**
 * Stretches that ask when and whose the matter of a unit is and what it is called, each grown to both sides of that unit,
 * which is told from the others by its part. Where nothing can be answered none is made.
 */
export function settleStretches(reading: Reading, units: readonly (readonly number[])[], pieces: WordPieces, asked: readonly number[]): Stretch[] {
  const places = new Map<number, ReturnType<typeof placesIn>>();
  const inUnit = (i: number) => {
    const known = places.get(i) ?? placesIn(reading, reading.units[i]!, pieces);
    places.set(i, known);
    return known;
  };
  return asked.flatMap((unit) => {
    const [from, to] = around(units, unit, SETTLE_PIECES - 1);
    const stretch = assemble(units, from, to, pieces, null);
    const dates: NonNullable<Stretch['settle']>['dates'] = [];
    const people: NonNullable<Stretch['settle']>['people'] = [];
    const words: NonNullable<Stretch['settle']>['words'] = [];
    for (const { unit: i, at } of stretch.units) {
      if (i === unit) for (let k = at; k <= at + units[i]!.length; k++) stretch.parts[k] = 1;
      const found = inUnit(i);
      for (const d of found.dates) dates.push({ unit: i, which: d.which, at: at + 1 + d.at });
      for (const n of found.names) people.push({ person: n.person, named: true, at: at + 1 + n.at });
      for (const w of found.words) words.push({ unit: i, word: w.word, at: at + 1 + w.at });
      const speaker = reading.units[i]!.speaker;
      if (speaker) people.push({ person: speaker, named: false, at });
    }
    return dates.length || people.length || words.length ? [{ ...stretch, settle: { unit, dates, people, words } }] : [];
  });
}

/** Where in a unit's pieces its dates, names and words of matter begin; what stands beyond the cut is left out. */
function placesIn(reading: Reading, u: ReadUnit, pieces: WordPieces) {
  const at = (from: number) => pieces.numbers(said(reading, u, from), UNIT_PIECES + 1).length;
  return {
    dates: u.dates.map((d, which) => ({ which, at: at(d.from) })).filter((d) => d.at < UNIT_PIECES),
    names: u.mentions.map((m) => ({ person: m.person, at: at(m.from) })).filter((m) => m.at < UNIT_PIECES),
    words: matterWords(reading, u)
      .map((w) => ({ word: w.at, at: at(w.from) }))
      .filter((w) => w.at < UNIT_PIECES),
  };
}
