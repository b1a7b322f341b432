import { sql } from 'kysely';
import { z } from 'zod';
import { shortDay } from '../../core/language/days.ts';
import { type AskedPerson, type CalendarDoubt, type CalendarMeeting, readCalendar } from '../../core/meetings/invitations.ts';
import { daysOf, ruleInWords } from '../../core/meetings/recurrence.ts';
import { addPerson } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { insertMeeting, insertSeries } from './planning.ts';
import { changeMeeting, endSeries, fillAhead, setSeries } from './series.ts';

export const CalendarInSchema = z.object({ do: z.enum(['read', 'take']), text: z.string().min(1).max(2_000_000) });

/** What becomes of a meeting of a calendar file. */
export type Fate = 'new' | 'changed' | 'called off' | 'here already' | 'past' | 'not held';

/** A meeting of a calendar file as it is shown before it is taken. */
export interface ComingIn {
  title: string;
  /** how often, or the day; and the time */
  when: string;
  people: string[];
  fate: Fate;
}

export interface CalendarRead {
  meetings: ComingIn[];
  doubts: CalendarDoubt[];
}

/** What was taken, with what is new so that it can be taken back. */
export interface CalendarTaken {
  taken: number;
  made: { series: string | null; meeting: number | null }[];
  doubts: CalendarDoubt[];
}

type Known = { sequence: number; series_id: string | null; meeting_id: number | null } | undefined;

const knownAs = (ws: Workspace, project: string, uid: string): Promise<Known> => ws.db.selectFrom('calendar_ids').select(['sequence', 'series_id', 'meeting_id']).where('project_id', '=', project).where('uid', '=', uid).executeTakeFirst();

/** Nothing is later than today in a single meeting of the past, or in a series that has come to its end. */
const isPast = (m: CalendarMeeting, today: string): boolean => (m.rule === null ? m.date < today : daysOf(m.rule, m.date, { from: today, count: 1, time: m.time ?? '00:00' }).length === 0);

/** RFC 5546: what has a higher SEQUENCE replaces what was taken before; the same or a lower one changes nothing. */
function fateOf(m: CalendarMeeting, known: Known, today: string): Fate {
  // what was held is history, whatever a calendar says of it since: it must not keep the rest from being taken
  if (isPast(m, today)) return known ? 'here already' : 'past';
  if (known) return m.sequence > known.sequence || (m.cancelled && m.sequence === known.sequence) ? (m.cancelled ? 'called off' : 'changed') : 'here already';
  return m.cancelled ? 'not held' : 'new';
}

/** Reads a calendar file or an invitation, and says what would become of each of its meetings. Nothing is kept. */
export async function readCalendarIn(ws: Workspace, project: string, text: string): Promise<CalendarRead> {
  mustSee(ws, project, 'project');
  const { meetings, doubts } = readCalendar(text, ws.asker.zone);
  const shown: ComingIn[] = [];
  for (const m of meetings) shown.push({ title: m.title, when: `${m.rule ? ruleInWords(m.rule) : shortDay(m.date, ws.today)}${m.time ? ` at ${m.time}` : ''}`, people: m.people.flatMap((p) => p.name ?? p.mail ?? []), fate: fateOf(m, await knownAs(ws, project, m.uid), ws.today) });
  return { meetings: shown, doubts };
}

/** Takes the meetings of a calendar file: new ones are planned, known ones follow what the file says of them now. All or nothing. */
export async function takeCalendarIn(ws: Workspace, project: string, text: string): Promise<CalendarTaken> {
  mustSee(ws, project, 'project');
  const { meetings, doubts } = readCalendar(text, ws.asker.zone);
  if (meetings.length === 0) throw new Refusal('bad-input', doubts[0]?.why ?? 'There is no meeting in this calendar.', 'It begins with BEGIN:VCALENDAR and has VEVENT entries.');
  return ws.transaction(async (ws) => {
    const made: CalendarTaken['made'] = [];
    let taken = 0;
    for (const m of meetings) {
      const known = await knownAs(ws, project, m.uid);
      const fate = fateOf(m, known, ws.today);
      if (fate === 'past' || fate === 'not held' || fate === 'here already') continue;
      taken++;
      if (fate === 'new') {
        const own = await begin(ws, project, m);
        made.push(own);
        await ws.db.insertInto('calendar_ids').values({ project_id: project, uid: m.uid, sequence: m.sequence, series_id: own.series, meeting_id: own.meeting }).execute();
        continue;
      }
      if (fate === 'called off') await callOff(ws, known!);
      else await follow(ws, known!, m);
      await ws.db.updateTable('calendar_ids').set({ sequence: m.sequence }).where('project_id', '=', project).where('uid', '=', m.uid).execute();
    }
    return { taken, made, doubts };
  });
}

async function begin(ws: Workspace, project: string, m: CalendarMeeting): Promise<{ series: string | null; meeting: number | null }> {
  const people = await peopleOf(ws, project, m.people);
  const { title, place, minutes, notes } = m;
  if (m.rule === null) {
    const meeting = await insertMeeting(ws.db, { project_id: project, series_id: null, title, date: m.date, time: m.time, minutes, number: null, place });
    for (const person_id of people) await ws.db.insertInto('attendance').values({ meeting_id: meeting, person_id, present: 1 }).execute();
    return { series: null, meeting };
  }
  const series = await insertSeries(ws, project, { title, rule: m.rule, starts_on: m.date, time: m.time ?? '09:00', minutes, place, notes }, people);
  await except(ws, project, series, m);
  await fillAhead(ws.db, series, ws.today);
  return { series, meeting: null };
}

/** Days a series leaves out, and those it holds at another day or time. */
async function except(ws: Workspace, project: string, series: string, m: CalendarMeeting): Promise<void> {
  const values = { project_id: project, series_id: series, title: m.title, minutes: m.minutes, number: null, place: m.place };
  for (const e of [...m.left.map((slot) => ({ slot, date: slot, time: m.time, off: true })), ...m.moved.map((x) => ({ ...x, off: false }))]) {
    if (e.date < ws.today && e.slot < ws.today) continue;
    const there = await ws.db.selectFrom('meetings').select('id').where('series_id', '=', series).where('slot', '=', e.slot).executeTakeFirst();
    const id = there?.id ?? (await insertMeeting(ws.db, { ...values, date: e.date, time: e.time ?? m.time }));
    await ws.db
      .updateTable('meetings')
      .set({ slot: e.slot, date: e.date, time: e.time ?? m.time, cancelled_at: e.off ? new Date().toISOString() : null })
      .where('id', '=', id)
      .execute();
  }
}

async function follow(ws: Workspace, known: NonNullable<Known>, m: CalendarMeeting): Promise<void> {
  if (known.series_id !== null) {
    const { project_id } = await ws.db.selectFrom('series').select('project_id').where('id', '=', known.series_id).executeTakeFirstOrThrow();
    await setSeries(ws, known.series_id, { title: m.title, ...(m.rule === null ? {} : { rule: m.rule, starts_on: m.date }), time: m.time ?? '09:00', minutes: m.minutes, place: m.place });
    await except(ws, project_id, known.series_id, m);
    await fillAhead(ws.db, known.series_id, ws.today);
    return;
  }
  if (known.meeting_id === null) return;
  await changeMeeting(ws, known.meeting_id, { do: 'move', when: `${m.date}${m.time ? ` at ${m.time}` : ''}` });
  await ws.db.updateTable('meetings').set({ title: m.title, place: m.place, minutes: m.minutes }).where('id', '=', known.meeting_id).execute();
}

async function callOff(ws: Workspace, known: NonNullable<Known>): Promise<void> {
  if (known.series_id !== null) await endSeries(ws, known.series_id, 'end');
  else if (known.meeting_id !== null) await changeMeeting(ws, known.meeting_id, { do: 'cancel' });
}

/** People as a calendar names them: known by address, then by name; else new, with the name the address is made of. */
async function peopleOf(ws: Workspace, project: string, asked: readonly AskedPerson[]): Promise<string[]> {
  const out = new Set<string>();
  for (const { name, mail } of asked) {
    const byMail = mail === null ? undefined : await ws.db.selectFrom('people').select('id').where(sql<boolean>`lower(mail) = ${mail}`).executeTakeFirst();
    if (byMail) {
      await ws.db
        .insertInto('memberships')
        .values({ project_id: project, person_id: byMail.id, sees: 0 })
        .onConflict((c) => c.doNothing())
        .execute();
      out.add(byMail.id);
      continue;
    }
    const called = name ?? nameIn(mail);
    if (called === null) continue;
    const id = await addPerson(ws, project, called);
    if (mail) await ws.db.updateTable('people').set({ mail }).where('id', '=', id).where('mail', 'is', null).execute();
    out.add(id);
  }
  return [...out];
}

/** `bram.osei@…` is Bram Osei. */
function nameIn(mail: string | null): string | null {
  const parts = (mail ?? '')
    .split('@')[0]!
    .split(/[._+-]/)
    .filter((p) => /^\p{L}{2,}$/u.test(p));
  return parts.length ? parts.map((p) => p[0]!.toUpperCase() + p.slice(1)).join(' ') : null;
}
