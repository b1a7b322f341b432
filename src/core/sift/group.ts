import { twoMatters } from './forms.ts';
import { type LinearModel, logOdds, probability } from './linear.ts';
import { linkFeatures, NEAR } from './link.ts';
import type { Reading } from './reading.ts';
import type { Group } from './shapes.ts';

/** Likelihood from which a unit joins a group. */
const JOIN_FROM = 0.5;
/** A matter that is spoken of in more places than this is begun anew; keeps every later step bounded. */
const MOST_PLACES = 40;
/** Of the groups far above, at most this many that share words with a unit are compared with it. */
const FAR_GROUPS = 8;

/**
 * Joins the units of one nature into groups: a unit goes to the group it is linked with most strongly, if that is more
 * likely than not, and else begins its own. Far places (a wrap-up) are joined by their words.
 *
 * Each unit is compared with the few groups right above it and the few that share words with it, so the work grows
 * with the length of the record and not with its square.
 *
 * @param least log-odds from which a unit is considered
 */
export function groupUnits(reading: Reading, odds: Float64Array, link: LinearModel, least: number): Group[] {
  const groups: Group[] = [];
  const byStem = new Map<string, number[]>();
  for (let i = 0; i < odds.length; i++) {
    if (odds[i]! < least || reading.units[i]!.heading) continue;
    let best: number | null = null;
    let most = JOIN_FROM;
    for (const g of rivals(reading, groups, byStem, i)) {
      const group = groups[g]!;
      if (group.units.length >= MOST_PLACES || group.units.some((a) => twoMatters(reading.units[a]!, reading.units[i]!))) continue;
      let sum = 0;
      let top = 0;
      const against = group.units.length > 3 ? [group.core, ...group.units.slice(-2)] : group.units;
      for (const a of against) {
        const p = probability(logOdds(link, linkFeatures(reading, odds, a, i)));
        sum += p;
        top = Math.max(top, p);
      }
      const p = 0.6 * top + (0.4 * sum) / against.length;
      if (p > most) {
        most = p;
        best = g;
      }
    }
    if (best === null) best = groups.push({ units: [], core: i }) - 1;
    const group = groups[best]!;
    group.units.push(i);
    if (odds[i]! > odds[group.core]!) group.core = i;
    for (const s of reading.units[i]!.stems) {
      const list = byStem.get(s) ?? [];
      if (list[list.length - 1] !== best) list.push(best);
      byStem.set(s, list);
    }
  }
  const of = new Map<number, Group>();
  for (const g of groups) for (const i of g.units) of.set(i, g);
  for (const g of groups) g.others = othersNear(g, (i) => of.has(i) && of.get(i) !== g);
  return groups;
}

/** How far from its places a matter's neighbours are looked for, in units. */
const REACH = 10;

function othersNear(group: Group, taken: (i: number) => boolean): Set<number> {
  const out = new Set<number>();
  for (const u of group.units) for (let i = u - REACH; i <= u + REACH; i++) if (taken(i)) out.add(i);
  return out;
}

/** How far a unit stands from the places of a matter, and what stands between. */
export interface Standing {
  /** units from the nearest place, negative before it */
  away: number;
  /** it speaks of another matter */
  other: boolean;
  /** between it and that place another matter is spoken of */
  beyond: boolean;
}

export function standingOf(group: Group, unit: number): Standing {
  let away = Number.POSITIVE_INFINITY;
  for (const u of group.units) {
    const d = unit - u;
    if (Math.abs(d) < Math.abs(away) || (d > 0 && d === -away)) away = d;
  }
  const others = group.others;
  let beyond = false;
  if (others) for (let i = Math.min(unit, unit - away) + 1; i < Math.max(unit, unit - away); i++) if (others.has(i)) beyond = true;
  return { away, other: others?.has(unit) ?? false, beyond };
}

/** Groups a unit may belong to: those that end right above it, and those further up that share most words with it. */
function rivals(reading: Reading, groups: readonly Group[], byStem: ReadonlyMap<string, number[]>, i: number): Set<number> {
  const out = new Set<number>();
  for (let g = groups.length - 1; g >= 0 && g >= groups.length - NEAR; g--) if (i - groups[g]!.units[groups[g]!.units.length - 1]! <= NEAR) out.add(g);
  const shared = new Map<number, number>();
  for (const s of reading.units[i]!.stems) for (const g of (byStem.get(s) ?? []).slice(-20)) shared.set(g, (shared.get(g) ?? 0) + 1);
  for (const [g] of [...shared].sort((a, b) => b[1] - a[1]).slice(0, FAR_GROUPS)) out.add(g);
  return out;
}
