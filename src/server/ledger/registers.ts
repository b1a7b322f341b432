import { z } from 'zod';
import type { Place } from '../../core/ledger/events.ts';
import { followsFrom, type SaidAt } from '../../core/ledger/following.ts';
import type { MeetingRecord } from '../../core/record/model.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { CODECS } from '../store/codecs.ts';
import { recordWords } from '../store/segments.ts';

/** A decision or a question of a project, with the words it rests on. */
export interface RegisterRow {
  id: number;
  ref: string;
  text: string;
  on: string;
  meeting: { id: number; title: string; number: number | null };
  said: { who: string | null; words: string; record: number; segment: number }[];
  /** for a question: whether it is still open, and how it was closed */
  open: boolean;
  closed: string | null;
  /** commitments that follow from it, where the record says so */
  follow: { ref: string; text: string; state: string }[];
}

/** The decision log or the parking lot of a project, newest first. */
export async function registerOf(ws: Workspace, project: string, kind: 'decision' | 'question'): Promise<RegisterRow[]> {
  mustSee(ws, project, 'project');
  const rows = await ws.db
    .selectFrom('statements as s')
    .innerJoin('meetings as m', 'm.id', 's.meeting_id')
    .select(['s.id', 's.number', 's.text', 's.evidence', 'm.id as meeting', 'm.title', 'm.number as sitting', 'm.date'])
    .where('s.project_id', '=', project)
    .where('s.kind', '=', kind)
    .orderBy('m.date', 'desc')
    .orderBy('s.number', 'desc')
    .execute();
  if (rows.length === 0) return [];
  const ids = rows.map((r) => r.id);
  const events = ids.length ? await ws.db.selectFrom('statement_events').select(['statement_id', 'kind', 'note', 'at']).where('statement_id', 'in', ids).orderBy('id').execute() : [];
  const made = await ws.db
    .selectFrom('events as e')
    .innerJoin('commitments as c', 'c.id', 'e.commitment_id')
    .select(['c.number', 'c.text', 'c.state', 'e.evidence', 'e.meeting_id'])
    .where('c.project_id', '=', project)
    .where('c.state', '!=', 'withdrawn')
    .where('e.kind', '=', 'made')
    .where('e.meeting_id', 'in', [...new Set(rows.map((r) => r.meeting))])
    .execute();
  const names = (await peopleOf(ws, project)).map((p) => p.name);
  const read = new Map<number, Promise<MeetingRecord>>();
  const wordsIn = (record: number) => read.get(record) ?? read.set(record, recordWords(ws.db, record)).get(record)!;
  const stated = await Promise.all(made.map(async (m) => ({ ...m, said: await saidAt(wordsIn, CODECS.places.read(m.evidence)) })));
  const out: RegisterRow[] = [];
  for (const r of rows) {
    const own = events.filter((e) => e.statement_id === r.id);
    if (own.at(-1)?.kind === 'withdrawn') continue;
    const last = own.filter((e) => e.kind !== 'taken').at(-1);
    const evidence = CODECS.places.read(r.evidence);
    const said: RegisterRow['said'] = [];
    for (const p of evidence.slice(0, 4)) {
      const s = (await wordsIn(p.record)).segments[p.segment];
      if (s) said.push({ who: s.voice, words: s.text.slice(p.from, p.to) || s.text, record: p.record, segment: p.segment });
    }
    const settled = { text: r.text, said: await saidAt(wordsIn, evidence) };
    const follow = stated.filter((m) => m.meeting_id === r.meeting && followsFrom(settled, m, names)).map((m) => ({ ref: `C-${m.number}`, text: m.text, state: m.state }));
    out.push({
      id: r.id,
      ref: `${kind === 'decision' ? 'D' : 'Q'}-${r.number}`,
      text: r.text,
      on: r.date,
      meeting: { id: r.meeting, title: r.title, number: r.sitting },
      said,
      open: last?.kind !== 'closed' && last?.kind !== 'replaced',
      closed: last?.kind === 'closed' || last?.kind === 'replaced' ? (last.note ?? '') : null,
      follow,
    });
  }
  return out;
}

/** The words at some places of records; a place whose words are gone says nothing. */
async function saidAt(wordsIn: (record: number) => Promise<MeetingRecord>, places: readonly Place[]): Promise<SaidAt[]> {
  return Promise.all(places.map(async (p) => ({ record: p.record, segment: p.segment, words: (await wordsIn(p.record)).segments[p.segment]?.text.slice(p.from, p.to) ?? '' })));
}

export const RegisterChangeSchema = z.discriminatedUnion('do', [z.object({ do: z.literal('close'), note: z.string().trim().min(1, 'needs words').max(1000) }), z.object({ do: z.literal('replace'), by: z.string().regex(/^D-\d{1,9}$/i, 'is not a reference like D-7') }), z.object({ do: z.literal('open') })]);

/** Answers a question or replaces a decision by a later one, or takes that back. */
export async function changeRegister(ws: Workspace, id: number, change: z.infer<typeof RegisterChangeSchema>): Promise<RegisterRow> {
  const row = await ws.db.selectFrom('statements').select(['project_id', 'kind', 'number']).where('id', '=', id).executeTakeFirst();
  mustSee(ws, row?.project_id, 'entry');
  const kind = change.do === 'close' ? 'closed' : change.do === 'replace' ? 'replaced' : 'opened';
  const note = change.do === 'close' ? change.note : change.do === 'replace' ? change.by.toUpperCase() : null;
  await ws.db.insertInto('statement_events').values({ statement_id: id, kind, note, at: new Date().toISOString(), by_person: ws.asker.person }).execute();
  return (await registerOf(ws, row!.project_id, row!.kind)).find((r) => r.id === id)!;
}
