import { taggedWords } from '../language/tags.ts';
import { isEmptyWord, stem } from '../language/words.ts';
import { type Breath, breathOf } from './breath.ts';
import type { RankedKeyword } from './keywords.ts';
import { type Features, keyed, type LinearModel, logOdds, steps } from './linear.ts';
import { LONGEST, matterWords, saidWords } from './matter-words.ts';
import type { Reading, ReadUnit } from './reading.ts';
import type { Group } from './shapes.ts';

/** A stretch of one sentence that a job can be called by, its verb put as one asks for it. */
export interface Phrase {
  unit: ReadUnit;
  text: string;
  /** first and last word, of all words of the sentence's units */
  first: PhraseWord;
  last: PhraseWord;
  /** stems of its words of matter, its verb's among them */
  stems: ReadonlySet<string>;
  /** words other than articles, prepositions and pronouns */
  words: number;
  worth: number;
}

/** Words of matter a phrase may have at most, and words of every kind. */
const [MOST_WORDS, LONGEST_PHRASE] = [10, 16];
/** Phrases kept of all there are, and of those that begin with one word. */
const [KEPT, KEPT_OF_A_START] = [40, 3];
/** Of the likelier naming words so many are looked at for where they stand. */
const LOOKED_AT = 30;
/** For a first choice: what a word costs that names nothing, and what it is worth to begin with a verb. */
const [COST_OF_A_WORD, WORTH_OF_A_VERB] = [0.14, 0.3];

/** A word with how it stands in its sentence. Places count in the text of all units that the sentence runs over. */
export interface PhraseWord {
  unit: ReadUnit;
  at: number;
  from: number;
  to: number;
  low: string;
  stem: string;
  /** articles, prepositions, pronouns: they hold a phrase together and cost nothing */
  small: boolean;
  empty: boolean;
  /** part of speech */
  kind: string;
  /** of a verb: as one asks for it */
  asked: string | null;
  opens: boolean;
  newSentence: boolean;
  closes: boolean;
  /** stands in a date phrase, which is told apart from what is to be done */
  dated: boolean;
  /** stands where the verb of a promise or a request stands */
  promised: boolean;
  /** part of a person's name */
  person: boolean;
}

const SMALL = new Set('a an the to of for and or in on at by with from that this it is be will we i you he she they our their his her my your up out about into as so do'.split(' '));
const cut = new WeakMap<Breath, PhraseWord[]>();

/** "…, that's a day's work", "… and I'll sign it": another sentence, though no full stop says so. */
const SUBJECT = /^(?:i|we|you|he|she|they|it|that|there|this)(?:['’]\w+)?$/;
const JOINS = /^(?:and|but|so|or|because|since|then)$/;

/** All words of the units that a sentence runs over, with how each stands in it. */
export function wordsWithin(reading: Reading, unit: ReadUnit): PhraseWord[] {
  const breath = breathOf(reading, unit);
  const known = cut.get(breath);
  if (known) return known;
  const all = breath.units.flatMap((u, k) => saidWords(u.text).map((w) => ({ ...w, unit: u, from: w.from + breath.starts[k]!, to: w.to + breath.starts[k]!, within: w.from })));
  const tags = new Map(taggedWords(breath.text.slice(0, LONGEST)).map((t) => [t.from, t]));
  const promised = new Map(breath.units.map((u) => [u, new Set(matterWords(reading, u).flatMap((w) => (w.promised ? [w.from] : [])))]));
  const gap = (k: number) => breath.text.slice(k > 0 ? all[k - 1]!.to : 0, all[k]!.from);
  const out = all.map(
    ({ within, ...w }, at): PhraseWord => ({
      at,
      from: w.from,
      to: w.to,
      unit: w.unit,
      low: w.low,
      stem: stem(w.low),
      small: SMALL.has(w.low),
      empty: isEmptyWord(w.low) || w.low.length < 2,
      kind: tags.get(w.from)?.kind ?? 'X',
      asked: tags.get(w.from)?.asked ?? null,
      opens: at === 0 || /[,.:!?;|–—]/.test(gap(at)),
      newSentence: at > 0 && (/[.!?;|]|--/.test(gap(at)) || (SUBJECT.test(w.low) && (/[,–—]/.test(gap(at)) || JOINS.test(all[at - 1]!.low)))),
      closes: at + 1 >= all.length || /[,.!?;|]/.test(gap(at + 1)),
      dated: w.unit.dates.some((d) => within >= d.from && within < d.to),
      promised: promised.get(w.unit)!.has(within),
      person: reading.roster.isName(w.word),
    }),
  );
  cut.set(breath, out);
  return out;
}

/** What a noun phrase begins and ends with, as parts of speech. */
const OPENING = new Set(['NOUN', 'PROPN', 'ADJ', 'NUM', 'X']);
const ENDING = new Set(['NOUN', 'PROPN', 'NUM', 'X']);
const LEADS_ON = new Set(['ADP', 'CCONJ', 'SCONJ', 'DET', 'AUX', 'PART']);

/** Stretches of the record that a job may be called by, those first that hold most of what names it. */
export function phrasesOf(reading: Reading, ranked: readonly RankedKeyword[]): Phrase[] {
  const likely = new Map(ranked.map((r) => [r.keyword.stem, r.p]));
  const units = new Set(ranked.slice(0, LOOKED_AT).flatMap((r) => r.keyword.places.map((p) => p.unit)));
  const sentences = new Set([...units].map((i) => breathOf(reading, reading.units[i]!)));
  const out: Phrase[] = [];
  for (const breath of sentences) {
    const all = wordsWithin(reading, breath.units[0]!);
    for (const first of all) {
      if (first.dated || (!first.asked && (first.small || first.empty || first.person || !OPENING.has(first.kind)))) continue;
      const own: Phrase[] = [];
      const stems = new Set<string>();
      let worth = first.asked ? WORTH_OF_A_VERB : 0;
      let words = 0;
      for (const last of all.slice(first.at, first.at + LONGEST_PHRASE)) {
        if (last !== first && (last.newSentence || last.dated)) break;
        if (!last.small) {
          words++;
          worth -= COST_OF_A_WORD;
          if (words > MOST_WORDS) break;
        }
        if (!last.small && (!last.empty || last === first)) {
          if (!stems.has(last.stem)) worth += likely.get(last.stem) ?? 0;
          stems.add(last.stem);
        }
        // a verb alone says nothing
        if (first.asked ? stems.size < 2 && !last.closes : !ENDING.has(last.kind)) continue;
        if (LEADS_ON.has(last.kind) && !last.closes) continue;
        own.push({ unit: first.unit, text: called(breath, first, last), first, last, stems: new Set(stems), words, worth });
      }
      out.push(...own.sort((a, b) => b.worth - a.worth).slice(0, KEPT_OF_A_START));
    }
  }
  return out.sort((a, b) => b.worth - a.worth).slice(0, KEPT);
}

function called({ text }: Breath, first: PhraseWord, last: PhraseWord): string {
  const rest = text.slice(first.to, last.to);
  return `${first.asked ?? text.slice(first.from, first.to)}${rest}`.replace(/\s+/g, ' ');
}

const [OBJECT, PEOPLE] = [/^(?:it|them|that|those|this|these|one|him|her|there)$/, /^(?:i|we|you|me|us|he|she|they)$/];

/** The words that name a job: how likely each is by its stem, and how likely the likeliest are together. */
interface Named {
  likely: ReadonlyMap<string, number>;
  total: number;
}

export function namedBy(ranked: readonly RankedKeyword[]): Named {
  return { likely: new Map(ranked.map((r) => [r.keyword.stem, r.p])), total: ranked.slice(0, MOST_WORDS).reduce((s, r) => s + r.p, 0) };
}

/** What speaks for a job being called by a phrase. */
export function phraseFeatures(reading: Reading, odds: Float64Array, group: Group, phrase: Phrase, { likely, total }: Named): Features {
  const f: Features = new Map();
  const { unit, first, last } = phrase;
  const all = wordsWithin(reading, unit);
  const inside = all.slice(first.at, last.at + 1);
  const p = [...phrase.stems].map((s) => likely.get(s) ?? 0);
  const sum = p.reduce((s, x) => s + x, 0);
  f.set('matter', Math.min(4, sum));
  f.set('share', sum / Math.max(0.1, total));
  f.set('density', sum / Math.max(1, phrase.words));
  f.set('likeliest', Math.max(0, ...p));
  f.set('unlikely', p.filter((x) => x < 0.08).length / Math.max(1, p.length));
  steps(f, 'words', phrase.words, [2, 3, 4, 6, 8, 10]);
  f.set('small', Math.min(6, inside.filter((w) => w.small).length));
  const how = first.asked ? 'verb' : 'name';
  f.set(how, 1);
  f.set(`${how}:matter`, Math.min(4, sum));
  f.set(`${how}:words`, phrase.words);
  f.set(`${how}:first`, likely.get(first.stem) ?? 0);
  if (first.promised) f.set(`${how}:promised`, 1);
  if (first.asked) f.set(first.low === first.asked ? 'verb:plain' : first.low.endsWith('ing') ? 'verb:going-on' : 'verb:third', 1);
  const before = all[first.at - 1];
  f.set(keyed(`${how}:after`, first.opens ? 'start' : (before?.kind ?? 'start')), 1);
  if (before && PEOPLE.test(before.low)) f.set(`${how}:after:${before.low}`, 1);
  if (!first.asked) f.set(`begins:${first.kind}`, 1);
  f.set(`ends:${last.kind}`, 1);
  if (last.closes) f.set('closes', 1);
  if (all[last.at + 1]?.dated) f.set('then-a-date', 1);
  const next = inside[1];
  if (first.asked && next && OBJECT.test(next.low)) f.set('does-it', 1);
  if (inside.slice(1).some((w) => OBJECT.test(w.low))) f.set('points', 1);
  if (inside.slice(1).some((w) => PEOPLE.test(w.low))) f.set('people', 1);
  if (inside.slice(1).some((w) => w.kind === 'AUX')) f.set('says-is', 1);
  const verbs = inside.slice(1).filter((w) => w.kind === 'VERB').length;
  steps(f, 'verbs', verbs, [1, 2]);
  if (inside.some((w) => w !== first && w.opens)) f.set('comma', 1);
  if (inside.some((w) => w.kind === 'SCONJ')) f.set('because', 1);
  if (inside.some((w) => w.kind === 'CCONJ')) f.set('and', 1);
  if (inside.some((w) => w.person)) f.set('names', 1);
  const own = group.units.includes(unit.index);
  f.set(own ? 'inside' : unit.index < group.units[0]! ? 'before' : unit.index > group.units.at(-1)! ? 'after' : 'between', 1);
  if (unit.index === group.core) f.set('core', 1);
  f.set('odds', Math.max(-4, Math.min(5, odds[unit.index]!)));
  for (const c of ['will-verb', 'request', 'assign', 'obligation', 'past', 'hypothetical', 'refuse', 'mark:ask-any', 'third']) if (unit.cues.has(c)) f.set(keyed('cue', c), 1);
  if (!unit.spoken) f.set('notes', 1);
  if (first.at === 0) f.set('from-the-start', 1);
  if (group.units.length > 1 && own) f.set(unit.index === group.units.at(-1) ? 'last-place' : unit.index === group.units[0] ? 'first-place' : 'middle-place', 1);
  return f;
}

/** Where a phrase with a verb is nearly as likely as one without, the verb is preferred: it reads as something to do. */
const READS_AS_A_JOB = 0.6;

/** The likeliest phrase, or none where nothing names the job. */
export function choosePhrase(reading: Reading, odds: Float64Array, group: Group, ranked: readonly RankedKeyword[], model: LinearModel): Phrase | null {
  let best: Phrase | null = null;
  let most = Number.NEGATIVE_INFINITY;
  const named = namedBy(ranked);
  for (const phrase of phrasesOf(reading, ranked)) {
    const score = logOdds(model, phraseFeatures(reading, odds, group, phrase, named)) + (phrase.first.asked ? READS_AS_A_JOB : 0);
    if (score > most) [best, most] = [phrase, score];
  }
  return best;
}
