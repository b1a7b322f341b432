import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { annotatedMeetings, ownNotes, rehearsals, unseenMeetings } from '../../bench/meetings.ts';
import { breathsOf, isCaptions } from '../../src/core/record/breath.ts';
import type { Find } from '../../src/core/sift/find.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import type { SiftInput } from '../../src/core/sift/reading.ts';
import { sift } from '../../src/core/sift/sift.ts';

/** Negations and conditions, and the idioms in which they turn nothing: kept apart from the words Sift goes by. */
const TURNS = /\b(?:no|not|never|without|unless|if|only|until|except)\b|n['’]t\b/giu;
const ASKING =
  /(?:don['’]?t|not|never|n['’]t) forget|why (?:don['’]?t|not)|(?:can|could|wo|would|do|does|did|is|are|was|have|has)n['’]t (?:you|we|they|he|she|it|i)\b|\bif (?:you|we|i|he|she|they|somebody|someone|anybody|anyone|one of you)(?:['’](?:d|ll))? (?:could|can|may|would|will|like|want|wish|do(?:n['’]t)? mind|get|have)\b|\bif (?:possible|needed|necessary|not|so)\b|as if|not only|no (?:problem|worries|rush|hurry|doubt)|if that['’]s/giu;

const WORD = /[\p{L}\p{N}]+(?:['’][\p{L}\p{N}]+)*/gu;
const wordsIn = (text: string) => [...text.matchAll(WORD)].map((m) => ({ low: m[0].toLowerCase(), from: m.index, to: m.index + m[0].length }));

/** Where a clause ends: at a stop, at a joining word, or, in speech without marks, where somebody new is said to be or do something ("she's …", "it'd …"). */
const ENDS = /[.,!?;:|–—]|--|\b(?:and|but|or|so|because)\b|\b(?:i|you|he|she|it|we|they)['’](?:m|s|d|ll|re|ve)\b/iu;

/** The longest run of a title's words that was said in a text, and the clause around it. */
function ownClause(title: string, said: string): { run: number; clause: string } {
  const [called, spoken] = [wordsIn(title), wordsIn(said)];
  let [run, from, to] = [0, 0, 0];
  for (let a = 0; a < called.length; a++) {
    for (let b = 0; b < spoken.length; b++) {
      let n = 0;
      while (called[a + n] && called[a + n]!.low === spoken[b + n]?.low) n++;
      if (n > run) [run, from, to] = [n, spoken[b]!.from, spoken[b + n - 1]!.to];
    }
  }
  const start = Math.max(0, ...[...said.slice(0, from).matchAll(/[.,!?;:|–—]|--|\b(?:and|but|or|so|because|that|then)\b/gu)].map((m) => m.index + m[0].length));
  const after = ENDS.exec(said.slice(to));
  return { run, clause: said.slice(start, after ? to + after.index : said.length) };
}

/** The clause whose negation or condition a title lacks, or null where it keeps all. */
function drops({ text, evidence }: Find, input: SiftInput): string | null {
  const segments = evidence.map((e) => input.record.segments[e.segment]!);
  const runs = isCaptions(input.record) ? breathsOf(segments) : segments.map((s) => [s]);
  const own = runs.map((run) => ownClause(text, run.map((s) => s.text).join(' '))).reduce((a, b) => (b.run > a.run ? b : a));
  const turning = (clause: string) => (clause.match(TURNS) ?? []).length;
  return own.run >= 3 && turning(own.clause.replace(ASKING, ' ')) > turning(text) ? own.clause : null;
}

describe('titles', () => {
  const models = JSON.parse(readFileSync(join(import.meta.dirname, '../../src/core/sift/weights/quick.json'), 'utf8')) as SiftModels;
  it('keep every negation and condition of their own clause, in all annotated records', () => {
    const wrong: string[] = [];
    let looked = 0;
    for (const m of [...annotatedMeetings(), ...ownNotes(), ...rehearsals(), ...unseenMeetings()]) {
      for (const f of sift(m.input, models).finds) {
        if (f.kind === 'update') continue;
        looked++;
        const clause = drops(f, m.input);
        if (clause) wrong.push(`${m.name} ${f.kind}: “${f.text}” of “${clause.trim()}”`);
      }
    }
    expect(looked).toBeGreaterThan(1000);
    expect(wrong).toEqual([]);
  });
});
