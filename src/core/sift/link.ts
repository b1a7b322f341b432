import { sharedWeight } from '../language/words.ts';
import { addAgreement } from './close/naming.ts';
import { WRAP_UP_FROM } from './keywords.ts';
import { type Features, keyed, steps } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';
import { stemsAround } from './surroundings.ts';

/** How far apart, in units, two places may be and still be compared through what stands between them. */
export const NEAR = 8;

/**
 * What speaks for two units being about one matter.
 * @param odds log-odds of the units' nature
 * @param a    the earlier unit
 * @param b    the later one
 */
export function linkFeatures(reading: Reading, odds: Float64Array, a: number, b: number): Features {
  const f: Features = new Map();
  const u = reading.units[a]!;
  const v = reading.units[b]!;
  const gap = b - a;
  f.set('always', 1);
  steps(f, 'gap', gap, [2, 3, 4, 6, NEAR, 20, 60]);
  words(f, reading, a, b);
  if (gap < NEAR) {
    between(f, reading, odds, a, b);
    turns(f, u, v);
    strength(f, odds, a, b);
    if (!u.spoken) notes(f, u, v);
  } else {
    farApart(f, reading, u, v);
  }
  people(f, u, v, gap);
  addAgreement(f, reading, a, b);
  return f;
}

/** Words the two share, words their surroundings share, and words that are new in the later one. */
function words(f: Features, reading: Reading, a: number, b: number): void {
  const u = reading.units[a]!;
  const v = reading.units[b]!;
  const gap = b - a;
  const shared = sharedWeight(u.stems, v.stems, reading.weight);
  steps(f, 'share', shared.share, [0.1, 0.2, 0.35, 0.5, 0.75]);
  steps(f, 'shared', shared.count, [1, 2, 3]);
  if (gap >= NEAR) steps(f, 'far-share', shared.share, [0.1, 0.2, 0.35, 0.5]);
  if (gap >= 4) {
    const around = sharedWeight(stemsAround(reading, a, 3, 1), stemsAround(reading, b, 1, 2), reading.weight);
    steps(f, 'around', around.count, [1, 2, 3, 5]);
    steps(f, gap >= NEAR ? 'far-around-share' : 'around-share', around.share, [0.05, 0.1, 0.2, 0.35]);
  }
  const said = stemsAround(reading, a, 0, Math.min(gap, NEAR) - 1);
  let fresh = 0;
  for (const s of v.stems) if (!said.has(s)) fresh++;
  steps(f, 'fresh', fresh, [1, 2, 3, 5, 8]);
  if (fresh >= 3 && ['will-verb', 'request', 'obligation', 'assign'].some((c) => v.cues.has(c))) f.set('fresh-job', 1);
  if (v.stems.size === 0) f.set('then:empty', 1);
  if (u.stems.size === 0) f.set('first:empty', 1);
}

/** What stands between two places that are near each other. */
function between(f: Features, reading: Reading, odds: Float64Array, a: number, b: number): void {
  const u = reading.units[a]!;
  const v = reading.units[b]!;
  if (u.speaker && u.speaker === v.speaker) f.set('same-speaker', 1);
  if (u.speaker && v.speaker && u.speaker !== v.speaker) f.set('other-speaker', 1);
  if (u.segment === v.segment) f.set('same-segment', 1);
  if (u.section !== v.section) f.set('other-section', 1);
  let weak = 0;
  let stronger = false;
  let topic = v.cues.has('next-topic');
  for (let i = a + 1; i < b; i++) {
    if (odds[i]! < -1.5) weak++;
    if (odds[i]! > odds[a]! && odds[i]! > 0) stronger = true;
    if (reading.units[i]!.cues.has('next-topic')) topic = true;
  }
  steps(f, 'between', weak, [1, 2, 4]);
  if (stronger) f.set('stronger-between', 1);
  if (topic) f.set('new-topic', 1);
}

const PAIRS = [
  ['request', 'accept'],
  ['request', 'will-do'],
  ['will-verb', 'accept'],
  ['will-verb', 'will-verb'],
  ['assign', 'assign'],
  ['obligation', 'will-do'],
  ['mark:ask', 'accept'],
  ['request', 'request'],
] as const;
const EITHER = ['will-do', 'obligation', 'request', 'leave-me', 'you-do', 'also', 'i-must', 'hypothetical', 'unknown', 'mark:ask-any'];
const OPENS = /^\W*(?:and|also|another|one more|plus|then|next|so|okay|right)\b/i;
const ANSWERS = /^\W*(?:yes|yeah|yep|ok|okay|fine|sure|good|no|perfect|great|deal|done|thanks)\b/i;

/** What the two say, as turns of one exchange. */
function turns(f: Features, u: ReadUnit, v: ReadUnit): void {
  for (const [p, q] of PAIRS) if (u.cues.has(p) && v.cues.has(q)) f.set(`${p}>${q}`, 1);
  for (const c of ['retract', 'refuse', 'accept', 'thanks', 'mark:ask', 'will-verb', 'assign', 'past']) if (v.cues.has(c)) f.set(keyed('then', c), 1);
  for (const c of EITHER) {
    if (u.cues.has(c)) f.set(keyed('first', c), 1);
    if (v.cues.has(c)) f.set(keyed('then', c), 1);
  }
  if (u.cues.has('will-verb') && v.cues.has('will-verb')) f.set(u.speaker === v.speaker ? 'both-promise:same' : 'both-promise:other', 1);
  if (OPENS.test(v.text)) f.set('then:opens', 1);
  if (ANSWERS.test(v.text)) f.set('then:answers', 1);
  if (u.text.includes('?')) f.set('first:?', 1);
  if (v.text.includes('?')) f.set('then:?', 1);
  if (v.words.length <= 4) f.set('then:short', 1);
  if (u.words.length <= 4) f.set('first:short', 1);
  steps(f, 'first:words', u.words.length, [5, 10, 20, 30]);
  steps(f, 'then:words', v.words.length, [5, 10, 20, 30]);
  if (v.dates.length && v.words.length < 8) f.set('then:date-alone', 1);
}

/** Two strong places side by side tend to be two jobs; a weak one leans on its neighbour. */
function strength(f: Features, odds: Float64Array, a: number, b: number): void {
  const bounded = (x: number) => Math.max(-2, Math.min(3, x));
  f.set('odds-least', bounded(Math.min(odds[a]!, odds[b]!)));
  f.set('odds-then', bounded(odds[b]!));
}

function notes(f: Features, u: ReadUnit, v: ReadUnit): void {
  f.set('notes', 1);
  if (!u.source.item || !v.source.item) return;
  f.set('notes:items', 1);
  if (v.source.item.depth > u.source.item.depth) f.set('notes:under', 1);
  if (v.source.item.depth === u.source.item.depth) f.set('notes:beside', 1);
}

/** Places far from each other are joined by their words, above all where the later one goes through what was agreed. */
function farApart(f: Features, reading: Reading, u: ReadUnit, v: ReadUnit): void {
  let shared = 0;
  let rare = 0;
  for (const s of u.stems) {
    if (!v.stems.has(s)) continue;
    shared++;
    if (reading.weight(s) > 3.5) rare++;
  }
  steps(f, 'far-shared', shared, [1, 2, 3, 4]);
  steps(f, 'far-rare', rare, [1, 2, 3]);
  if (u.speaker && u.speaker === v.speaker) f.set('far:same-speaker', 1);
  if (v.speaker && u.mentions.some((m) => m.person === v.speaker)) f.set('far:named-speaks', 1);
  const wrapUp = reading.units.length * WRAP_UP_FROM;
  if (v.index <= wrapUp || u.index > wrapUp) return;
  f.set('wrap-up', 1);
  steps(f, 'wrap-up:shared', shared, [1, 2, 3]);
  if (u.speaker && v.mentions.some((m) => m.person === u.speaker)) f.set('wrap-up:names-speaker', 1);
  steps(f, 'wrap-up:names', v.mentions.length, [2, 3]);
}

function people(f: Features, u: ReadUnit, v: ReadUnit, gap: number): void {
  const dated = (x: ReadUnit) => x.dates.flatMap((d) => d.date ?? []);
  const [da, db] = [dated(u), dated(v)];
  if (da.length && db.length) f.set(da.some((d) => db.includes(d)) ? 'same-date' : 'other-date', 1);
  const named = new Set(u.mentions.map((m) => m.person));
  if (v.mentions.some((m) => named.has(m.person))) f.set('same-name', 1);
  else if (v.mentions.length && named.size) f.set('other-name', 1);
  if (v.speaker && named.has(v.speaker) && gap < NEAR) f.set('named-speaks', 1);
}
