import type { Draft } from './draft.ts';
import type { UpdateKind } from './find.ts';
import type { Reading } from './reading.ts';
import type { OpenView } from './reconcile.ts';

/** Reasons in plain words, told from what was in fact found. */

export function whyAction(reading: Reading, draft: Draft): string {
  const units = draft.group.units.map((i) => reading.units[i]!);
  const has = (...cues: string[]) => units.some((u) => cues.some((c) => u.cues.has(c)));
  const owners = draft.owner.people.map((p) => reading.roster.firstName(p)).join(' and ');
  const says: string[] = [];
  if (!owners) says.push(has('obligation') ? 'Has to be done, and nobody says by whom' : 'Nobody takes it on by name');
  else if (has('request', 'you-do') && has('accept', 'will-do', 'will-verb') && units.length > 1) says.push(`${owners} ${draft.owner.people.length > 1 ? 'are' : 'is'} asked and agree${draft.owner.people.length > 1 ? '' : 's'}`);
  else if (draft.owner.how.endsWith('says so')) says.push(`${owners} promise${draft.owner.people.length > 1 ? '' : 's'} it`);
  else says.push(draft.owner.how);
  if (draft.due.due) says.push('a day is named');
  else if (draft.due.candidate) says.push(`“${draft.due.candidate.phrase}” names no day`);
  else says.push('no day is named');
  if (draft.group.units.length > 2 && draft.group.units[draft.group.units.length - 1]! - draft.group.units[0]! > 12) says.push('said again later');
  return `${capital(says.join('; '))}.`;
}

export function whyPlain(reading: Reading, draft: Draft): string {
  const last = draft.group.units[draft.group.units.length - 1]!;
  const units = [...draft.group.units, last + 1].map((i) => reading.units[i]).filter((u) => u !== undefined);
  const has = (...cues: string[]) => units.some((u) => cues.some((c) => u.cues.has(c)));
  if (draft.nature === 'decision') {
    if (has('mark:resolved')) return 'Resolved in the minutes.';
    if (has('consent')) return 'Asked, and nobody is against it.';
    if (has('decide') && has('accept')) return 'Said as settled, and others agree.';
    if (has('decide')) return 'Said as settled.';
    return 'A choice was on the table and one side is taken.';
  }
  if (has('put-off')) return 'Raised and put off.';
  if (has('unknown')) return 'Nobody knows the answer here.';
  return 'Asked, and no answer follows.';
}

const KIND_WORDS: Record<UpdateKind, string> = {
  done: 'it is done',
  moved: 'it has a new date',
  reassigned: 'somebody else has it now',
  dropped: 'it is no longer wanted',
  blocked: 'it cannot go on yet',
  progress: 'it is still on',
};

export function whyUpdate(reading: Reading, view: OpenView, places: readonly number[], kind: UpdateKind): string {
  const units = places.map((i) => reading.units[i]!);
  const shared = new Set<string>();
  for (const u of units) for (const w of u.words) if (view.stems.has(stemIn(u.stems, view.stems, w))) shared.add(w);
  const by = units.some((u) => u.speaker && view.open.owner.includes(u.speaker)) ? 'its owner speaks of it' : units.some((u) => u.mentions.some((m) => view.open.owner.includes(m.person))) ? 'its owner is named' : 'it is spoken of';
  const words = [...shared]
    .filter((w) => w.length > 2)
    .slice(0, 3)
    .map((w) => `“${w}”`)
    .join(', ');
  return `${capital(by)}${words ? `, with ${words}` : ''}; ${KIND_WORDS[kind]}.`;
}

function stemIn(own: ReadonlySet<string>, wanted: ReadonlySet<string>, word: string): string {
  for (const s of own) if (wanted.has(s) && word.startsWith(s.slice(0, 4))) return s;
  return '';
}

const capital = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : text);
