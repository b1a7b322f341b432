import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import nodemailer from 'nodemailer';
import { addDays, weekday } from '../src/core/dates/calendar.ts';
import { readDates } from '../src/core/dates/read.ts';
import { ORDINALS } from '../src/core/dates/words.ts';
import { dayAndMonth, longDay } from '../src/core/language/days.ts';
import { Roster } from '../src/core/language/people.ts';
import { DEFAULT_RULES, type LetterRules } from '../src/core/letters/rules.ts';
import { dayCode, daysOf } from '../src/core/meetings/recurrence.ts';
import { guessFormat, readRecord } from '../src/core/record/read.ts';
import type { Find } from '../src/core/sift/find.ts';
import { jot } from '../src/server/day/jottings.ts';
import { catchUp } from '../src/server/find/index.ts';
import { saveView } from '../src/server/ledger/views.ts';
import { asMail } from '../src/server/letters/mailer.ts';
import type { Carriers } from '../src/server/letters/queue.ts';
import { sendLetter } from '../src/server/letters/queue.ts';
import { roundUpsFor } from '../src/server/letters/round-up.ts';
import { fillEverySeries } from '../src/server/meetings/series.ts';
import { setOwner } from '../src/server/people/owner.ts';
import { type Workspace, workspaceOf } from '../src/server/people/workspace.ts';
import { KEEP_DAYS } from '../src/server/records/bringing-in.ts';
import { siftMeeting } from '../src/server/sift/finds.ts';
import { passFind, takeFind } from '../src/server/sift/judging.ts';
import type { Db } from '../src/server/store/database.ts';
import type { PostOffice } from '../standins/mail/post-office.ts';
import { FIRST_THING, JOTTINGS } from './jottings.ts';
import { lettersUpTo } from './letters-load.ts';
import { PEOPLE } from './people.ts';
import { routinesFrom, routinesUpTo } from './routines.ts';
import { type DemoMeeting, STORY, type Taken } from './story.ts';

const PROJECT = 'quiet-crossing';

/** Ines’s rules: as a project starts with them, and Hanne hears of what is eight working days late. */
const RULES: LetterRules = { ...DEFAULT_RULES, escalation: { on: true, byItself: false, after: 8, to: 'hanne' } };

/** True when there is nothing in the database yet. */
export async function isEmpty(db: Db): Promise<boolean> {
  return (await db.selectFrom('projects').select('id').limit(1).executeTakeFirst()) === undefined;
}

/** The newest thing that happens in the demo is an answer that comes in at 11:20, after the works call of 10:00. */
const ALL_HAS_HAPPENED = '11:30';

/** The latest day whose call and answers lie in the past: today, or before half past eleven the day before. */
export function storyDay(today: string, now: Date): string {
  const here = `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`;
  const happened = here >= ALL_HAS_HAPPENED && now.toISOString() >= `${today}T${ALL_HAS_HAPPENED}`;
  return lastWorkingDay(happened ? today : addDays(today, -1));
}

/**
 * Loads the demo, dated relative to `today`; letters of past meetings are put into the stand-in's mailboxes.
 * @param last the day of its last call, see {@link storyDay}: nothing of it lies in the future
 */
export async function loadDemo(db: Db, today: string, office: PostOffice | null, last = lastWorkingDay(today)): Promise<void> {
  await people(db, today, last);
  await setOwner(db, 'ines');
  const ws = (await workspaceOf(db, 'ines', today)).with({ project: PROJECT });
  const keys = new Map<string, { commitment: number; due: string | null; owner: string[] }>();
  const numbers = new Map<string, number>();
  const carriers = office ? carriersInto(office) : null;
  const world = { ws, keys, last, carriers };
  let lived = routinesFrom(last);
  for (const m of [...STORY].sort((a, b) => b.ago - a.ago)) {
    if (m.ago >= 0) await lettersUpTo(world, m.ago);
    if (m.ago >= 0 && carriers) lived = await routinesUpTo(ws, last, m.ago, lived, carriers);
    const date = sittingDay(m, today, last);
    const number = m.series ? (numbers.get(m.series) ?? 0) + 1 : null;
    if (m.series) numbers.set(m.series, number!);
    const id = await meeting(db, m, date, number, nextOf(m, today, last));
    if (!m.file) continue;
    const record = await keep(ws, id, m, date);
    if (m.taken === null) await siftMeeting(ws, id, record);
    else await settle(ws, id, record, m.taken, date, keys);
    if (m.letter && carriers) {
      for (const letter of await roundUpsFor(ws, id)) await sendLetter(ws, letter.id, carriers, () => new Date(`${date}T15:30:00.000Z`));
    }
  }
  await lettersUpTo(world, -1);
  if (carriers) await routinesUpTo(ws, last, -1, lived, carriers);
  await jottings(ws, last);
  await calendar(db, today);
}

/** What is planned beside the rhythm of its series was moved from the day the rhythm gave; the next ones follow from it. */
async function calendar(db: Db, today: string): Promise<void> {
  for (const s of await db.selectFrom('series').selectAll().execute()) {
    const coming = await db.selectFrom('meetings').select(['id', 'date']).where('series_id', '=', s.id).where('date', '>', today).orderBy('date').execute();
    const given = daysOf(s.rule, s.starts_on, { from: addDays(today, 1), count: 20 });
    for (const m of coming.filter((m) => !given.includes(m.date))) {
      const slot = given.find((day) => !coming.some((o) => o.date === day))!;
      await db.updateTable('meetings').set({ slot }).where('id', '=', m.id).execute();
    }
  }
  await fillEverySeries(db, today);
}

/** What Ines jotted down, what she remembers of people, and what she pinned for this morning. */
async function jottings(ws: Workspace, last: string): Promise<void> {
  for (const j of [...JOTTINGS].sort((a, b) => b.ago - a.ago)) await jot(ws.with({ today: addDays(last, -j.ago) }), PROJECT, { text: j.text, about: j.person ? { kind: 'person', id: j.person } : null, standing: j.standing ?? false });
  const evening = addDays(ws.today, -1);
  await ws.db
    .insertInto('close_outs')
    .values({ project_id: PROJECT, person_id: ws.asker.person, day: evening, first_thing: FIRST_THING, summary: '', at: `${evening}T17:00:00.000Z` })
    .execute();
  await saveView(ws, PROJECT, { name: 'late and carried', query: 'late carried:>1', grouping: 'owner' });
  await saveView(ws, PROJECT, { name: 'quiet ones', query: 'quiet:>10', grouping: 'due' });
  // whoever looks for something first finds it
  await catchUp(ws.db);
}

/** The demo's week ends on working days: on a weekend the last sitting was on Friday. */
function lastWorkingDay(today: string): string {
  return weekday(today) > 5 ? addDays(today, 5 - weekday(today)) : today;
}

function sittingDay(m: DemoMeeting, today: string, last: string): string {
  const day = addDays(last, -m.ago);
  if (m.series === 'works' || weekday(day) <= 5) return day;
  return m.ago > 0 ? addDays(day, 5 - weekday(day)) : addDays(day, today === last ? 8 - weekday(day) : 0);
}

function nextOf(m: DemoMeeting, today: string, last: string): string | null {
  if (!m.series) return null;
  const after = STORY.filter((x) => x.series === m.series && x.ago < m.ago).sort((a, b) => b.ago - a.ago)[0];
  return after ? sittingDay(after, today, last) : addDays(sittingDay(m, today, last), m.series === 'works' ? 7 : 28);
}

async function people(db: Db, today: string, last: string): Promise<void> {
  for (const p of PEOPLE)
    await db
      .insertInto('people')
      .values({ id: p.id, name: p.name, aliases: JSON.stringify(p.aliases), role: p.role, mail: p.mail, organisation: p.organisation, account: p.account ? 1 : 0, language: p.language ?? 'en' })
      .execute();
  await db
    .insertInto('projects')
    .values([
      { id: PROJECT, name: 'Quiet Crossing', started_on: addDays(today, -120), manager_id: 'ines', rules: JSON.stringify(RULES) },
      { id: 'tide-tables', name: 'Tide Tables', started_on: addDays(today, -40), manager_id: 'ines' },
    ])
    .execute();
  const small = new Set(['ines', 'olu', 'greta']);
  for (const p of PEOPLE) {
    if (p.id !== 'olu' && p.id !== 'greta')
      await db
        .insertInto('memberships')
        .values({ project_id: PROJECT, person_id: p.id, sees: p.account ? 1 : 0 })
        .execute();
    if (small.has(p.id))
      await db
        .insertInto('memberships')
        .values({ project_id: 'tide-tables', person_id: p.id, sees: p.account ? 1 : 0 })
        .execute();
  }
  const steering = sittingDay(STORY.find((m) => m.series === 'steering')!, today, last);
  await db
    .insertInto('series')
    .values([
      { id: 'works', project_id: PROJECT, title: 'Weekly works call', short: 'works', rule: `FREQ=WEEKLY;BYDAY=${dayCode(weekday(last))}`, starts_on: addDays(last, -70), time: '10:00', minutes: 60, place: 'on the line' },
      { id: 'steering', project_id: PROJECT, title: 'Steering committee', short: 'steering', rule: `FREQ=WEEKLY;INTERVAL=4;BYDAY=${dayCode(weekday(steering))}`, starts_on: steering, time: '14:00', minutes: 60, place: 'board room' },
    ])
    .execute();
  for (const m of ['bram', 'ruth', 'jonas', 'dele', 'wim', 'tove', 'kit', 'sam', 'yusuf', 'ines'])
    await db
      .insertInto('series_people')
      .values({ series_id: 'works', person_id: m, part: m === 'ines' ? 'leads' : m === 'kit' ? 'keeps minutes' : 'attends' })
      .execute();
  for (const m of ['hanne', 'petra', 'sam', 'ines'])
    await db
      .insertInto('series_people')
      .values({ series_id: 'steering', person_id: m, part: m === 'hanne' ? 'leads' : m === 'ines' ? 'keeps minutes' : 'attends' })
      .execute();
}

async function meeting(db: Db, m: DemoMeeting, date: string, number: number | null, next: string | null): Promise<number> {
  const series = m.series ? await db.selectFrom('series').selectAll().where('id', '=', m.series).executeTakeFirstOrThrow() : null;
  const { id } = await db
    .insertInto('meetings')
    .values({ project_id: m.project ?? PROJECT, series_id: m.series, title: m.title ?? series?.title ?? 'Meeting', date, time: m.time, minutes: m.minutes, number, place: m.place ?? series?.place ?? '', slot: m.series ? date : null, sifted_at: null, next, author_id: m.author ?? null })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const p of m.there) await db.insertInto('attendance').values({ meeting_id: id, person_id: p, present: 1 }).execute();
  for (const p of m.absent ?? []) await db.insertInto('attendance').values({ meeting_id: id, person_id: p, present: 0 }).execute();
  return id;
}

/** Days in the records are written as `{{nth 15}}`, `{{weekday 7}}`, `{{short 13}}`: so many days after the meeting. */
export function fillDays(text: string, date: string): string {
  const words = Object.fromEntries(
    Object.entries(ORDINALS)
      .filter(([w]) => !/^(twenty|thirty) /.test(w))
      .map(([w, n]) => [n, w]),
  );
  return text.replace(/\{\{(nth|weekday|short) (\d+)\}\}/g, (_, how: string, days: string) => {
    const d = addDays(date, Number(days));
    return how === 'nth' ? words[Number(d.slice(8))]! : how === 'weekday' ? longDay(d) : dayAndMonth(d);
  });
}

async function keep(ws: Workspace, meetingId: number, m: DemoMeeting, date: string): Promise<number> {
  const text = fillDays(readFileSync(join(import.meta.dirname, 'records', m.file!), 'utf8'), date);
  const bytes = Buffer.from(text, 'utf8');
  const record = readRecord(text, guessFormat(text, m.file));
  const roster = new Roster(PEOPLE);
  const voices = Object.fromEntries(record.voices.flatMap((v) => (roster.voice(v) ? [[v, roster.voice(v)]] : [])));
  const { id } = await ws.db
    .insertInto('records')
    .values({
      meeting_id: meetingId,
      file_name: m.file!.replace(/-\d+\./, `-${date}.`),
      format: record.format,
      encoding: 'utf-8',
      layout: record.layout,
      bytes,
      sha256: createHash('sha256').update(bytes).digest('hex'),
      brought_at: `${date}T12:10:00.000Z`,
      brought_by: ws.asker.person,
      voices: JSON.stringify(voices),
      keep_until: addDays(ws.today, KEEP_DAYS),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

async function settle(ws: Workspace, meetingId: number, recordId: number, taken: readonly Taken[], date: string, keys: Map<string, { commitment: number; due: string | null; owner: string[] }>): Promise<void> {
  const row = await ws.db.selectFrom('records').select(['bytes', 'format']).where('id', '=', recordId).executeTakeFirstOrThrow();
  const { segments } = readRecord(row.bytes.toString('utf8'), row.format as 'vtt');
  for (const [position, t] of taken.entries()) {
    const segment = segments.find((s) => s.text.includes(t.quote));
    if (!segment) throw new Error(`the demo quotes “${t.quote}”, which is not in the record of ${date}`);
    const from = segment.text.indexOf(t.quote);
    // a quote is shown to the end of its sentence
    const rest = segment.text.slice(from + t.quote.length);
    const to = from + t.quote.length + (/[.!?…]$/.test(t.quote) ? 0 : (/^[^.!?…]*[.!?…]?/.exec(rest)?.[0].length ?? 0));
    const known = t.of ? keys.get(t.of) : undefined;
    if (t.of && !known) throw new Error(`the demo speaks of “${t.of}”, which was not made before ${date}`);
    const due = t.due ? dayOf(t.due, date) : null;
    const find: Find = {
      key: `story:${position}`,
      kind: t.kind === 'passed' ? 'action' : t.kind,
      text: known ? (await ws.db.selectFrom('commitments').select('text').where('id', '=', known.commitment).executeTakeFirstOrThrow()).text : (t.text ?? t.quote),
      owner: t.owner ?? known?.owner ?? [],
      about: [],
      ownerHow: null,
      due: due ?? known?.due ?? null,
      duePhrase: t.due && !t.due.startsWith('+') ? t.due : null,
      update: known ? { open: String(known.commitment), kind: t.news!, due: t.news === 'moved' ? due : null, owner: null } : null,
      evidence: [{ segment: segment.index, from, to, role: 'states' }],
      clues: [],
      confidence: 0.9,
      reason: 'Taken in the meeting’s own words.',
    };
    const { id } = await ws.db
      .insertInto('finds')
      .values({ meeting_id: meetingId, record_id: recordId, key: find.key, kind: find.kind, data: JSON.stringify(find), position, reader: 'quick' })
      .returning('id')
      .executeTakeFirstOrThrow();
    if (t.kind === 'passed') await passFind(ws, id);
    else {
      const kept = await takeFind(ws, id, {});
      if (t.key) {
        const c = await ws.db
          .selectFrom('commitments')
          .select('id')
          .where('project_id', '=', (await ws.db.selectFrom('meetings').select('project_id').where('id', '=', meetingId).executeTakeFirstOrThrow()).project_id)
          .where('number', '=', Number(kept.ref!.slice(2)))
          .executeTakeFirstOrThrow();
        keys.set(t.key, { commitment: c.id, due, owner: find.owner });
      } else if (t.of && due && t.news === 'moved') keys.set(t.of, { ...known!, due });
    }
  }
}

function dayOf(phrase: string, date: string): string {
  if (phrase.startsWith('+')) return addDays(date, Number(phrase.slice(1)));
  const found = readDates(phrase, { date, next: null }).find((d) => d.date);
  if (!found?.date) throw new Error(`the demo’s “${phrase}” is not a date`);
  return found.date;
}

/** Letters of the past are written by nodemailer as any other and laid into the mailboxes, with no server between. */
function carriersInto(office: PostOffice): Carriers {
  const transport = nodemailer.createTransport({ streamTransport: true, buffer: true, newline: 'windows' });
  return {
    mail: {
      async send(m) {
        const info = await transport.sendMail(asMail(m));
        await office.take(m.to.address, info.message as Buffer);
      },
    },
    chat: { post: async () => undefined },
  };
}
