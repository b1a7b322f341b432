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

const WORD = /[\p{L}\p{N}][\p{L}\p{N}'’]*/gu;

/** Words of a text in lower case with straight apostrophes, in order. */
export function wordsOf(text: string): string[] {
  return (text.toLowerCase().match(WORD) ?? []).map((w) => w.replace(/’/g, "'"));
}

export function isEmptyWord(word: string): boolean {
  return EMPTY.has(word);
}

/** Stems of the words that carry matter, in order, with repeats. */
export function contentStems(words: readonly string[]): string[] {
  const out: string[] = [];
  for (const w of words) {
    if (EMPTY.has(w)) continue;
    const bare = w.replace(/'s$/, '');
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
  let wa = 0;
  let wb = 0;
  for (const s of a) {
    const w = weight(s);
    wa += w;
    if (b.has(s)) {
      both += w;
      count++;
    }
  }
  for (const s of b) wb += weight(s);
  const least = Math.min(wa, wb);
  return { share: least > 0 ? both / least : 0, weight: both, count };
}
