import { stemmer } from 'stemmer';

/** Words that say nothing of the matter at hand. */
const EMPTY = new Set(
  "a an the to of for and or in on at by with from that this it its is be been being am are was were will would shall should can could may might must do does did done have has had having i you he she we they me him her us them my your his our their mine yours ours theirs i'm i'll i've i'd you're you'll we'll we're we've they're it's that's there there's here what which who whom whose when where why how so as if but not no nor yes yeah yep ok okay just also then than too very really up out about into over off down again once only own same some any all both each few more most other such s t don't didn't doesn't won't can't isn't wasn't let lets let's get got go going gone one ones thing things right well now oh um uh er mm hmm sure please thanks thank like know think mean say said says see still even back bit lot kind sort yet already ja ya um-hm".split(
    ' ',
  ),
);

const stems = new Map<string, string>();

/** Porter stem of a word (M. F. Porter, “An algorithm for suffix stripping”, 1980), remembered. */
export function stem(word: string): string {
  let s = stems.get(word);
  if (s === undefined) {
    s = word.length > 40 ? word.slice(0, 40) : stemmer(word);
    if (stems.size > 60_000) stems.clear();
    stems.set(word, s);
  }
  return s;
}

const WORD = /[\p{L}\p{N}][\p{L}\p{N}']*/gu;

/** Words of a text in lower case with straight apostrophes, in order. */
export function wordsOf(text: string): string[] {
  const low = text.toLowerCase();
  return (low.includes('’') ? low.replace(/’/g, "'") : low).match(WORD) ?? [];
}

export function isEmptyWord(word: string): boolean {
  return EMPTY.has(word);
}

/** Stems of the words that carry matter, in order, with repeats. */
export function contentStems(words: readonly string[]): string[] {
  const out: string[] = [];
  for (const w of words) {
    if (EMPTY.has(w)) continue;
    const bare = w.endsWith("'s") ? w.slice(0, -2) : w;
    if (bare.length < 2 && !/\d/.test(bare)) continue;
    out.push(stem(bare));
  }
  return out;
}

/**
 * How much two sets of stems have to do with each other, 0 to 1: shared weight over the smaller side's weight.
 * Rare stems weigh more (inverse document frequency, K. Spärck Jones, 1972).
 */
export function sharedWeight(a: ReadonlySet<string>, b: ReadonlySet<string>, weight: (stem: string) => number): { share: number; weight: number; count: number } {
  let both = 0;
  let count = 0;
  const [few, many] = a.size <= b.size ? [a, b] : [b, a];
  for (const s of few) {
    if (!many.has(s)) continue;
    both += weight(s);
    count++;
  }
  if (count === 0) return { share: 0, weight: 0, count };
  const least = Math.min(wholeWeight(a, weight), wholeWeight(b, weight));
  return { share: least > 0 ? both / least : 0, weight: both, count };
}

const weighed = new WeakMap<(stem: string) => number, WeakMap<ReadonlySet<string>, number>>();

/** Weight of a whole set, summed once; the set must not change afterwards. */
export function wholeWeight(set: ReadonlySet<string>, weight: (stem: string) => number): number {
  let known = weighed.get(weight);
  if (!known) {
    known = new WeakMap();
    weighed.set(weight, known);
  }
  let sum = known.get(set);
  if (sum === undefined) {
    sum = 0;
    for (const s of set) sum += weight(s);
    known.set(set, sum);
  }
  return sum;
}
