import { fold } from './fold.ts';

/** Somebody who may be spoken of, whether or not they were there. */
export interface Person {
  id: string;
  name: string;
  aliases: string[];
  role: string;
  /** their mail address, where it is known */
  mail?: string | null | undefined;
}

/** A place in a text where a person is named. */
export interface Mention {
  person: string;
  from: number;
  to: number;
  /** how sure the naming is: a full name or alias beats a surname, and that beats initials or a role */
  how: 'name' | 'surname' | 'initials' | 'role';
}

interface Form {
  text: string;
  person: string;
  how: Mention['how'];
}

/** A mail address as it stands in a label (the common part of RFC 5322, 3.4.1). */
const ADDRESS = /[\w.+-]{1,64}@[\w-]{1,63}(?:\.[\w-]{1,63}){1,8}/;

const TITLE = /^(mr|mrs|ms|miss|dr|prof|professor|sir|madam|sister|father|frau|herr)\.?$/;

/** Roles that are said instead of a name in minutes, with the words of a role description that fit them. */
const ROLES: Record<string, RegExp> = {
  chair: /chair/,
  'the chair': /chair/,
  'the secretary': /secretary/,
  secretary: /secretary/,
  'the treasurer': /treasurer/,
  treasurer: /treasurer/,
  'the conductor': /conductor/,
  'the clerk': /clerk/,
  'the architect': /architect/,
  'the surveyor': /surveyor/,
};

/**
 * The people of a project and every way they are spoken of: full name, first name, surname with or without title,
 * alias, initials and, in minutes, role. A form that fits two people names nobody, except that people who were
 * present go before people who were not.
 */
export class Roster {
  private readonly forms = new Map<string, Form[]>();
  private readonly finder: RegExp | null;
  private readonly nameWords: ReadonlySet<string>;
  readonly byId: Map<string, Person>;

  constructor(
    readonly people: readonly Person[],
    private readonly present: ReadonlySet<string> = new Set(),
  ) {
    this.byId = new Map(people.map((p) => [p.id, p]));
    for (const person of people) for (const form of formsOf(person)) this.add(form);
    this.nameWords = new Set(people.flatMap((p) => [p.name, ...p.aliases].flatMap((n) => fold(n).split(/[\s-]+/))).filter((w) => w.length > 1));
    const alternatives = [...this.forms.keys()].sort((a, b) => b.length - a.length).map((f) => f.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
    this.finder = alternatives.length ? new RegExp(`(?<![\\p{L}\\p{N}])(?:${alternatives.join('|')})(?![\\p{L}\\p{N}])`, 'gu') : null;
  }

  private add(form: Form) {
    if (form.text.length < 2) return;
    const list = this.forms.get(form.text) ?? [];
    if (!list.some((f) => f.person === form.person)) list.push(form);
    this.forms.set(form.text, list);
  }

  private choose(list: readonly Form[]): Form | null {
    if (list.length === 1) return list[0]!;
    const best = list.filter((f) => f.how === 'name');
    if (best.length === 1) return best[0]!;
    const here = (best.length ? best : list).filter((f) => this.present.has(f.person));
    return here.length === 1 ? here[0]! : null;
  }

  /** Everybody named in a text, in order, without overlaps. Initials count only in capitals. */
  mentions(text: string): Mention[] {
    if (!this.finder) return [];
    const folded = fold(text);
    const out: Mention[] = [];
    this.finder.lastIndex = 0;
    for (let m = this.finder.exec(folded); m; m = this.finder.exec(folded)) {
      const form = this.choose(this.forms.get(m[0]) ?? []);
      if (!form) continue;
      const said = text.slice(m.index, m.index + m[0].length);
      if (form.how === 'initials' && said !== said.toUpperCase()) continue;
      if (form.how === 'name' && COMMON_FIRST_NAMES.has(m[0]) && said[0] === said[0]?.toLowerCase()) continue;
      out.push({ person: form.person, from: m.index, to: m.index + m[0].length, how: form.how });
    }
    return out;
  }

  /** The person a record means by a speaker label, or null for a voice nobody has named. */
  voice(label: string): string | null {
    const address = ADDRESS.exec(label)?.[0].toLowerCase();
    if (address) {
      const owner = this.people.filter((p) => p.mail?.toLowerCase() === address);
      if (owner.length === 1) return owner[0]!.id;
      // the name beside an address, or else the one its first part is made of
      const name = label.replace(/<?[^\s<>@]{1,64}@[^\s<>]{1,255}>?/, ' ').trim();
      return this.voice(
        /\p{L}/u.test(name)
          ? name
          : address
              .split('@')[0]!
              .replace(/[._+\d-]+/g, ' ')
              .trim(),
      );
    }
    const wanted = fold(label).replace(/[().]/g, ' ').replace(/\s+/g, ' ').trim();
    const exact = this.forms.get(wanted);
    if (exact) {
      const form = this.choose(exact);
      if (form) return form.person;
    }
    const words = wanted.split(' ').filter((w) => !TITLE.test(w));
    const fits = this.people.filter((p) => {
      const own = [p.name, ...p.aliases].flatMap((n) => fold(n).split(/[\s-]+/));
      return words.every((w) => own.some((o) => o === w || (w.length <= 2 && o.startsWith(w)) || (w.length >= 4 && o.startsWith(w))));
    });
    if (fits.length === 1) return fits[0]!.id;
    const here = fits.filter((p) => this.present.has(p.id));
    return here.length === 1 ? here[0]!.id : null;
  }

  /** Whether a word is part of somebody's name. */
  isName(word: string): boolean {
    return this.nameWords.has(fold(word));
  }

  firstName(id: string): string {
    const name = this.byId.get(id)?.name ?? id;
    return name.split(/\s+/).find((w) => !TITLE.test(w.toLowerCase())) ?? name;
  }
}

/** First names that are also common words and count as names only with a capital. */
export const COMMON_FIRST_NAMES = new Set(['will', 'mark', 'may', 'rose', 'bill', 'rob', 'grant', 'grace', 'hope', 'art', 'dean', 'pat', 'sue', 'don', 'al', 'jan', 'june', 'april', 'sal', 'mo', 'dot', 'shin', 'ash', 'chip', 'miles', 'rich', 'frank', 'joy', 'ray', 'sandy', 'faith', 'drew', 'chuck', 'buck', 'con']);

function formsOf(person: Person): Form[] {
  const words = person.name.split(/\s+/).filter(Boolean);
  const bare = words.filter((w) => !TITLE.test(w.toLowerCase()));
  const first = bare[0] ?? person.name;
  const last = bare.length > 1 ? bare[bare.length - 1]! : null;
  const forms: Form[] = [];
  const put = (text: string, how: Form['how']) => forms.push({ text: fold(text).replace(/\s+/g, ' ').trim(), person: person.id, how });
  put(person.name, 'name');
  put(bare.join(' '), 'name');
  if (first.length > 1) put(first, 'name');
  for (const alias of person.aliases) put(alias, /^[A-Z]{2,3}$/.test(alias) ? 'initials' : 'name');
  if (last && last.length > 2) {
    put(last, 'surname');
    for (const title of ['mr', 'mrs', 'ms', 'miss', 'dr', 'prof', 'mr.', 'mrs.', 'ms.', 'dr.']) put(`${title} ${last}`, 'surname');
  }
  if (bare.length > 1) put(bare.map((w) => w[0]).join(''), 'initials');
  for (const [said, fits] of Object.entries(ROLES)) if (fits.test(fold(person.role))) put(said, 'role');
  return forms;
}
