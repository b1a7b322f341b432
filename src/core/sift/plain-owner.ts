import type { Reading, ReadUnit } from './reading.ts';
import type { Group } from './shapes.ts';

/** An owner that the words name by their form alone, whatever speaks for others. */
export interface PlainOwner {
  people: string[];
  how: string;
}

/** Nobody in particular has to: "somebody has to tell Ruth" is not Ruth's, nor the speaker's. */
const ANYBODY_MUST = /\b(?:somebody|someone|anybody|anyone|one of (?:us|you))(?:['’]s got to| (?:has|have|needs?|ought) to|['’]ll have to| will have to| should| must| (?:had )?better)\b/i;
/** "He will send it", said of somebody named before; not of what he thinks or says. */
const THIRD_WILL = /(?:^|[.;!?]\s+|,\s+|\b(?:and|so|then|but)\s+)(?:he|she)(?:['’]ll| will| has to| needs to| is going to| is to| promised to| said (?:he|she)(?:['’]d| would))\s+(?!be\b|have\b|not\b|never\b|know\b|want\b|need\b|like\b|say\b|think\b)\p{L}/iu;
/** A request or an order to whoever is spoken to. */
const ASKS = /(?:^|[.;!?,]\s*|\b(?:and|so|but|then)\s+)(?:please\b|(?:can|could|will|would) you\b|kindly\b|make sure\b|don['’]t forget\b)/i;
const TAKES_ON = ['will-verb', 'will-do', 'leave-me', 'i-must'];
/** Units after a job within which somebody may still take it on. */
const ANSWERED_WITHIN = 3;

/**
 * Who a job is given to, where its words leave no doubt: somebody called by name and asked, whoever a mail greets, the one
 * whom "he" or "she" stands for, or nobody in particular.
 * @returns null where the form decides nothing
 */
export function ownerByForm(reading: Reading, group: Group): PlainOwner | null {
  const core = reading.units[group.core]!;
  const called = calledUpon(core);
  if (called) return { people: [called], how: `${reading.roster.firstName(called)} is asked by name` };
  if (ANYBODY_MUST.test(core.text) && !takenOn(reading, group)) return { people: [], how: 'somebody has to, and nobody says they will' };
  if (reading.input.record.format === 'eml' && ASKS.test(core.text)) {
    const greeted = greetedBefore(reading, core);
    if (greeted.length) return { people: greeted, how: `${greeted.map((p) => reading.roster.firstName(p)).join(' and ')} ${greeted.length > 1 ? 'are' : 'is'} asked in the mail` };
  }
  if (THIRD_WILL.test(core.text) && !core.cues.has('i')) {
    const who = lastNamed(reading, core);
    if (who || core.speaker === reading.input.meeting.author) return who ? { people: [who], how: `it is said of ${reading.roster.firstName(who)}` } : { people: [], how: 'it is said of somebody who is not named' };
  }
  return null;
}

/** Whom a unit calls by name and asks: "Bram, could you send it". */
function calledUpon(u: ReadUnit): string | null {
  for (const m of u.mentions) {
    if (m.person === u.speaker || !/^(?:.*[.!?;]\s*)?(?:(?:and|so|then|but|ok|okay|hi|hello|dear|right)\b[\s,]*)*$/is.test(u.text.slice(0, m.from))) continue;
    if (/^\s*[,:–—-]\s*(?:please\b|(?:can|could|will|would) you\b)/i.test(u.text.slice(m.to))) return m.person;
  }
  return null;
}

/** Whether anybody takes the job on, in its places or right after them. */
function takenOn(reading: Reading, group: Group): boolean {
  const last = group.units.at(-1)!;
  const places = [...group.units, ...Array.from({ length: ANSWERED_WITHIN }, (_, k) => last + 1 + k)];
  return places.some((i) => {
    const u = reading.units[i];
    return u !== undefined && i !== group.core && TAKES_ON.some((c) => u.cues.has(c));
  });
}

/** Whom the message greets that a unit of a mail stands in. */
function greetedBefore(reading: Reading, core: ReadUnit): string[] {
  for (let i = core.index; i >= 0 && i > core.index - 40; i--) {
    const u = reading.units[i]!;
    if (u.source.voice !== core.source.voice) break;
    const greeting = /^\s*(?:dear|hi|hello|hey|good (?:morning|afternoon|evening)|morning)\b[^,:!.\n]{0,60}(?=[,:!.\n–-]|$)/i.exec(u.text);
    if (!greeting) continue;
    return [...new Set(u.mentions.filter((m) => m.to <= greeting[0].length && m.person !== core.speaker).map((m) => m.person))];
  }
  return [];
}

/** The one who was named last before "he" or "she": here, or in the three units before, the speaker and the author left out. */
function lastNamed(reading: Reading, core: ReadUnit): string | null {
  const at = THIRD_WILL.exec(core.text)!.index;
  const author = reading.input.meeting.author;
  const others = (u: ReadUnit | undefined, to: number) => u?.mentions.findLast((m) => m.to <= to && m.person !== core.speaker && m.person !== author)?.person ?? null;
  const here = others(core, at + 1);
  if (here) return here;
  for (const d of [1, 2, 3]) {
    const before = others(reading.units[core.index - d], Number.POSITIVE_INFINITY);
    if (before) return before;
  }
  return null;
}
