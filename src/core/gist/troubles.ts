import type { Talk } from './turns.ts';

/** Something that may go wrong, or that already keeps work from going on. */
export interface Trouble {
  kind: 'risk' | 'blocker';
  segment: number;
  voice: string | null;
  text: string;
  /** the words it was read from */
  because: string;
}

const words = (pattern: string) => new RegExp(`(?<![\\p{L}\\p{N}'])(?:${pattern})(?![\\p{L}\\p{N}])`, 'iu');

/** Work that stands still. Common English of meetings, collected by hand, as are the risks. */
const BLOCKED = words(
  `blocked|blocker|stuck|held up|holding (?:us|it|me|everything|things) up|on hold|at a standstill|(?:still )?waiting (?:for|on)|can['’]?t (?:start|go on|move|proceed|continue|do anything|get in|finish|go ahead)|cannot (?:start|proceed|continue|go on|go ahead)|nothing (?:happens|moves|can happen)|can['’]?t \\p{L}+ [^.!?]{0,40}(?:before|until|without)|cannot \\p{L}+ [^.!?]{0,40}(?:before|until|without)|no (?:access|permit|approval|answer|reply) (?:yet|from)|hasn['’]?t (?:answered|replied|arrived|come|signed)|(?:is|are|still|'s|was|were) missing|(?:we|i|they) (?:still )?lack|without [^.!?]{1,40} (?:i|we|they|he|she) can['’]?t`,
);
const RISKY = words(
  `risk|risks|risky|danger|dangerous|worr(?:y|ied|ying)|concern(?:ed|s)?|afraid|i fear|nervous|might (?:slip|fail|miss|not|break|lose|run out)|may (?:slip|fail|not make|not be|run out)|could (?:slip|fail|break|delay|cost us|go wrong|fall through)|if (?:it|they|he|she|that|this|the .{1,30}) (?:fails?|breaks?|slips?|doesn['’]?t|don['’]?t|isn['’]?t|is late|falls? through)|won['’]?t make (?:it|the)|run(?:ning)? out of|tight|too close|single (?:supplier|source|point)|only (?:one|person|one person) who|no (?:spare|backup|plan b|slack|margin)|knock-on|worst case|go(?:es)? wrong|needs? more time|over budget|behind schedule`,
);

/** Risks and blockers named in a record, each with the words that told; in order, one a turn, blockers before risks. */
export function troublesOf(talk: Talk): Trouble[] {
  return talk.turns.flatMap((t): Trouble[] => {
    if (t.heading || t.words.length < 3) return [];
    const text = t.text.slice(0, 4000);
    for (const [kind, pattern] of [
      ['blocker', BLOCKED],
      ['risk', RISKY],
    ] as const) {
      const m = pattern.exec(text);
      if (m && !denied(text, m.index)) return [{ kind, segment: t.segment, voice: t.voice, text: t.text, because: m[0] }];
    }
    return [];
  });
}

/** “No longer stuck”, “not a risk”, “unblocked”: said to be no trouble. */
function denied(text: string, at: number): boolean {
  return /(?:\bno longer|\bnot(?: a| really| much of a)?|\bno|\bisn['’]t(?: a)?|\bwasn['’]t|\baren['’]t|\bwithout(?: any)?|\bnever|\bdon['’]t|\bstopped|\b(?:nothing|nobody|none of it)(?: here)? (?:is|was|are))\s+$/i.test(text.slice(Math.max(0, at - 24), at));
}
