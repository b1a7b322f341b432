import { fold } from '../language/fold.ts';
import type { Person } from '../language/people.ts';
import type { MeetingRecord } from '../record/model.ts';
import { namedIn } from './named.ts';
import { turnsOf } from './turns.ts';

/** Somebody a record names whom nobody here knows: a person to be added, or another name of one. */
export interface ProposedPerson {
  name: string;
  /** segments that name them */
  times: number;
  /** the first of them */
  segment: number;
}

/** So many are proposed at most. */
const MOST = 12;

/** A line that lists who was there or was not, in five languages. */
const LISTS = /^\W{0,4}(?:present|attend(?:ees|ance|ing)|in attendance|apologies(?: from)?|regrets|participants|absent|not here|anwesend|teilnehmer(?:innen)?|entschuldigt|présents?|excusés?|presentes|asistentes|ausentes|participantes)\W{0,3}[:–-]/iu;
/** Words before a name that only somebody can be meant by. */
const BEFORE = /(?<!\p{L})(?:ask|asks|asked|asking|tell|tells|told|thanks|thank you|hi|hello|morning|over to|let|phone|ring|rang|remind|reminded|chase|invite|meet|met|says|frag|fragt|bitte|demande[rz]? à|preguntar a|perguntar (?:a|ao|à)) $|@$/iu;
/** Words after a name that only somebody does. */
const AFTER = /^(?:[’']ll|[’']s going to|,? (?:will|to (?!the)|can|could|said|says|is going to|is off|is away|has to|have to|needs to|offered|agreed|asked|promised|reported|confirmed|would|won[’']t|can[’']t|wants|thinks|told|rang|called|wrote|sent|wird|soll|muss|va|doit|tiene que|va a|vai)(?!\p{L}))/iu;

/**
 * People a record names who are neither known here nor among its voices: those on its lists of who was there, and names
 * beside words that only people do or are told. The most often named first.
 * @param other names that are no people, such as those of projects and series
 */
export function proposedPeople(record: MeetingRecord, people: readonly Person[], other: readonly string[] = []): ProposedPerson[] {
  const found = new Map<string, ProposedPerson & { sure: boolean; words: number }>();
  const voices = record.voices.map(fold);
  const none = new Set(other.map(fold));
  const isVoice = (name: string) => voices.some((v) => v === fold(name) || v.split(/[\s,()]+/).includes(fold(name)) || fold(name).split(' ').includes(v));
  const put = (name: string, segment: number, sure: boolean) => {
    if (!isPersonal(name) || none.has(fold(name)) || isVoice(name)) return;
    const own = found.get(fold(name)) ?? { name, times: 0, segment, sure: false, words: name.split(' ').length };
    own.times++;
    own.sure ||= sure;
    found.set(fold(name), own);
  };
  for (const s of record.segments) if (LISTS.test(s.text)) for (const name of listed(s.text, people)) put(name, s.index, true);
  const talk = turnsOf(record);
  const texts = new Map(talk.turns.map((t) => [t.segment, t.text]));
  for (const n of namedIn(talk, people)) {
    if (n.kind !== 'name') continue;
    const name = withoutOpening(n.name);
    for (const segment of n.segments) {
      const text = (texts.get(segment) ?? '').slice(0, 4000);
      if (LISTS.test(text)) continue;
      const at = text.indexOf(name);
      put(name, segment, at >= 0 && (BEFORE.test(text.slice(Math.max(0, at - 24), at)) || AFTER.test(text.slice(at + name.length))));
    }
  }
  // a first name that is part of a full one is the same person
  const full = [...found.values()].filter((p) => p.words > 1).map((p) => fold(p.name).split(' '));
  const count = (p: { name: string; times: number }) => Math.max(p.times, [...texts.values()].filter((t) => t.includes(p.name)).length);
  return [...found.values()]
    .map((p) => ({ ...p, times: count(p) }))
    .filter((p) => p.sure && (p.words > 1 || p.times > 1) && !(p.words === 1 && full.some((f) => f.includes(fold(p.name)))))
    .sort((a, b) => b.times - a.times || a.segment - b.segment)
    .slice(0, MOST)
    .map(({ name, times, segment }) => ({ name, times, segment }));
}

/** Words a sentence begins with that are no name. */
const OPENS = /^(?:when|has|have|had|did|does|is|are|was|were|if|what|where|who|how|why|and|but|so|then|once|since|because|can|could|will|would|should|let|ask|tell)$/iu;

const withoutOpening = (name: string): string => {
  const [first, ...rest] = name.split(' ');
  return rest.length > 0 && OPENS.test(first!) ? rest.join(' ') : name;
};

/** One to three words with capitals and without figures. */
function isPersonal(name: string): boolean {
  const words = name.split(' ');
  return words.length <= 3 && name.length <= 60 && words.every((w) => /^\p{Lu}[\p{L}’'.-]{0,30}$/u.test(w)) && words.some((w) => /\p{Ll}/u.test(w));
}

/** The names of a list: `Present: Ana Roy (chair), Ben Ito and Cleo`. */
function listed(text: string, people: readonly Person[]): string[] {
  const known = new Set(people.flatMap((p) => [p.name, ...p.aliases]).map(fold));
  return text
    .slice(0, 2000)
    .replace(LISTS, '')
    .replace(/\([^()]{0,80}\)/g, ' ')
    .split(/[,;/&•|]|\band\b|\bund\b|\bet\b/u)
    .map((part) => part.split(/ [–-] /)[0]!.trim())
    .filter((name) => name !== '' && !known.has(fold(name)));
}
