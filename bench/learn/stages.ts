import { contentStems, isEmptyWord, wordsOf } from '../../src/core/language/words.ts';
import { bestByUnit, clauseFeatures, clausesOf, rankClauses } from '../../src/core/sift/clauses.ts';
import { dueCandidates, dueFeatures, undatedFeatures } from '../../src/core/sift/due.ts';
import { unitFeatures } from '../../src/core/sift/features.ts';
import { UPDATE_KINDS } from '../../src/core/sift/find.ts';
import { raiseByForm } from '../../src/core/sift/forms.ts';
import { groupUnits } from '../../src/core/sift/group.ts';
import { keywordFeatures, keywordsOf, namingOf, rankKeywords } from '../../src/core/sift/keywords.ts';
import { type Features, type LinearModel, logOdds, probability } from '../../src/core/sift/linear.ts';
import { linkFeatures } from '../../src/core/sift/link.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import { secondFeatures } from '../../src/core/sift/natures.ts';
import { kindOptions, newDateCandidates, newDateOptions, newDue, newsFeatures } from '../../src/core/sift/news.ts';
import { nobodyFeatures, type OwnerModel, ownerCandidates, ownerFeatures, partnerFeatures } from '../../src/core/sift/owner.ts';
import { namedBy, phraseFeatures, phrasesOf } from '../../src/core/sift/phrase.ts';
import { type CloseReading, type Reading, readUnits } from '../../src/core/sift/reading.ts';
import { aboutFeatures, type OpenView, oldMatter, placesFor, type Spoken, spokenOf, stemIndex, viewOpen } from '../../src/core/sift/reconcile.ts';
import { type Group, NATURES, type Nature, type Natures } from '../../src/core/sift/shapes.ts';
import { draftsOf, judgeFeatures } from '../../src/core/sift/sift.ts';
import { inOneLine, withoutOwners } from '../../src/core/sift/wording.ts';
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
  items: Record<Matter, Set<number>[]>;
  natures: Natures;
}

export type CloseAnswers = ReadonlyMap<string, CloseReading>;

const GROUPED = ['action', 'decision', 'question'] as const;
const GOLD = { action: 'commitments', decision: 'decisions', question: 'questions' } as const;
const INNER = 4;
/** Log-odds from which a unit is considered for a matter: low, since the judge sees the whole matter later. */
const LEAST = { action: -0.6, decision: -1.1, question: -1.1 };
type Matter = (typeof GROUPED)[number];

/**
 * Learns every stage from annotated meetings, one after the other; a stage learns from what the stages before it say
 * of meetings whose series they have not seen, since that is what it will be given later.
 */
export function learn(meetings: readonly Annotated[], close: CloseAnswers | null): SiftModels {
  const cases = meetings.map((m) => openCase(m, close?.get(m.name) ?? null));
  const vocabulary = pickVocabulary(cases);
  const known = new Set(vocabulary);
  for (const c of cases) c.features = unitFeatures(c.reading, known);

  const first = byNature((n) =>
    outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => c.features.map((x, i): Example => ({ x, y: c.labels[n][i] as 0 | 1 }))),
        { l2: 2e-3, epochs: 10, least: 4 },
      ),
    ),
  );
  const seconds = new Map(
    cases.map((c) => {
      const odds = byNature((n) => Float64Array.from(c.features, (f) => logOdds(first[n].for(c), f)));
      return [c, c.features.map((_, i) => secondFeatures(c.reading, odds, i))];
    }),
  );
  const second = byNature((n) =>
    outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => seconds.get(c)!.map((x, i): Example => ({ x, y: c.labels[n][i] as 0 | 1 }))),
        { l2: 1e-3, epochs: 10 },
      ),
    ),
  );
  for (const c of cases) c.natures = { features: c.features, odds: byNature((n) => Float64Array.from(seconds.get(c)!, (f) => logOdds(second[n].for(c), f))) };
  for (const c of cases) raiseByForm(c.reading.units, c.natures.odds);

  const link = byMatter((n) =>
    outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => linkExamples(c, n, LEAST[n])),
        { l2: 1e-3, epochs: 14 },
      ),
    ),
  );
  const groups = byMatter((n) => new Map(cases.map((c) => [c, groupsOf(c, n, link[n].for(c), LEAST[n])])));
  const clauseOf = (n: 'decision' | 'question') =>
    outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => clauseExamples(c, n, groups[n].get(c)!)),
        { l2: 2e-3 },
      ),
    );
  const clause = { decision: clauseOf('decision'), question: clauseOf('question') };
  const keyword = byMatter((n) =>
    outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => keywordExamples(c, n, groups[n].get(c)!, n === 'action' ? null : clause[n].for(c))),
        { l2: 1e-3, epochs: 12, least: 4 },
      ),
    ),
  );
  const phrase = outOfFold(cases, (some) =>
    fitChoice(
      some.flatMap((c) => phraseChoices(c, groups.action.get(c)!, keyword.action.for(c))),
      { l2: 2e-3 },
    ),
  );
  const owner = outOfFold(cases, (some) => learnOwner(some.map((c) => ({ c, groups: groups.action.get(c)!, keyword: keyword.action.for(c) }))));
  const due = outOfFold(cases, (some) =>
    fitChoice(
      some.flatMap((c) => dueChoices(c, groups.action.get(c)!, keyword.action.for(c))),
      { l2: 2e-3 },
    ),
  );
  const aboutSets = new Map(cases.map((c) => [c, aboutExamples(c)]));
  const about = outOfFold(cases, (some) =>
    fitLogistic(
      some.flatMap((c) => aboutSets.get(c)!),
      { l2: 1e-3, epochs: 8 },
    ),
  );

  const spoken = new Map(cases.map((c) => [c, spokenOf(c.reading, c.natures, about.for(c))]));
  const old = new Map(cases.map((c) => [c, oldMatter(spoken.get(c)!)]));

  const show = {} as SiftModels['show'];
  const judge = byMatter((n) => {
    const sets = cases.map((c) => {
      const models = { phrase: phrase.for(c), owner: owner.for(c), due: due.for(c), clause: { decision: clause.decision.for(c), question: clause.question.for(c) }, keyword: byMatter((k) => keyword[k].for(c)), link: byMatter((k) => link[k].for(c)), least: LEAST };
      const drafts = draftsOf(c.reading, c.natures, models, n);
      const gold = c.meeting.gold[GOLD[n]];
      const given = drafts.map((d) => ({ text: inOneLine(d.wording()), evidence: d.group.units.map((i) => c.reading.units[i]!.segment), owner: d.owner.people }));
      const right = new Set(pairUp(given, gold).map(([i]) => i));
      return { c, examples: drafts.map((d, i): Example => ({ y: right.has(i) ? 1 : 0, x: judgeFeatures(c.reading, c.natures, d, drafts, old.get(c)!) })) };
    });
    const examples = new Map(sets.map((s) => [s.c, s.examples]));
    const model = outOfFold(cases, (some) =>
      fitLogistic(
        some.flatMap((c) => examples.get(c)!),
        { l2: 4e-3, epochs: 12 },
      ),
    );
    show[n] = bestCut(
      sets.flatMap((s) => s.examples.map((e) => ({ p: probability(logOdds(model.for(s.c), e.x)), y: e.y }))),
      cases.reduce((sum, c) => sum + c.meeting.gold[GOLD[n]].length, 0),
      close !== null,
    );
    return model.all;
  });

  const news = new Map(cases.map((c) => [c, newsOf(c, spoken.get(c)!)]));
  // in a rehearsal nearly everything that was open is done, more than in life
  const lived = (some: readonly Case[]) => (some.every((c) => c.meeting.rehearsal) ? some : some.filter((c) => !c.meeting.rehearsal));
  const newDate = outOfFold(cases, (some) =>
    fitChoice(
      lived(some).flatMap((c) => news.get(c)!.flatMap(newDateChoice)),
      { l2: 5e-3 },
    ),
  );
  const kind = fitChoice(
    lived(cases).flatMap((c) => news.get(c)!.map((n): Choice => ({ options: kindOptions(n.features, newDue(c.reading, c.natures, n.group, n.view, n.features, newDate.for(c)).sure), right: UPDATE_KINDS.map((k) => (k === n.update.kind ? 1 : 0)) }))),
    { l2: 5e-3 },
  );
  show.update = bestCut(
    cases.flatMap((c) => spoken.get(c)!.map(({ view, sure }) => ({ p: sure, y: (c.meeting.gold.updates.some((u) => u.open === view.open.id) ? 1 : 0) as 0 | 1 }))),
    cases.reduce((sum, c) => sum + c.meeting.gold.updates.length, 0),
    close !== null,
  );
  return {
    natures: { vocabulary, first: byNature((n) => first[n].all), second: byNature((n) => second[n].all) },
    link: byMatter((n) => link[n].all),
    judge,
    clause: { decision: clause.decision.all, question: clause.question.all },
    keyword: byMatter((n) => keyword[n].all),
    phrase: phrase.all,
    owner: owner.all,
    due: due.all,
    newDate: newDate.all,
    about: about.all,
    kind,
    least: LEAST,
    show,
  };
}

/** A model learned from all cases, and for each case one that has not seen its series. */
interface OutOfFold<M> {
  all: M;
  for(c: Case): M;
}

/**
 * Fits on all cases, and once more for every fold without it. What a stage says of a case is always taken from the
 * model that has not seen the case's series: that is what the next stage will be given later.
 */
function outOfFold<M>(cases: readonly Case[], learnFrom: (some: readonly Case[]) => M): OutOfFold<M> {
  const unseen = new Map<Case, M>();
  const series = [...new Set(cases.map((c) => c.meeting.series))].sort();
  for (let k = 0; k < INNER; k++) {
    const out = new Set(series.filter((_, i) => i % INNER === k));
    const held = cases.filter((c) => out.has(c.meeting.series));
    if (held.length === 0) continue;
    const model = learnFrom(cases.filter((c) => !out.has(c.meeting.series)));
    for (const c of held) unseen.set(c, model);
  }
  return { all: learnFrom(cases), for: (c) => unseen.get(c)! };
}

function byNature<T>(make: (n: Nature) => T): Record<Nature, T> {
  return Object.fromEntries(NATURES.map((n) => [n, make(n)])) as Record<Nature, T>;
}

function byMatter<T>(make: (n: Matter) => T): Record<Matter, T> {
  return Object.fromEntries(GROUPED.map((n) => [n, make(n)])) as Record<Matter, T>;
}

/** F1 of cuts this near to each other is a matter of chance. */
const AS_GOOD = 0.006;

/**
 * The probability from which to show, of the cuts whose F1 is as good as the best: the middle one for the quick reader, whose
 * finds are looked at again, and the highest for the close reader, which has the last word and whose wrong finds cost trust.
 */
function bestCut(scored: readonly { p: number; y: 0 | 1 }[], wanted: number, last: boolean): number {
  const cuts = Array.from({ length: 35 }, (_, k) => 0.1 + 0.02 * k).map((cut) => {
    const given = scored.filter((s) => s.p >= cut);
    return { cut, f1: (2 * given.filter((s) => s.y).length) / Math.max(1, given.length + wanted) };
  });
  const best = Math.max(...cuts.map((c) => c.f1));
  const good = cuts.filter((c) => c.f1 >= best - AS_GOOD);
  return Math.round(good[last ? good.length - 1 : Math.floor((good.length - 1) / 2)]!.cut * 100) / 100;
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

function linkExamples(c: Case, n: Matter, least: number): Example[] {
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
function groupsOf(c: Case, n: Matter, link: LinearModel, least: number): { group: Group; item: number }[] {
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

function keywordExamples(c: Case, n: Matter, groups: Groups, clause: LinearModel | null): Example[] {
  const odds = c.natures.odds[n];
  return groups.flatMap(({ group, item }) => {
    const wanted = new Set(contentStems(wordsOf(c.meeting.gold[GOLD[n]][item]!.text)));
    const sentences = clause ? bestByUnit(rankClauses(c.reading, odds, group, clause)) : null;
    const context = { odds, group, sentences };
    return keywordsOf(c.reading, group).map((k): Example => ({ x: keywordFeatures(c.reading, k, context), y: wanted.has(k.stem) ? 1 : 0 }));
  });
}

/** How sharply a phrase must be the one whose words are nearest to the reader's. */
const SHARP = 12;
/** A job that no phrase is as near to as this teaches nothing about phrases. */
const NEAR_ENOUGH = 0.3;

/** Of the phrases a job may be called by, those are right whose words are nearest to the reader's. */
function phraseChoices(c: Case, groups: Groups, keyword: LinearModel): Choice[] {
  const odds = c.natures.odds.action;
  return groups.flatMap(({ group, item }) => {
    const { text, owner } = c.meeting.gold.commitments[item]!;
    const ranked = withoutOwners(c.reading, rankKeywords(c.reading, { odds, group, sentences: null }, keyword), owner);
    const phrases = phrasesOf(c.reading, ranked);
    const near = phrases.map((p) => likeness(p.text, text));
    const most = Math.max(0, ...near);
    if (most < NEAR_ENOUGH) return [];
    const weights = near.map((x) => Math.exp(SHARP * (x - most)));
    const sum = weights.reduce((s, x) => s + x, 0);
    const named = namedBy(ranked);
    return [{ options: phrases.map((p) => phraseFeatures(c.reading, odds, group, p, named)), right: weights.map((x) => x / sum) }];
  });
}

export function learnOwner(sets: readonly { c: Pick<Case, 'reading' | 'meeting' | 'natures'>; groups: Groups; keyword: LinearModel }[]): OwnerModel {
  const choices: Choice[] = [];
  const partners: Example[] = [];
  for (const { c, groups, keyword } of sets) {
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
  return { choice: fitChoice(choices, { l2: 2e-2 }), partner: fitLogistic(partners, { l2: 4e-3 }) };
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

interface News {
  c: Case;
  view: OpenView;
  update: Annotated['gold']['updates'][number];
  group: Group;
  features: Features;
}

/** News of the open commitments that are spoken of: where a reader marked it, and where it would be found. */
function newsOf(c: Case, spoken: readonly Spoken[]): News[] {
  return viewOpen(c.reading).flatMap((view) => {
    const update = c.meeting.gold.updates.find((u) => u.open === view.open.id);
    if (!update) return [];
    const marked = [...unitsFor(c.reading, update.evidence, view.open.text)];
    const found = spoken.find((s) => s.view === view)?.places ?? [];
    return [marked, found].filter((p) => p.length).map((p): News => ({ c, view, update, group: goldGroup(new Set(p), c.natures.odds.update), features: newsFeatures(c.reading, view, p) }));
  });
}

/** A commitment that was moved to a date nobody would find teaches nothing about dates. */
function newDateChoice({ c, view, update, group, features }: News): Choice[] {
  const all = newDateCandidates(c.reading, group, view);
  const right = all.filter((d) => update.due && d.date === update.due);
  if (all.length === 0 || (update.kind === 'moved' && right.length === 0)) return [];
  return [{ options: newDateOptions(c.reading, c.natures, group, view, all, features), right: [right.length ? 0 : 1, ...all.map((d) => (right.includes(d) ? 1 / right.length : 0))] }];
}
