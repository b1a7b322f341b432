import { readDates } from '../../dates/read.ts';
import { contentStems, wordsOf } from '../../language/words.ts';
import type { Clue, Evidence, Find, FindKind, UpdateKind } from '../find.ts';
import { CONDITION, NEGATES, turnsIn } from '../meaning.ts';
import type { Reading } from '../reading.ts';
import { asSaid } from '../wording.ts';
import type { ModelAnswer } from './answer.ts';
import { type Asking, openName, type Part, shownIn } from './question.ts';
import { locate, type Shown, type Span } from './quoting.ts';

/** Why something a model said is not believed. The first four cost the find, the others a part of it. */
export const FAULTS = {
  'no such segment': 'points at a segment that is not there',
  'not said': 'quotes words nobody said there',
  'not open': 'is about a commitment that was not open',
  malformed: 'has another shape than was asked for',
  'owner unknown': 'names an owner who is not among the people',
  'owner not said': 'names an owner the words do not',
  'date not said': 'quotes a date nobody said there',
  'no day': 'quotes words that name no day',
  'past day': 'names a day before the meeting',
  'title unlike': 'has a title with words nobody said, or without a “not” that was',
} as const;
export type Fault = keyof typeof FAULTS;
const COSTS_THE_FIND: readonly Fault[] = ['no such segment', 'not said', 'not open', 'malformed'];
export const costsTheFind = (fault: Fault): boolean => COSTS_THE_FIND.includes(fault);

export interface Checked {
  finds: Find[];
  faults: Fault[];
}

/** How likely what only the model found is right, by kind; see `trust.ts`. */
export type Alone = Record<FindKind, number>;

/** Segments before and after those of a find in which its owner or its date may be named. */
const AROUND = 6;

/** Longest words by which an owner is told beside their name. */
const LONGEST_HOW = 40;

/** One question to one part: what was shown, and how to look it up. */
class Check {
  private readonly shown: readonly Shown[];
  private readonly at: ReadonlyMap<number, number>;
  readonly faults: Fault[] = [];

  constructor(
    private readonly reading: Reading,
    private readonly asking: Asking,
    part: Part,
  ) {
    this.shown = shownIn(part, asking.names);
    this.at = new Map(this.shown.map((s, i) => [s.segment, i]));
  }

  fault(fault: Fault): null {
    this.faults.push(fault);
    return null;
  }

  /** The places of a find's words in its segments, in the order of the record; null where it does not hold. */
  stated(segments: readonly number[], words: string): { places: Span[]; segments: number[] } | null {
    const known = [...new Set(segments)].sort((a, b) => a - b);
    if (known.length === 0 || known.some((n) => !this.at.has(n))) return this.fault('no such segment');
    const places = locate(
      words,
      known.map((n) => this.shown[this.at.get(n)!]!),
    );
    return places ? { places, segments: known } : this.fault('not said');
  }

  /** Words that name who or when: in a find's own segments, or near them. */
  near(words: string, segments: readonly number[]): Span[] | null {
    const from = Math.max(0, this.at.get(segments[0]!)! - AROUND);
    const to = this.at.get(segments.at(-1)!)! + AROUND + 1;
    return (
      locate(
        words,
        segments.map((n) => this.shown[this.at.get(n)!]!),
      ) ?? locate(words, this.shown.slice(from, to))
    );
  }

  said(span: Span): string {
    return this.reading.input.record.segments[span.segment]!.text.slice(span.from, span.to);
  }

  /** Who is meant, in ids; what does not hold is left out and told. */
  owner(names: readonly string[], words: string | null, segments: readonly number[]): { people: string[]; clues: Clue[]; sure: boolean; how: string } {
    const nobody = { people: [], clues: [], sure: true, how: '' };
    if (names.length === 0) return nobody;
    const { roster } = this.reading;
    const people = names.map((n) => roster.voice(this.asking.names.back(n)));
    if (people.some((p) => p === null)) {
      this.fault('owner unknown');
      return { ...nobody, sure: false };
    }
    const found = [...new Set(people as string[])];
    if (words === null || words.trim() === '') return { people: found, clues: [], sure: false, how: 'no words say so' };
    const spans = this.near(words, segments);
    const clues = (spans ?? []).map((s): Clue => ({ ...s, what: 'who' }));
    if (!spans || !this.mayMean(found, spans)) {
      this.fault('owner not said');
      return { ...nobody, sure: false };
    }
    return {
      people: found,
      clues,
      sure: true,
      how: `“${spans
        .map((s) => this.said(s))
        .join(' ')
        .slice(0, LONGEST_HOW)}”`,
    };
  }

  /** “I'll” is whoever speaks, and a name is whose it is: words that name somebody else do not name these. */
  private mayMean(people: readonly string[], spans: readonly Span[]): boolean {
    const { roster, units } = this.reading;
    const said = spans.map((s) => this.said(s)).join(' ');
    const named = roster.mentions(said).map((m) => m.person);
    if (named.length > 0) return people.some((p) => named.includes(p));
    if (!FIRST_PERSON.test(said)) return true;
    const speaker = units.find((u) => u.segment === spans[0]!.segment)?.speaker ?? null;
    return speaker === null || people.includes(speaker);
  }

  /** The day that words name, as Ottik's own reader has it. */
  day(words: string | null, segments: readonly number[]): { due: string | null; phrase: string | null; clues: Clue[]; sure: boolean } {
    const none = { due: null, phrase: null, clues: [], sure: true };
    if (words === null || words.trim() === '') return none;
    const unsure = { ...none, sure: false };
    const spans = this.near(words, segments);
    if (!spans) {
      this.fault('date not said');
      return unsure;
    }
    const { meeting } = this.reading.input;
    const phrases = spans.flatMap((s) =>
      this.reading.units.filter((u) => u.segment === s.segment).flatMap((u) => u.dates.filter((d) => u.from + d.from < s.to && u.from + d.to > s.from).map((d) => ({ date: d.date, phrase: d.phrase, clue: { segment: s.segment, from: u.from + d.from, to: u.from + d.to, what: 'when' as const } }))),
    );
    const dated = phrases.find((p) => p.date !== null);
    const alone = dated ? null : readDates(spans.map((s) => this.said(s)).join(' '), { date: meeting.date, next: meeting.next }).find((d) => d.date !== null);
    const date = dated?.date ?? alone?.date ?? null;
    if (date === null) {
      this.fault('no day');
      return { ...unsure, phrase: phrases[0]?.phrase ?? null };
    }
    if (date < meeting.date) {
      this.fault('past day');
      return unsure;
    }
    return { due: date, phrase: dated?.phrase ?? alone!.phrase, clues: dated ? [dated.clue] : [], sure: true };
  }

  /** The model's title where it holds up, or else the words themselves. */
  title(given: string, places: readonly Span[], segments: readonly number[], question: boolean): string {
    const title = this.asking.names.back(given).replace(/\s+/g, ' ').trim();
    const words = places.map((s) => this.said(s)).join(' ');
    const evidence = segments.map((n) => this.reading.input.record.segments[n]!.text).join(' ');
    if (title && holdsUp(title, words, evidence, (w) => this.reading.roster.isName(w))) return asSaid(title, question);
    this.fault('title unlike');
    return asSaid(words, question);
  }

  evidence(places: readonly Span[], segments: readonly number[]): Evidence[] {
    const stated = places.map((p): Evidence => ({ ...p, role: 'states' }));
    const rest = segments.filter((n) => !places.some((p) => p.segment === n)).map((segment): Evidence => ({ segment, from: 0, to: this.reading.input.record.segments[segment]!.text.length, role: 'repeats' }));
    return [...stated, ...rest].sort((a, b) => a.segment - b.segment || a.from - b.from);
  }

  /** Told by the unit its words begin in, as Sift's own finds are, so that both know the same find by the same key. */
  key(kind: FindKind, [place]: readonly Span[]): string {
    const unit = this.reading.units.find((u) => u.segment === place!.segment && u.to > place!.from);
    return `${kind}:${place!.segment}:${unit?.from ?? place!.from}`;
  }

  openId(name: string): string | null {
    return this.reading.input.open.find((_, i) => openName(i) === name)?.id ?? null;
  }
}

const FIRST_PERSON = /(?<![\p{L}\p{N}])(?:i|i['’](?:ll|d|m|ve)|me|my|mine|myself)(?![\p{L}\p{N}])/iu;

/**
 * Whether a title says nothing that was not said: every word of matter and every number stands in the evidence or is a
 * name, and what turns the words it rests on turns it too.
 */
export function holdsUp(title: string, words: string, evidence: string, isName: (word: string) => boolean): boolean {
  const said = new Set(contentStems(wordsOf(evidence)));
  for (const w of wordsOf(title)) if (!isName(w.replace(/'s$/, '')) && contentStems([w]).some((s) => !said.has(s))) return false;
  const turned = (text: string) => turnsIn(text).map((w) => (NEGATES.test(w) || /^(?:no|nobody|none|neither|nor)$/i.test(w) ? 'negates' : CONDITION.test(w) ? 'conditions' : w.toLowerCase()));
  const [own, there] = [new Set(turned(title)), new Set(turned(words))];
  return [...there].every((t) => own.has(t)) && [...own].every((t) => there.has(t));
}

const WHY: Record<UpdateKind, string> = { done: 'it is done', moved: 'it has a new date', reassigned: 'somebody else has it now', dropped: 'it is no longer wanted', blocked: 'it cannot go on yet', progress: 'it is still on' };

/**
 * What is left of a model's answer about one part once it is held against the words. Pure: the same answer gives the same.
 * @param reading the record as Sift's own stages read it
 * @param alone   how likely a find is right that no other reader has
 */
export function checked(answer: ModelAnswer, reading: Reading, asking: Asking, part: Part, alone: Alone): Checked {
  const check = new Check(reading, asking, part);
  const finds: Find[] = [];
  for (const a of answer.actions) {
    const held = check.stated(a.segments, a.words);
    if (!held) continue;
    const owner = check.owner(a.owner, a.ownerWords, held.segments);
    const day = check.day(a.dateWords, held.segments);
    const reason = [owner.people.length === 0 ? 'nobody takes it on by name' : owner.sure ? 'the words say whose it is' : 'whose it is stands nowhere in so many words', day.due ? 'a day is named' : day.phrase ? `“${day.phrase}” names no day` : 'no day is named'].join('; ');
    finds.push({
      ...plain(check, 'action', a.title, held, alone.action),
      owner: owner.people,
      ownerHow: owner.people.length ? owner.how : null,
      due: day.due,
      duePhrase: day.phrase,
      clues: [...owner.clues, ...day.clues],
      doubtful: [...(owner.sure ? [] : (['owner'] as const)), ...(day.sure ? [] : (['due'] as const))],
      reason: `The model reader; ${reason}.`,
    });
  }
  for (const [kind, items, why] of [
    ['decision', answer.decisions, 'put forward and settled'],
    ['question', answer.questions, 'asked and left open'],
  ] as const) {
    for (const d of items) {
      const held = check.stated(d.segments, d.words);
      if (held) finds.push({ ...plain(check, kind, d.title, held, alone[kind]), reason: `The model reader; ${why}.` });
    }
  }
  for (const u of answer.updates) {
    const open = reading.input.open.find((o) => o.id === check.openId(u.commitment));
    if (!open) {
      check.fault('not open');
      continue;
    }
    const held = check.stated(u.segments, u.words);
    if (!held) continue;
    const day = u.kind === 'moved' ? check.day(u.dateWords, held.segments) : null;
    const owner = u.kind === 'reassigned' ? check.owner(u.owner, u.ownerWords, held.segments) : null;
    // a move without its day and a handing over without its taker are no more than talk of it
    const kind = (u.kind === 'moved' && !day?.due) || (u.kind === 'reassigned' && !owner?.people.length) ? 'progress' : u.kind;
    finds.push({
      key: `update:${open.id}`,
      kind: 'update',
      text: open.text,
      about: [],
      owner: owner?.people.length ? owner.people : open.owner,
      ownerHow: null,
      due: day?.due ?? open.due,
      duePhrase: day?.phrase ?? null,
      update: { open: open.id, kind, due: kind === 'moved' ? day!.due : null, owner: kind === 'reassigned' ? owner!.people : null },
      evidence: check.evidence(held.places, held.segments),
      clues: [...(owner?.clues ?? []), ...(day?.clues ?? [])],
      confidence: alone.update,
      doubtful: kind === u.kind ? [] : ['news'],
      reason: `The model reader; ${WHY[kind]}.`,
    });
  }
  return { finds: withoutRepeats(finds), faults: check.faults };
}

function plain(check: Check, kind: FindKind, title: string, { places, segments }: { places: Span[]; segments: number[] }, confidence: number): Find {
  return { key: check.key(kind, places), kind, text: check.title(title, places, segments, kind === 'question'), about: [], owner: [], ownerHow: null, due: null, duePhrase: null, update: null, evidence: check.evidence(places, segments), clues: [], confidence, doubtful: [], reason: '' };
}

/** Share of the words that two finds of one place have in common, from which they are one matter. */
const ONE_MATTER = 0.5;

/** Whether two finds of a kind are one matter: they rest on the same words, or say the same in the same place. */
export function sameMatter(a: Find, b: Find, share = ONE_MATTER): boolean {
  if (a.kind !== b.kind) return false;
  if (a.update || b.update) return a.update?.open === b.update?.open;
  // most pairs stand far from each other, which is told sooner than how alike they are
  if (!a.evidence.some((e) => b.evidence.some((f) => Math.abs(e.segment - f.segment) <= 1))) return false;
  const [x, y] = [a, b].map((f) => new Set(contentStems(wordsOf([f.text, ...f.about].join(' ')))));
  const both = [...x!].filter((s) => y!.has(s)).length;
  return (2 * both) / Math.max(1, x!.size + y!.size) >= share;
}

/** Two of one matter become one, with the evidence of both; of two updates of one commitment the later one counts. */
export function withoutRepeats(finds: readonly Find[]): Find[] {
  const out: Find[] = [];
  for (const find of finds) {
    const at = out.findIndex((f) => sameMatter(f, find));
    if (at < 0) out.push(find);
    else out[at] = both(...((find.update && find.evidence.at(-1)!.segment >= out[at]!.evidence.at(-1)!.segment ? [find, out[at]!] : [out[at]!, find]) as [Find, Find]));
  }
  return out;
}

/** One find with the evidence of another beside its own, and the parts it lacks. */
export function both(one: Find, other: Find): Find {
  const more = other.evidence.filter((e) => !one.evidence.some((o) => o.segment === e.segment)).map((e): Evidence => ({ ...e, role: e.role === 'states' ? 'repeats' : e.role }));
  return {
    ...one,
    owner: one.owner.length ? one.owner : other.owner,
    ownerHow: one.owner.length ? one.ownerHow : other.ownerHow,
    due: one.due ?? other.due,
    duePhrase: one.due ? one.duePhrase : (other.duePhrase ?? one.duePhrase),
    evidence: [...one.evidence, ...more].sort((a, b) => a.segment - b.segment || a.from - b.from),
    clues: [...one.clues, ...other.clues.filter((c) => !one.clues.some((o) => o.segment === c.segment && o.from === c.from))],
  };
}
