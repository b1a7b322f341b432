import { addWhen } from './close/settled.ts';
import { type DueCandidate, type DueChoice, dueCandidates, dueFeatures } from './due.ts';
import { UPDATE_KINDS, type UpdateKind } from './find.ts';
import { type Features, keyed, type LinearModel, logOdds, softmax, steps } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';
import { type OpenView, viewOpen } from './reconcile.ts';
import type { Group, Natures } from './shapes.ts';

/** Units after a place in which its news is still being told, in talk: the excuse, the new day, the answer. */
const TOLD_WITHIN = 9;

/**
 * The places and what is said right after each of them, until somebody goes on to something else
 * or speaks of another open commitment. In notes a line stands for itself.
 */
export function newsWindow(reading: Reading, view: OpenView, places: readonly number[]): number[] {
  const out = new Set(places);
  for (const i of places) {
    const first = reading.units[i]!;
    if (!first.spoken) {
      if (reading.units[i + 1]?.segment === first.segment) out.add(i + 1);
      continue;
    }
    for (let j = i + 1; j <= i + TOLD_WITHIN; j++) {
      const u = reading.units[j];
      if (!u || (j > i + 1 && goesOn(u)) || (!out.has(j) && speaksOfAnother(reading, view, u))) break;
      out.add(j);
    }
  }
  return [...out].sort((a, b) => a - b);
}

/** A unit that plainly has more to do with another open commitment: two of its words and its holder's voice, or three words. */
function speaksOfAnother(reading: Reading, view: OpenView, u: ReadUnit): boolean {
  const voice = (v: OpenView) => (u.speaker !== null && v.open.owner.includes(u.speaker) ? 0.5 : 0);
  const shared = sharedWithOpen(reading, u);
  const own = (shared.get(view) ?? 0) + voice(view);
  for (const [v, n] of shared) if (v !== view && n + voice(v) >= 2.5 && n + voice(v) > own) return true;
  return false;
}

const shares = new WeakMap<ReadUnit, Map<OpenView, number>>();
const holders = new WeakMap<Reading, Map<string, OpenView[]>>();

/** How many stems a unit shares with each open commitment that has any of them. */
function sharedWithOpen(reading: Reading, u: ReadUnit): Map<OpenView, number> {
  let counts = shares.get(u);
  if (counts) return counts;
  let index = holders.get(reading);
  if (!index) {
    index = new Map();
    for (const v of viewOpen(reading)) for (const s of v.stems) index.set(s, [...(index.get(s) ?? []), v]);
    holders.set(reading, index);
  }
  counts = new Map();
  for (const s of u.stems) for (const v of index.get(s) ?? []) counts.set(v, (counts.get(v) ?? 0) + 1);
  shares.set(u, counts);
  return counts;
}

function goesOn(u: ReadUnit): boolean {
  return (u.cues.has('next-topic') && u.words.length > 1) || (u.cues.has('late') && u.mentions.length > 0);
}

/** What news sounds like, each sign with the words that show it. None decides anything by itself. */
const SIGNS: readonly [name: string, words: RegExp][] = [
  ['negated', /\b(?:not|no|never|nothing|nobody|none|without|cannot|(?:has|have|had|is|was|are|were|did|does|do|could|can|wo|would|should)n['’]?t|hasnt|havent|isnt|wasnt|didnt|cant|wont)\b/i],
  ['more-time', /\b(?:more time|another (?:week|day|month|fortnight)|a (?:week|day|bit|month) (?:more|longer|later)|call it|make (?:it|that)|give me|until|till|can i have|could i have|can we have|instead|rather than|won['’]?t make|slip\w*|push\w*|moved?|postpone\w*|delay\w*|later)\b/i],
  ['excuse', /\b(?:sorry|confess|afraid|unfortunately|forgot\w*|i know|didn['’]?t|haven['’]?t|hasn['’]?t|wasn['’]?t|isn['’]?t|couldn['’]?t|not yet|half|still|only|stuck|missing|ill|sick|except|almost|nearly)\b/i],
  [
    'finished',
    /\b(?:done|sent|went (?:out|off|in|up)|finished|it['’]?s (?:in|up|out|there|done)|is (?:in|up|out|done)|signed|booked|paid|arrived|came|delivered|landed|got (?:it|them|him)|in the post|tick(?:ed)?|all (?:of it|there)|has (?:it|them)|have (?:it|them)|submitted|fixed|received|ready|did (?:it|that)|i did)\b/i,
  ],
  ['handed-over', /\b(?:take (?:it|that) over|i['’]?ll take|give it to me|give it here|hand(?:ed|s)? (?:it )?(?:over|to)|take[ns]? (?:it|that) off|with pleasure|taken on|now with|has it now|passes|swap)\b/i],
  ['unwanted', /\b(?:not needed|no longer|no need|drop(?:ped)?|off the list|forget|cancel\w*|obsolete|scrap\w*|overtaken|don['’]?t need|needn['’]?t|moot|strike|never mind|let it go|not doing)\b/i],
  ['waits', /\b(?:waiting|wait|stuck|blocked|held up|depends|on hold|can['’]?t (?:start|go|move|do)|until (?:he|she|they|we|the)|no (?:answer|reply|word)|hasn['’]?t (?:answered|replied|come|signed))\b/i],
  ['under-way', /\b(?:on track|as (?:planned|agreed)|under ?way|in progress|working on|going well|on course|still (?:stands|on|for)|stands|halfway|started|so far|coming along)\b/i],
];
const ASSENT = /^\W*(?:fine|good|ok|okay|perfect|deal|yes|yeah|great|then|so|right|all right|alright|that|works)\b/i;
const TAKES_OVER = /^\s*(?:will|to|is to|'ll|’ll|has|takes|took)/;
const CUES_OF_NEWS = ['done', 'slip', 'stuck', 'going', 'dropped', 'handed', 'late', 'past', 'will-verb', 'request', 'refuse', 'accept', 'put-off', 'i-can', 'leave-me', 'hypothetical', 'thanks'];

/** What is said where the news of a commitment is told. */
export function newsFeatures(reading: Reading, view: OpenView, places: readonly number[]): Features {
  const f: Features = new Map();
  const { open } = view;
  const today = reading.input.meeting.date;
  const inside = new Set(places);
  const window = newsWindow(reading, view, places).map((i) => reading.units[i]!);
  const holder = window.find((u) => u.speaker && open.owner.includes(u.speaker));
  if (holder) f.set('holder', 1);
  for (const [name, words] of SIGNS) {
    const hits = window.filter((u) => words.test(u.text));
    if (hits.length) f.set(name, 1);
    if (hits.some((u) => inside.has(u.index))) f.set(`${name}-inside`, 1);
    if (holder && words.test(holder.text)) f.set(`holder-${name}`, 1);
  }
  const dates = window.flatMap((u) => u.dates.map((d) => d.date));
  const ahead = window.filter((u) => u.dates.some((d) => d.date && d.date >= today && d.date !== open.due));
  f.set(ahead.length ? 'day-ahead' : 'no-day-ahead', 1);
  if (ahead.length > 1) f.set('days-ahead', 1);
  if (dates.some((d) => d && d < today)) f.set('day-past', 1);
  if (open.due && dates.includes(open.due)) f.set('its-date', 1);
  if (ahead.some((u) => ASSENT.test(reading.units[u.index + 1]?.text ?? ''))) f.set('day-accepted', 1);
  if (ahead.some((u) => u.text.includes('?'))) f.set('day-asked', 1);
  if (ahead.length && f.has('excuse')) f.set('day-and-excuse', 1);
  if (ahead.length && f.has('more-time')) f.set('day-and-more-time', 1);
  if (f.has('finished') && !f.has('negated')) f.set('plainly-finished', 1);
  if (f.has('finished') && !f.has('excuse') && !ahead.length) f.set('finished-and-no-more', 1);
  f.set(!open.due ? 'undated' : open.due < today ? 'overdue' : open.due === today ? 'due-today' : 'not-due', 1);
  for (const c of CUES_OF_NEWS) {
    if (window.some((u) => u.cues.has(c))) f.set(keyed('cue', c), 1);
    if (places.some((i) => reading.units[i]!.cues.has(c))) f.set(keyed('cue-inside', c), 1);
  }
  for (const u of window) {
    if (u.source.item?.box) f.set(`box:${u.source.item.box}`, 1);
    if (u.source.item?.struck) f.set('struck', 1);
    if (u.mentions.some((m) => !open.owner.includes(m.person) && TAKES_OVER.test(u.text.slice(m.to, m.to + 12)))) f.set('other-will', 1);
    if (u.speaker && !open.owner.includes(u.speaker) && u.cues.has('will-verb')) f.set('other-promises', 1);
  }
  f.set(reading.units[places[0]!]!.spoken ? 'spoken' : 'notes', 1);
  const rows = places.map((i) => reading.close?.about.get(open.id)?.get(i)).filter((r) => r !== undefined);
  if (rows.length) for (const [n, k] of UPDATE_KINDS.entries()) f.set(`close:${k}`, rows.reduce((s, r) => s + r[n + 1]!, 0) / rows.length);
  return f;
}

/** Date phrases where the news of a commitment is told that can be its new date: not gone by, and not the one it has. */
export function newDateCandidates(reading: Reading, group: Group, view: OpenView): DueCandidate[] {
  const window = newsWindow(reading, view, group.units);
  return dueCandidates(reading, { units: window, core: group.core }).filter((c) => window.includes(c.unit) && c.date && c.date >= reading.input.meeting.date && c.date !== view.open.due);
}

/** What speaks for the date staying as it is, and for each candidate being the new one; in that order. */
export function newDateOptions(reading: Reading, natures: Natures, group: Group, view: OpenView, candidates: readonly DueCandidate[], news: Features): Features[] {
  const stays: Features = new Map([['stays', 1]]);
  steps(stays, 'stays:days', new Set(candidates.map((c) => c.unit)).size, [1, 2, 3]);
  for (const [name, value] of news) stays.set(keyed('stays', name), value);
  addWhen(stays, reading, group, null);
  return [stays, ...candidates.map((c) => newDateFeatures(reading, natures, group, view, c, candidates))];
}

function newDateFeatures(reading: Reading, natures: Natures, group: Group, view: OpenView, c: DueCandidate, all: readonly DueCandidate[]): Features {
  const f = dueFeatures(reading, natures.odds.update, group, c, all, view.open.owner, view.naming);
  const u = reading.units[c.unit]!;
  const away = Math.min(...group.units.map((i) => (c.unit >= i ? c.unit - i : 9)));
  steps(f, 'away', away, [1, 2, 3, 5, 8]);
  if (u.speaker && view.open.owner.includes(u.speaker)) f.set('holder-says', 1);
  if (view.open.due && c.date) f.set(c.date > view.open.due ? 'later-than-old' : 'earlier-than-old', 1);
  if (view.open.due && view.open.due < reading.input.meeting.date) f.set('was-overdue', 1);
  for (const k of ['done', 'going', 'stuck', 'dropped', 'handed', 'late']) if (u.cues.has(k)) f.set(keyed('cue', k), 1);
  for (const [name, words] of SIGNS) if (words.test(u.text)) f.set(`sign:${name}`, 1);
  return f;
}

/**
 * The likeliest new date of a commitment.
 * @returns the date, or none where no date is named; `sure` is how likely it was moved at all
 */
export function newDue(reading: Reading, natures: Natures, group: Group, view: OpenView, news: Features, model: LinearModel): DueChoice {
  const all = newDateCandidates(reading, group, view);
  if (all.length === 0) return { due: null, candidate: null, sure: 0 };
  const p = softmax(newDateOptions(reading, natures, group, view, all, news).map((f) => logOdds(model, f)));
  const days = new Map<string, number>();
  for (const [k, c] of all.entries()) days.set(c.date!, (days.get(c.date!) ?? 0) + p[k + 1]!);
  const day = [...days].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  const best = all.map((c, k) => ({ c, p: p[k + 1]! })).reduce((a, b) => (b.c.date === day && (a.c.date !== day || b.p > a.p) ? b : a));
  return { due: day, candidate: best.c, sure: 1 - p[0]! };
}

/** What speaks for each kind of news, in the order of {@link UPDATE_KINDS}. */
export function kindOptions(news: Features, moved: number): Features[] {
  return UPDATE_KINDS.map((kind) => {
    const f: Features = new Map([[kind, 1]]);
    f.set(`${kind}:moved`, moved);
    steps(f, `${kind}:moved`, moved, [0.2, 0.4, 0.6, 0.8]);
    for (const [name, value] of news) f.set(keyed(kind, name), value);
    return f;
  });
}

/** "It was not poured, I need more time, call it Friday." "Friday, fine.": its holder says that it is not done and asks for time, and the day is said again. */
function saidNotDone(news: Features): boolean {
  return news.has('negated-inside') && news.has('holder-negated') && news.has('holder-more-time') && news.has('days-ahead') && !news.has('finished');
}

/** The likeliest kind of news and how likely it is among the six; what is said to be not done is not done. */
export function chooseKind(model: LinearModel, news: Features, moved: number): { kind: UpdateKind; sure: number } {
  const p = softmax(kindOptions(news, moved).map((f, i) => (UPDATE_KINDS[i] === 'done' && saidNotDone(news) ? Number.NEGATIVE_INFINITY : logOdds(model, f))));
  const sure = Math.max(...p);
  return { kind: UPDATE_KINDS[p.indexOf(sure)]!, sure };
}
