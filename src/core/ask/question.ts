import type { IsoDate } from '../dates/calendar.ts';
import { type Period, readPeriod } from '../find/period.ts';
import { fold } from '../language/fold.ts';
import type { Roster } from '../language/people.ts';
import { trimEnd } from '../language/trim.ts';
import { contentStems, isEmptyWord, wordsOf } from '../language/words.ts';

/** What can be asked. */
export const ASKED = ['decided', 'owner', 'promised', 'whether', 'owed', 'spoken', 'open', 'unresolved', 'questions', 'changed', 'sides', 'each', 'dossier', 'state', 'due', 'late', 'upcoming'] as const;
export type Asked = (typeof ASKED)[number];

/** A plain question, read. */
export interface Question {
  asks: Asked;
  /** words of the subject as they were typed; empty where none was given */
  about: string;
  /** id of the person it asks of */
  who: string | null;
  /** somebody was named whom nobody knows here: the words */
  unknown: string | null;
  when: Period | null;
  /** the words that named the time */
  whenWords: string;
}

export interface QuestionContext {
  today: IsoDate;
  me: string;
  roster: Roster;
}

/** A form of words, and what it asks. `x` may be a person or a subject. */
interface Form {
  asks: Asked;
  pattern: RegExp;
}

const ABOUT = '(?:about|on|of|for|regarding|concerning|over|with|to|around)';
const SPEAK = '(?:speak|spoke|spoken|talk|talked|discuss|discussed|mention|mentioned|hear|heard|deal|dealt)';
const DID_IT = '(?:,? and (?:did|have|has|do) (?:he|she|they|i|we|it) .{2,40})?';

/** Forms of questions, the first that fits counts; common English, collected by hand. Everything is in small letters with straight apostrophes. */
const FORMS: readonly Form[] = [
  { asks: 'sides', pattern: new RegExp(`^(?:what (?:are|were|is) )?(?:the |all )?(?:pros and cons|pro and con|arguments?(?: for (?:and|or) against)?|for and against|advantages and disadvantages|upsides and downsides) ?${ABOUT}? (?<about>.+)$`) },
  { asks: 'sides', pattern: /^what (?:speaks|spoke|was said|is there) for and against (?<about>.+)$/ },
  { asks: 'sides', pattern: /^who (?:is|was) (?:for|against|in favou?r of) (?<about>.+)$/ },
  { asks: 'dossier', pattern: new RegExp(`^(?:a |the |make (?:me )?(?:a |the )?|give me (?:a |the )?)?dossier ${ABOUT} (?<about>.+)$`) },
  { asks: 'dossier', pattern: new RegExp(`^(?:tell me |give me |show me )?(?:everything|all|all we have|what we have|the whole story) (?:there is |we know )?${ABOUT} (?<about>.+)$`) },
  { asks: 'dossier', pattern: /^what (?:do we|do you|is) (?:know|known|have) (?:about|of|on) (?<about>.+)$/ },
  { asks: 'spoken', pattern: new RegExp(`^(?:when|where) (?:did|have|had) (?:we|i|you|they) (?:last |first |ever )?${SPEAK} (?:(?:to each other|together) )?(?:${ABOUT} )?(?<about>.+)$`) },
  { asks: 'spoken', pattern: /^when (?:was|were) (?<about>.+?) (?:last |first )?(?:discussed|mentioned|talked about|spoken (?:of|about)|raised|on the table)(?: last)?$/ },
  { asks: 'spoken', pattern: new RegExp(`^how (?:long|much time|often|many times) (?:did|have|do) (?:we|they|i) (?:spent?|${SPEAK.slice(3, -1)}) ?(?:${ABOUT} )?(?:talking (?:${ABOUT} )?|speaking (?:${ABOUT} )?|discussing )?(?<about>.+)$`) },
  { asks: 'spoken', pattern: new RegExp(`^(?:in )?(?:which|what) meetings? (?:did|have|was|were) (?:we )?(?:last )?(?:${SPEAK} )?(?:${ABOUT} )?(?<about>.+?)(?: (?:discussed|mentioned|raised|come up))?$`) },
  { asks: 'decided', pattern: /^when (?:was|were|did we) (?<about>.+?) (?:decided|agreed|settled|approved)(?: on)?$/ },
  { asks: 'decided', pattern: new RegExp(`^when did (?:we|they) (?:decide|agree|settle)(?: ${ABOUT}| that)? (?<about>.+)$`) },
  { asks: 'decided', pattern: new RegExp(`^what (?:was|were|is|has been|have|had|did) ?(?:we|they|everybody|it)? ?(?:been )?(?:decided?|agreed?|settled?|resolved?|concluded?)(?: (?:on|upon))?(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'decided', pattern: new RegExp(`^(?:what (?:is|was|were|are) the |which |what |any |are there any |list |show |were there any )?decisions?(?: (?:was|were|did we|have we|has been|have been) (?:made|taken|make|take))?(?: are there| have we)?(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'decided', pattern: /^(?:did|have) (?:we|they) (?:ever |already |really |actually )?(?:decided?|agreed?|settled?)(?: (?:on|about|that|to|upon))? (?<about>.+)$/ },
  { asks: 'decided', pattern: /^(?:was|were|is|has|have) (?<about>.+?) (?:ever |already |really |been |finally )*(?:decided|agreed|settled|approved)(?: on| upon)?$/ },
  { asks: 'changed', pattern: /^what(?:'s| is| has| have)? ?(?:all )?(?:been )?(?:changed?|new|happened|different|happening)(?<time>.*)$/ },
  { asks: 'changed', pattern: /^what (?:did|have) i miss(?:ed)?(?<time>.*)$/ },
  { asks: 'late', pattern: new RegExp(`^(?:what(?:'s| is| are)?|which (?:\\w+ )?(?:is|are)|who(?:'s| is)?) (?:still |all )?(?:late|overdue)(?: ${ABOUT} (?<x>.+))?$`) },
  { asks: 'late', pattern: /^what (?:is|has) (?<who>.+?) late with$/ },
  { asks: 'upcoming', pattern: /^what(?:'s| is| falls| comes| are)? (?:coming )?(?:due|up)(?<time>.*)$/ },
  { asks: 'unresolved', pattern: new RegExp(`^what(?:'s| is| are| remains?| stays?)? ?(?:still |all )?(?:unresolved|undecided|unanswered|unsettled|unclear|not (?:yet )?(?:decided|settled|answered|resolved|clear)(?: yet)?)(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'questions', pattern: new RegExp(`^(?:(?:which|what|any|list|show) )?(?:open |unanswered |parked )?questions?(?: (?:are|is|remain|remains|do we have))?(?: still)?(?: open| unanswered| parked| left)?(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'open', pattern: new RegExp(`^what(?:'s| is| are| do we have| have we| has)? ?(?:still |all )?(?:open|outstanding|pending|left|to do|undone|unfinished|not done)(?: (?:from|in|at|${ABOUT.slice(3, -1)}) (?<x>.+))?$`) },
  { asks: 'open', pattern: /^what (?:has|have|does|do) (?<who>.+?) (?:still )?(?:have |has |got )?(?:open|to do|on (?:his|her|their|my) (?:plate|list|desk))$/ },
  { asks: 'owed', pattern: /^what (?:do i|did i|have i) (?:still )?(?:owe|promised?) (?:to )?(?<who>[^ ]+(?: [^ ]+)?)$/ },
  { asks: 'promised', pattern: new RegExp(`^what (?:did|has|have|does|do|had) (?<who>.+?) (?:ever |really |still )?(?:promised?|commit(?:ted)?(?: to)?|undertake|undertaken|agreed? to do|t(?:ook|ake|aken) on|owes?|say (?:he|she|they|i)(?:'d| would) do)(?: (?:to )?(?:me|us|do))?(?: ${ABOUT} (?<about>.+?))?${DID_IT}$`) },
  { asks: 'promised', pattern: new RegExp(`^(?:has|have|did) (?<who>.+?) (?:kept?|keep) (?:his|her|their|my|our) (?:promises?|word)(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'whether', pattern: /^(?:did|have|has|had) (?<who>.+?) (?:ever |really |actually |not )*(?:promised?|agreed?|commit(?:ted)?|undert(?:ake|aken|ook)|offer(?:ed)?|said? (?:that )?(?:he|she|they|i)(?:'d| would)|say (?:that )?(?:he|she|they|i)(?:'d| would)|take on|taken on)(?: to| that)? (?<about>.+)$/ },
  {
    asks: 'owner',
    pattern:
      /^who(?:'s| is| was| are)? ?(?:still )?(?:owns?|holds?|has|doing|responsible for|in charge of|on|looking after|taking care of|takes care of|handles?|handling|working on|looks after|does|will do|(?:is )?to do|supposed to do|meant to do|the owner of|got|carries|carrying|took on|taken on|promised|said (?:he|she|they)(?:'d| would)(?: do)?) (?<about>.+)$/,
  },
  { asks: 'owner', pattern: /^whose (?:job |commitment |action |turn )?(?:is|are|was) (?<about>.+)$/ },
  { asks: 'each', pattern: new RegExp(`^who (?:said|says|thought|thinks) what ${ABOUT} (?<about>.+)$`) },
  { asks: 'each', pattern: new RegExp(`^what (?:did|does|do|has|have|had) (?<who>.+?) (?:say|said|think|thought|thinks|mean|meant|write|written|answer|answered|tell us)(?: ${ABOUT} (?<about>.+))?$`) },
  { asks: 'each', pattern: new RegExp(`^what (?:was|has been|is) (?:said|written) ${ABOUT} (?<about>.+)$`) },
  { asks: 'each', pattern: /^who (?:said|mentioned|brought up|raised|spoke (?:about|of)|talked about) (?:that )?(?<about>.+)$/ },
  { asks: 'due', pattern: /^(?:by )?when (?:is|are|will|does|do|should|must|can|was) (?<about>.+?) (?:due|(?:be )?(?:ready|done|finished|there|here|delivered|poured|complete|completed)|come|arrive|finish|end|be|promised(?: for)?)$/ },
  { asks: 'due', pattern: new RegExp(`^what(?:'s| is| was) the (?:deadline|due date|date) ${ABOUT} (?<about>.+)$`) },
  { asks: 'state', pattern: /^where (?!(?:does|do|is|are|did|was)\b)(?<about>.+?) (?:stands?|is|are)(?: now)?$/ },
  { asks: 'state', pattern: /^how (?<about>.+?) (?:stands?|goes|is going|are going|is coming along)$/ },
  { asks: 'state', pattern: /^(?:whether|if) (?<about>.+?) (?:is|are|was|were|has been|have been|has|have) (?:already |finally |now |yet |all )*(?:done|finished|ready|delivered|closed|complete|completed|over|sent|settled|poured|fixed|booked|ordered)(?: yet| already| now)?$/ },
  { asks: 'state', pattern: /^where (?:does|do|are we with|is|are|did) (?<about>.+?)(?: stand| stay| at)?(?: now| today)?$/ },
  { asks: 'state', pattern: new RegExp(`^(?:what(?:'s| is) the (?:status|state|progress|news)|any news) ${ABOUT} (?<about>.+)$`) },
  { asks: 'state', pattern: /^how (?:far )?(?:is|are|does|goes|do) (?<about>.+?)(?: going| coming along| coming on| doing| getting on| stand| along)?$/ },
  { asks: 'state', pattern: /^(?:is|are|was|were|has|have) (?<about>.+?) (?:been |already |finally |now |yet |all )*(?:done|finished|ready|delivered|closed|complete|completed|over|sent|settled|poured|fixed|booked|ordered|there|in|out|late|on time|on track|open)(?: yet| already| now)?$/ },
  { asks: 'state', pattern: /^(?:did|has|have) (?<who>.+?) (?:finish|finished|do|done|deliver|delivered|send|sent|complete|completed) (?<about>.+)$/ },
];

/** What stands before a question and asks nothing. */
const BEFORE = /^(?:(?:please|hey|so|and|ok|okay|well|ottik)[, ]+|(?:can|could|would) you (?:please )?(?:tell|show|remind|say) (?:me|us) ?|(?:tell|remind|show) (?:me|us),? (?=(?:what|who|when|where|which|how|whose|if)\b)|do (?:you|we) know |i(?:'d| would) like to know |i want to know |please )/;
const AFTER = /(?:,? please|,? exactly|,? again|,? so far|,? at the moment|,? right now|,? then)$/;
/** What people begin a question with. */
const ASKS = /^(?:what|who|whose|whom|when|where|which|why|how|did|do|does|is|are|was|were|has|have|had|can|could|should|will|would|any)\b/;
const TIME = /^ (?<time>(?:since|after|before|in|during|over|from|between|until|on|last|this|past|yesterday|today|tomorrow|next).{0,40})$/;
const ME = /^(?:i|me|myself|mine|my)$/;
const EVERYBODY = /^(?:we|you|they|people|everybody|everyone|each(?: of them| of us| person| one)?|all(?: of them)?|anybody|anyone|somebody|the others|others)$/;
const ARTICLE = /^(?:the|a|an|that|this|our|my|their|his|her|its|these|those)\s+/;

/**
 * Reads a plain question.
 *
 *     readQuestion('What did Dele promise about the plinth?', context)
 *     // { asks: 'promised', who: 'dele', about: 'plinth', … }
 *
 * @returns null for words that ask nothing, which are looked for instead; `unread` for a question that is not understood
 */
export function readQuestion(typed: string, context: QuestionContext): Question | 'unread' | null {
  const whole = typed.replace(/\s+/g, ' ').trim().slice(0, 300);
  let text = fold(whole).replace(/[’‘]/g, "'");
  const marked = /\?\s*$/.test(text);
  text = trimEnd(text, '?!.');
  for (let before = ''; before !== text; ) {
    before = text;
    text = text.replace(BEFORE, '').replace(AFTER, '');
  }
  const [bare, when, whenWords] = withoutTime(text, context.today);
  for (const candidate of bare === text ? [text] : [bare, text]) {
    for (const form of FORMS) {
      const m = form.pattern.exec(candidate);
      if (!m) continue;
      const read = fill(form.asks, m.groups ?? {}, whole, context);
      if (!read) continue;
      const time = m.groups?.time?.trim();
      const own = time ? readPeriod(time, context.today) : null;
      if (time && !own && !when) continue;
      return { ...read, when: own ?? (candidate === bare ? when : null), whenWords: own ? time! : candidate === bare ? whenWords : '' };
    }
  }
  return marked || (ASKS.test(text) && text.split(' ').length > 2) ? 'unread' : null;
}

/** A time at the end of a question is taken off, where it is one. */
function withoutTime(text: string, today: IsoDate): [string, Period | null, string] {
  for (let at = text.indexOf(' '); at > 0; at = text.indexOf(' ', at + 1)) {
    const m = TIME.exec(text.slice(at));
    if (!m) continue;
    const when = readPeriod(m.groups!.time!, today);
    if (when) return [text.slice(0, at), when, m.groups!.time!];
  }
  return [text, null, ''];
}

function fill(asks: Asked, groups: Record<string, string | undefined>, whole: string, { me, roster }: QuestionContext): Omit<Question, 'when' | 'whenWords'> | null {
  const read = { asks, about: subject(groups.about ?? '', whole), who: null as string | null, unknown: null as string | null };
  const named = groups.who ?? groups.x;
  if (named === undefined) return contentful(asks, read.about) ? read : null;
  const words = named.replace(ARTICLE, '').trim();
  if (ME.test(words)) return { ...read, who: me };
  if (EVERYBODY.test(words)) return read;
  const person = roster.voice(words);
  if (person) return { ...read, who: person };
  // what is no person is what it is about, where it may be either
  if (groups.who === undefined) return { ...read, about: subject(named, whole) };
  return { ...read, unknown: subject(named, whole) };
}

/** Some questions need a subject: without one they ask for something else. */
const NEED_ONE: ReadonlySet<Asked> = new Set(['owner', 'whether', 'spoken', 'sides', 'each', 'dossier', 'state', 'due']);
const contentful = (asks: Asked, about: string) => !NEED_ONE.has(asks) || wordsOf(about).some((w) => !isEmptyWord(w));

/** The words of a subject as they were typed, without what only fills the sentence. */
function subject(folded: string, whole: string): string {
  const bare = folded.trim().replace(/ (?:yet|now|again|already|at all|last)$/, '');
  const at = fold(whole).replace(/[’‘]/g, "'").lastIndexOf(bare);
  return (at < 0 ? bare : whole.slice(at, at + bare.length)).trim();
}

/** Stems of a subject's words of matter, each once. */
export const stemsOf = (about: string): string[] => [...new Set(contentStems(wordsOf(about.replace(OF, ' '))))];

/** What stands before a subject and is none of it: “the question of the berths”. */
const OF = /\b(?:number|amount|issue|matter|question|topic|subject|idea|case|point|business|story) of\b/gi;
