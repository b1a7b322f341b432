import { longDay } from '../../../core/language/days.ts';
import { asRecord } from '../../../core/meetings/live/read-back.ts';
import type { Find } from '../../../core/sift/find.ts';
import type { Workspace } from '../../people/workspace.ts';
import { keepRecord } from '../../records/bringing-in.ts';
import { Refusal } from '../../refusal.ts';
import { keptFind, stamp, WRITTEN } from '../../sift/finds.ts';
import { takeFind } from '../../sift/judging.ts';
import { CODECS } from '../../store/codecs.ts';
import { SUPERSEDED } from '../../store/schema.ts';
import { recordWords } from '../../store/segments.ts';
import { pointsOf } from '../agenda.ts';
import { type Room, type RoomLine, roomOf } from './room.ts';

export interface Ended {
  room: Room;
  /** what was confirmed, by its reference */
  taken: string[];
  /** finds that wait on Sift */
  left: number;
}

/**
 * Ends a meeting that was held. Its lines become a record of it, and what they say becomes finds that point at them: those
 * confirmed at the read-back are taken, the others wait on Sift, where the quick reader adds only what the lines say besides.
 */
export async function endRoom(ws: Workspace, id: number, now: Date): Promise<Ended> {
  const room = await roomOf(ws, id);
  if (room.state === 'before') throw new Refusal('conflict', 'The meeting has not begun.', 'Begin it first.');
  if (room.state === 'over') throw new Refusal('conflict', 'The meeting has ended already.', 'Its finds are on Sift.');
  const taken = room.lines.length ? await keepLines(ws, room) : [];
  await ws.db.insertInto('live_marks').values({ meeting_id: id, kind: 'end', point_id: null, at: now.toISOString(), by_person: ws.asker.person }).execute();
  const after = await roomOf(ws, id);
  return { room: after, taken, left: after.meeting.findsLeft };
}

async function keepLines(ws: Workspace, room: Room): Promise<string[]> {
  const { meeting: m, lines } = room;
  const spoken = lines.map((line) => ({ line, item: line.item, text: line.words }));
  // two meetings in which the same was written are two records
  const { text, at } = asRecord(`${m.title}, ${longDay(m.date)}, from ${(room.began ?? '').slice(11, 19)} UTC`, await pointsOf(ws, m.id), spoken);
  // a stop after the record was kept and before it was noted that the meeting ended finds it here again
  const before = await ws.db.selectFrom('records').select('id').where('meeting_id', '=', m.id).where('file_name', '=', fileName(room)).executeTakeFirst();
  if (!before) await keepRecord(ws, { project: m.project, fileName: fileName(room), meeting: m.id, series: m.series, title: m.title, date: m.date, author: null, voices: {} }, new TextEncoder().encode(text));
  const { id: record } = before ?? (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', m.id).where('file_name', '=', fileName(room)).orderBy('id', 'desc').executeTakeFirstOrThrow());
  const { segments } = await recordWords(ws.db, record);
  const placed = new Map([...at].map(([s, line]) => [s.line.id, segments.find((x) => x.line === line && x.role !== 'heading')?.index ?? null]));
  return ws.transaction(async (ws) => {
    const taken: string[] = [];
    for (const [position, line] of lines.entries()) {
      const segment = placed.get(line.id) ?? null;
      if (line.read.kind === 'point' || segment === null) continue;
      const find = await keepFind(ws, m.id, record, line, segment, segments[segment]!.text.length, position);
      if (find !== null && line.confirmedBy !== null) {
        await takeFind(ws, find, {});
        const { ref } = await keptFind(ws, m.id, find);
        if (ref) taken.push(ref);
      }
    }
    await stamp(ws.db, m.id);
    return taken;
  });
}

const fileName = ({ meeting, began }: Room) => `notes-${meeting.date}-${(began ?? '').slice(11, 16).replace(':', '')}.md`;

/** A line as a find; what a reader proposed of the same line gives way to what its writer said it is. Null where it is one already. */
async function keepFind(ws: Workspace, meeting: number, record: number, line: RoomLine, segment: number, length: number, position: number): Promise<number | null> {
  const { read } = line;
  const find: Find = {
    key: `${WRITTEN}${line.id}`,
    kind: read.kind as Find['kind'],
    text: read.text,
    about: [],
    owner: read.owner,
    ownerHow: null,
    due: read.due,
    duePhrase: read.duePhrase,
    update: null,
    evidence: [{ segment, from: 0, to: length, role: 'states' }],
    clues: [],
    confidence: 1,
    reason: `${line.byName} wrote it down in the meeting.`,
  };
  const open = await ws.db.selectFrom('finds').select(['id', 'data']).where('record_id', '=', record).where('verdict', '=', 'open').where('reader', '!=', 'hand').execute();
  for (const f of open) {
    const other = CODECS.find.read(f.data);
    if (other.update === null && other.evidence.some((e) => e.role === 'states' && e.segment === segment)) await ws.db.updateTable('finds').set({ reader: SUPERSEDED }).where('id', '=', f.id).execute();
  }
  const made = await ws.db
    .insertInto('finds')
    .values({ meeting_id: meeting, record_id: record, key: find.key, kind: find.kind, data: CODECS.find.write(find), position, reader: 'hand' })
    .onConflict((c) => c.columns(['record_id', 'key']).doNothing())
    .returning('id')
    .executeTakeFirst();
  return made?.id ?? null;
}
