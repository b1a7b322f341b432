import type { Group } from './group.ts';
import { type Features, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';
import { partAround, sharedStems, stemsElsewhere } from './surroundings.ts';

export interface OwnerChoice {
  people: string[];
  /** 0 to 1, of the least certain of them, or of nobody having taken it on */
  sure: number;
  how: string;
}

/** Everybody who may have taken the job on: those who speak, or are named, in or right around its places. */
export function ownerCandidates(reading: Reading, group: Group): string[] {
  const out = new Set<string>();
  for (const i of around(reading, group, 2)) {
    const u = reading.units[i]!;
    if (u.speaker) out.add(u.speaker);
    for (const m of u.mentions) out.add(m.person);
  }
  return [...out];
}

function around(reading: Reading, group: Group, reach: number): number[] {
  const out = new Set<number>();
  for (const i of group.units) for (let d = -reach; d <= reach; d++) if (i + d >= 0 && i + d < reading.units.length) out.add(i + d);
  return [...out].sort((a, b) => a - b);
}

const TAKING = ['will-verb', 'will-do', 'leave-me', 'i-must', 'i-can', 'you-will'];

/** What speaks for one person being the owner. */
export function ownerFeatures(reading: Reading, group: Group, person: string): Features {
  const f: Features = new Map();
  const core = reading.units[group.core]!;
  const kind = core.spoken ? '' : '~notes';
  const put = (name: string) => {
    f.set(name, 1);
    if (kind) f.set(name + kind, 1);
  };
  f.set('always', 1);
  if (kind) f.set('notes', 1);
  const inside = new Set(group.units);
  about(put, core, person, 'core');
  let speaks = 0;
  let named = 0;
  for (const i of group.units) {
    const u = reading.units[i]!;
    if (i !== group.core) about(put, u, person, 'in');
    if (u.speaker === person) speaks++;
    if (u.mentions.some((m) => m.person === person)) named++;
    const before = reading.units[i - 1];
    if (u.speaker === person && before && before.speaker !== person) {
      if (before.cues.has('request') || before.cues.has('you-do')) put('asked-then-speaks');
      if (before.mentions.some((m) => m.person === person)) put('named-then-speaks');
      if (before.cues.has('mark:ask-any')) put('question-then-speaks');
    }
    const after = reading.units[i + 1];
    if (after && !inside.has(i + 1) && after.speaker === person && u.speaker !== person) {
      if (u.cues.has('request') || u.cues.has('you-do')) put('asked-then-speaks-after');
      if (after.cues.has('accept')) put('accepts-after');
      if (u.mentions.some((m) => m.person === person)) put('named-then-speaks-after');
    }
    if (u.mentions.some((m) => m.person === person) && u.speaker !== person && (u.cues.has('request') || u.cues.has('you-do'))) put('named-in-request');
  }
  steps(f, 'speaks', speaks, [1, 2, 3]);
  steps(f, 'named', named, [1, 2]);
  f.set('share-speaks', speaks / group.units.length);
  f.set('share-named', named / group.units.length);
  if (named > 0 && !reading.input.meeting.present.includes(person)) put('named-absent');
  for (const d of [1, 2]) {
    const u = reading.units[group.units[0]! - d];
    if (u?.mentions.some((m) => m.person === person)) put(`named-before${d}`);
    if (u?.speaker === person && speaks === 0) put(`speaks-before${d}`);
  }
  const last = reading.units[group.units[group.units.length - 1]! + 1];
  if (last?.speaker === person && speaks === 0) put('speaks-after');
  if (group.units.some((i) => reading.units[i]!.mentions.some((m) => m.person !== person)) && named === 0) put('others-named');
  if (core.mentions.length > 1) put('several-named');
  for (const i of group.units) {
    const u = reading.units[i]!;
    if (u.mentions.length === 0) continue;
    const dealt = u.mentions.length >= 2;
    for (const m of u.mentions) {
      const shares = sharedStems(partAround(u.text, m.from, m.to), stemsElsewhere(reading, group, i));
      if (m.person === person) put(shares > 0 ? (shares > 1 ? 'part-shares2' : 'part-shares') : dealt ? 'part-shares-nothing' : 'part-alone');
      else if (dealt && shares > 1) put('others-part-shares');
    }
  }
  if (person === reading.input.meeting.author) put('author');
  if (person === reading.input.meeting.author && [...inside].some((i) => reading.units[i]!.cues.has('i'))) put('author-says-i');
  return f;
}

/** What one unit has to do with a person, as features with a prefix. */
function about(put: (name: string) => void, u: ReadUnit, person: string, where: string): void {
  const speaks = u.speaker === person;
  if (speaks) {
    put(`${where}:speaks`);
    for (const c of TAKING) if (u.cues.has(c)) put(`${where}:speaks+${c}`);
    for (const c of ['i', 'request', 'you-do', 'assign', 'we', 'accept', 'obligation', 'between', 'refuse', 'third', 'mark:ask-any']) if (u.cues.has(c)) put(`${where}:speaks+${c}`);
    if (u.mentions.some((m) => m.person !== person)) put(`${where}:speaks+names-other`);
    if (!u.cues.has('i') && !u.cues.has('we')) put(`${where}:speaks-no-i`);
  }
  for (const m of u.mentions) {
    if (m.person !== person) continue;
    put(`${where}:named`);
    const before = u.text.slice(Math.max(0, m.from - 14), m.from).toLowerCase();
    const after = u.text.slice(m.to, m.to + 26).toLowerCase();
    if (m.from <= 3) put(`${where}:named-first`);
    if (m.to >= u.text.length - 2) put(`${where}:named-last`);
    if (/^\s*(?:to\b|is to|will|shall|has to|needs to|should|would|must|undertook|agreed to|said (?:he|she|they)|promised|offered|'ll|’ll|can\b|could|does|takes|gets|goes|sends|writes|asks|rings|finds)/.test(after)) put(`${where}:named+will`);
    if (/^\s*(?:has|was|had|did|went|got|sent|reported|asked|thinks|thought|wants|noted|observed)\b/.test(after)) put(`${where}:named+did`);
    if (/^\s*:/.test(after)) put(`${where}:named:`);
    if (/^\s*[,?]/.test(after)) put(`${where}:named,`);
    if (/^['’]s\b/.test(after)) put(`${where}:named's`);
    if (/(?:^|\s)(?:to|for|with|from|of|by|after|ask|tell|send|give|ring|call|mail|email|let|about|chase|remind|see|and show)\s*$/.test(before)) put(`${where}:to-named`);
    if (/[@]\s*$|->\s*$|→\s*$/.test(before)) put(`${where}:at-named`);
    if (/(?:\band|&|\+|,)\s*$/.test(before) || /^\s*(?:and|&|\+)\s/.test(after)) put(`${where}:named-and`);
    if (/\(\s*$/.test(before) || /^[\s\w/&,+.]{0,12}\)\s*\.?$/.test(after)) put(`${where}:named-in-brackets`);
    if (m.how === 'initials') put(`${where}:initials`);
    if (m.how === 'role') put(`${where}:role`);
  }
}

/** Below this likelihood of the best candidate a job is nobody's; a second one is joined only when nearly sure. */
const NOBODY_BELOW = 0.15;
const JOINED_FROM = 0.7;

/** The owner of a job: the likeliest candidate, and others beside them who are nearly as sure. */
export function chooseOwner(reading: Reading, group: Group, model: LinearModel): OwnerChoice {
  const scored = ownerCandidates(reading, group)
    .map((person) => ({ person, p: probability(logOdds(model, ownerFeatures(reading, group, person))) }))
    .sort((a, b) => b.p - a.p);
  const best = scored[0];
  if (!best || best.p < NOBODY_BELOW) return { people: [], sure: 1 - (best?.p ?? 0), how: 'nobody says they take it on' };
  const people = scored.filter((s, k) => k === 0 || (s.p >= JOINED_FROM && s.p > best.p * 0.8)).slice(0, 4);
  return { people: people.map((s) => s.person), sure: people[people.length - 1]!.p, how: howOwned(reading, group, people[0]!.person) };
}

function howOwned(reading: Reading, group: Group, person: string): string {
  const name = reading.roster.firstName(person);
  const own = group.units.map((i) => reading.units[i]!).find((u) => u.speaker === person && TAKING.some((c) => u.cues.has(c)));
  if (own) return own.spoken ? `${name} says so` : `${name} wrote it of themselves`;
  if (group.units.some((i) => reading.units[i]!.mentions.some((m) => m.person === person))) return `${name} is named for it`;
  if (group.units.some((i) => reading.units[i]!.speaker === person)) return `${name} speaks for it`;
  return `${name} answers the request`;
}
