import { type Person, Roster } from '../language/people.ts';
import { isEmptyWord } from '../language/words.ts';
import type { Talk } from './turns.ts';

/** Somebody or something named in a record. */
export interface Named {
  kind: 'person' | 'organisation' | 'name';
  /** the person's full name, or the name as it was said most often */
  name: string;
  /** id of the person, where the project knows them */
  person: string | null;
  /** segments it is named in */
  segments: number[];
}

/** Last words of names of firms and bodies, common practice; with them a name is an organisation's even in small letters. */
const BODIES = new Set(
  'ltd limited plc inc llc gmbh ag sa bv ab oy as corp corporation company group holding bank insurers insurance authority council board ministry department office agency committee commission association union federation society trust foundation institute university college school hospital clinic museum library press yard shipyard works brothers partners consultants consulting services systems logistics ferries lines lawyers auditors inspectorate registry surveyors'.split(
    ' ',
  ),
);
/** Bodies that are named in small letters too ("the harbour board"); a department or a yard alone is too common a word. */
const SMALL_BODIES = /(?<!\p{L})the ((?:\p{Ll}{3,} ){1,2}(?:authority|council|board|ministry|agency|commission|association|union|federation|inspectorate|insurers|lawyers|auditors))(?!\p{L})/gu;
const NAME = /\p{Lu}[\p{L}\p{N}’'&-]*(?:(?: (?:of|and|for|the|de|van|von|&))? \p{Lu}[\p{L}\p{N}’'&-]*)*/gu;
const COMMON = new Set(
  "i i'm i'll i've i'd ok okay monday tuesday wednesday thursday friday saturday sunday january february march april may june july august september october november december mr mrs ms dr am pm aob pdf tbc tbd yes no and but so the well right good thanks please english german french spanish portuguese christmas easter today tomorrow action decision question open done todo agreed".split(
    ' ',
  ),
);

/**
 * People, organisations and other names in a record, the most often named first. Known people are found in every way
 * they are spoken of; other names by their capitals inside a sentence (a word that also comes in small letters is
 * none), and bodies by their last word. Captions without capitals give only people and bodies.
 */
export function namedIn(talk: Talk, people: readonly Person[]): Named[] {
  const roster = new Roster(people);
  const found = new Map<string, Named & { said: Map<string, number> }>();
  const small = new Set<string>();
  for (const t of talk.turns) for (const w of t.text.match(/(?<!\p{L})\p{Ll}[\p{L}’']*/gu) ?? []) small.add(w);
  const put = (key: string, kind: Named['kind'], name: string, person: string | null, segment: number) => {
    const own = found.get(key) ?? { kind, name, person, segments: [], said: new Map<string, number>() };
    if (own.segments[own.segments.length - 1] !== segment) own.segments.push(segment);
    own.said.set(name, (own.said.get(name) ?? 0) + 1);
    found.set(key, own);
  };
  for (const t of talk.turns) {
    if (t.heading) continue;
    const text = t.text.slice(0, 4000);
    const mentions = roster.mentions(text);
    for (const m of mentions) put(`person ${m.person}`, 'person', roster.byId.get(m.person)!.name, m.person, t.segment);
    for (const m of text.matchAll(NAME)) {
      const trimmed = withoutOpening(m[0], m.index, text, small);
      if (!trimmed) continue;
      const { name, at } = trimmed;
      if (mentions.some((p) => p.from < at + name.length && p.to > at) || (name.indexOf(' ') < 0 && roster.isName(name))) continue;
      const last = name.split(' ').at(-1)!.toLowerCase();
      put(name.toLowerCase(), BODIES.has(last) ? 'organisation' : 'name', name, null, t.segment);
    }
    for (const m of text.matchAll(SMALL_BODIES)) put(m[1]!, 'organisation', m[1]!, null, t.segment);
  }
  const order = { person: 0, organisation: 1, name: 2 };
  return [...found.values()].map(({ said, ...n }) => ({ ...n, name: [...said].sort((a, b) => b[1] - a[1])[0]![0] })).sort((a, b) => order[a.kind] - order[b.kind] || b.segments.length - a.segments.length || (a.name < b.name ? -1 : 1));
}

/** A name without the words before it that are capital only because a sentence begins, or null when nothing is left. */
function withoutOpening(said: string, at: number, text: string, small: ReadonlySet<string>): { name: string; at: number } | null {
  const words = said.replace(/['’]s$/, '').split(' ');
  let from = at;
  const begins = at === 0 || /[.!?:…"“(\]]\s*$/.test(text.slice(Math.max(0, at - 3), at));
  if (begins && words.length > 0 && (words.length === 1 || small.has(words[0]!.toLowerCase()))) {
    from += words[0]!.length + 1;
    words.shift();
  }
  while (words.length && COMMON.has(words[0]!.toLowerCase().replace(/’/g, "'"))) from += words.shift()!.length + 1;
  while (words.length && (COMMON.has(words.at(-1)!.toLowerCase()) || /^(?:of|and|for|the|de|van|von|&)$/.test(words.at(-1)!))) words.pop();
  if (words.length && /^(?:of|and|for|the|&)$/.test(words[0]!)) return null;
  const name = words.join(' ');
  if (name.length < 2 || (words.length === 1 && (small.has(name.toLowerCase()) || isEmptyWord(name.toLowerCase())))) return null;
  return { name, at: from };
}
