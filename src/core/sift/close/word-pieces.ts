/**
 * Cuts text into the pieces the close reader's encoder knows: BERT's tokenisation (J. Devlin et al., 2019), lower case,
 * accents off, punctuation apart, then the longest known piece first, pieces inside a word marked `##`.
 */
export class WordPieces {
  private readonly ids = new Map<string, number>();
  readonly start: number;
  readonly end: number;
  private readonly unknown: number;
  private readonly known = new Map<string, readonly number[]>();

  /** @param pieces the vocabulary in the order of its numbers; must hold `[CLS]`, `[SEP]` and `[UNK]` */
  constructor(pieces: readonly string[]) {
    for (const [i, p] of pieces.entries()) this.ids.set(p, i);
    const special = (name: string) => {
      const id = this.ids.get(name);
      if (id === undefined) throw new Error(`The vocabulary lacks ${name}.`);
      return id;
    };
    this.start = special('[CLS]');
    this.end = special('[SEP]');
    this.unknown = special('[UNK]');
  }

  /** Numbers of a text's pieces, at most `most` of them. */
  numbers(text: string, most: number): number[] {
    const out: number[] = [];
    for (const word of wordsAndSigns(text.length > 4000 ? text.slice(0, 4000) : text)) {
      for (const id of this.ofWord(word)) out.push(id);
      if (out.length >= most) break;
    }
    return out.slice(0, most);
  }

  private ofWord(word: string): readonly number[] {
    const before = this.known.get(word);
    if (before) return before;
    const ids = this.cut(word);
    if (this.known.size > 20_000) this.known.clear();
    this.known.set(word, ids);
    return ids;
  }

  private cut(word: string): number[] {
    if (word.length > LONGEST_WORD) return [this.unknown];
    const out: number[] = [];
    for (let from = 0; from < word.length; ) {
      let to = word.length;
      let id: number | undefined;
      for (; to > from; to--) {
        id = this.ids.get(from > 0 ? `##${word.slice(from, to)}` : word.slice(from, to));
        if (id !== undefined) break;
      }
      if (id === undefined) return [this.unknown];
      out.push(id);
      from = to;
    }
    return out;
  }
}

/** A word of more characters is unknown as a whole, as in the reference implementation. */
const LONGEST_WORD = 100;
const SIGN = /[!-/:-@[-`{-~\p{P}]/u;
const IDEOGRAPH = /[\u4e00-\u9fff\u3400-\u4dbf\uf900-\ufaff]|[\u{20000}-\u{2ceaf}]/u;

/** Words and single signs of a text, lower case, without accents and control characters. */
function wordsAndSigns(text: string): string[] {
  const plain = text
    .normalize('NFC')
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{Mn}/gu, '')
    .replace(/[\t\n\r\p{Zs}]/gu, ' ')
    .replace(/[\0\ufffd\p{C}]/gu, '');
  const out: string[] = [];
  for (const word of plain.split(' ')) {
    if (/^[a-z0-9]*$/.test(word)) {
      if (word) out.push(word);
      continue;
    }
    let run = '';
    for (const ch of word) {
      if (SIGN.test(ch) || IDEOGRAPH.test(ch)) {
        if (run) out.push(run);
        out.push(ch);
        run = '';
      } else run += ch;
    }
    if (run) out.push(run);
  }
  return out;
}
