import type { IsoDate } from '../dates/calendar.ts';
import { addWhen } from './close/settled.ts';
import { dayByForm, formOf } from './forms.ts';
import { standingOf } from './group.ts';
import { type Naming, relevance } from './keywords.ts';
import { type Features, keyed, type LinearModel, logOdds, softmax, steps } from './linear.ts';
import type { Reading } from './reading.ts';
import type { Group } from './shapes.ts';
import { partAround, sharedStems, stemsElsewhere } from './surroundings.ts';

/** A date phrase that may be the due date of a job. */
export interface DueCandidate {
  unit: number;
  /** which of the unit's date phrases */
  which: number;
  date: IsoDate | null;
  phrase: string;
  from: number;
  to: number;
  rule: string;
  lead: string;
}

export interface DueChoice {
  due: IsoDate | null;
  candidate: DueCandidate | null;
  /** 0 to 1 */
  sure: number;
}

/** Dates are looked for up to this many units before and after the places of a job. */
const [BEFORE, AFTER] = [3, 6];

/** Date phrases in the places of a job and beside them. */
export function dueCandidates(reading: Reading, group: Group): DueCandidate[] {
  const places = new Set<number>();
  for (const i of group.units) for (let d = -BEFORE; d <= AFTER; d++) places.add(i + d);
  const out: DueCandidate[] = [];
  for (const i of [...places].sort((a, b) => a - b)) {
    const u = reading.units[i];
    if (!u) continue;
    for (const [which, d] of u.dates.entries()) out.push({ unit: i, which, date: d.date, phrase: d.phrase, from: d.from, to: d.to, rule: d.rule, lead: d.lead });
  }
  return out;
}

/** What speaks for a phrase being the due date. */
export function dueFeatures(reading: Reading, odds: Float64Array, group: Group, c: DueCandidate, all: readonly DueCandidate[], owner: readonly string[], naming: Naming): Features {
  const f: Features = new Map();
  const u = reading.units[c.unit]!;
  const inside = group.units.includes(c.unit);
  addWhen(f, reading, group, c);
  f.set('always', 1);
  f.set(inside ? 'inside' : 'beside', 1);
  if (c.unit === group.core) f.set('core', 1);
  const stands = standingOf(group, c.unit);
  if (!inside) {
    f.set(`off:${stands.away}`, 1);
    if (stands.other) f.set('other-matter', 1);
    if (stands.beyond) f.set('beyond-another', 1);
    if (!stands.other && !stands.beyond && stands.away > 0) f.set('still-on-it', 1);
  }
  f.set('odds', Math.max(-4, Math.min(4, odds[c.unit]!)));
  f.set(`rule:${c.rule}`, 1);
  f.set(c.lead ? `lead:${c.lead}` : 'lead:none', 1);
  if (c.lead && !inside) f.set(`lead:${c.lead}~beside`, 1);
  if (!c.date) f.set('vague', 1);
  for (const k of ['past', 'hypothetical', 'refuse', 'will-verb', 'will-do', 'accept', 'request', 'mark:ask-any', 'assign', 'you-will', 'leave-me', 'slip', 'late', 'put-off', 'we', 'third', 'obligation', 'habit', 'retract']) if (u.cues.has(k)) f.set(keyed('cue', k), 1);
  if (u.words.length <= 4) f.set('alone', 1);
  if (c.to >= u.text.length - 2) f.set('at-end', 1);
  if (c.from <= 2) f.set('at-start', 1);
  if (u.speaker && owner.includes(u.speaker)) f.set('owner-says', 1);
  else if (u.speaker) f.set('other-says', 1);
  const before = reading.units[c.unit - 1];
  const after = reading.units[c.unit + 1];
  if (before?.cues.has('mark:ask-any')) f.set('after-question', 1);
  if (before && /\b(when|by when|which day|how soon|what day)\b/i.test(before.text)) f.set('after-when', 1);
  if (after?.cues.has('accept')) f.set('then-accept', 1);
  if (after?.cues.has('refuse')) f.set('then-refuse', 1);
  const dated = all.filter((d) => d.date);
  const at = dated.indexOf(c);
  if (dated.length === 1) f.set('only', 1);
  else if (c.date) {
    if (at === dated.length - 1) f.set('last', 1);
    if (at === 0) f.set('first', 1);
    const within = dated.filter((d) => group.units.includes(d.unit));
    if (inside && within[within.length - 1] === c) f.set('last-inside', 1);
    if (inside && within.length === 1) f.set('only-inside', 1);
    const same = dated.filter((d) => d.date === c.date).length;
    if (same > 1) f.set('said-again', 1);
    if (dated.some((d) => d.unit === c.unit && d !== c)) f.set(dated.find((d) => d.unit === c.unit) === c ? 'first-in-unit' : 'later-in-unit', 1);
    if (dated.some((d, k) => k > at && d.date !== c.date && group.units.includes(d.unit))) f.set('another-follows', 1);
  }
  const head = u.text.slice(Math.max(0, c.from - 40), c.from).toLowerCase();
  if (/\b(was|were|went|came|sent|had|did|got|rang|called|signed|since|last)\b[^.;!?]{0,30}$/.test(head)) f.set('past-before', 1);
  if (/\b(i'?ll|i’ll|will|to|can|have|get|done|ready|send|finish)\b[^.;!?]{0,36}$/.test(head)) f.set('will-before', 1);
  if (/\b(is|are|it's|it’s|meets?|comes?|sits|opens?|closes?|starts?|begins?|away|off|back|holiday|leave)\b[^.;!?]{0,16}$/.test(head)) f.set('event-before', 1);
  const part = partAround(u.text, c.from, c.to);
  const here = relevance(naming, part);
  steps(f, 'part-matter', here, [0.1, 0.3, 0.6, 1, 1.6]);
  const others = all.filter((d) => d !== c && d.date && d.date !== c.date).map((d) => relevance(naming, partAround(reading.units[d.unit]!.text, d.from, d.to)));
  if (others.length) f.set(here > Math.max(...others) ? 'most-matter' : here < Math.max(...others) - 0.3 ? 'less-matter' : 'as-much-matter', 1);
  steps(f, 'part-shares', sharedStems(part, stemsElsewhere(reading, group, c.unit)), [1, 2, 3]);
  const names = reading.roster.mentions(part).map((m) => m.person);
  if (names.some((p) => owner.includes(p))) f.set('part-names-owner', 1);
  else if (names.length) f.set('part-names-other', 1);
  if (u.mentions.length >= 2 && u.dates.length >= 2) {
    f.set('dealt-out', 1);
    if (names.some((p) => owner.includes(p))) f.set('dealt-out:owner', 1);
    else if (names.length) f.set('dealt-out:other', 1);
  }
  if (c.date && c.date < reading.input.meeting.date) f.set('gone-by', 1);
  if (c.date && all.some((d) => d !== c && d.date && d.date > c.date! && group.units.includes(d.unit))) f.set('a-later-day-named', 1);
  if (!u.spoken) {
    f.set('notes', 1);
    if (/->|→|\(/.test(u.text.slice(Math.max(0, c.from - 4), c.from + 3))) f.set('notes:arrow', 1);
    if (/^\s*\)/.test(u.text.slice(c.to))) f.set('notes:bracket-end', 1);
  }
  return f;
}

/** What speaks for no date having been set. */
export function undatedFeatures(reading: Reading, group: Group, all: readonly DueCandidate[]): Features {
  const f: Features = new Map();
  f.set('undated', 1);
  addWhen(f, reading, group, null);
  const dated = all.filter((c) => c.date);
  const within = dated.filter((c) => group.units.includes(c.unit)).length;
  if (within === 0) f.set('undated:none-inside', 1);
  steps(f, 'undated:named', dated.length, [2, 3, 5]);
  if (all.some((c) => !c.date && group.units.includes(c.unit))) f.set('undated:vague', 1);
  const units = group.units.map((i) => reading.units[i]!);
  for (const c of ['put-off', 'obligation', 'refuse', 'hypothetical']) if (units.some((u) => u.cues.has(c))) f.set(`undated:${c}`, 1);
  steps(f, 'undated:units', units.length, [2, 4, 7]);
  if (!units[0]!.spoken) f.set('undated:notes', 1);
  return f;
}

/** How sure a day is that stands in one breath with its job and is not spoken of again. */
const SURE_BY_FORM = 0.85;
/** So many units after it an answer may still put another day in its place. */
const ANSWERED_WITHIN = 3;

/** The day a plain promise or request names itself, unless another one is named in its places or in the answer to it. */
function plainDay(reading: Reading, group: Group, all: readonly DueCandidate[]): DueCandidate | null {
  const which = dayByForm(reading.units[group.core]!);
  const named = which === null ? undefined : all.find((c) => c.unit === group.core && c.which === which);
  if (!named) return null;
  const answers = (unit: number) => unit > group.core && unit <= group.core + ANSWERED_WITHIN && formOf(reading.units[unit]!) === null;
  return all.some((c) => c.date && c.date !== named.date && (group.units.includes(c.unit) || answers(c.unit))) ? null : named;
}

/** Phrases that are weighed for one group; whoever names more days than these in one breath means none of them more than another. */
const WEIGHED = 60;

/** The candidates nearest to where a group is stated: each is weighed against all others. */
function nearest(all: DueCandidate[], group: Group): DueCandidate[] {
  if (all.length <= WEIGHED) return all;
  const apart = (c: DueCandidate) => Math.min(...group.units.map((u) => Math.abs(u - c.unit)));
  return all
    .map((c, k) => ({ c, k, apart: apart(c) }))
    .sort((a, b) => a.apart - b.apart || a.k - b.k)
    .slice(0, WEIGHED)
    .sort((a, b) => a.k - b.k)
    .map(({ c }) => c);
}

/** The likeliest phrase, or no date where that is likelier. */
export function chooseDue(reading: Reading, odds: Float64Array, group: Group, owner: readonly string[], naming: Naming, model: LinearModel): DueChoice {
  const all = nearest(dueCandidates(reading, group), group);
  const plain = plainDay(reading, group, all);
  if (plain) return { due: plain.date, candidate: plain, sure: SURE_BY_FORM };
  const p = softmax([undatedFeatures(reading, group, all), ...all.map((c) => dueFeatures(reading, odds, group, c, all, owner, naming))].map((f) => logOdds(model, f)));
  // phrases that mean one day speak for it together
  const days = new Map<string, number>();
  p.forEach((x, k) => {
    const day = all[k - 1]?.date ?? '';
    days.set(day, (days.get(day) ?? 0) + x);
  });
  const [day, sure] = [...days].reduce((a, b) => (b[1] > a[1] ? b : a));
  if (!day) return { due: null, candidate: null, sure };
  const best = all.reduce((a, c, k) => (c.date === day && (a < 0 || p[k + 1]! > p[a + 1]!) ? k : a), -1);
  return { due: day, candidate: all[best]!, sure };
}
