import { fold } from '../../language/fold.ts';
import { COMMON_FIRST_NAMES, type Person } from '../../language/people.ts';
import { isEmptyWord } from '../../language/words.ts';

/** A text as it goes out, and where its characters stood before. */
export interface Masked {
  text: string;
  place(at: number): number;
}

/** How names are written on their way out, and read on their way in. */
export interface Names {
  /** a text as it is shown outside */
  out(text: string): Masked;
  /** words that came back, with the names people have */
  back(text: string): string;
}

const AS_THEY_ARE: Names = { out: (text) => ({ text, place: (at) => at }), back: (text) => text };

/** A mail address tells a name too. */
const ADDRESS = '[\\p{L}\\p{N}._%+-]{1,64}@[\\p{L}\\p{N}-]{1,63}(?:\\.[\\p{L}\\p{N}-]{1,63}){1,8}';
/** A form of fewer letters than this is no name anybody is known by. */
const SHORTEST = 2;

/** Names as they are: nothing is replaced. */
export const plainNames = (): Names => AS_THEY_ARE;

/**
 * Replaces every name by “Person 1”, “Person 2” … and every mail address by “address 1” …, the same for the same person
 * wherever they are named. A first name that two people share has a number of its own, so that it does not go out either.
 * @param people everybody who may be named
 * @param voices who speaks in the record, as it names them
 */
export function maskedNames(people: readonly Person[], voices: readonly string[]): Names {
  const owners = new Map<string, Set<string>>();
  const shownAs = new Map<string, string>();
  const put = (form: string, who: string) => {
    const folded = fold(form).replace(/\s+/g, ' ').trim();
    if (folded.length < SHORTEST) return;
    owners.set(folded, (owners.get(folded) ?? new Set()).add(who));
    if (!shownAs.has(folded)) shownAs.set(folded, form.trim());
  };
  const known = people.map((p) => ({ who: p.id, name: p.name, forms: [p.name, ...p.aliases] }));
  const strange = voices.filter((v) => !people.some((p) => fold(p.name) === fold(v))).map((v) => ({ who: `voice ${v}`, name: v, forms: [v] }));
  for (const { who, forms } of [...known, ...strange]) {
    for (const form of forms) {
      put(form, who);
      for (const word of form.split(/[\s<>()@,]+/)) if (/^\p{Lu}/u.test(word) && !isEmptyWord(word.toLowerCase())) put(word, who);
    }
  }
  const numbers = new Map<string, number>();
  const names: string[] = [];
  const numberOf = (who: string, name: string) => {
    const before = numbers.get(who);
    if (before !== undefined) return before;
    names.push(name);
    numbers.set(who, names.length);
    return names.length;
  };
  for (const { who, name } of known) numberOf(who, name);
  const addresses: string[] = [];
  const forms = [...owners.keys()].sort((a, b) => b.length - a.length).map((f) => f.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  const finder = new RegExp(`${ADDRESS}|(?<![\\p{L}\\p{N}])(?:${[...forms, '(?!)'].join('|')})(?![\\p{L}\\p{N}])`, 'giu');
  const written = (said: string): string => {
    if (said.includes('@')) {
      if (!addresses.includes(said)) addresses.push(said);
      return `address ${addresses.indexOf(said) + 1}`;
    }
    const form = fold(said);
    const whose = owners.get(form);
    if (!whose) return said;
    const [one] = whose;
    return `Person ${whose.size === 1 ? numberOf(one!, known.find((k) => k.who === one)?.name ?? shownAs.get(form)!) : numberOf(`form ${form}`, shownAs.get(form)!)}`;
  };
  return {
    out(text) {
      const folded = fold(text);
      const cuts: { from: number; to: number; at: number; end: number }[] = [];
      let out = '';
      let done = 0;
      for (const m of folded.matchAll(finder)) {
        const said = text.slice(m.index, m.index + m[0].length);
        // a name in small letters is a name in captions too, but “will” and “may” are words
        if (!said.includes('@') && said === said.toLowerCase() && COMMON_FIRST_NAMES.has(m[0])) continue;
        out += text.slice(done, m.index);
        const at = out.length;
        out += written(said);
        done = m.index + m[0].length;
        cuts.push({ from: m.index, to: done, at, end: out.length });
      }
      out += text.slice(done);
      return { text: out, place: (position) => placeIn(cuts, position) };
    },
    back: (text) => text.replace(/\b(Person|address) (\d{1,4})\b/g, (all, what: string, n: string) => (what === 'Person' ? names : addresses)[Number(n) - 1] ?? all),
  };
}

function placeIn(cuts: readonly { from: number; to: number; at: number; end: number }[], position: number): number {
  let shift = 0;
  for (const c of cuts) {
    if (position < c.at) break;
    if (position === c.at) return c.from;
    if (position < c.end) return c.from;
    shift = c.to - c.end;
  }
  return position + shift;
}
