import type { EventKind } from '../../core/ledger/events.ts';
import type { Segment } from '../../core/record/model.ts';
import { seenIn } from '../../core/sift/twins.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import { type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import { whole } from '../people/out-of-sight.ts';
import type { Choice } from '../people/people.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { mediaOf } from '../records/media.ts';
import { type Keeping, keepingOf } from '../records/retention.ts';
import { type Voice, voicesOf } from '../records/speakers.ts';
import type { KeptFind } from '../sift/finds.ts';
import { findsOf, siftWhatWaits } from '../sift/finds.ts';
import { type ModelReading, modelReadingOf } from '../sift/model-reading.ts';
import { CODECS, type Media } from '../store/codecs.ts';
import { recordWords, spokenRecord } from '../store/segments.ts';

export interface OpenRow {
  id: number;
  ref: string;
  text: string;
  owner: { id: string; name: string }[];
  due: string | null;
  state: string;
  madeOn: string;
  life: { on: string; kind: EventKind }[];
}

export interface SiftProps {
  meeting: { id: number; date: string; next: string | null };
  record: {
    id: number;
    captions: boolean;
    /** with the names people are known by; null where there are so many that they come after the page, see {@link recordShown} */
    segments: Segment[] | null;
    /** the record's own names, with whom they were taken for */
    voices: Voice[];
    /** by segment: the record's own name, where another one is shown */
    under: Record<number, string>;
    media: Media | null;
  };
  finds: KeptFind[];
  people: Choice[];
  open: OpenRow[];
  next: { action: number; decision: number; question: number };
  today: string;
  keeping: Keeping;
  /** how the model reader stands with the record; null where none is set up */
  model: ModelReading | null;
}

/** A record of the meeting, when there are several to choose from. */
export interface RecordChoice {
  id: number;
  name: string;
  left: number;
  shown: boolean;
  /** a better one has taken its place */
  replaced: boolean;
}

/**
 * Everything the Sift screen shows of one meeting: one record with the finds that rest on it.
 * @param wanted id of the record to show; without it the first one with finds left, or the first
 */
export async function siftPage(ws: Workspace, id: number, wanted: number | null = null): Promise<{ meeting: MeetingRow; open: unknown[]; records: RecordChoice[]; view: SiftProps | null }> {
  const meeting = await meetingRow(ws, Number.isInteger(id) ? id : -1);
  const rows = [...(await ledgerRows(ws, { project: meeting.project, state: 'open' })), ...(await ledgerRows(ws, { project: meeting.project, state: 'ended', endedFrom: meeting.date }))];
  const open = rows.filter((r) => r.meeting !== meeting.id && r.madeOn <= meeting.date && (r.endedOn === null || r.endedOn >= meeting.date));
  const kept = await ws.db.selectFrom('records').select(['id', 'format', 'file_name', 'replaced_by', 'voices']).where('meeting_id', '=', meeting.id).orderBy('id').execute();
  for (const r of kept) if (r.replaced_by === null) await siftWhatWaits(ws, meeting.id, r.id);
  const all = await findsOf(ws, meeting.id);
  const ofRecord = (record: number) => all.map((f) => seenIn(f, record)).filter((f) => f.record === record);
  const left = (record: number) => ofRecord(record).filter((f) => f.verdict === 'open').length;
  const standing = kept.filter((r) => r.replaced_by === null || left(r.id) > 0);
  const row = kept.find((r) => r.id === wanted) ?? standing.find((r) => left(r.id) > 0) ?? standing[0];
  const records = kept.map((r, i) => ({ id: r.id, name: r.file_name ?? `pasted text ${i + 1}`, left: left(r.id), shown: r.id === row?.id, replaced: r.replaced_by !== null }));
  if (!row) return { meeting, open, records, view: null };
  const finds = ofRecord(row.id);
  const [record, people, m, last, statements] = await Promise.all([
    recordWords(ws.db, row.id),
    peopleOf(ws, meeting.project),
    ws.db.selectFrom('meetings').select('next').where('id', '=', meeting.id).executeTakeFirstOrThrow(),
    whole(ws.db)
      .selectFrom('commitments')
      .select(({ fn }) => fn.max('number').as('n'))
      .where('project_id', '=', meeting.project)
      .executeTakeFirstOrThrow(),
    whole(ws.db)
      .selectFrom('statements')
      .select(({ fn }) => ['kind', fn.max('number').as('n')])
      .where('project_id', '=', meeting.project)
      .groupBy('kind')
      .execute(),
  ]);
  const next = (kind: string) => (statements.find((s) => s.kind === kind)?.n ?? 0) + 1;
  return {
    meeting,
    open,
    records,
    view: {
      meeting: { id: meeting.id, date: meeting.date, next: m.next },
      record: { id: row.id, captions: row.format === 'vtt' || row.format === 'srt', ...(record.segments.length > WITH_THE_PAGE ? { segments: null, under: {} } : await recordShown(ws, row.id)), voices: voicesOf(record, CODECS.voices.read(row.voices)), media: await mediaOf(ws, row.id) },
      finds,
      people: choicesOf(people, ws.asker),
      open: open.map((r) => ({ id: r.id, ref: r.ref, text: r.text, owner: r.owner, due: r.due, state: r.state, madeOn: r.madeOn, life: r.life })),
      next: { action: (last.n ?? 0) + 1, decision: next('decision'), question: next('question') },
      today: ws.today,
      keeping: await keepingOf(ws, row.id),
      model: await modelReadingOf(ws, row.id),
    },
  };
}

/** So many segments come with the page: three hours of talk. */
const WITH_THE_PAGE = 6_000;

/** The words of one record, with the names of the people who speak. */
export async function recordShown(ws: Workspace, id: number): Promise<{ segments: Segment[]; under: Record<number, string> }> {
  const row = await ws.db
    .selectFrom('records as r')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .select('m.project_id as project')
    .where('r.id', '=', Number.isInteger(id) ? id : -1)
    .executeTakeFirst();
  mustSee(ws, row?.project, 'record');
  const people = await peopleOf(ws, row!.project);
  return shownVoices((await recordWords(ws.db, id)).segments, (await spokenRecord(ws.db, id, people)).segments);
}

/** Segments with the names of the people who speak, but where the record's own name is part of that already. */
function shownVoices(own: readonly Segment[], spoken: readonly Segment[]): { segments: Segment[]; under: Record<number, string> } {
  const under: Record<number, string> = {};
  const segments = own.map((s, i) => {
    const name = spoken[i]!.voice;
    if (!s.voice || !name || name.toLowerCase().includes(s.voice.toLowerCase())) return s;
    under[s.index] = s.voice;
    return { ...s, voice: name };
  });
  return { segments, under };
}
