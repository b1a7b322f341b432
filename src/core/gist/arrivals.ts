import type { Talk } from './turns.ts';

/** Somebody whose first words come after so many seconds may have come in late; the words decide. */
const LATE_FROM = 60;
/** Saying that one is late oneself. Common English of meetings, collected by hand. */
const SAYS_LATE = /\b(?:sorry,? (?:i(?:['’]m| am)|i came in|for being) late|i came in late|(?:i(?:['’]ve)? )?just (?:joined|got in)|made it at last)\b/i;

/** Who came in after the start and said so, with the seconds of their first words; only a record with times can tell. */
export function cameLate(talk: Talk): { voice: string; at: number }[] {
  if (talk.times !== 'measured') return [];
  const heard = new Set<string>();
  return talk.turns.flatMap((t) => {
    if (!t.voice || heard.has(t.voice)) return [];
    heard.add(t.voice);
    return t.start >= LATE_FROM && SAYS_LATE.test(t.text) ? [{ voice: t.voice, at: t.start }] : [];
  });
}
