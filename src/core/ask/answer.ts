import type { Source } from './on-record.ts';

/** A sentence of an answer, and which of the sources it rests on. */
export interface Line {
  text: string;
  /** a line of a register the sentence speaks of */
  ref: { ref: string; href: string } | null;
  /** numbers in {@link Answer.sources} */
  sources: number[];
  /** heads the lines below it */
  head?: boolean;
}

export interface Answer {
  lines: Line[];
  sources: Source[];
  /** what was looked for and is not on record, in a sentence; with no lines it is the whole answer */
  missing: string | null;
}

/** Builds an answer: a source that two lines rest on is listed once. */
export class Answering {
  readonly #lines: Line[] = [];
  readonly #sources: Source[] = [];
  #missing: string | null = null;

  /** @param sources what the sentence rests on; without any it may only say what a register says */
  say(text: string, sources: readonly Source[] = [], ref: { ref: string; href: string } | null = null): this {
    this.#lines.push({ text, ref: ref && { ref: ref.ref, href: ref.href }, sources: sources.map((s) => this.#numberOf(s)) });
    return this;
  }

  head(text: string): this {
    this.#lines.push({ text, ref: null, sources: [], head: true });
    return this;
  }

  missing(sentence: string): this {
    this.#missing = sentence;
    return this;
  }

  get empty(): boolean {
    return this.#lines.length === 0;
  }

  done(): Answer {
    return { lines: this.#lines, sources: this.#sources, missing: this.#missing };
  }

  #numberOf(source: Source): number {
    const at = this.#sources.findIndex((s) => s.href === source.href && s.words === source.words && s.place?.from === source.place?.from);
    return at >= 0 ? at : this.#sources.push(source) - 1;
  }
}
