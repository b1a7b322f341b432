import type { Talk } from './turns.ts';

/** How much one person said. */
export interface Share {
  voice: string;
  seconds: number;
  words: number;
  turns: number;
  /** of all the time that anybody spoke, 0 to 1 */
  share: number;
  /** the longest they spoke without anybody else in between, in seconds */
  longest: number;
}

/** Who spoke how long, the most first. Lines without a speaker count for nobody. */
export function speakingShares(talk: Talk): Share[] {
  const by = new Map<string, Share>();
  let running = { voice: '', seconds: 0 };
  for (const t of talk.turns) {
    if (!t.voice) {
      running = { voice: '', seconds: 0 };
      continue;
    }
    const own = by.get(t.voice) ?? { voice: t.voice, seconds: 0, words: 0, turns: 0, share: 0, longest: 0 };
    own.seconds += t.length;
    own.words += t.words.length;
    if (running.voice === t.voice) running.seconds += t.length;
    else {
      own.turns++;
      running = { voice: t.voice, seconds: t.length };
    }
    own.longest = Math.max(own.longest, running.seconds);
    by.set(t.voice, own);
  }
  const all = [...by.values()].reduce((sum, s) => sum + s.seconds, 0);
  return [...by.values()].map((s) => ({ ...s, share: all > 0 ? s.seconds / all : 0 })).sort((a, b) => b.seconds - a.seconds || (a.voice < b.voice ? -1 : 1));
}

/** A moment when one person began before another had ended. */
export interface Overlap {
  /** who was speaking, and the segment */
  first: string;
  firstSegment: number;
  /** who began */
  second: string;
  secondSegment: number;
  start: number;
  /** seconds both spoke */
  seconds: number;
}

/** Captions of one speaker may touch those of the next by this much, in seconds, without anybody having been spoken over. */
const TOUCH = 0.3;

/** Where people spoke over each other; only a record with measured starts and ends can tell. */
export function overlaps(talk: Talk): Overlap[] {
  if (talk.times !== 'measured') return [];
  const out: Overlap[] = [];
  const speaking: typeof talk.turns = [];
  for (const t of [...talk.turns].sort((a, b) => a.start - b.start)) {
    if (!t.voice) continue;
    for (let i = speaking.length - 1; i >= 0; i--) if (speaking[i]!.start + speaking[i]!.length <= t.start + TOUCH) speaking.splice(i, 1);
    for (const other of speaking) {
      if (other.voice === t.voice) continue;
      const seconds = Math.min(other.start + other.length, t.start + t.length) - t.start;
      if (seconds > TOUCH) out.push({ first: other.voice!, firstSegment: other.segment, second: t.voice, secondSegment: t.segment, start: t.start, seconds });
    }
    // ten thousand voices at once are noise, not talk
    if (speaking.length < 16) speaking.push(t);
  }
  return out;
}
