import { sharedWeight, wholeWeight } from '../language/words.ts';
import { bestByUnit, rankClauses } from './clauses.ts';
import type { Draft } from './draft.ts';
import { chooseDue, type DueChoice } from './due.ts';
import type { Clue, Evidence, EvidenceRole, Find, FindPart, Finds } from './find.ts';
import { formOf, leastByForm, namesNobody } from './forms.ts';
import { groupUnits } from './group.ts';
import { groupFeatures, type Rival } from './judge.ts';
import { namingOf, type RankedKeyword, rankKeywords } from './keywords.ts';
import { type Features, logOdds, probability } from './linear.ts';
import type { SiftModels } from './models.ts';
import { readNatures } from './natures.ts';
import { chooseKind, newDue, newsFeatures } from './news.ts';
import { chooseOwner, type OwnerChoice } from './owner.ts';
import { choosePhrase } from './phrase.ts';
import { type CloseReading, type Reading, readUnits, type SiftInput } from './reading.ts';
import { whyAction, whyPlain, whyUpdate } from './reasons.ts';
import { type OpenView, oldMatter, type Spoken, spokenOf, viewOpen } from './reconcile.ts';
import type { Group, Nature, Natures } from './shapes.ts';
import { withoutOwners, wordAction, wordPlain } from './wording.ts';

/**
 * Reads a record into finds.
 *
 * The stages, each a pure step over the same document: units with their words, names and dates; what each unit is;
 * units joined into matters; owner and date of each; wording; judging; and what became of the commitments that were
 * open before.
 *
 * @param input  record, people, the meeting's date and the next one's, what was open
 * @param models weights, see {@link SiftModels}
 * @param close  what the close reader says of the units, or null to work with the quick reader alone
 * @returns finds in the order of the record
 */
export function sift(input: SiftInput, models: SiftModels, close: CloseReading | null = null): Finds {
  const reading = readUnits(input, close);
  const natures = readNatures(reading, models.natures);
  const spoken = spokenOf(reading, natures, models.about);
  const old = oldMatter(spoken);
  const finds: Find[] = [];
  for (const nature of ['action', 'decision', 'question'] as const) {
    const drafts = draftsOf(reading, natures, models, nature);
    for (const draft of drafts) {
      const judged = probability(logOdds(models.judge[nature], judgeFeatures(reading, natures, draft, drafts, old)));
      const { core } = draft.group;
      // what says by its form what it is stands, unless it is news of what is open already
      const plain = nature !== 'action' || (old.get(core) ?? 0) < OLD_FROM ? leastByForm(reading.units[core]!, nature) : 0;
      const confidence = Math.max(judged, plain);
      if (confidence >= models.show[nature]) finds.push(toFind(reading, draft, confidence));
    }
  }
  finds.push(...updatesOf(reading, natures, spoken, models));
  finds.sort((a, b) => (a.evidence[0]?.segment ?? 0) - (b.evidence[0]?.segment ?? 0) || a.kind.localeCompare(b.kind));
  return { finds: uniqueKeys(finds), reader: close ? 'close' : 'quick' };
}

/** From this likelihood on a place speaks of an open commitment, and is no new one. */
const OLD_FROM = 0.4;

export function draftsOf(reading: Reading, natures: Natures, models: Pick<SiftModels, 'link' | 'least' | 'owner' | 'due' | 'clause' | 'keyword' | 'phrase'>, nature: 'action' | 'decision' | 'question'): Draft[] {
  const odds = natures.odds[nature];
  return groupUnits(reading, odds, models.link[nature], models.least[nature]).map((group) => draftOf(reading, natures, models, group, nature));
}

function draftOf(reading: Reading, natures: Natures, models: Pick<SiftModels, 'owner' | 'due' | 'clause' | 'keyword' | 'phrase'>, group: Group, nature: 'action' | 'decision' | 'question'): Draft {
  const odds = natures.odds[nature];
  if (nature !== 'action') {
    const sentences = rankClauses(reading, odds, group, models.clause[nature]);
    const words = rankKeywords(reading, { odds, group, sentences: bestByUnit(sentences) }, models.keyword[nature]);
    return { group, nature, owner: NOBODY, due: NO_DATE, wording: () => wordPlain(reading, sentences[0]?.clause, words, nature === 'question'), named: howNamed(words), likeOpen: 0 };
  }
  const words = rankKeywords(reading, { odds, group, sentences: null }, models.keyword.action);
  const naming = namingOf(words);
  const owner = namesNobody(reading.units[group.core]!) ? NOBODY : chooseOwner(reading, group, naming, models.owner);
  const due = chooseDue(reading, odds, group, owner.people, naming, models.due);
  const wording = () => {
    const own = withoutOwners(reading, ownWords(reading, group, words), owner.people);
    return wordAction(reading, choosePhrase(reading, odds, group, own, models.phrase), own);
  };
  return { group, nature, owner, due, wording, named: howNamed(words), likeOpen: likeAnyOpen(reading, group) };
}

/** What a line of notes is known by stands in it: lines above and below speak of other things. */
function ownWords(reading: Reading, group: Group, words: readonly RankedKeyword[]): readonly RankedKeyword[] {
  if (formOf(reading.units[group.core]!) === null) return words;
  const units = new Set(group.units);
  return words.filter((w) => w.keyword.places.some((p) => units.has(p.unit)));
}

/** Words a careful reader is expected to have used too, among the ten likeliest. */
const howNamed = (words: readonly RankedKeyword[]) => words.slice(0, 10).reduce((s, w) => s + w.p, 0);

const NOBODY: OwnerChoice = { people: [], sure: 1, how: '' };
const NO_DATE: DueChoice = { due: null, candidate: null, sure: 1 };

/** How much a group shares with the open commitment it shares most with, 0 to 1 of that commitment's words. */
function likeAnyOpen(reading: Reading, group: Group): number {
  const views = viewOpen(reading);
  const mine = stemsOf(reading, group);
  let best = 0;
  for (const v of views) {
    const { weight, count } = sharedWeight(v.stems, mine, v.weight);
    if (count === 0) continue;
    const whole = wholeWeight(v.stems, v.weight);
    best = Math.max(best, whole ? weight / whole : 0);
  }
  if (reading.close) {
    for (const v of views) {
      const rows = reading.close.about.get(v.open.id);
      for (const i of group.units) best = Math.max(best, 0.9 * probability(rows?.get(i)?.[0] ?? -9));
    }
  }
  return best;
}

/** A draft's features for the judge, seen beside the other drafts of its nature. */
export function judgeFeatures(reading: Reading, natures: Natures, draft: Draft, all: readonly Draft[], old: ReadonlyMap<number, number>): Features {
  return groupFeatures(reading, natures, draft.group, draft.nature, { dated: draft.due.due !== null, owned: draft.owner.people.length ? draft.owner.sure : 0, likeOpen: draft.likeOpen, old, named: draft.named, rivals: rivalsOf(reading, natures, draft, all) });
}

/** Drafts are compared with those made right before and after them. */
const BESIDE = 4;

function rivalsOf(reading: Reading, natures: Natures, draft: Draft, all: readonly Draft[]): Rival[] {
  const at = all.indexOf(draft);
  const odds = natures.odds[draft.nature];
  const best = (d: Draft) => odds[d.group.core]!;
  const ends = (d: Draft) => [d.group.units[0]!, d.group.units[d.group.units.length - 1]!] as const;
  const stems = (d: Draft) => stemsOf(reading, d.group);
  const [from, to] = ends(draft);
  const own = stems(draft);
  const out: Rival[] = [];
  for (let k = Math.max(0, at - BESIDE); k <= Math.min(all.length - 1, at + BESIDE); k++) {
    const other = all[k]!;
    if (other === draft) continue;
    const [a, b] = ends(other);
    out.push({
      gap: Math.max(0, a - to, from - b),
      surer: best(other) > best(draft),
      first: a < from,
      sameOwner: draft.owner.people.length > 0 && draft.owner.people.join() === other.owner.people.join(),
      sameDue: draft.due.due !== null && draft.due.due === other.due.due,
      share: sharedWeight(own, stems(other), reading.weight).share,
    });
  }
  return out;
}

const gathered = new WeakMap<Group, ReadonlySet<string>>();

function stemsOf(reading: Reading, group: Group): ReadonlySet<string> {
  let stems = gathered.get(group);
  if (!stems) {
    stems = new Set(group.units.flatMap((i) => [...reading.units[i]!.stems]));
    gathered.set(group, stems);
  }
  return stems;
}

function toFind(reading: Reading, draft: Draft, confidence: number): Find {
  const { group, owner, due } = draft;
  const evidence = group.units.map((i) => place(reading, i, roleOf(reading, draft, i)));
  if (due.candidate && due.due && !group.units.includes(due.candidate.unit)) evidence.push(place(reading, due.candidate.unit, 'dates'));
  const { units, ...wording } = draft.wording();
  for (const i of units) if (!evidence.some((e) => e.segment === reading.units[i]!.segment)) evidence.push(place(reading, i, 'states'));
  evidence.sort((a, b) => a.segment - b.segment || a.from - b.from);
  return {
    key: `${draft.nature}:${reading.units[group.core]!.segment}:${reading.units[group.core]!.from}`,
    kind: draft.nature,
    ...wording,
    owner: owner.people,
    ownerHow: draft.nature === 'action' ? owner.how : null,
    due: due.due,
    duePhrase: due.candidate?.phrase ?? null,
    update: null,
    evidence,
    clues: cluesOf(reading, draft),
    confidence: round(confidence),
    doubtful: draft.nature === 'action' ? doubtful({ owner: owner.sure, due: due.sure }) : [],
    reason: draft.nature === 'action' ? whyAction(reading, draft) : whyPlain(reading, draft),
  };
}

function place(reading: Reading, i: number, role: EvidenceRole): Evidence {
  const u = reading.units[i]!;
  return { segment: u.segment, from: u.from, to: u.to, role };
}

function roleOf(reading: Reading, draft: Draft, i: number): EvidenceRole {
  const u = reading.units[i]!;
  const { core, units } = draft.group;
  if (i === core) return 'states';
  if (draft.due.candidate?.unit === i) return 'dates';
  if (i - core > 12) return 'repeats';
  if (u.cues.has('retract')) return 'corrects';
  if (u.words.length < 8 && u.cues.has('accept') && i > units[0]!) return 'accepts';
  if (u.cues.has('mark:ask') || u.cues.has('request')) return 'asks';
  return 'repeats';
}

function cluesOf(reading: Reading, draft: Draft): Clue[] {
  const out: Clue[] = [];
  const c = draft.due.candidate;
  if (c) {
    const u = reading.units[c.unit]!;
    out.push({ segment: u.segment, from: u.from + c.from, to: u.from + c.to, what: 'when' });
  }
  for (const i of draft.group.units) {
    const u = reading.units[i]!;
    for (const m of u.mentions) if (draft.owner.people.includes(m.person)) out.push({ segment: u.segment, from: u.from + m.from, to: u.from + m.to, what: 'who' });
    const assent = /\b(?:i['’]?ll|i will|leave (?:it|that) with me|will do|i can|yes|yep|yeah|sure|ok|okay|agreed|done)\b/i.exec(u.text);
    if (assent && (!u.speaker || draft.nature !== 'action' || draft.owner.people.includes(u.speaker))) out.push({ segment: u.segment, from: u.from + assent.index, to: u.from + assent.index + assent[0].length, what: 'assent' });
  }
  return out.slice(0, 12);
}

/** What is said of each open commitment: the places about it, what kind of news they are, and the new date or owner. */
export function updatesOf(reading: Reading, natures: Natures, spoken: readonly Spoken[], models: SiftModels): Find[] {
  const out: Find[] = [];
  for (const { view, places, sure } of spoken) {
    if (sure < models.show.update) continue;
    const group: Group = { units: places, core: places.reduce((a, b) => (natures.odds.update[b]! > natures.odds.update[a]! ? b : a)) };
    const news = newsFeatures(reading, view, places);
    const due = newDue(reading, natures, group, view, news, models.newDate);
    const { kind, sure: kindSure } = chooseKind(models.kind, news, due.sure);
    const owner = kind === 'reassigned' ? newOwner(reading, group, view, models) : null;
    const moved = kind === 'moved' ? due.due : null;
    if (kind === 'reassigned' && owner === null) continue;
    const settled = kind === 'moved' && moved === null ? 'progress' : kind;
    out.push({
      key: `update:${view.open.id}`,
      kind: 'update',
      text: view.open.text,
      about: [],
      owner: owner ?? view.open.owner,
      ownerHow: null,
      due: moved ?? view.open.due,
      duePhrase: moved ? (due.candidate?.phrase ?? null) : null,
      update: { open: view.open.id, kind: settled, due: moved, owner },
      evidence: places.map((i) => place(reading, i, i === group.core ? 'states' : i === due.candidate?.unit ? 'dates' : 'repeats')),
      clues: due.candidate && moved ? [{ segment: reading.units[due.candidate.unit]!.segment, from: reading.units[due.candidate.unit]!.from + due.candidate.from, to: reading.units[due.candidate.unit]!.from + due.candidate.to, what: 'when' }] : [],
      confidence: round(sure * (0.5 + 0.5 * kindSure)),
      doubtful: doubtful({ news: kindSure, ...(settled === 'moved' ? { due: due.sure } : {}), ...(settled === 'reassigned' ? { owner: 0 } : {}) }),
      reason: whyUpdate(reading, view, places, settled),
    });
  }
  return out;
}

function newOwner(reading: Reading, group: Group, view: OpenView, models: Pick<SiftModels, 'owner'>): string[] | null {
  const chosen = chooseOwner(reading, group, view.naming, models.owner).people;
  const same = chosen.length === view.open.owner.length && chosen.every((p) => view.open.owner.includes(p));
  return chosen.length && !same ? chosen : null;
}

/** Keys made different where two finds have the same. */
export function uniqueKeys(finds: Find[]): Find[] {
  const seen = new Map<string, number>();
  return finds.map((f) => {
    const n = (seen.get(f.key) ?? 0) + 1;
    seen.set(f.key, n);
    return n === 1 ? f : { ...f, key: `${f.key}#${n}` };
  });
}

/** From this likelihood a part of a find is sure by itself. */
const SURE_PART = 0.8;

const doubtful = (sure: Partial<Record<FindPart, number>>): FindPart[] => (Object.entries(sure) as [FindPart, number][]).filter(([, p]) => p < SURE_PART).map(([part]) => part);

const round = (x: number) => Math.round(x * 1000) / 1000;

export type { Nature };
