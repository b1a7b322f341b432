import { type Features, steps } from './linear.ts';
import type { Reading } from './reading.ts';
import type { Group } from './shapes.ts';
import { NATURES, type Nature, type Natures } from './shapes.ts';

/** What is known of a group beside its units: its date and owner, and the other groups it may be a second telling of. */
export interface Surroundings {
  dated: boolean;
  owned: number;
  likeOpen: number;
  /** likelihood that a unit speaks of a commitment that is open already */
  old: ReadonlyMap<number, number>;
  /** see Draft.named */
  named: number;
  rivals: readonly Rival[];
}

export interface Rival {
  /** units between the two, 0 where they touch */
  gap: number;
  /** it is the surer of the two, and so the one that should stay */
  surer: boolean;
  first: boolean;
  sameOwner: boolean;
  sameDue: boolean;
  share: number;
}

/** What speaks for a group being a find at all, seen as a whole. */
export function groupFeatures(reading: Reading, natures: Natures, group: Group, nature: Nature, extra: Surroundings): Features {
  const f: Features = new Map();
  const odds = natures.odds[nature];
  const best = odds[group.core]!;
  f.set('always', 1);
  f.set('best', Math.max(-4, Math.min(6, best)));
  const second = group.units
    .filter((i) => i !== group.core)
    .map((i) => odds[i]!)
    .sort((a, b) => b - a)[0];
  f.set('second', second === undefined ? -2 : Math.max(-4, Math.min(6, second)));
  f.set(
    'sum',
    Math.min(
      8,
      group.units.reduce((s, i) => s + Math.max(0, odds[i]! + 1), 0),
    ),
  );
  steps(f, 'units', group.units.length, [2, 3, 5, 8]);
  f.set('named', Math.min(6, extra.named));
  steps(f, 'named', extra.named, [1.5, 2, 2.5, 3, 4]);
  for (const n of NATURES) if (n !== nature) f.set(`rival:${n}`, Math.max(-5, Math.min(5, Math.max(...group.units.map((i) => natures.odds[n][i]!)))));
  const core = reading.units[group.core]!;
  f.set(core.spoken ? 'spoken' : core.source.item ? 'list' : 'prose', 1);
  if (nature === 'action') {
    if (extra.dated) f.set('dated', 1);
    f.set('owned', extra.owned);
    if (extra.likeOpen > 0) f.set('like-open', extra.likeOpen);
    steps(f, 'like-open', extra.likeOpen, [0.2, 0.4, 0.6, 0.8]);
    oldMatter(f, group, extra.old);
  }
  for (const r of extra.rivals) {
    const near = r.gap <= 2 ? 'beside' : r.gap <= 8 ? 'near' : 'far';
    if (near === 'far' && r.share < 0.3) continue;
    const who = r.surer ? 'surer' : 'weaker';
    f.set(`rival:${near}:${who}`, 1);
    if (r.sameOwner) f.set(`rival:${near}:${who}:owner`, 1);
    if (r.sameDue) f.set(`rival:${near}:${who}:due`, 1);
    if (r.sameOwner && r.sameDue) f.set(`rival:${near}:${who}:both`, 1);
    if (r.share >= 0.3) f.set(`rival:${near}:${who}:words`, 1);
    if (r.first) f.set(`rival:${near}:${who}:before`, 1);
  }
  const last = group.units[group.units.length - 1]!;
  for (const d of [1, 2]) {
    const u = reading.units[last + d];
    if (!u) continue;
    for (const c of ['accept', 'refuse', 'retract', 'thanks', 'put-off', 'consent', 'joke', 'decide', 'unknown', 'next-topic']) if (u.cues.has(c)) f.set(`then${d}:${c}`, 1);
  }
  const later = sharedLater(reading, group);
  if (later) f.set('taken-back-later', 1);
  for (const c of ['will-verb', 'request', 'assign', 'obligation', 'hypothetical', 'past', 'joke', 'habit', 'on-the-spot', 'refuse', 'retract', 'decide', 'consent', 'put-off', 'unknown', 'mark:ask', 'wh', 'done', 'leave-me', 'accept']) {
    let n = 0;
    for (const i of group.units) if (reading.units[i]!.cues.has(c)) n++;
    if (n) f.set(`has:${c}`, n / group.units.length);
  }
  if (reading.units[group.core]!.stems.size < 2) f.set('thin', 1);
  const close = reading.close?.nature;
  if (close) {
    const at = nature === 'action' ? 0 : nature === 'decision' ? 2 : nature === 'question' ? 3 : 4;
    f.set('close:best', Math.max(...group.units.map((i) => close[i]?.[at] ?? -4)));
    f.set('close:trap', Math.max(...group.units.map((i) => close[i]?.[5] ?? -4)));
    if (nature === 'action') f.set('close:main', Math.max(...group.units.map((i) => close[i]?.[1] ?? -4)));
  }
  return f;
}

/** A job whose places speak of one that is open already is news of that one, not a new one. */
function oldMatter(f: Features, group: Group, old: ReadonlyMap<number, number>): void {
  const p = group.units.map((i) => old.get(i) ?? 0);
  const most = Math.max(...p);
  f.set('old', most);
  steps(f, 'old', most, [0.3, 0.5, 0.7, 0.85]);
  f.set('old-share', p.filter((x) => x > 0).length / p.length);
  const core = old.get(group.core) ?? 0;
  steps(f, 'old-core', core, [0.3, 0.6, 0.85]);
  if (p[0]! > 0.3) f.set('old-first', 1);
  if (old.has(group.units[0]! - 1)) f.set('old-before', 1);
}

/** A later place that speaks of the same matter and takes it back. */
function sharedLater(reading: Reading, group: Group): boolean {
  const mine = reading.units[group.core]!.stems;
  const last = group.units[group.units.length - 1]!;
  for (let i = last + 1; i < Math.min(reading.units.length, last + 200); i++) {
    const u = reading.units[i]!;
    if (!u.cues.has('retract') && !(u.cues.has('refuse') && u.words.length < 12)) continue;
    let shared = 0;
    for (const s of u.stems) if (mine.has(s)) shared++;
    if (shared >= 2) return true;
  }
  return false;
}
