import type { Person } from '../../core/language/people.ts';
import { Roster } from '../../core/language/people.ts';
import type { UpdateKind } from '../../core/sift/find.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { siftRecord } from '../sift/run.ts';
import { readBytes } from './reading.ts';

/** Something Sift found in a record that is not kept yet. */
export interface FirstFind {
  kind: 'action' | 'decision' | 'question' | 'update';
  news: UpdateKind | null;
  text: string;
  owner: string[];
  due: string | null;
}

/** What the quick reader finds in a record before it is kept, in the order of the record; voices nobody has named own what they promise. */
export async function firstFinds(ws: Workspace, project: string, file: { bytes: Uint8Array; fileName: string | null; layout: string | null }, date: string): Promise<FirstFind[]> {
  mustSee(ws, project, 'project');
  const { record } = await readBytes(file.bytes, file.fileName, file.layout);
  const known = await peopleOf(ws, project);
  const roster = new Roster(known);
  const strangers: Person[] = record.voices.filter((v) => roster.voice(v) === null).map((v) => ({ id: `voice:${v}`, name: v, aliases: [], role: '' }));
  const people = [...known, ...strangers];
  const open = await ledgerRows(ws, { project, state: 'open', lives: false });
  const { finds } = await siftRecord({
    record,
    people,
    meeting: { date, next: null, present: [], author: null },
    open: open.map((o) => ({ id: String(o.id), text: o.text, owner: o.owner.map((p) => p.id), due: o.due, madeOn: o.madeOn })),
  });
  const names = new Map(people.map((p) => [p.id, p.name]));
  return finds.map((f) => ({ kind: f.update ? 'update' : (f.kind as FirstFind['kind']), news: f.update?.kind ?? null, text: f.text, owner: f.owner.map((o) => names.get(o) ?? o), due: f.due }));
}
