import type { Find } from './find.ts';
import { probability } from './linear.ts';

/** One find that a person settled, as far as it can be learned from. */
export interface Settled {
  traits: readonly string[];
  /** what Sift thought of it, 0 to 1 */
  confidence: number;
  /** 1 taken as it was, 0 passed or called wrong, between the two where it was taken and put right */
  right: number;
}

/** How sure Sift was of a find, in words: what came of sure ones tells nothing of unsure ones. */
export const BANDS = ['unsure', 'fairly sure', 'sure'] as const;
export type Band = (typeof BANDS)[number];

export function bandOf(confidence: number): Band {
  return confidence >= 0.8 ? 'sure' : confidence >= 0.55 ? 'fairly sure' : 'unsure';
}

/** What was learned of finds that share a trait, and of which Sift was about as sure. */
export interface Habit {
  trait: string;
  band: Band;
  /** finds that were settled */
  count: number;
  /** of these Sift expected so many to be right */
  expected: number;
  right: number;
  /** added to the log-odds of finds to come */
  shift: number;
}

/** Fewer settled finds than this teach nothing. */
const LEAST = 5;
/** What Sift thinks of itself counts as much as so many settled finds. */
const PRIOR = 12;
/** No habit moves a find further than this, in log-odds. */
const FURTHEST = 0.8;

/** Each correction of a find that was taken, its owner or its date or its words, takes so much from its being right. */
export const CORRECTED = 0.25;

/** What a find has in common with others: its kind first, then what it lacks or tells. */
export function traitsOf(find: Pick<Find, 'kind' | 'owner' | 'due' | 'update'>): string[] {
  const out: string[] = [find.kind];
  if (find.kind === 'action') {
    out.push(find.owner.length === 0 ? 'action without owner' : find.owner.length > 1 ? 'action of several' : 'action of one');
    out.push(find.due === null ? 'action without date' : 'action with date');
  }
  if (find.update) out.push(`update: ${find.update.kind}`);
  return out;
}

const odds = (p: number) => Math.log(p / (1 - p));
const within = (p: number) => Math.min(0.98, Math.max(0.02, p));

/**
 * Learns from settled finds how far to trust finds to come: for every trait, and apart for those Sift was sure, fairly sure
 * and unsure of, the share that was right is set against the share that was expected, and the difference of their
 * log-odds, drawn towards none while there are few, is the shift.
 * Kinds are learned first; the other traits from what the kinds leave over. Deterministic and without memory of its own:
 * the same finds give the same habits.
 */
export function learn(settled: readonly Settled[]): Habit[] {
  const kinds = habitsOf(
    settled,
    (s) => s.traits.slice(0, 1),
    (s) => s.confidence,
  );
  const rest = habitsOf(
    settled,
    (s) => s.traits.slice(1),
    (s) => adjust(s.confidence, s.traits, kinds),
  );
  return [...kinds, ...rest];
}

function habitsOf(settled: readonly Settled[], traitsOfOne: (s: Settled) => readonly string[], expected: (s: Settled) => number): Habit[] {
  const by = new Map<string, Omit<Habit, 'shift'>>();
  for (const s of settled) {
    for (const trait of traitsOfOne(s)) {
      const band = bandOf(s.confidence);
      const key = `${trait} ${band}`;
      const t = by.get(key) ?? { trait, band, count: 0, expected: 0, right: 0 };
      by.set(key, { ...t, count: t.count + 1, expected: t.expected + expected(s), right: t.right + s.right });
    }
  }
  return [...by.values()]
    .map((t): Habit => {
      const mean = within(t.expected / t.count);
      const drawn = within((t.right + PRIOR * mean) / (t.count + PRIOR));
      const shift = t.count < LEAST ? 0 : Math.max(-FURTHEST, Math.min(FURTHEST, odds(drawn) - odds(mean)));
      return { ...t, shift };
    })
    .sort((a, b) => b.count - a.count || a.trait.localeCompare(b.trait) || BANDS.indexOf(a.band) - BANDS.indexOf(b.band));
}

/** A confidence, moved by the habits of the traits a find has. */
export function adjust(confidence: number, traits: readonly string[], habits: readonly Habit[]): number {
  const band = bandOf(confidence);
  const shift = habits.reduce((sum, h) => sum + (h.band === band && traits.includes(h.trait) ? h.shift : 0), 0);
  return shift === 0 ? confidence : Math.round(1000 * probability(odds(within(confidence)) + shift)) / 1000;
}
