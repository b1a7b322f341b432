import type { IsoDate } from '../dates/calendar.ts';
import type { Group } from './group.ts';
import { type Features, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { Reading } from './reading.ts';
import { partAround, sharedStems, stemsElsewhere } from './surroundings.ts';

/** A date phrase that may be the due date of a job. */
export interface DueCandidate {
  unit: number;
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

/** Date phrases in the places of a job and up to two units beside them. */
export function dueCandidates(reading: Reading, group: Group): DueCandidate[] {
  const places = new Set<number>();
  for (const i of group.units) for (const d of [-1, 0, 1, 2]) places.add(i + d);
  const out: DueCandidate[] = [];
  for (const i of [...places].sort((a, b) => a - b)) {
    const u = reading.units[i];
    if (!u) continue;
    for (const d of u.dates) out.push({ unit: i, date: d.date, phrase: d.phrase, from: d.from, to: d.to, rule: d.rule, lead: d.lead });
  }
  return out;
}

/** What speaks for a phrase being the due date. */
export function dueFeatures(reading: Reading, odds: Float64Array, group: Group, c: DueCandidate, all: readonly DueCandidate[], owner: readonly string[]): Features {
  const f: Features = new Map();
  const u = reading.units[c.unit]!;
  const inside = group.units.includes(c.unit);
  f.set('always', 1);
  f.set(inside ? 'inside' : 'beside', 1);
  if (c.unit === group.core) f.set('core', 1);
  if (!inside) f.set(c.unit < group.units[0]! ? 'before-all' : `off:${group.units.includes(c.unit - 1) ? 1 : 2}`, 1);
  f.set('odds', Math.max(-4, Math.min(4, odds[c.unit]!)));
  f.set(`rule:${c.rule}`, 1);
  f.set(c.lead ? `lead:${c.lead}` : 'lead:none', 1);
  if (c.lead && !inside) f.set(`lead:${c.lead}~beside`, 1);
  if (!c.date) f.set('vague', 1);
  for (const k of ['past', 'hypothetical', 'refuse', 'will-verb', 'will-do', 'accept', 'request', 'mark:ask-any', 'assign', 'you-will', 'leave-me', 'slip', 'late', 'put-off', 'we', 'third', 'obligation', 'habit', 'retract']) if (u.cues.has(k)) f.set(`cue:${k}`, 1);
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

/** The likeliest phrase, or no date where none is likelier than not. */
export function chooseDue(reading: Reading, odds: Float64Array, group: Group, owner: readonly string[], model: LinearModel, least = 0.4): DueChoice {
  const all = dueCandidates(reading, group);
  let best: DueCandidate | null = null;
  let most = 0;
  for (const c of all) {
    const p = probability(logOdds(model, dueFeatures(reading, odds, group, c, all, owner)));
    if (p > most) {
      most = p;
      best = c;
    }
  }
  if (!best || most < least) return { due: null, candidate: null, sure: 1 - most };
  return { due: best.date, candidate: best, sure: most };
}
