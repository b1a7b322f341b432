import type { Mention } from '../language/people.ts';
import { addWho } from './close/settled.ts';
import { standingOf } from './group.ts';
import { type Naming, relevance } from './keywords.ts';
import { type Features, type LinearModel, logOdds, probability, softmax, steps } from './linear.ts';
import { ownerByForm } from './plain-owner.ts';
import type { Reading, ReadUnit } from './reading.ts';
import type { Group } from './shapes.ts';
import { partAround, sharedStems, stemsElsewhere } from './surroundings.ts';

export interface OwnerChoice {
  people: string[];
  /** 0 to 1, of the least certain of them, or of nobody having taken it on */
  sure: number;
  how: string;
}

/** People are looked for up to this many units from the places of a job. */
const REACH = 3;

/** Everybody who may have taken the job on: those who speak, or are named, in or right around its places. */
export function ownerCandidates(reading: Reading, group: Group): string[] {
  const out = new Set<string>();
  for (const i of around(reading, group, REACH)) {
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
export function ownerFeatures(reading: Reading, group: Group, person: string, naming: Naming): Features {
  const f: Features = new Map();
  const core = reading.units[group.core]!;
  const kind = core.spoken ? (core.speaker ? '' : '~unlabelled') : '~notes';
  const put = (name: string) => {
    f.set(name, 1);
    if (kind) f.set(name + kind, 1);
  };
  addWho(f, reading, group, person);
  f.set('always', 1);
  if (kind) f.set(kind.slice(1), 1);
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
  for (const i of around(reading, group, REACH)) {
    if (inside.has(i)) continue;
    const u = reading.units[i]!;
    const { away, other, beyond } = standingOf(group, i);
    if (other || beyond) continue;
    const side = away < 0 ? 'before' : 'after';
    if (u.speaker === person) {
      put(`${side}:speaks`);
      if (TAKING.some((c) => u.cues.has(c))) put(`${side}:takes`);
      if (u.cues.has('accept') || u.words.length <= 4) put(`${side}:answers`);
      if (u.cues.has('request') || u.cues.has('you-do')) put(`${side}:asks`);
      if (u.dates.length) put(`${side}:dates`);
    }
    if (u.mentions.some((m) => m.person === person)) put(`${side}:named`);
  }
  let byWord = 0;
  let byName = 0;
  let byPromise = 0;
  for (const i of group.units) {
    const u = reading.units[i]!;
    if (u.speaker === person) {
      const r = relevance(naming, u.text);
      byWord = Math.max(byWord, r);
      if (TAKING.some((c) => u.cues.has(c))) byPromise = Math.max(byPromise, r);
    }
    for (const m of u.mentions) if (m.person === person) byName = Math.max(byName, relevance(naming, partAround(u.text, m.from, m.to)));
  }
  steps(f, 'says-matter', byWord, [0.2, 0.5, 1, 1.6]);
  steps(f, 'promises-matter', byPromise, [0.2, 0.5, 1, 1.6]);
  steps(f, 'named-with-matter', byName, [0.2, 0.5, 1, 1.6]);
  const takers = group.units.filter((i) => TAKING.some((c) => reading.units[i]!.cues.has(c)));
  const says = (i: number | undefined) => i !== undefined && reading.units[i]!.speaker === person;
  if (says(takers[0])) put('first-to-promise');
  if (says(takers[takers.length - 1])) put('last-to-promise');
  if (takers.length && takers.every(says)) put('only-to-promise');
  if (core.mentions[0]?.person === person) put('core:first-named');
  if (core.mentions.length > 1 && core.mentions[core.mentions.length - 1]?.person === person) put('core:last-named');
  for (const i of group.units) {
    const asked = reading.units[i]!;
    if (asked.speaker === person || !(asked.cues.has('request') || asked.cues.has('you-do') || asked.cues.has('mark:ask-any'))) continue;
    const answer = [1, 2, 3].find((d) => reading.units[i + d]?.speaker && reading.units[i + d]!.speaker !== asked.speaker);
    if (answer && says(i + answer)) put('first-to-answer');
  }
  for (const i of group.units) if (antecedent(reading, i) === person) put(i === group.core ? 'core:he-or-she' : 'he-or-she');
  for (const i of group.units) for (const d of [-1, 1]) if (addressed(reading, i + d) === person) put(d < 0 ? 'spoken-to-before' : 'spoken-to-after');
  if (person === reading.input.meeting.author) put('author');
  if (person === reading.input.meeting.author && !core.spoken && /\bme\b/.test(core.text)) put('author-says-me');
  if (person === reading.input.meeting.author && [...inside].some((i) => reading.units[i]!.cues.has('i'))) put('author-says-i');
  return f;
}

/** "she'll", "he is to", "they will": somebody who was named does it. */
const DOES_IT = /\b(?:he|she|they)(?:['’](?:ll|d|s (?:doing|taking|going|getting|to))|\s+(?:will|would|is to|are to|has to|have to|needs? to|can|could|should|shall|said (?:he|she|they)|promised|takes?|does|gets?|sends?|writes?|brings?))\b/i;

/** Who "he" or "she" is that does what a unit says: the one who was named last before it, here or in the two units before. */
function antecedent(reading: Reading, i: number): string | null {
  const u = reading.units[i]!;
  const at = DOES_IT.exec(u.text)?.index;
  if (at === undefined) return null;
  const here = u.mentions.findLast((m) => m.to <= at);
  if (here) return here.person;
  for (const d of [1, 2]) {
    const before = reading.units[i - d]?.mentions.findLast((m) => m.person !== u.speaker);
    if (before) return before.person;
  }
  return null;
}

/** Whom a unit speaks to by name: "Thank you, Konrad", "Bram, could you". */
function addressed(reading: Reading, i: number): string | null {
  const u = reading.units[i];
  const m = u?.mentions.find((x) => (x.from <= 2 && /^\s*[,?!]/.test(u.text.slice(x.to))) || (/,\s*$/.test(u.text.slice(0, x.from)) && /^\s*(?:$|[.,?!])/.test(u.text.slice(x.to))));
  return m?.person ?? null;
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
    if (/[([]\s*$/.test(before) || /^[\s\w/&,+.]{0,12}[)\]]\s*\.?$/.test(after)) put(`${where}:named-in-brackets`);
    if (m.how === 'initials') put(`${where}:initials`);
    if (m.how === 'role') put(`${where}:role`);
  }
}

/** What speaks for nobody having taken the job on. */
export function nobodyFeatures(reading: Reading, group: Group): Features {
  const f: Features = new Map();
  f.set('nobody', 1);
  addWho(f, reading, group, null);
  const units = group.units.map((i) => reading.units[i]!);
  for (const c of ['obligation', 'unknown', 'put-off', 'we-will', 'wh', 'refuse', 'assign', 'request', 'decide']) if (units.some((u) => u.cues.has(c))) f.set(`nobody:${c}`, 1);
  if (!units.some((u) => TAKING.some((c) => u.cues.has(c)))) f.set('nobody:no-promise', 1);
  if (!units.some((u) => u.mentions.length)) f.set('nobody:no-name', 1);
  if (units.some((u) => NAMELESS.test(u.text))) f.set('nobody:said', 1);
  steps(f, 'nobody:units', units.length, [2, 4, 7]);
  return f;
}

/** Says that the job is left without a name. */
const NAMELESS = /\b(?:somebody|someone|whoever|nobody|no ?one|no name|without a name|who(?:se|'s| is| will| does)?\b[^.!]{0,30}\?|to be found|tbd|tbc|unassigned|we'?ll see who|owner:? ?\?)/i;
/** Says that people do it with one another. */
const JOINT = /\b(?:together|(?:the )?two of (?:us|you|them)|both|you and (?:me|i)|me and you|between (?:us|you|the|them)|with (?:me|you|him|her)|sit down|joint(?:ly)?|we(?:'ll| will| could| can)?|us)\b|&|\+/i;

/** What speaks for a person doing the job beside its likeliest owner. */
export function partnerFeatures(reading: Reading, group: Group, owner: string, person: string, naming: Naming): Features {
  const f = ownerFeatures(reading, group, person, naming);
  const units = group.units.map((i) => reading.units[i]!);
  const joint = units.filter((u) => JOINT.test(u.text));
  if (joint.length) {
    f.set('joint', 1);
    if (joint.some((u) => u.speaker === person)) f.set('joint:says', 1);
    if (joint.some((u) => u.speaker === owner)) f.set('joint:owner-says', 1);
    if (joint.some((u) => u.mentions.some((m) => m.person === person))) f.set('joint:named', 1);
  }
  if (units.some((u) => /\b(?:together|two of|both|you and me|me and you|you and i|jointly)\b/i.test(u.text))) f.set('together', 1);
  const named = (who: string) => units.filter((u) => u.mentions.some((m) => m.person === who));
  if (named(person).some((u) => u.mentions.some((m) => m.person === owner))) f.set('named-with-owner', 1);
  if (named(person).some((u) => u.mentions.some((m) => m.person === owner && beside(u, m, person)))) f.set('named-and-owner', 1);
  return f;
}

/** Two people named with nothing but "and" between them. */
function beside(u: ReadUnit, m: Mention, person: string): boolean {
  return u.mentions.some((o) => o.person === person && /^\s*(?:and|&|\+|,|\/)\s*$/.test(u.text.slice(Math.min(m.to, o.to), Math.max(m.from, o.from))));
}

/** How an owner is chosen: the likeliest of all and of nobody, and whether a second does it with them. */
export interface OwnerModel {
  choice: LinearModel;
  partner: LinearModel;
}

/** How sure an owner is whom the words name by their form. */
const BY_FORM = 0.9;
/** From this likelihood a second person is joined to the owner. */
const JOINED_FROM = 0.5;

/** The owner of a job: the likeliest candidate, and others beside them. */
export function chooseOwner(reading: Reading, group: Group, naming: Naming, model: OwnerModel): OwnerChoice {
  const plain = ownerByForm(reading, group);
  if (plain) return { ...plain, sure: BY_FORM };
  const candidates = ownerCandidates(reading, group);
  const p = softmax([nobodyFeatures(reading, group), ...candidates.map((c) => ownerFeatures(reading, group, c, naming))].map((f) => logOdds(model.choice, f)));
  const best = p.indexOf(Math.max(...p));
  if (best === 0) return { people: [], sure: p[0]!, how: 'nobody says they take it on' };
  const owner = candidates[best - 1]!;
  const partners = candidates
    .filter((c) => c !== owner)
    .map((person) => ({ person, p: probability(logOdds(model.partner, partnerFeatures(reading, group, owner, person, naming))) }))
    .filter((c) => c.p >= JOINED_FROM)
    .sort((a, b) => b.p - a.p)
    .slice(0, 3);
  return { people: [owner, ...partners.map((c) => c.person)], sure: Math.min(p[best]!, ...partners.map((c) => c.p)), how: howOwned(reading, group, owner) };
}

function howOwned(reading: Reading, group: Group, person: string): string {
  const name = reading.roster.firstName(person);
  const own = group.units.map((i) => reading.units[i]!).find((u) => u.speaker === person && TAKING.some((c) => u.cues.has(c)));
  if (own) return own.spoken ? `${name} says so` : `${name} wrote it of themselves`;
  if (group.units.some((i) => reading.units[i]!.mentions.some((m) => m.person === person))) return `${name} is named for it`;
  if (group.units.some((i) => reading.units[i]!.speaker === person)) return `${name} speaks for it`;
  return `${name} answers the request`;
}
