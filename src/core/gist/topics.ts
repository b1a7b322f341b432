import { trimEnd } from '../language/trim.ts';
import { isEmptyWord, stem } from '../language/words.ts';
import { cuts } from './segmentation.ts';
import type { Talk, Turn } from './turns.ts';

/** A stretch of a meeting about one matter. */
export interface Topic {
  /** words that tell it from the rest, or the heading it stands under */
  title: string;
  /** first and last turn, as places in the talk's list */
  from: number;
  to: number;
  /** first segment, for a link to the moment */
  segment: number;
  /** seconds */
  start: number;
  length: number;
}

/** Ways of saying that something else begins now. Common English of meetings, collected by hand. */
const GOES_ON =
  /^(?:(?:ok|okay|right|so|good|well|and|now)[,.]? )*(?:next\b|moving on|move on|let'?s (?:move|turn|go to|start)|turning to|onto|on to|item \w+|point \w+|number \w+|last (?:thing|one|item|point)|another thing|other (?:thing|business|matters)|any other business|aob\b|anything else|then there'?s|what about|how about the)/;
/** Words that carry matter in a commitment but name none: plain verbs, times, amounts. */
const LIGHT = new Set(
  'come comes came coming bring brings take takes took taken make makes made put puts look looks give gives gave need needs needed want wants wanted work works find found ask asked tell told keep keeps leave leaves stop stops start starts use used wait hear run turn hold call send sent try talk happen happens mind point end begin week weeks day days month months year years hour hours minute minutes morning afternoon evening night today tomorrow yesterday monday tuesday wednesday thursday friday saturday sunday first second third two three four five six seven eight nine ten half somebody someone anybody anyone everybody everyone nobody nothing something anything everything without before after since until while because whether though maybe perhaps always never ever early late later soon long short new old good better best bad worse great fine nice happy last next whole enough much many little less least quite rather almost already together around'
    .split(' ')
    .map(stem),
);
const SHORTEST_TURNS = 4;
const TITLE_WORDS = 4;

/**
 * Topics of a meeting, in order, covering all of it. Notes and minutes with headings are cut at them; talk is cut where
 * its words change (see {@link cuts}), a little sooner where somebody says that the next point begins.
 */
export function topicsOf(talk: Talk): Topic[] {
  const { turns } = talk;
  if (turns.length === 0) return [];
  const headed = turns.filter((t) => t.heading).length >= 2;
  const starts = headed
    ? headingCuts(turns)
    : merged(
        cuts(
          turns.map((t) => t.stems),
          { ease: (i) => (GOES_ON.test(turns[i]!.text.toLowerCase()) ? 6 : 0) },
        ),
        turns,
      );
  const title = titles(turns, starts);
  return starts.map((from, k) => {
    const to = (starts[k + 1] ?? turns.length) - 1;
    const begin = turns[from]!.start;
    const end = k + 1 < starts.length ? turns[starts[k + 1]!]!.start : talk.length;
    return { title: title[k]!, from, to, segment: turns[from]!.segment, start: begin, length: Math.max(0, end - begin) };
  });
}

function headingCuts(turns: readonly Turn[]): number[] {
  const out = [0];
  for (let i = 1; i < turns.length; i++) if (turns[i]!.heading && !turns[i - 1]!.heading) out.push(i);
  return out;
}

/** A stretch of a few turns belongs to the one before it. */
function merged(starts: number[], turns: readonly Turn[]): number[] {
  const out: number[] = [];
  for (const s of starts) if (out.length === 0 || s - out[out.length - 1]! >= SHORTEST_TURNS) out.push(s);
  if (out.length > 1 && turns.length - out[out.length - 1]! < SHORTEST_TURNS) out.pop();
  return out;
}

/** The heading of a stretch, or the words said in it more often than in the rest (weighted by log-likelihood ratio, T. Dunning, 1993). */
function titles(turns: readonly Turn[], starts: readonly number[]): string[] {
  const all = new Map<string, number>();
  let total = 0;
  for (const t of turns) {
    for (const s of t.stems) all.set(s, (all.get(s) ?? 0) + 1);
    total += t.stems.length;
  }
  return starts.map((from, k) => {
    const part = turns.slice(from, starts[k + 1] ?? turns.length);
    if (part[0]!.heading) return part[0]!.text;
    const here = new Map<string, number>();
    let size = 0;
    for (const t of part) {
      for (const s of t.stems) here.set(s, (here.get(s) ?? 0) + 1);
      size += t.stems.length;
    }
    const best = [...here]
      .filter(([s]) => !/^\d/.test(s) && s.length > 2 && !LIGHT.has(s))
      .map(([s, n]) => ({ s, g: likelihoodRatio(n, all.get(s)! - n, size, total - size) + (n > 1 ? 4 : 0) }))
      .sort((a, b) => b.g - a.g || (a.s < b.s ? -1 : 1))
      .slice(0, TITLE_WORDS)
      .map((w) => w.s);
    const said = best.length ? asSaid(part, best) : opening(part[0]!.text);
    return said.charAt(0).toUpperCase() + said.slice(1);
  });
}

function likelihoodRatio(here: number, elsewhere: number, size: number, rest: number): number {
  const share = (here + elsewhere) / Math.max(1, size + rest);
  const term = (n: number, expected: number) => (n > 0 && expected > 0 ? n * Math.log(n / expected) : 0);
  const g = 2 * (term(here, size * share) + term(elsewhere, rest * share));
  return here / Math.max(1, size) >= share ? g : -g;
}

/** Stems back as words: the way each was said most often, in the order they first come. */
function asSaid(part: readonly Turn[], stems: readonly string[]): string {
  const forms = new Map(stems.map((s) => [s, new Map<string, number>()]));
  const order: string[] = [];
  for (const t of part) {
    for (const w of t.text.match(/[\p{L}\p{N}][\p{L}\p{N}'’-]*/gu) ?? []) {
      const low = w.toLowerCase().replace(/’/g, "'").replace(/'s$/, '');
      if (isEmptyWord(low)) continue;
      const s = stem(low);
      const seen = forms.get(s);
      if (!seen) continue;
      if (seen.size === 0) order.push(s);
      const form = w.replace(/['’]s$/, '');
      seen.set(form, (seen.get(form) ?? 0) + 1);
    }
  }
  return order.map((s) => [...forms.get(s)!].sort((a, b) => b[1] - a[1])[0]![0]).join(', ');
}

function opening(text: string): string {
  const words = text.split(/\s+/);
  return words.length <= 6 ? trimEnd(text, '.,;:!?') : `${words.slice(0, 6).join(' ')}…`;
}
