import { z } from 'zod';
import { shortDay } from '../../../core/language/days.ts';
import { type Person, Roster } from '../../../core/language/people.ts';
import { type Captured, type Legend, LegendSchema, readCapture, signOf, USUAL_LEGEND } from '../../../core/meetings/live/capture.ts';
import { type Clock, clockOf, type Mark } from '../../../core/meetings/live/clock.ts';
import type { Choice } from '../../people/people.ts';
import { choicesOf, peopleOf } from '../../people/people.ts';
import type { Workspace } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import { CODECS } from '../../store/codecs.ts';
import type { Db } from '../../store/database.ts';
import { type AgendaPoint, keptPoints, pointsOf, USUAL_LENGTH } from '../agenda.ts';
import { type MeetingRow, meetingRow } from '../meetings.ts';
import { changeMeeting } from '../series.ts';
import { changeVote, type RoomVote, VoteChangeSchema, votesOf } from './votes.ts';

/** A line of a meeting, as it was typed and as it is understood. */
export interface RoomLine {
  id: string;
  n: number;
  item: number | null;
  /** as it was typed, in the usual signs */
  text: string;
  /** the same without its sign */
  words: string;
  read: Captured;
  seconds: number;
  by: string;
  byName: string;
  changedBy: string | null;
  confirmedBy: string | null;
  revision: number;
}

/** A meeting that is held, as everybody in it sees it. */
export interface Room {
  meeting: MeetingRow;
  state: 'before' | 'running' | 'over';
  began: string | null;
  points: (AgendaPoint & { id: number })[];
  marks: Mark[];
  lines: RoomLine[];
  /** commitments of before that something was said about in it, by what became of them */
  walked: Record<number, { kind: string; event: number; by: string }>;
  votes: RoomVote[];
  /** the server’s time, in milliseconds, for clocks that go wrong */
  now: number;
  /** the signs of whoever looks */
  legend: Legend;
  stamp: string;
}

/** What a meeting was last changed by, as a word that changes with every change. */
export async function roomStamp(db: Db, meeting: number): Promise<string> {
  const [marks, lines, agenda, votes, events] = await Promise.all([
    db
      .selectFrom('live_marks')
      .select(({ fn }) => fn.max('id').as('n'))
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('live_lines')
      .select(({ fn }) => [fn.countAll<number>().as('n'), fn.sum<number>('revision').as('r')])
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('agenda_changes')
      .select(({ fn }) => fn.max('id').as('n'))
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('votes')
      .select(({ fn }) => fn.sum<number>('revision').as('n'))
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('events')
      .select(({ fn }) => fn.max('id').as('n'))
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
  ]);
  return [marks.n ?? 0, lines.n, lines.r ?? 0, agenda.n ?? 0, votes.n ?? 0, events.n ?? 0].join('.');
}

export async function roomOf(ws: Workspace, id: number): Promise<Room> {
  const meeting = await meetingRow(ws, id);
  const stamp = await roomStamp(ws.db, id);
  const [points, marks, rows, people, events] = await Promise.all([
    pointsOf(ws, id),
    marksOf(ws.db, id),
    ws.db
      .selectFrom('live_lines as l')
      .innerJoin('people as p', 'p.id', 'l.by_person')
      .leftJoin('people as c', 'c.id', 'l.changed_by')
      .leftJoin('people as k', 'k.id', 'l.confirmed_by')
      .selectAll('l')
      .select(['p.name', 'c.name as changer', 'k.name as confirmer'])
      .where('l.meeting_id', '=', id)
      .where('l.removed_at', 'is', null)
      .orderBy('l.n')
      .execute(),
    peopleOf(ws, meeting.project),
    ws.db.selectFrom('events as e').innerJoin('people as p', 'p.id', 'e.by_person').select(['e.id', 'e.commitment_id', 'e.kind', 'e.data', 'p.name']).where('e.meeting_id', '=', id).where('e.kind', '!=', 'made').orderBy('e.id').execute(),
  ]);
  const undone = new Set(events.filter((e) => e.kind === 'undone').map((e) => CODECS.eventData.read(e.data).undoes));
  const walked: Room['walked'] = {};
  for (const e of events) if (e.kind !== 'undone' && !undone.has(e.id)) walked[e.commitment_id] = { kind: e.kind, event: e.id, by: e.name };
  const own = await ws.db.selectFrom('capture_legends').select('legend').where('person_id', '=', ws.asker.person).executeTakeFirst();
  const { next } = await ws.db.selectFrom('meetings').select('next').where('id', '=', id).executeTakeFirstOrThrow();
  const understood = understanding(people, meeting.date, next);
  const began = marks.find((m) => m.kind === 'begin');
  const last = marks.filter((m) => m.kind === 'begin' || m.kind === 'end' || m.kind === 'again').at(-1);
  return {
    meeting,
    state: !began ? 'before' : last!.kind === 'end' ? 'over' : 'running',
    began: began ? new Date(began.at).toISOString() : null,
    points,
    marks,
    lines: rows.map((l) => ({
      id: l.id,
      n: l.n,
      item: l.point_id,
      text: l.text,
      words: signOf(l.text, USUAL_LEGEND).rest,
      read: understood(l.text, l.by_person),
      seconds: l.seconds,
      by: l.by_person,
      byName: l.name,
      changedBy: l.changer,
      confirmedBy: l.confirmer,
      revision: l.revision,
    })),
    walked,
    votes: await votesOf(ws, id),
    now: Date.now(),
    legend: own ? CODECS.legend.read(own.legend) : USUAL_LEGEND,
    stamp,
  };
}

/** Lines that were read already: everybody in a meeting asks for all of them again after each one. */
const known = new Map<string, Captured>();
const MOST_KNOWN = 20_000;

/** Reads lines of a meeting, each once for the same people and days. */
function understanding(people: readonly Person[], date: string, next: string | null): (text: string, writer: string) => Captured {
  const roster = new Roster(people);
  const where = JSON.stringify([date, next, people.map((p) => [p.id, p.name, p.aliases])]);
  return (text, writer) => {
    const key = `${writer}\n${text}\n${where}`;
    let read = known.get(key);
    if (!read) {
      if (known.size > MOST_KNOWN) known.clear();
      read = readCapture(text, { legend: USUAL_LEGEND, people: roster, writer, date, next });
      known.set(key, read);
    }
    return read;
  };
}

async function marksOf(db: Db, meeting: number): Promise<Mark[]> {
  const rows = await db.selectFrom('live_marks').select(['kind', 'point_id', 'at']).where('meeting_id', '=', meeting).orderBy('id').execute();
  return rows.map((r) => ({ kind: r.kind, item: r.point_id, at: Date.parse(r.at) }));
}

/** The clock of a meeting as it stands at a moment. */
export async function roomClock(ws: Workspace, id: number, now: Date): Promise<Clock> {
  const m = await meetingRow(ws, id);
  return clockOf(await pointsOf(ws, id), await marksOf(ws.db, id), m.minutes ?? USUAL_LENGTH, now.getTime());
}

const LineText = z
  .string()
  .trim()
  .min(1, 'needs words')
  .max(1000)
  .refine((t) => !/[\r\n]/.test(t), 'is one line')
  .refine((t) => signOf(t, USUAL_LEGEND).rest !== '', 'needs words');

export const RoomChangeSchema = z.discriminatedUnion('do', [
  /** `insist` holds it today, though it was planned for another day */
  z.object({ do: z.literal('begin'), insist: z.boolean().optional() }),
  z.object({ do: z.literal('point'), point: z.number().int() }),
  z.object({ do: z.literal('tick'), point: z.number().int(), done: z.boolean() }),
  z.object({ do: z.literal('line'), id: z.uuid(), text: LineText, point: z.number().int().nullable() }),
  z.object({ do: z.literal('edit'), id: z.uuid(), text: LineText, revision: z.number().int() }),
  z.object({ do: z.literal('remove'), id: z.uuid(), removed: z.boolean() }),
  z.object({ do: z.literal('confirm'), id: z.uuid(), confirmed: z.boolean() }),
  z.object({ do: z.literal('legend'), legend: LegendSchema }),
  ...VoteChangeSchema.options,
]);
export type RoomChange = z.infer<typeof RoomChangeSchema>;

/** What somebody does in a meeting that is held. */
export async function changeRoom(ws: Workspace, id: number, change: RoomChange, now: Date): Promise<Room> {
  await ws.transaction(async (ws) => {
    const m = await meetingRow(ws, id);
    const mark = (kind: Mark['kind'], point: number | null = null) => ws.db.insertInto('live_marks').values({ meeting_id: id, kind, point_id: point, at: now.toISOString(), by_person: ws.asker.person }).execute();
    const state = (await marksOf(ws.db, id)).filter((k) => k.kind === 'begin' || k.kind === 'end' || k.kind === 'again').at(-1)?.kind;
    const running = () => {
      if (state === undefined) throw new Refusal('conflict', 'The meeting has not begun.', 'Begin it first.');
      if (state === 'end') throw new Refusal('conflict', 'The meeting has ended.', 'Its lines are in its record now.');
    };
    switch (change.do) {
      case 'begin': {
        if (state !== undefined) return;
        await mustBeToday(ws, m, change.insist === true);
        const points = await keptPoints(ws, m);
        await mark('begin');
        if (points[0]) await mark('point', points[0].id);
        return;
      }
      case 'point':
        running();
        await mustBeOn(ws, id, change.point);
        return void (await mark('point', change.point));
      case 'tick':
        running();
        await mustBeOn(ws, id, change.point);
        return void (await mark(change.done ? 'tick' : 'untick', change.point));
      case 'legend':
        await ws.db
          .insertInto('capture_legends')
          .values({ person_id: ws.asker.person, legend: CODECS.legend.write(change.legend) })
          .onConflict((c) => c.column('person_id').doUpdateSet({ legend: CODECS.legend.write(change.legend) }))
          .execute();
        return;
      case 'line': {
        running();
        if (change.point !== null) await mustBeOn(ws, id, change.point);
        await addLine(ws, id, change, now);
        return;
      }
      case 'vote':
      case 'spread':
      case 'close vote': {
        running();
        const line = await changeVote(ws, id, change, now);
        if (line) await addLine(ws, id, { ...line, point: null }, now);
        return;
      }
      default:
        running();
        return changeLine(ws, id, change);
    }
  });
  return roomOf(ws, id);
}

/** Adds a line at the end. One that is sent again, since nobody heard that it came, is there already. */
async function addLine(ws: Workspace, meeting: number, line: { id: string; text: string; point: number | null }, now: Date): Promise<void> {
  const began = (await marksOf(ws.db, meeting)).find((k) => k.kind === 'begin')!;
  const { n } = await ws.db
    .selectFrom('live_lines')
    .select(({ fn }) => fn.max('n').as('n'))
    .where('meeting_id', '=', meeting)
    .executeTakeFirstOrThrow();
  await ws.db
    .insertInto('live_lines')
    .values({ id: line.id, n: (n ?? 0) + 1, meeting_id: meeting, point_id: line.point, text: line.text, seconds: Math.max(0, Math.round((now.getTime() - began.at) / 1000)), at: now.toISOString(), by_person: ws.asker.person })
    .onConflict((c) => c.column('id').doNothing())
    .execute();
}

async function changeLine(ws: Workspace, meeting: number, change: Extract<RoomChange, { do: 'edit' | 'remove' | 'confirm' }>): Promise<void> {
  const line = await ws.db.selectFrom('live_lines').selectAll().where('id', '=', change.id).where('meeting_id', '=', meeting).executeTakeFirst();
  if (!line) throw new Refusal('not-found', 'There is no such line.');
  if (change.do === 'edit' && line.revision !== change.revision && line.text !== change.text) {
    const who =
      (
        await ws.db
          .selectFrom('people')
          .select('name')
          .where('id', '=', line.changed_by ?? line.by_person)
          .executeTakeFirst()
      )?.name ?? 'Somebody';
    throw new Refusal('conflict', `${who} changed this line meanwhile: “${line.text.slice(0, 200)}”.`, 'Yours stands in the field; press Enter again to keep it.');
  }
  const values = change.do === 'edit' ? { text: change.text, changed_by: ws.asker.person, confirmed_by: null } : change.do === 'remove' ? { removed_at: change.removed ? new Date().toISOString() : null } : { confirmed_by: change.confirmed ? ws.asker.person : null };
  await ws.db
    .updateTable('live_lines')
    .set((eb) => ({ ...values, revision: eb('revision', '+', 1) }))
    .where('id', '=', change.id)
    .execute();
}

async function mustBeOn(ws: Workspace, meeting: number, point: number): Promise<void> {
  if (!(await ws.db.selectFrom('agenda_points').select('id').where('id', '=', point).where('meeting_id', '=', meeting).executeTakeFirst())) throw new Refusal('not-found', 'That point is not on this agenda.');
}

/** A meeting is held on its day. One of another day moves to today when somebody insists; one that has a record was held. */
async function mustBeToday(ws: Workspace, m: MeetingRow, insist: boolean): Promise<void> {
  if (m.records > 0) throw new Refusal('conflict', 'This meeting was held: it has a record.', 'Its finds are on Sift.');
  if (m.cancelled) throw new Refusal('conflict', 'This meeting is cancelled.', 'Hold it after all first, on Prepare.');
  if (m.date === ws.today) return;
  if (!insist) throw new Refusal('insist', `This meeting is planned for ${shortDay(m.date, ws.today)}.`, 'Begin it once more to hold it today: it moves.');
  await changeMeeting(ws, m.id, { do: 'move', when: `today${m.time ? ` at ${m.time}` : ''}` });
}

/** People a line may name, for the field to tell what it understands while it is typed. */
export async function roomPeople(ws: Workspace, project: string): Promise<Choice[]> {
  return choicesOf(await peopleOf(ws, project), ws.asker);
}
