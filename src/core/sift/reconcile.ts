import { contentStems, sharedWeight, wholeWeight, wordsOf } from '../language/words.ts';
import type { Naming } from './keywords.ts';
import { type Features, keyed, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { OpenCommitment, Reading } from './reading.ts';
import type { Natures } from './shapes.ts';
import { stemsAround } from './surroundings.ts';

/** Everything about an open commitment that is worked out once. */
export interface OpenView {
  open: OpenCommitment;
  stems: ReadonlySet<string>;
  /** its words as what the matter is called */
  naming: Naming;
  /** how much a stem tells among the open commitments: one that stands in many tells little */
  weight(stem: string): number;
}

/** A word of an open commitment's text surely names it; half, so that the sums are as large as with words that were guessed. */
const KNOWN_WORDING = 0.5;

const viewed = new WeakMap<Reading, OpenView[]>();

export function viewOpen(reading: Reading): OpenView[] {
  const known = viewed.get(reading);
  if (known) return known;
  const bags = reading.input.open.map((o) => new Set(contentStems(wordsOf(o.text))));
  const seen = new Map<string, number>();
  for (const b of bags) for (const s of b) seen.set(s, (seen.get(s) ?? 0) + 1);
  const weight = (s: string) => reading.weight(s) / Math.sqrt(seen.get(s) ?? 1);
  const views = reading.input.open.map((open, i) => ({ open, stems: bags[i]!, naming: new Map([...bags[i]!].map((s) => [s, KNOWN_WORDING])), weight }));
  viewed.set(reading, views);
  return views;
}

/** Units worth comparing with an open commitment: those that share a word, name its owner, or sound like news of it. */
export function placesFor(reading: Reading, natures: Natures, view: OpenView, index: ReadonlyMap<string, readonly number[]>): number[] {
  const met = new Set<number>();
  for (const s of view.stems) for (const i of index.get(s) ?? []) met.add(i);
  for (const [i, row] of reading.close?.about.get(view.open.id) ?? []) if (row[0]! > -1.5) met.add(i);
  return [...met].filter((i) => !reading.units[i]!.heading && natures.odds.update[i]! > -5).sort((a, b) => a - b);
}

export function stemIndex(reading: Reading): Map<string, number[]> {
  const index = new Map<string, number[]>();
  for (const u of reading.units) {
    for (const s of u.stems) {
      const list = index.get(s);
      if (!list) index.set(s, [u.index]);
      else if (list.length < 400) list.push(u.index);
    }
  }
  return index;
}

/** What speaks for a unit being about an open commitment. */
export function aboutFeatures(reading: Reading, natures: Natures, view: OpenView, i: number): Features {
  const f: Features = new Map();
  const u = reading.units[i]!;
  const { open } = view;
  f.set('always', 1);
  f.set(u.spoken ? 'spoken' : 'notes', 1);
  const here = sharedWeight(view.stems, u.stems, view.weight);
  const around = sharedWeight(view.stems, stemsAround(reading, i, 2, 2), view.weight);
  f.set('weight', Math.min(12, here.weight));
  f.set('weight-near', Math.min(12, around.weight));
  const whole = wholeWeight(view.stems, view.weight);
  steps(f, 'covers', whole ? here.weight / whole : 0, [0.1, 0.2, 0.3, 0.45, 0.6]);
  steps(f, 'covers-near', whole ? around.weight / whole : 0, [0.15, 0.3, 0.45, 0.6]);
  steps(f, 'count', here.count, [1, 2, 3, 4]);
  steps(f, 'count-near', around.count, [2, 3, 4, 5]);
  if (u.speaker && open.owner.includes(u.speaker)) f.set('owner-speaks', 1);
  if (u.mentions.some((m) => open.owner.includes(m.person))) f.set('owner-named', 1);
  else if (u.mentions.length) f.set('other-named', 1);
  const before = reading.units[i - 1];
  const after = reading.units[i + 1];
  if (before?.mentions.some((m) => open.owner.includes(m.person))) f.set('owner-named-before', 1);
  if (after?.speaker && open.owner.includes(after.speaker) && after.speaker !== u.speaker) f.set('owner-answers', 1);
  if (before?.cues.has('late')) f.set('asked-after', 1);
  for (const c of ['late', 'done', 'slip', 'stuck', 'going', 'dropped', 'handed', 'past', 'will-verb', 'hypothetical', 'request', 'decide', 'mark:ask']) if (u.cues.has(c)) f.set(keyed('cue', c), 1);
  f.set('news', Math.max(-5, Math.min(5, natures.odds.update[i]!)));
  f.set('news-near', Math.max(-5, Math.min(5, Math.max(natures.odds.update[i - 1] ?? -5, natures.odds.update[i + 1] ?? -5))));
  f.set('act', Math.max(-5, Math.min(5, natures.odds.action[i]!)));
  if (open.due && u.dates.some((d) => d.date === open.due)) f.set('its-date', 1);
  f.set('at', i / Math.max(1, reading.units.length));
  if (u.section && contentStems(wordsOf(u.section)).some((s) => view.stems.has(s))) f.set('section-shares', 1);
  const row = reading.close?.about.get(open.id)?.get(i);
  if (reading.close) {
    f.set('close', Math.max(-6, Math.min(6, row?.[0] ?? -6)));
    const side = Math.max(reading.close.about.get(open.id)?.get(i - 1)?.[0] ?? -6, reading.close.about.get(open.id)?.get(i + 1)?.[0] ?? -6);
    f.set('close-near', Math.max(-6, Math.min(6, side)));
  }
  return f;
}

/** From this likelihood a unit counts as speaking of a commitment. */
const ABOUT_FROM = 0.3;
const MOST_PLACES = 6;

/** An open commitment and the places where it is spoken of. */
export interface Spoken {
  view: OpenView;
  /** in order of the record */
  places: number[];
  /** likelihood of each place */
  likely: ReadonlyMap<number, number>;
  /** of the likeliest place */
  sure: number;
}

/** Where each of the open commitments is spoken of; commitments nobody comes near are left out. */
export function spokenOf(reading: Reading, natures: Natures, about: LinearModel): Spoken[] {
  const index = stemIndex(reading);
  return viewOpen(reading).flatMap((view) => {
    const scored = placesFor(reading, natures, view, index).map((i) => ({ i, p: probability(logOdds(about, aboutFeatures(reading, natures, view, i))) }));
    const sure = scored.reduce((m, s) => Math.max(m, s.p), 0);
    const cut = Math.max(ABOUT_FROM, sure * 0.6);
    const top = scored
      .filter((s) => s.p >= cut)
      .sort((a, b) => b.p - a.p)
      .slice(0, MOST_PLACES);
    if (top.length === 0) return [];
    return [{ view, sure, places: top.map((s) => s.i).sort((a, b) => a - b), likely: new Map(top.map((s) => [s.i, s.p])) }];
  });
}

/** By unit, how likely it speaks of any open commitment. */
export function oldMatter(spoken: readonly Spoken[]): Map<number, number> {
  const out = new Map<number, number>();
  for (const s of spoken) for (const [i, p] of s.likely) out.set(i, Math.max(out.get(i) ?? 0, p));
  return out;
}
