import { fold } from './fold.ts';
import { type Person, Roster } from './people.ts';

/** What somebody typed as an owner, read. */
export interface TypedOwners {
  /** ids of known people, in the order they were typed */
  known: string[];
  /** names that nobody here has: each becomes a person when somebody confirms it */
  unknown: string[];
  /** parts that are nobody's name, with what to say of them */
  refused: { words: string; why: string }[];
}

const NOBODY = /^(?:nobody|no ?one|none|no owner|unassigned|nil|n\/?a|tb[acd]|open|-|–|—|\?+)$/;
const ME = /^(?:me|myself|i|my ?self|mine)$/;
const GROUP = /^(?:(?:the |our |my |whole )*(?:team|group|crew|office|board|committee|department|company|contractors?|suppliers?|client)|we|us|you|they|them|he|she|him|her|all(?: of (?:us|you|them))?|both|everybody|everyone|somebody|someone|anybody|anyone|whoever|others?)$/;
/** Words no name has, so that half a date or half a sentence makes nobody. */
const NO_NAME_WORD = /^(?:the|a|an|of|this|that|next|last|by|on|at|in|to|for|from|until|before|after|today|tomorrow|tonight|week|weeks|day|days|month|months|year|monday|tuesday|wednesday|thursday|friday|saturday|sunday|asap|soon|and|or|not|no|yes|is|will|with|me|us|it)$/;
const NAME_WORD = /^\p{L}[\p{L}\p{M}.'’-]*$/u;
const BETWEEN = /[,;/&+]|(?<![\p{L}\p{N}])(?:and|und|et|y|e)(?![\p{L}\p{N}])/iu;

/**
 * Reads an owner field: names, first names, initials, roles and *me*, several with a comma or *and*; *nobody* empties it.
 * @param people of the project
 * @param me     who types
 */
export function readOwners(text: string, people: readonly Person[], me: string): TypedOwners {
  const roster = new Roster(people);
  const out: TypedOwners = { known: [], unknown: [], refused: [] };
  const whole = text.replace(/\s+/g, ' ').trim();
  const exact = people.find((p) => fold(p.name) === fold(whole));
  const parts = exact ? [whole] : whole.split(BETWEEN);
  for (const words of parts.map((p) => p.trim()).filter(Boolean)) {
    const said = fold(words);
    if (NOBODY.test(said)) continue;
    const person = ME.test(said) ? me : personCalled(words, people, roster);
    if (person) {
      if (!out.known.includes(person)) out.known.push(person);
    } else if (GROUP.test(said)) out.refused.push({ words, why: `“${words}” is nobody in particular. Name people, or leave the owner empty.` });
    else {
      const meant = beginning(words, people);
      if (meant.length > 1) out.refused.push({ words, why: `“${words}” may be ${meant.map((p) => p.name).join(' or ')}. Type more of the name.` });
      else if (meant.length === 1) out.known.push(meant[0]!.id);
      else if (isName(words)) out.unknown.push(words);
      else out.refused.push({ words, why: `“${words}” is not a name.` });
    }
  }
  return out;
}

/** The one person a word or two stand for: name, first name, surname, alias, initials in any case, or the role they have. */
function personCalled(words: string, people: readonly Person[], roster: Roster): string | null {
  const said = fold(words);
  const byRole = people.filter((p) => p.role && fold(p.role) === said.replace(/^(?:the|our) /, ''));
  if (byRole.length === 1) return byRole[0]!.id;
  if (said.length >= 2) {
    const initials = people.filter(
      (p) =>
        fold(p.name)
          .split(/[\s-]+/)
          .map((w) => w[0])
          .join('') === said.replace(/[.\s]/g, '') || p.aliases.some((a) => fold(a) === said),
    );
    if (initials.length === 1) return initials[0]!.id;
  }
  return roster.voice(words);
}

/** People of whom each word begins a name. */
function beginning(words: string, people: readonly Person[]): Person[] {
  const wanted = fold(words).split(/\s+/);
  return people.filter((p) => {
    const own = [p.name, ...p.aliases].flatMap((n) => fold(n).split(/[\s-]+/));
    return wanted.every((w) => own.some((o) => o.startsWith(w)));
  });
}

/** Whether words can be somebody's name: one to five of them, of letters, none of which no name has. */
export function isName(words: string): boolean {
  const all = words.trim().split(/\s+/);
  const plain = fold(words);
  return words.length <= 80 && all.length <= 5 && all.every((w) => NAME_WORD.test(w)) && all[0]!.length > 1 && !all.some((w) => NO_NAME_WORD.test(fold(w))) && !GROUP.test(plain) && !ME.test(plain) && !NOBODY.test(plain);
}
