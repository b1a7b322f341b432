import { contentStems, sharedWeight, wordsOf } from '../language/words.ts';
import type { Naming } from './keywords.ts';
import { type Features, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { Natures } from './natures.ts';
import type { OpenCommitment, Reading, ReadUnit } from './reading.ts';

export const UPDATE_KINDS = ['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress'] as const;
export type UpdateKind = (typeof UPDATE_KINDS)[number];

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
  const near = new Set(u.stems);
  for (const d of [-2, -1, 1, 2]) for (const s of reading.units[i + d]?.stems ?? []) near.add(s);
  const around = sharedWeight(view.stems, near, view.weight);
  f.set('weight', Math.min(12, here.weight));
  f.set('weight-near', Math.min(12, around.weight));
  let whole = 0;
  for (const s of view.stems) whole += view.weight(s);
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
  for (const c of ['late', 'done', 'slip', 'stuck', 'going', 'dropped', 'handed', 'past', 'will-verb', 'hypothetical', 'request', 'decide', 'mark:ask']) if (u.cues.has(c)) f.set(`cue:${c}`, 1);
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

/**
 * What speaks for each kind of news, over all places that are about the commitment.
 * @param newDate how likely it is, 0 to 1, that one of the dates named there is its new one
 */
export function kindFeatures(reading: Reading, view: OpenView, places: readonly number[], newDate: number): Features {
  const f: Features = new Map();
  const { open } = view;
  f.set('always', 1);
  const last = places[places.length - 1]!;
  const inside = new Set(places);
  for (const i of newsWindow(reading, view, places)) {
    const u = reading.units[i]!;
    const where = inside.has(i) ? '' : inside.has(i - 1) || inside.has(i - 2) ? 'near:' : 'far:';
    for (const c of u.cues) f.set(`${where}${c}`, Math.min(2, (f.get(`${where}${c}`) ?? 0) + 1));
    if (i === last) for (const c of u.cues) f.set(`last:${c}`, 1);
    for (const w of u.words) if (TELLING.has(w)) f.set(`${where}w:${w}`, 1);
    const negated = NEGATED.test(u.text);
    if (negated) f.set(`${where}negated`, 1);
    if (negated && (u.cues.has('done') || u.cues.has('past'))) f.set(`${where}negated+done`, 1);
    if (!negated && u.cues.has('done') && u.cues.has('past')) f.set(`${where}plainly-done`, 1);
    if (MORE_TIME.test(u.text)) f.set(`${where}more-time`, 1);
    for (const d of u.dates) {
      if (!d.date) continue;
      f.set(`${where}date`, 1);
      if (d.date >= reading.input.meeting.date) f.set(d.date === open.due ? `${where}its-date-named` : `${where}other-date-named`, 1);
      if (d.lead) f.set(`${where}date:${d.lead}`, 1);
    }
    if (u.source.item?.box) f.set(`box:${u.source.item.box}`, 1);
    if (u.source.item?.struck) f.set('struck', 1);
    if (u.speaker && open.owner.includes(u.speaker)) f.set(`${where}owner-speaks`, 1);
    if (u.mentions.some((m) => open.owner.includes(m.person))) f.set(`${where}owner-named`, 1);
    if (u.mentions.some((m) => !open.owner.includes(m.person))) f.set(`${where}other-named`, 1);
    for (const m of u.mentions) if (!open.owner.includes(m.person) && /^\s*(?:will|to|is to|'ll|’ll|has|takes)/.test(u.text.slice(m.to, m.to + 12))) f.set('other-will', 1);
  }
  f.set('new-date', newDate);
  steps(f, 'new-date', newDate, [0.15, 0.3, 0.45, 0.6, 0.75]);
  if (open.due && open.due < reading.input.meeting.date) f.set('overdue', 1);
  if (open.due && open.due >= reading.input.meeting.date) f.set('not-due', 1);
  if (!open.due) f.set('had-no-date', 1);
  const rows = places.map((i) => reading.close?.about.get(open.id)?.get(i)).filter((r) => r !== undefined);
  if (rows.length) for (let k = 0; k < UPDATE_KINDS.length; k++) f.set(`close:${k}`, rows.reduce((s, r) => s + r[k + 1]!, 0) / rows.length);
  return f;
}

const NEGATED = /\b(?:not|no|never|nothing|nobody|none|without|cannot|(?:has|have|had|is|was|are|were|did|does|do|could|can|wo|would|should)n['’]?t|hasnt|havent|isnt|wasnt|didnt|cant|wont)\b/i;
const MORE_TIME = /\b(?:more time|another (?:week|day|month|fortnight)|a (?:week|day|bit|month) (?:more|longer|later)|call it|make (?:it|that)|say|give me|need(?:s)? until|can i have|could i have|instead|rather than|won['’]?t make|not (?:this|before)|slip\w*|push\w*|moved?|postpone\w*|delay\w*|later)\b/i;

/** Units after a place in which its news is still being told, in talk: the excuse, the new day, the answer. */
const TOLD_WITHIN = 7;

/**
 * The places and what is said right after each of them, until somebody goes on to something else
 * or speaks of another open commitment. In notes a line stands for itself.
 */
export function newsWindow(reading: Reading, view: OpenView, places: readonly number[]): number[] {
  const out = new Set(places);
  for (const i of places) {
    const first = reading.units[i]!;
    if (!first.spoken) {
      if (reading.units[i + 1]?.segment === first.segment) out.add(i + 1);
      continue;
    }
    for (let j = i + 1; j <= i + TOLD_WITHIN; j++) {
      const u = reading.units[j];
      if (!u || (j > i + 1 && goesOn(u)) || (!out.has(j) && speaksOfAnother(reading, view, u))) break;
      out.add(j);
    }
  }
  return [...out].sort((a, b) => a - b);
}

/** A unit that has more to do with another open commitment than with this one. */
function speaksOfAnother(reading: Reading, view: OpenView, u: ReadUnit): boolean {
  const count = (v: OpenView) => sharedWeight(v.stems, u.stems, v.weight).count + (u.speaker !== null && v.open.owner.includes(u.speaker) ? 0.5 : 0);
  const own = count(view);
  return viewOpen(reading).some((v) => v !== view && count(v) >= 1.5 && count(v) > own);
}

function goesOn(u: ReadUnit): boolean {
  return (u.cues.has('next-topic') && u.words.length > 1) || (u.cues.has('late') && u.mentions.length > 0);
}

/** Words with which people ask for, or give, more time. */
export function speaksOfMoreTime(text: string): boolean {
  return MORE_TIME.test(text);
}

/** Verbs and particles that tell one kind of news from another. */
const TELLING = new Set(
  'done sent in out up off went came gone got signed finished ready closed booked paid arrived landed delivered posted there moved until till instead make call monday tuesday wednesday thursday friday week later late not no yet still nearly almost half stuck waiting wait without nobody answer hear heard drop dropped needed need forget cancelled list instead take takes took over hand handed he she they stands same track fine good happy yes have has had was were is are will been be being tomorrow today tonight next until before after new now only half part rest since yesterday last ready complete completed fixed cleared circulated submitted received confirmed approved agreed written drafted built tested found back came come never nothing more another time longer need needs away ill sick holiday'.split(
    ' ',
  ),
);

/** The likeliest kind and how likely it is among the six. */
export function chooseKind(models: Record<UpdateKind, LinearModel>, features: Features): { kind: UpdateKind; sure: number } {
  const scores = UPDATE_KINDS.map((kind) => ({ kind, e: Math.exp(Math.max(-20, Math.min(20, logOdds(models[kind], features)))) }));
  const sum = scores.reduce((s, x) => s + x.e, 0);
  const best = scores.reduce((a, b) => (b.e > a.e ? b : a));
  return { kind: best.kind, sure: sum > 0 ? best.e / sum : 0 };
}

/** Places about a commitment: every unit likelier than `least`, or the likeliest alone when it reaches `floor`. */
export function placesAbout(reading: Reading, natures: Natures, view: OpenView, index: ReadonlyMap<string, readonly number[]>, model: LinearModel, least: number): { places: number[]; sure: number } {
  const scored = placesFor(reading, natures, view, index).map((i) => ({ i, p: probability(logOdds(model, aboutFeatures(reading, natures, view, i))) }));
  const sure = scored.reduce((m, s) => Math.max(m, s.p), 0);
  const cut = Math.max(least, sure * 0.6);
  const top = scored
    .filter((s) => s.p >= cut)
    .sort((a, b) => b.p - a.p)
    .slice(0, 6);
  return { places: top.map((s) => s.i).sort((a, b) => a - b), sure };
}
