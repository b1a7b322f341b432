import { fold } from '../language/fold.ts';
import { stem } from '../language/words.ts';
import type { Term } from './query.ts';

/** A stretch of a text that is one of the words looked for. */
export interface Marked {
  from: number;
  to: number;
}

const TOKEN = /[\p{L}\p{N}\p{M}\p{Co}]+/gu;

interface Token extends Marked {
  word: string;
  stem: string;
}

/** The words of a text as the find index cuts them: letters and digits, lower case, without accents, each with its Porter stem. */
export function indexed(text: string): Token[] {
  return [...text.matchAll(TOKEN)].map((m) => {
    const word = plain(m[0]);
    return { word, stem: stem(word), from: m.index, to: m.index + m[0].length };
  });
}

const plain = (word: string) => fold(word).normalize('NFD').replace(/\p{M}/gu, '');

/**
 * Where the terms of a query stand in a text, in order and without overlaps. It agrees with the index, which is asked only
 * for the passages: the words of those shown are marked here.
 */
export function marksOf(text: string, terms: readonly Term[]): Marked[] {
  const tokens = indexed(text);
  const out: Marked[] = [];
  for (const t of terms) {
    if (t.is === 'phrase') {
      const wanted = t.words.flatMap((w) => indexed(w));
      for (let i = 0; wanted.length > 0 && i + wanted.length <= tokens.length; i++) if (wanted.every((w, k) => w.stem === tokens[i + k]!.stem)) out.push({ from: tokens[i]!.from, to: tokens[i + wanted.length - 1]!.to });
      continue;
    }
    for (const w of (t.is === 'near' ? t.words : [t.word]).flatMap((word) => indexed(word))) {
      const begins = t.is === 'word' && t.prefix;
      for (const k of tokens) if (k.stem === w.stem || (begins && (k.stem.startsWith(w.stem) || k.word.startsWith(w.word)))) out.push({ from: k.from, to: k.to });
    }
  }
  return merged(out);
}

/** In order; of two that overlap one that holds both. */
function merged(marks: Marked[]): Marked[] {
  const out: Marked[] = [];
  for (const m of marks.sort((a, b) => a.from - b.from || b.to - a.to)) {
    const last = out.at(-1);
    if (last && m.from < last.to) last.to = Math.max(last.to, m.to);
    else out.push({ ...m });
  }
  return out;
}
