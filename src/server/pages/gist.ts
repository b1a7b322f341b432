import { seenIn } from '../../core/sift/twins.ts';
import { openBefore } from '../ledger/commitments.ts';
import { type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { findsOf } from '../sift/finds.ts';
import { modelGistOf } from '../sift/model-reading.ts';
import { spokenRecord } from '../store/segments.ts';
import type { GistRead, Said } from '../work/gist.ts';
import { work } from '../work/pool.ts';

export interface GistAsked {
  record: number | null;
  /** a subject asked about */
  about: string;
  /** seconds up to which the record counts */
  until: number | null;
}

export interface GistShown {
  record: number;
  name: string;
  gist: GistRead['gist'];
  /** words by segment */
  said: Map<number, Said>;
  about: GistRead['about'];
  until: number | null;
  whole: number;
  /** what the model reader told of it, where it did */
  model: Awaited<ReturnType<typeof modelGistOf>>;
}

/** What one record of a meeting tells besides its finds. */
export async function gistPage(ws: Workspace, id: number, asked: GistAsked): Promise<{ meeting: MeetingRow; open: number; records: { id: number; name: string }[]; shown: GistShown | null }> {
  const meeting = await meetingRow(ws, Number.isInteger(id) ? id : -1);
  const open = await openBefore(ws, meeting.project, meeting.date);
  const kept = await ws.db.selectFrom('records').select(['id', 'file_name']).where('meeting_id', '=', meeting.id).where('replaced_by', 'is', null).orderBy('id').execute();
  const records = kept.map((r, i) => ({ id: r.id, name: r.file_name ?? `pasted text ${i + 1}` }));
  const row = kept.find((r) => r.id === asked.record) ?? kept[0];
  if (!row) return { meeting, open, records, shown: null };
  const people = await peopleOf(ws, meeting.project);
  const whole = await spokenRecord(ws.db, row.id, people);
  const found = (await findsOf(ws, meeting.id))
    .map((f) => seenIn(f, row.id))
    .filter((f) => f.record === row.id && f.verdict !== 'passed')
    .flatMap((f) => f.evidence.filter((e) => e.role === 'states').map((e) => ({ segment: e.segment, kind: f.kind, confidence: f.verdict === 'taken' ? 1 : f.confidence })));
  const read = await work('gist', { record: whole, people, found, subject: asked.about.trim().slice(0, 200), until: asked.until });
  return {
    meeting,
    open,
    records,
    shown: {
      record: row.id,
      name: records.find((r) => r.id === row.id)!.name,
      gist: read.gist,
      said: new Map(read.said.map((x) => [x.segment, x])),
      about: read.about,
      until: asked.until,
      whole: read.whole,
      model: await modelGistOf(ws, row.id),
    },
  };
}
