import { contentStems, isEmptyWord, wordsOf } from '../language/words.ts';
import type { rankClauses } from './clauses.ts';
import type { Group } from './group.ts';
import { chooseKeywords } from './keywords.ts';
import type { LinearModel } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';

/** What is said before the matter itself and can go. */
const LEAD_IN =
  /^(?:(?:okay|ok|so|right|well|yeah|yes|yep|no|and|but|um|uh|er|ah|oh|then|now|sure|fine|great|good|look|listen|actually|also|anyway|alright|all right|ja|ya|righto|because|or|plus|see|hang on|wait|sorry|thanks|thank you|lovely|perfect|brilliant|i mean|you know|i think|i suppose|i guess|i'd say|of course|for the record|one more thing|next|first|second|last|finally|again|still|only)\b[\s,.:;–—-]*)+/i;

const COMMIT =
  /\b(?:i['’]?ll|i will|i shall|i['’]?m (?:going to|gonna|to)|i am to|i(?:['’]ve)?(?: have| got)? (?:to|gotta)|i need to|i must|i should|i can|i could|i want to|i['’]?d (?:like|rather|better)(?: to)?|let me|we['’]?ll|we will|we need to|we have to|we must|we should|you['’]?ll (?:have to|need to)|you (?:have to|need to|should|must|could|can)|can you|could you|would you|will you|please|pls|(?:he|she|they)['’]?(?:ll|s to)|(?:he|she|they) (?:will|is to|are to|has to|have to|should|would)|(?:is|are|was|were) to|has to|have to|needs? to|undertook to|undertakes to|agreed to|offered to|promised to|volunteered to|asked to|will|shall|['’]ll|to)\s+(?:also\s+|then\s+|just\s+|have to\s+|try (?:and|to)\s+|go and\s+|please\s+)?/giu;

const NOT_A_VERB = /^(?:the|a|an|my|your|our|his|her|their|this|that|these|those|it|me|you|us|him|them|be|not|have been|see|say|think|know|like|wait|hear|mean|guess|hope|[A-Z0-9]|monday|tuesday|wednesday|thursday|friday|saturday|sunday|next|last|everybody|everyone|all)\b/;

/**
 * A short text in the record's own words: the clause that says best what the matter is, imperative where it was a promise
 * or a request, and after it the words that name the matter where the clause itself only points at it.
 */
export function wordAction(reading: Reading, group: Group, ranked: readonly Ranked[], model: LinearModel, owner: readonly string[], phrase: string | null): string {
  const best = ranked[0]?.clause;
  if (!best) return 'Something was said here';
  const text = resolvePronouns(reading, tidy(imperative(best.text), phrase), best.unit, owner);
  return withMatter(reading, group, finish(text, 105), ranked, model);
}

/** Decisions and questions keep the sentence that was said, without its lead-in. */
export function wordPlain(reading: Reading, group: Group, ranked: readonly Ranked[], model: LinearModel, question: boolean): string {
  const best = ranked[0]?.clause;
  if (!best) return 'Something was said here';
  let text = finish(best.text.replace(LEAD_IN, '').replace(/^\s*(?:!!|\?|->|→|=>|@)\s*/, ''), 150);
  if (question && !/\?$/.test(text)) text = `${text.replace(/[.!…]+$/, '')}?`;
  return withMatter(reading, group, text, ranked, model);
}

type Ranked = ReturnType<typeof rankClauses>[number];

function imperative(text: string): string {
  let said = text.replace(/^\s*(?:[-*•]|\[[ x]\]|!!|\?)\s*/, '').replace(LEAD_IN, '');
  const arrow = /(?:->|→|=>)\s*(.+)$/.exec(said);
  if (arrow && (arrow[1] ?? '').split(/\s+/).length > 3) said = arrow[1]!;
  COMMIT.lastIndex = 0;
  for (let m = COMMIT.exec(said); m; m = COMMIT.exec(said)) {
    const rest = said.slice(m.index + m[0].length);
    const before = said.slice(0, m.index).trim();
    if (NOT_A_VERB.test(rest) || rest.split(/\s+/).length < 2) continue;
    if (m[0].trim().toLowerCase() === 'to' && before.split(/\s+/).length > 3) continue;
    const kept = contentStems(wordsOf(before)).length;
    const owned = before.replace(/^[\p{Lu}][\p{L}’'.-]*(?:\s+(?:and|&)\s+[\p{Lu}][\p{L}’'.-]*)?[\s,:]*$/u, '');
    if (kept >= 3 && owned !== '') return `${rest} (${before.replace(/[,;:\s]+(?:so|and|then|but)?\s*$/i, '')})`;
    return rest;
  }
  return said.replace(/^(?:@?[\p{Lu}][\p{L}’'.-]*(?:\s+(?:and|&|\+)\s+@?[\p{Lu}][\p{L}’'.-]*)?)\s*:\s*/u, '');
}

function tidy(text: string, phrase: string | null): string {
  let out = text;
  if (phrase) {
    const at = out.indexOf(phrase);
    if (at >= 0 && out.length - phrase.length > 12) out = `${out.slice(0, at)} ${out.slice(at + phrase.length)}`;
  }
  return out
    .replace(/\([A-Z]{2,3}(?:\s?[/&,+]\s?[A-Z]{2,3})*\)/g, '')
    .replace(/\s*(?:->|→|=>)\s*$/, '')
    .replace(/,?\s*(?:okay|ok|right|yeah|no|na|please|pls|if that'?s (?:ok|okay|all right))\s*[?.!]*$/i, '')
    .replace(/\s+([,.;:?!])/g, '$1')
    .replace(/[,;:]\s*([.?!]|$)/g, '$1')
    .replace(/\s{2,}/g, ' ')
    .trim();
}

function resolvePronouns(reading: Reading, text: string, unit: ReadUnit, owner: readonly string[]): string {
  const speaker = unit.speaker ? reading.roster.firstName(unit.speaker) : null;
  let out = text;
  if (speaker && unit.speaker && !owner.includes(unit.speaker)) out = out.replace(/\bme\b/g, speaker).replace(/\bmy\b/g, `${speaker}’s`);
  const to = unit.speaker && owner.includes(unit.speaker) ? unit.mentions.find((m) => !owner.includes(m.person)) : null;
  if (to) out = out.replace(/\b(?<=(?:send|give|show|tell|get|ask|ring|call|mail|to|with) )you\b/i, reading.roster.firstName(to.person));
  return out;
}

/** Words that point at something said elsewhere. */
const POINTING = /\b(?:it|that|them|those|these|this|one|ones|there|same|so|he|she|they|him|her)\b/i;

/** Names the matter after a wording that says too little by itself: "Ring him (joiner, longer crates)". */
function withMatter(reading: Reading, group: Group, text: string, ranked: readonly Ranked[], model: LinearModel): string {
  const own = new Set(contentStems(wordsOf(text))).size;
  const most = own >= 12 ? 1 : own >= 8 ? (POINTING.test(text) ? 3 : 2) : own >= 5 ? 4 : 5;
  const words = chooseKeywords(
    reading,
    group,
    ranked.map((r) => r.clause),
    ranked.map((r) => r.p),
    model,
    text,
    most,
  );
  if (words.length === 0) return text;
  const end = /[?]$/.test(text) ? '?' : '';
  return `${text.replace(/[.!?…,;:]+$/, '')}${end} (${words.join(', ')})`;
}

function shorten(text: string, longest: number): string {
  if (text.length <= longest) return text;
  const cut = text.slice(0, longest + 1);
  const at = Math.max(cut.lastIndexOf(', '), cut.lastIndexOf('; '), cut.lastIndexOf(' – '));
  const end = at > longest * 0.5 ? at : cut.lastIndexOf(' ');
  return text.slice(0, end > 0 ? end : longest).replace(/[\s,;–-]+$/, '');
}

function finish(text: string, longest = 150): string {
  let out = shorten(text.replace(/^[\s,.;:–—-]+/, '').replace(/[\s.,;:–—-]+$/, ''), longest);
  const words = out.split(/\s+/);
  while (words.length > 2 && isEmptyWord(words[words.length - 1]!.toLowerCase()) && /^(and|but|so|or|the|a|an|to|of|for|if|because|with)$/i.test(words[words.length - 1]!)) words.pop();
  out = words.join(' ');
  const opened = (out.match(/\(/g) ?? []).length - (out.match(/\)/g) ?? []).length;
  if (opened > 0) out += ')'.repeat(opened);
  return out ? out[0]!.toUpperCase() + out.slice(1) : 'Something was said here';
}
