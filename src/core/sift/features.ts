import { sharedWeight } from '../language/words.ts';
import { type Features, keyed, steps } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';
import { SECTIONS } from './sections.ts';

/** Headings that tell what stands below them. */
/** Words that are features in their own right; which of them matter is learned (see bench/learn). */
export type Vocabulary = ReadonlySet<string>;

/**
 * Features of every unit: its cues, words, place, speaker, names and dates, and the cues of its neighbours.
 * @returns one vector for each unit, in order
 */
export function unitFeatures(reading: Reading, vocabulary: Vocabulary): Features[] {
  const { units } = reading;
  const openStems = reading.input.open.map(
    (o) =>
      new Set(
        o.text
          .toLowerCase()
          .match(/[\p{L}\p{N}]+/gu)
          ?.flatMap((w) => stemsOf(w)) ?? [],
      ),
  );
  const openIndex = new Map<string, number[]>();
  openStems.forEach((set, i) => {
    for (const s of set) openIndex.set(s, [...(openIndex.get(s) ?? []), i]);
  });
  return units.map((u, i) => {
    const f: Features = new Map();
    f.set(u.spoken ? 'spoken' : u.source.item ? 'notes:list' : 'notes:prose', 1);
    const kind = u.spoken ? '' : '~n';
    own(f, u, kind);
    place(f, reading, i);
    nameMarks(f, reading, i);
    near(f, units[i - 1], u, 'before');
    near(f, units[i + 1], u, 'after');
    near2(f, units[i - 2], 'before2');
    near2(f, units[i + 2], 'after2');
    dateMarks(f, reading, i);
    steps(f, 'like-open', likeOpen(u, openStems, openIndex), [0.15, 0.25, 0.35, 0.5]);
    for (let k = 0; k < u.words.length && k < 80; k++) {
      const w = u.words[k]!;
      if (vocabulary.has(w)) f.set(keyed('w', w), 1);
      if (k > 0) {
        const pair = `${u.words[k - 1]} ${w}`;
        if (vocabulary.has(pair)) f.set(keyed('w', pair), 1);
      }
    }
    const head = u.words.slice(0, 2).join(' ');
    if (vocabulary.has(`^${head}`)) f.set(keyed('w', `^${head}`), 1);
    return f;
  });
}

function stemsOf(word: string): string[] {
  return word.length > 3 ? [word.slice(0, 5)] : [];
}

function own(f: Features, u: ReadUnit, kind: string): void {
  for (const c of u.cues) {
    f.set(c, 1);
    if (kind) f.set(c + kind, 1);
  }
  const pairs = ['will-do', 'i-must', 'i-can', 'request', 'assign', 'obligation', 'leave-me', 'you-will'];
  for (const p of pairs) {
    if (!u.cues.has(p)) continue;
    for (const q of ['hypothetical', 'past', 'refuse', 'on-the-spot', 'habit', 'mark:ask-any', 'joke', 'done', 'accept']) if (u.cues.has(q)) f.set(`${p}+${q}`, 1);
    if (u.dates.some((d) => d.date)) f.set(`${p}+date`, 1);
    if (u.mentions.length) f.set(`${p}+name`, 1);
  }
  steps(f, 'words', u.words.length, [3, 6, 10, 16, 25, 40]);
  steps(f, 'matter', u.stems.size, [1, 2, 4, 7, 12]);
}

function place(f: Features, reading: Reading, i: number): void {
  const u = reading.units[i]!;
  const at = i / Math.max(1, reading.units.length - 1);
  if (i < 6) f.set('opening', 1);
  steps(f, 'at', at, [0.1, 0.75, 0.9]);
  if (u.heading) f.set('heading', 1);
  const item = u.source.item;
  if (item) {
    f.set(`list:depth${Math.min(3, item.depth)}`, 1);
    if (item.box) f.set(`box:${item.box}`, 1);
    if (item.cells) f.set('table', 1);
    if (item.struck) f.set('struck', 1);
  }
  if (u.section) for (const [name, pattern] of SECTIONS) if (pattern.test(u.section)) f.set(`section:${name}`, 1);
  if (u.from > 0) f.set('inside', 1);
}

function nameMarks(f: Features, reading: Reading, i: number): void {
  const u = reading.units[i]!;
  if (!u.mentions.length) return;
  f.set('names', 1);
  const first = u.mentions[0]!;
  const last = u.mentions[u.mentions.length - 1]!;
  if (first.from <= 2) f.set('name:first', 1);
  if (first.from <= 2 && /^[:,]/.test(u.text.slice(first.to))) f.set('name:first:', 1);
  if (last.to >= u.text.length - 2) f.set('name:last', 1);
  if (first.how === 'initials') f.set('name:initials', 1);
  for (const m of u.mentions) {
    const after = u.text.slice(m.to, m.to + 24).toLowerCase();
    if (/^\s*(?:to|is to|will|'ll|’ll|shall|has to|needs to|should|can|undertook|agreed to|said (?:he|she|they)|promised|offered)\b/.test(after)) f.set('name+will', 1);
    if (/^\s*(?:has|is|was|had|did|went|got|sent|says|said|reported|thinks|asked)\b/.test(after)) f.set('name+did', 1);
    if (m.person === u.speaker) f.set('name:self', 1);
  }
  const next = reading.units[i + 1];
  if (next?.speaker && next.speaker !== u.speaker && u.mentions.some((m) => m.person === next.speaker)) f.set('named-answers', 1);
  if (u.mentions.some((m) => !reading.input.meeting.present.includes(m.person))) f.set('name:absent', 1);
}

function near(f: Features, v: ReadUnit | undefined, u: ReadUnit, where: string): void {
  if (!v) {
    f.set(`${where}:none`, 1);
    return;
  }
  for (const c of v.cues) f.set(keyed(where, c), 1);
  if (v.speaker && v.speaker === u.speaker) f.set(`${where}:same-speaker`, 1);
  if (v.segment === u.segment) f.set(`${where}:same-segment`, 1);
  if (v.dates.some((d) => d.date)) f.set(`${where}:date`, 1);
  if (v.words.length <= 3) f.set(`${where}:short`, 1);
  if (v.heading) f.set(`${where}:heading`, 1);
}

const FAR = ['will-verb', 'leave-me', 'request', 'accept', 'refuse', 'decide', 'consent', 'put-off', 'unknown', 'mark:ask', 'obligation', 'retract'];
function near2(f: Features, v: ReadUnit | undefined, where: string): void {
  if (!v) return;
  for (const c of FAR) if (v.cues.has(c)) f.set(keyed(where, c), 1);
  if (v.dates.some((d) => d.date)) f.set(`${where}:date`, 1);
}

function dateMarks(f: Features, reading: Reading, i: number): void {
  const u = reading.units[i]!;
  for (const d of u.dates) {
    f.set(d.date ? 'date' : 'date:vague', 1);
    if (d.lead) f.set(`date:${d.lead}`, 1);
    f.set(`date:${d.rule}`, 1);
    if (d.to >= u.text.trimEnd().length - 2) f.set('date:at-end', 1);
    if (u.words.length <= 4) f.set('date:alone', 1);
  }
  const open = reading.input.open;
  if (open.length && u.dates.some((d) => d.date && open.some((o) => o.due === d.date))) f.set('date:of-open', 1);
}

function likeOpen(u: ReadUnit, openStems: readonly Set<string>[], index: ReadonlyMap<string, number[]>): number {
  if (openStems.length === 0) return 0;
  const mine = new Set<string>();
  for (const w of u.words) for (const s of stemsOf(w)) mine.add(s);
  const met = new Set<number>();
  for (const s of mine) for (const o of index.get(s) ?? []) met.add(o);
  let best = 0;
  for (const o of met) {
    const { share, count } = sharedWeight(openStems[o]!, mine, () => 1);
    if (count >= 2) best = Math.max(best, share);
  }
  return best;
}
