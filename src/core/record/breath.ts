/** What is needed to tell whether two stretches of a record are one sentence. */
interface Said {
  voice: string | null;
  text: string;
  start: number | null;
  end: number | null;
}

/** Seconds of silence a sentence can go on over, words after which it is taken to have ended, and words it may have where no mark ends it. */
const [LONGEST_PAUSE, MOST_WORDS, MOST_UNMARKED] = [2.5, 60, 24];
const ENDS = /[.!?…][”"’')\]]*\s*$/;

/**
 * Captions cut sentences where a line is full. Joins what one voice says until a sentence ends: the same voice, no end of
 * a sentence between, and no long silence. Where no mark ends it, as in automatic captions, only a short run is taken for one.
 * @param said cues in their order
 * @returns the cues of each run, in order; most runs are one cue
 */
export function breathsOf<T extends Said>(said: readonly T[]): T[][] {
  const runs: T[][] = [];
  let words = 0;
  for (const one of said) {
    const count = one.text.split(/\s+/, MOST_WORDS + 1).length;
    const run = runs.at(-1);
    const before = run?.at(-1);
    if (run && before && goesOn(before, one) && words + count <= MOST_WORDS) {
      run.push(one);
      words += count;
    } else {
      runs.push([one]);
      words = count;
    }
  }
  return runs.flatMap((run) => (run.length > 1 && !ENDS.test(run.at(-1)!.text) && wordsOf(run) > MOST_UNMARKED ? run.map((one) => [one]) : [run]));
}

const wordsOf = (run: readonly Said[]) => run.reduce((n, { text }) => n + text.split(/\s+/, MOST_WORDS + 1).length, 0);

function goesOn(before: Said, after: Said): boolean {
  if (before.voice !== after.voice || ENDS.test(before.text) || before.text === '' || after.text === '') return false;
  if (/^\s*(?:[-–—>[(]|\.\.\.|…)/.test(after.text)) return false;
  return before.end === null || after.start === null || after.start - before.end <= LONGEST_PAUSE;
}

/** Records whose sentences are cut by their form. */
export const isCaptions = ({ format }: { format: string }) => format === 'vtt' || format === 'srt';
