import model from 'wink-eng-lite-web-model';
import winkNLP from 'wink-nlp';

/** One word with its part of speech, as the Universal Dependencies name it. */
export interface Tagged {
  from: number;
  to: number;
  kind: string;
  /** of a verb in a form that a promise or a request has: as one asks for it, "bring" for "brings" and "bringing" */
  asked: string | null;
}

let tagger: ReturnType<typeof winkNLP> | null = null;

/** Verbs that say nothing of what is done. */
const NO_DEED = new Set('be have do will would can could shall should may might must need want think know say see guess mean hope suppose like happen seem wait let go come try start keep'.split(' '));
/** Endings of verbs in the past, which the tagger sometimes gives as their own plain form. */
const PAST = /(?:ed|en|ght|wn)$/;

/** The words of a text with their parts of speech, as wink-nlp tags them. */
export function taggedWords(text: string): Tagged[] {
  // a capital at the start of a sentence is taken for a name
  const low = text.replace(/(^|[.!?:;]\s+)(\p{Lu})(?=\p{Ll})/gu, (all, before: string, c: string) => (c.toLowerCase().length === c.length ? before + c.toLowerCase() : all));
  // loaded when the first text is tagged: it takes a third of a second
  tagger ??= winkNLP(model, ['sbd', 'pos']);
  const { its } = tagger;
  const tokens = tagger.readDoc(low).tokens();
  const values = tokens.out(its.value) as string[];
  const kinds = tokens.out(its.pos) as string[];
  // the package's own type leaves lemmas out of what a list of tokens can give
  const lemmas = tokens.out(its.lemma as never) as string[];
  const out: Tagged[] = [];
  let at = 0;
  values.forEach((value, k) => {
    const from = low.indexOf(value, at);
    if (from < 0) return;
    at = from + value.length;
    const word = value.toLowerCase();
    const mistaken = MISTAKEN.has(kinds[k]!) && DOES.test(values[k - 1] ?? '') && /^(?:DET|PRON)$/.test(kinds[k + 1] ?? '') && /^[a-z-]{3,}$/.test(word);
    const kind = mistaken ? 'VERB' : kinds[k]!;
    out.push({ from, to: at, kind, asked: kind === 'VERB' ? asked(word, mistaken ? word : lemmas[k]!.toLowerCase(), kinds[k - 1] ?? '') : null });
  });
  return out;
}

/** What stands between somebody who does something and "the" or "it" is a verb, whatever else the word may be: "I redraw the outline". */
const DOES = /^(?:i|we|you|they|to|['’]ll|will|can|could|should|must)$/i;
const MISTAKEN = new Set(['NOUN', 'PROPN', 'ADJ']);

function asked(word: string, plain: string, before: string): string | null {
  // "the digger people hold a week": not what anybody here is asked to do
  if (before === 'NOUN' && word === plain) return null;
  if (NO_DEED.has(plain) || !/^[a-z-]{2,}$/.test(plain)) return null;
  if (word !== plain && !word.endsWith('s') && !word.endsWith('ing')) return null;
  if (word === plain && PAST.test(word) && word.length > 5) return null;
  // "the cut", "cupped sheets"
  return ['DET', 'ADJ', 'NUM'].includes(before) ? null : plain;
}
