import { contentStems, isEmptyWord, wordsOf } from '../../src/core/language/words.ts';
import { bestByUnit, clauseFeatures, clausesOf, rankClauses } from '../../src/core/sift/clauses.ts';
import { dueCandidates, dueFeatures, undatedFeatures } from '../../src/core/sift/due.ts';
import { unitFeatures } from '../../src/core/sift/features.ts';
import { type Group, groupUnits, linkFeatures } from '../../src/core/sift/group.ts';
import { keywordFeatures, keywordsOf, namingOf, rankKeywords } from '../../src/core/sift/keywords.ts';
import { type Features, type LinearModel, logOdds, probability } from '../../src/core/sift/linear.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import { NATURES, type Nature, type Natures, secondFeatures } from '../../src/core/sift/natures.ts';
import { nobodyFeatures, type OwnerModel, ownerCandidates, ownerFeatures, partnerFeatures } from '../../src/core/sift/owner.ts';
import { type CloseReading, type Reading, readUnits } from '../../src/core/sift/reading.ts';
import { aboutFeatures, kindFeatures, type OpenView, placesAbout, placesFor, stemIndex, UPDATE_KINDS, type UpdateKind, viewOpen } from '../../src/core/sift/reconcile.ts';
import { draftOf, judgeFeatures, newDateCandidates, newDateFeatures, newDue } from '../../src/core/sift/sift.ts';
import type { Annotated } from '../meetings.ts';
import { likeness, pairUp } from '../score.ts';
import { type Choice, type Example, fitChoice, fitLogistic } from './logistic.ts';

/** A meeting while it is learned from: what each stage made of it without having seen its series. */
interface Case {
  meeting: Annotated;
  reading: Reading;
  features: Features[];
  labels: Record<Nature, Uint8Array>;
  /** items of gold by nature, as sets of units */
  items: Record<'action' | 'decision' | 'question', Set<number>[]>;
  natures: Natures;
}

export type CloseAnswers = ReadonlyMap<string, CloseReading>;

const GROUPED = ['action', 'decision', 'question'] as const;
const GOLD = { action: 'commitments', decision: 'decisions', question: 'questions' } as const;
const INNER = 4;

/**
 * Learns every stage from annotated meetings, one after the other; a stage learns from what the stages before it say
 * of meetings whose series they have not seen, since that is what it will be given later.
 */
export function learn(meetings: readonly Annotated[], close: CloseAnswers | null): SiftModels {
  const cases = meetings.map((m) => openCase(m, close?.get(m.name) ?? null));
  const vocabulary = pickVocabulary(cases);
  const known = new Set(vocabulary);
  for (const c of cases) c.features = unitFeatures(c.reading, known);

  const first = {} as Record<Nature, LinearModel>;
  const second = {} as Record<Nature, LinearModel>;
  const firstOut = new Map(cases.map((c) => [c, {} as Record<Nature, Float64Array>]));
  const fitFirst = (some: readonly Case[], n: Nature) =>
    fitLogistic(
      some.flatMap((c) => c.features.map((x, i): Example => ({ x, y: c.labels[n][i] as 0 | 1 }))),
      { l2: 2e-3, epochs: 10, least: 4 },
    );
  for (const n of NATURES) {
    first[n] = fitFirst(cases, n);
    forEachFold(cases, (train, held) => {
      const model = fitFirst(train, n);
      for (const c of held) firstOut.get(c)![n] = Float64Array.from(c.features, (f) => logOdds(model, f));
    });
  }
  const seconds = new Map(cases.map((c) => [c, c.features.map((_, i) => secondFeatures(c.reading, firstOut.get(c)!, i))]));
  const fitSecond = (some: readonly Case[], n: Nature) =>
    fitLogistic(
      some.flatMap((c) => seconds.get(c)!.map((x, i): Example => ({ x, y: c.labels[n][i] as 0 | 1 }))),
      { l2: 1e-3, epochs: 10 },
    );
  for (const n of NATURES) {
    second[n] = fitSecond(cases, n);
    forEachFold(cases, (train, held) => {
      const model = fitSecond(train, n);
      for (const c of held) c.natures.odds[n] = Float64Array.from(seconds.get(c)!, (f) => logOdds(model, f));
    });
  }
  for (const c of cases) c.natures.features = c.features;

  const link = {} as SiftModels['link'];
  const least = {} as SiftModels['least'];
  for (const n of GROUPED) {
    least[n] = n === 'action' ? -0.6 : -1.1;
    link[n] = fitLogistic(
      cases.flatMap((c) => linkExamples(c, n, least[n])),
      { l2: 1e-3, epochs: 14 },
    );
  }
  const groups = Object.fromEntries(GROUPED.map((n) => [n, cases.map((c) => ({ c, groups: groupsOf(c, n, link[n], least[n]) }))])) as Record<'action' | 'decision' | 'question', { c: Case; groups: Groups }[]>;
  const clause = {} as SiftModels['clause'];
  for (const n of ['decision', 'question'] as const)
    clause[n] = fitLogistic(
      groups[n].flatMap((g) => clauseExamples(g.c, n, g.groups)),
      { l2: 2e-3 },
    );
  const keyword = {} as SiftModels['keyword'];
  for (const n of GROUPED)
    keyword[n] = fitLogistic(
      groups[n].flatMap((g) => keywordExamples(g.c, n, g.groups, n === 'action' ? null : clause[n])),
      { l2: 1e-3, epochs: 12, least: 4 },
    );
  const owner = learnOwner(groups.action, keyword.action);
  const due = fitChoice(
    groups.action.flatMap((g) => dueChoices(g.c, g.groups, keyword.action)),
    { l2: 2e-3 },
  );
  const views = new Map(cases.map((c) => [c, viewOpen(c.reading)]));
  const judge = {} as SiftModels['judge'];
  const show = {} as SiftModels['show'];
  for (const n of GROUPED) {
    const sets = cases.map((c) => {
      const groups = groupUnits(c.reading, c.natures.odds[n], link[n], least[n]);
      const drafts = groups.map((g) => draftOf(c.reading, c.natures, views.get(c)!, { owner, due, clause, keyword }, g, n));
      const gold = c.meeting.gold[GOLD[n]];
      const given = drafts.map((d) => ({ text: d.text, evidence: d.group.units.map((i) => c.reading.units[i]!.segment), owner: d.owner.people }));
      const right = new Set(pairUp(given, gold).map(([i]) => i));
      return { c, wanted: gold.length, drafts: drafts.map((d, i) => ({ d, y: (right.has(i) ? 1 : 0) as 0 | 1, x: judgeFeatures(c.reading, c.natures, d, drafts) })) };
    });
    judge[n] = fitLogistic(
      sets.flatMap((s) => s.drafts),
      { l2: 4e-3, epochs: 12 },
    );
    const held: { p: number; y: 0 | 1 }[] = [];
    forEachFold(
      sets.map((s) => s.c),
      (_train, heldCases) => {
        const mine = new Set(heldCases);
        const model = fitLogistic(
          sets.filter((s) => !mine.has(s.c)).flatMap((s) => s.drafts),
          { l2: 4e-3, epochs: 12 },
        );
        for (const s of sets) if (mine.has(s.c)) for (const d of s.drafts) held.push({ p: probability(logOdds(model, d.x)), y: d.y });
      },
    );
    show[n] = bestCut(
      held,
      sets.reduce((sum, s) => sum + s.wanted, 0),
    );
  }

  const aboutSets = new Map(cases.map((c) => [c, aboutExamples(c)]));
  const about = fitLogistic([...aboutSets.values()].flat(), { l2: 1e-3, epochs: 8 });
  const newDate = fitLogistic(
    cases.flatMap((c) => newDateExamples(c, about)),
    { l2: 5e-3, least: 4 },
  );
  const kindSets = new Map(cases.map((c) => [c, kindExamples(c, { newDate }, about)]));
  const fitKinds = (some: readonly { x: Features; kind: UpdateKind }[]) =>
    Object.fromEntries(
      UPDATE_KINDS.map((k) => [
        k,
        fitLogistic(
          some.map((s): Example => ({ x: s.x, y: s.kind === k ? 1 : 0 })),
          { l2: 6e-3, epochs: 14 },
        ),
      ]),
    ) as SiftModels['kind'];
  const kind = fitKinds([...kindSets.values()].flat());
  const updates: { p: number; y: 0 | 1 }[] = [];
  let wanted = 0;
  forEachFold(cases, (train, held) => {
    const model = fitLogistic(
      train.flatMap((c) => aboutSets.get(c)!),
      { l2: 1e-3, epochs: 8 },
    );
    for (const c of held) {
      wanted += c.meeting.gold.updates.length;
      const index = stemIndex(c.reading);
      for (const view of viewOpen(c.reading)) {
        const { places, sure } = placesAbout(c.reading, c.natures, view, index, model, 0.3);
        if (places.length) updates.push({ p: sure, y: c.meeting.gold.updates.some((u) => u.open === view.open.id) ? 1 : 0 });
      }
    }
  });
  const showUpdates = bestCut(updates, wanted);
  return { natures: { vocabulary, first, second }, link, judge, clause, keyword, owner, due, newDate, about, kind, least, show: { ...show, update: showUpdates } };
}

/** The probability from which to show, so that F1 is highest; a little lower, since a miss costs a reader more than a pass. */
function bestCut(scored: readonly { p: number; y: 0 | 1 }[], wanted: number): number {
  let best = 0;
  let cut = 0.5;
  for (let t = 0.1; t < 0.8; t += 0.02) {
    let right = 0;
    let given = 0;
    for (const s of scored) {
      if (s.p < t) continue;
      given++;
      right += s.y;
    }
    const f = (2 * right) / Math.max(1, given + wanted);
    if (f > best + 0.001) {
      best = f;
      cut = t;
    }
  }
  return Math.round(cut * 100) / 100;
}

function openCase(meeting: Annotated, close: CloseReading | null): Case {
  const reading = readUnits(meeting.input, close);
  const n = reading.units.length;
  const labels = Object.fromEntries(NATURES.map((k) => [k, new Uint8Array(n)])) as Case['labels'];
  const items = { action: [] as Set<number>[], decision: [] as Set<number>[], question: [] as Set<number>[] };
  for (const k of GROUPED) {
    for (const item of meeting.gold[GOLD[k]]) {
      const units = unitsFor(reading, item.evidence, `${item.text} ${(item as { duePhrase?: string }).duePhrase ?? ''}`);
      items[k].push(units);
      for (const u of units) labels[k][u] = 1;
    }
  }
  for (const u of meeting.gold.updates) {
    const text = meeting.input.open.find((o) => o.id === u.open)?.text ?? '';
    for (const i of unitsFor(reading, u.evidence, text)) labels.update[i] = 1;
  }
  return { meeting, reading, features: [], labels, items, natures: { features: [], odds: Object.fromEntries(NATURES.map((k) => [k, new Float64Array(n)])) as Natures['odds'] } };
}

/** Units of segments; of a segment cut into sentences only those that the words fit best. */
function unitsFor(reading: Reading, segments: readonly number[], words: string): Set<number> {
  const wanted = new Set(
    words
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu)
      ?.filter((w) => !isEmptyWord(w))
      .map((w) => w.slice(0, 5)) ?? [],
  );
  const out = new Set<number>();
  for (const s of segments) {
    const units = reading.units.filter((u) => u.segment === s);
    if (units.length <= 1) {
      for (const u of units) out.add(u.index);
      continue;
    }
    const scored = units.map((u) => ({ u, n: [...new Set(u.words.map((w) => w.slice(0, 5)))].filter((w) => wanted.has(w)).length }));
    const best = Math.max(...scored.map((x) => x.n));
    const top = scored.filter((x) => x.n === best && best > 0);
    for (const x of top.length ? top : scored.slice(0, 1)) out.add(x.u.index);
  }
  return out;
}

/** Words and pairs of words that stand in at least four series and are nobody's name, the most frequent first. */
function pickVocabulary(cases: readonly Case[]): string[] {
  const series = new Map<string, Set<string>>();
  const names = new Set(cases.flatMap((c) => c.meeting.input.people.flatMap((p) => [p.name, ...p.aliases].join(' ').toLowerCase().split(/\s+/))));
  const see = (word: string, s: string) => {
    const set = series.get(word) ?? new Set();
    set.add(s);
    series.set(word, set);
  };
  for (const c of cases) {
    for (const u of c.reading.units) {
      u.words.forEach((w, k) => {
        if (names.has(w)) return;
        see(w, c.meeting.series);
        if (k > 0 && !names.has(u.words[k - 1]!)) see(`${u.words[k - 1]} ${w}`, c.meeting.series);
      });
      if (!names.has(u.words[0] ?? '')) see(`^${u.words.slice(0, 2).join(' ')}`, c.meeting.series);
    }
  }
  const total = new Set(cases.map((c) => c.meeting.series)).size;
  return [...series]
    .filter(([w, s]) => s.size >= Math.max(3, Math.round(total * (w.includes(' ') ? 0.34 : 0.4))))
    .map(([w]) => w)
    .sort();
}

function forEachFold(cases: readonly Case[], run: (train: Case[], held: Case[]) => void): void {
  const series = [...new Set(cases.map((c) => c.meeting.series))].sort();
  for (let k = 0; k < INNER; k++) {
    const out = new Set(series.filter((_, i) => i % INNER === k));
    const held = cases.filter((c) => out.has(c.meeting.series));
    if (held.length)
      run(
        cases.filter((c) => !out.has(c.meeting.series)),
        held,
      );
  }
}

function linkExamples(c: Case, n: 'action' | 'decision' | 'question', least: number): Example[] {
  const odds = c.natures.odds[n];
  const labelled = c.reading.units.map((u) => u.index).filter((i) => c.labels[n][i]);
  const out: Example[] = [];
  for (let x = 0; x < labelled.length; x++) {
    for (let y = x + 1; y < labelled.length; y++) {
      const [a, b] = [labelled[x]!, labelled[y]!];
      const same = c.items[n].some((s) => s.has(a) && s.has(b));
      const both = odds[a]! >= least && odds[b]! >= least;
      out.push({ x: linkFeatures(c.reading, odds, a, b), y: same ? 1 : 0, weight: both ? 1 : 0.4 });
    }
  }
  return out;
}

function goldGroup(units: Set<number>, odds: Float64Array, others: ReadonlySet<number> = new Set()): Group {
  const list = [...units].sort((a, b) => a - b);
  return { units: list, others, core: list.reduce((a, b) => (odds[b]! > odds[a]! ? b : a)) };
}

/**
 * Groups to learn from, each with the number of its item: the places as the reader marked them, those of them that would
 * be found, and the groups that the stages before really make of the record.
 */
function groupsOf(c: Case, n: 'action' | 'decision' | 'question', link: LinearModel, least: number): { group: Group; item: number }[] {
  const odds = c.natures.odds[n];
  const out: { group: Group; item: number }[] = [];
  c.items[n].forEach((units, item) => {
    if (units.size === 0) return;
    const others = new Set(c.items[n].flatMap((set, k) => (k === item ? [] : [...set])).filter((i) => !units.has(i) && odds[i]! >= least));
    out.push({ group: goldGroup(units, odds, others), item });
    const found = new Set([...units].filter((i) => odds[i]! >= least));
    if (found.size && found.size < units.size) out.push({ group: goldGroup(found, odds, others), item });
  });
  for (const group of groupUnits(c.reading, odds, link, least)) {
    const shared = c.items[n].map((units) => group.units.filter((i) => units.has(i)).length);
    const most = Math.max(0, ...shared);
    if (most > 0 && most * 2 >= group.units.length) out.push({ group, item: shared.indexOf(most) });
  }
  return out;
}

export type Groups = ReturnType<typeof groupsOf>;

/** A clause is right when its words are near those of the reader's; more so the nearer. */
function clauseExamples(c: Case, n: 'decision' | 'question', groups: Groups): Example[] {
  const odds = c.natures.odds[n];
  return groups.flatMap(({ group, item }) => {
    const wanted = c.meeting.gold[GOLD[n]][item]!.text;
    const all = clausesOf(c.reading, group);
    return all.map((x): Example => {
      const near = likeness(x.text, wanted);
      return { x: clauseFeatures(c.reading, odds, group, x, all), y: near >= 0.24 ? 1 : 0, weight: 0.5 + 2 * Math.abs(near - 0.24) };
    });
  });
}

function keywordExamples(c: Case, n: 'action' | 'decision' | 'question', groups: Groups, clause: LinearModel | null): Example[] {
  const odds = c.natures.odds[n];
  return groups.flatMap(({ group, item }) => {
    const wanted = new Set(contentStems(wordsOf(c.meeting.gold[GOLD[n]][item]!.text)));
    const sentences = clause ? bestByUnit(rankClauses(c.reading, odds, group, clause)) : null;
    const context = { odds, group, sentences };
    return keywordsOf(c.reading, group).map((k): Example => ({ x: keywordFeatures(c.reading, k, context), y: wanted.has(k.stem) ? 1 : 0 }));
  });
}

export function learnOwner(sets: readonly { c: Pick<Case, 'reading' | 'meeting' | 'natures'>; groups: Groups }[], keyword: LinearModel): OwnerModel {
  const choices: Choice[] = [];
  const partners: Example[] = [];
  for (const { c, groups } of sets) {
    for (const { group, item } of groups) {
      const gold = c.meeting.gold.commitments[item]!.owner;
      const candidates = ownerCandidates(c.reading, group);
      const naming = namingOf(rankKeywords(c.reading, { odds: c.natures.odds.action, group, sentences: null }, keyword));
      const found = candidates.filter((p) => gold.includes(p));
      if (gold.length && found.length === 0) continue;
      choices.push({ options: [nobodyFeatures(c.reading, group), ...candidates.map((p) => ownerFeatures(c.reading, group, p, naming))], right: [gold.length ? 0 : 1, ...candidates.map((p) => (gold.includes(p) ? 1 / found.length : 0))] });
      for (const owner of found) for (const p of candidates) if (p !== owner) partners.push({ x: partnerFeatures(c.reading, group, owner, p, naming), y: gold.includes(p) ? 1 : 0 });
    }
  }
  return { choice: fitChoice(choices, { l2: 2e-3 }), partner: fitLogistic(partners, { l2: 4e-3 }) };
}

export function dueChoices(c: Pick<Case, 'reading' | 'meeting' | 'natures'>, groups: Groups, keyword: LinearModel): Choice[] {
  return groups.flatMap(({ group, item }) => {
    const gold = c.meeting.gold.commitments[item]!;
    const all = dueCandidates(c.reading, group);
    const right = all.filter((d) => d.date === gold.due && gold.due);
    if (gold.due && right.length === 0) return [];
    const naming = namingOf(rankKeywords(c.reading, { odds: c.natures.odds.action, group, sentences: null }, keyword));
    const options = [undatedFeatures(c.reading, group, all), ...all.map((d) => dueFeatures(c.reading, c.natures.odds.action, group, d, all, gold.owner, naming))];
    return [{ options, right: [gold.due ? 0 : 1, ...all.map((d) => (right.includes(d) ? 1 / right.length : 0))] }];
  });
}

function aboutExamples(c: Case): Example[] {
  const index = stemIndex(c.reading);
  return viewOpen(c.reading).flatMap((view) => {
    const update = c.meeting.gold.updates.find((u) => u.open === view.open.id);
    const truth = update ? unitsFor(c.reading, update.evidence, view.open.text) : new Set<number>();
    const places = new Set([...placesFor(c.reading, c.natures, view, index), ...truth]);
    return [...places].map((i): Example => ({ x: aboutFeatures(c.reading, c.natures, view, i), y: truth.has(i) ? 1 : 0 }));
  });
}

/** Where each open commitment that is spoken of is spoken of: as a reader marked it, and as it would be found. */
function newsOf(c: Case, about: LinearModel): { view: OpenView; update: Annotated['gold']['updates'][number]; group: Group }[] {
  const index = stemIndex(c.reading);
  return viewOpen(c.reading).flatMap((view) => {
    const update = c.meeting.gold.updates.find((u) => u.open === view.open.id);
    if (!update) return [];
    const marked = [...unitsFor(c.reading, update.evidence, view.open.text)];
    const found = placesAbout(c.reading, c.natures, view, index, about, 0.3).places;
    return [marked, found].filter((p) => p.length).map((p) => ({ view, update, group: goldGroup(new Set(p), c.natures.odds.update) }));
  });
}

function newDateExamples(c: Case, about: LinearModel): Example[] {
  return newsOf(c, about).flatMap(({ view, update, group }) => {
    const all = newDateCandidates(c.reading, group, view);
    return all.filter((d) => d.date && d.date >= c.meeting.input.meeting.date && d.date !== view.open.due).map((d): Example => ({ x: newDateFeatures(c.reading, c.natures, group, view, d, all), y: update.due && d.date === update.due ? 1 : 0 }));
  });
}

/** News by kind. */
function kindExamples(c: Case, models: Pick<SiftModels, 'newDate'>, about: LinearModel): { x: Features; kind: UpdateKind }[] {
  return newsOf(c, about).map(({ view, update, group }) => {
    const due = newDue(c.reading, c.natures, group, view, models);
    return { x: kindFeatures(c.reading, view, group.units, due.due ? due.sure : 0), kind: update.kind as UpdateKind };
  });
}
