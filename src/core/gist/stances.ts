import { sharedWeight } from '../language/words.ts';
import type { Talk, Turn } from './turns.ts';

export type Side = 'for' | 'against' | 'unsure';

/** What somebody said to an idea. */
export interface Stance {
  voice: string | null;
  side: Side;
  segment: number;
  text: string;
  /** the words the side was read from */
  because: string;
}

/** An idea somebody put forward, with what was said to it. */
export interface Idea {
  segment: number;
  voice: string | null;
  text: string;
  stances: Stance[];
}

const edge = (pattern: string) => new RegExp(`(?<![\\p{L}\\p{N}'])(?:${pattern})(?![\\p{L}\\p{N}])`, 'u');

/** Putting an idea forward. Common English of meetings, collected by hand, as are the sides below. */
const PROPOSES = edge(
  `what if|how about|what about (?:we|us|\\p{L}+ing)|we could|could we|should we|shall we|why don'?t we|why not|i(?:'d)? propose|i(?:'d)? suggest|my (?:idea|suggestion|proposal)|the (?:idea|proposal|suggestion) (?:is|was)|one option|another option|i think we should|maybe we (?:should|could)|perhaps we (?:should|could)|i'?d (?:like|prefer|rather) (?:us to|we|that we|to see us)`,
);

const SIDES: readonly [Side, RegExp][] = [
  [
    'against',
    edge(
      `i'?d rather not|rather not|not (?:keen|happy|convinced|in favou?r|a fan|a good idea|worth)|don'?t (?:like|think (?:so|we should|that)|want|see (?:why|the point))|do not (?:like|want)|against (?:it|that|this)|i(?:'m| am) against|i object|disagree|bad idea|no way|too (?:dear|expensive|late|early|slow|risky|much|long|big|small|heavy|complicated|dangerous|tight)|can'?t afford|cannot afford|won'?t (?:work|do|help|fit|hold)|wouldn'?t (?:work|do|help|fit|hold)|doesn'?t (?:work|help|fit|solve)|the (?:trouble|problem|downside|drawback|snag|catch|risk) (?:is|with)|not if|over my dead body|makes no sense|it'?s a mistake|waste of|we tried that|nobody wants`,
    ),
  ],
  ['unsure', edge(`not sure|depends|it depends|maybe|perhaps|i don'?t know|hard to say|could go either way|on the fence|if (?:and only if|it|we|they) .{0,40} then|only if|as long as|provided|i can live with|what would (?:it|that)|have we (?:asked|checked)`)],
  [
    'for',
    edge(
      `i(?:'m| am) for|in favou?r|good idea|great idea|i like (?:it|that|the)|like that|i agree|agreed?|makes sense|sounds (?:good|right|sensible|fine)|works for me|fine (?:by|with|for) me|happy with|let'?s do (?:it|that)|yes(?:,)? (?:please|let'?s|do|and|that)|absolutely|exactly|i'?d (?:go for|support|back|prefer) (?:it|that)|i support|seconded|count me in|saves? (?:us|time|money)|cheaper|safer|quicker|simpler|better that way|the (?:advantage|upside|good thing|beauty) (?:is|of)|no objections?|why not|👍`,
    ),
  ],
];
/** A bare yes or no counts only in answer to the idea itself. */
const BARE: readonly [Side, RegExp][] = [
  ['against', /^(?:no|nope|nah)\b/],
  ['for', /^(?:yes|yeah|yep|aye|ok|okay|sure|fine|right)\b/],
];

/** Turns after an idea in which answers are looked for. */
const ANSWERS_WITHIN = 12;

/**
 * Ideas put forward and, for each, who spoke for it and who against, with the words. An idea that fewer than two
 * people said anything to is left out: it was not discussed.
 */
export function ideasOf(talk: Talk): Idea[] {
  const out: Idea[] = [];
  let free = 0;
  for (let i = 0; i < talk.turns.length; i++) {
    const t = talk.turns[i]!;
    if (i < free || t.heading || t.stems.length === 0 || !PROPOSES.test(plain(t.text))) continue;
    const stances = answersTo(talk.turns, i);
    const voices = new Set(stances.map((s) => s.voice));
    if (voices.size < 2 && !(stances.length >= 2 && t.voice === null)) continue;
    out.push({ segment: t.segment, voice: t.voice, text: t.text, stances });
    free = i + 3;
  }
  return out;
}

/**
 * What was said for and against a subject anywhere in the record: the same table for an idea a person asks about.
 * @param subject stems of the subject's words
 */
export function stancesOn(talk: Talk, subject: ReadonlySet<string>): Stance[] {
  const out: Stance[] = [];
  talk.turns.forEach((t, i) => {
    const about = (k: number) => {
      const u = talk.turns[k];
      return u ? sharedWeight(new Set(u.stems), subject, () => 1).share : 0;
    };
    if (t.heading || Math.max(about(i), about(i - 1) * 0.7) < 0.34) return;
    const stance = stanceOf(t, false);
    if (stance) out.push(stance);
  });
  return out;
}

function answersTo(turns: readonly Turn[], idea: number): Stance[] {
  const out: Stance[] = [];
  const about = new Set(turns[idea]!.stems);
  let silent = 0;
  for (let k = idea + 1; k < Math.min(turns.length, idea + 1 + ANSWERS_WITHIN); k++) {
    const t = turns[k]!;
    if (t.heading) break;
    const direct = k <= idea + 3;
    const near = t.stems.some((s) => about.has(s));
    const stance = t.voice !== null && t.voice === turns[idea]!.voice && !near ? null : stanceOf(t, direct);
    if (stance && (direct || near || silent < 2)) {
      out.push(stance);
      silent = 0;
    } else silent++;
    if (near) for (const s of t.stems) about.add(s);
    if (silent >= 4) break;
  }
  return out;
}

function stanceOf(t: Turn, direct: boolean): Stance | null {
  const said = plain(t.text);
  const found = SIDES.map(([side, pattern]) => ({ side, m: pattern.exec(said) })).filter((f) => f.m);
  // what comes after “but” is what is meant
  const but = said.search(/(?<!\p{L})(?:but|though|however|except)(?!\p{L})/u);
  const meant = found.find((f) => but >= 0 && f.m!.index > but) ?? found[0] ?? (direct ? BARE.map(([side, pattern]) => ({ side, m: pattern.exec(said) })).find((f) => f.m) : undefined);
  if (!meant) return null;
  return { voice: t.voice, side: meant.side, segment: t.segment, text: t.text, because: t.text.slice(meant.m!.index, meant.m!.index + meant.m![0].length) };
}

/** Lower case and straight apostrophes, letter for letter, so that places stay the same. */
function plain(text: string): string {
  const low = text.toLowerCase();
  return (low.length === text.length ? low : text).replace(/[’‘]/g, "'");
}
