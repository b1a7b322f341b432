import { distance } from 'fastest-levenshtein';

/** Shorter words are near to every other one. */
const SHORTEST = 4;

/** Letters that may be wrong, by the length of the word: none in a short one, where every other word is near. Common practice. */
const mayDiffer = (word: string) => (word.length < 4 ? 0 : word.length < 6 ? 1 : 2);

/**
 * Words that may have been meant by one that is nowhere, the nearest first.
 * @param known words there are
 * @param slips most letters that may be wrong
 */
export function meantBy(word: string, known: Iterable<string>, slips = 2, most = 6): string[] {
  const allowed = Math.min(slips, mayDiffer(word));
  if (allowed === 0) return [];
  const near: { word: string; off: number }[] = [];
  for (const k of known) {
    if (k.length < SHORTEST || Math.abs(k.length - word.length) > allowed || k === word || /\d/.test(k)) continue;
    const off = swapped(word, k) ? 1 : distance(word, k);
    // people seldom slip on the first letter
    if (off <= allowed) near.push({ word: k, off: off + (k[0] === word[0] ? 0 : 0.5) });
  }
  return near
    .sort((a, b) => a.off - b.off || (a.word < b.word ? -1 : 1))
    .slice(0, most)
    .map((n) => n.word);
}

/** Two neighbouring letters changed places: the commonest slip of the hand is one slip and not two (F. Damerau, 1964). */
function swapped(a: string, b: string): boolean {
  if (a.length !== b.length) return false;
  const at = [...a].findIndex((c, i) => c !== b[i]);
  return at >= 0 && a[at] === b[at + 1] && a[at + 1] === b[at] && a.slice(at + 2) === b.slice(at + 2);
}
