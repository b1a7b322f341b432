import { createHash } from 'node:crypto';
import { z } from 'zod';
import { addDays } from '../../core/dates/calendar.ts';
import { Roster } from '../../core/language/people.ts';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { daysOf } from '../../core/meetings/recurrence.ts';
import { RecordError } from '../../core/record/model.ts';
import { whole } from '../people/out-of-sight.ts';
import { addPerson, callToo, mustBeOfProject, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { siftMeeting, stamp } from '../sift/finds.ts';
import { pairTwins, partTwins } from '../sift/twins.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';
import { keepAtHand } from '../store/segments.ts';
import { readBytes } from './reading.ts';
import { rememberVoices } from './speakers.ts';

/** Days a record is kept unless its project says otherwise. */
export const KEEP_DAYS = 60;

export const KeepDaysSchema = z.object({ project: z.string(), days: z.number().int().min(1, 'is at least a day').max(3650, 'is at most ten years').nullable() });

/** Says how long a project keeps the records that are brought in from now on; null for the usual number of days. */
export async function setKeepDays(ws: Workspace, { project, days }: z.infer<typeof KeepDaysSchema>): Promise<{ days: number }> {
  mustSee(ws, project, 'project');
  await ws.db.updateTable('projects').set({ keep_days: days }).where('id', '=', project).execute();
  return { days: await keepDaysOf(ws.db, project) };
}

export async function keepDaysOf(db: Db, project: string): Promise<number> {
  const row = await db.selectFrom('projects').select('keep_days').where('id', '=', project).executeTakeFirst();
  return row?.keep_days ?? KEEP_DAYS;
}

/** Refuses a file that was brought in before. */
export async function mustBeNew(db: Db, project: string, bytes: Uint8Array): Promise<string> {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const same = await db.selectFrom('records').innerJoin('meetings', 'meetings.id', 'records.meeting_id').select(['meetings.title', 'meetings.date', 'meetings.id']).where('records.sha256', '=', sha256).where('meetings.project_id', '=', project).executeTakeFirst();
  if (same) throw new Refusal('conflict', `This file was brought in already, for ${same.title} of ${same.date}.`, `Find it at /meetings/${same.id}/sift. Nothing was changed.`);
  const unseen = await whole(db).selectFrom('records').innerJoin('meetings', 'meetings.id', 'records.meeting_id').select('meetings.id').where('records.sha256', '=', sha256).where('meetings.project_id', '=', project).executeTakeFirst();
  if (unseen) throw new Refusal('conflict', 'This file was brought in already, for a meeting that you do not see.', 'Nothing was changed.');
  return sha256;
}

export const KeepSchema = z.object({
  project: z.string(),
  fileName: z.string().max(300).nullable(),
  /** a meeting that is there already, or null for a new one */
  meeting: z.number().int().nullable(),
  series: z.string().nullable(),
  title: z.string().trim().min(1, 'needs a title').max(200),
  date: IsoDateSchema,
  author: z.string().nullable(),
  /** the layout its plain text was said to have */
  layout: z.string().max(200).nullable().default(null),
  /** a record of the same meeting whose place it takes */
  replaces: z.number().int().nullable().default(null),
  /** who speaks under which name: an id of somebody known, or a new name */
  voices: z.record(z.string(), z.object({ person: z.string().nullable(), name: z.string().trim().max(120).nullable() })),
  /** who is named in it and was not known: somebody known, who is called so too from then on, or a new person */
  named: z.record(z.string().max(120), z.object({ person: z.string().nullable(), name: z.string().trim().max(120).nullable() })).default({}),
});
export type Keep = z.input<typeof KeepSchema>;

/** What is done first, in the same transaction: it may begin the series the meeting is one of. */
type First = (ws: Workspace) => Promise<{ series: string }>;

/**
 * Keeps a record byte for byte, with its meeting, voices and the people it names: all of it or nothing. Then it is sifted, which nobody else waits
 * for; where that is broken off, the record is sifted when it is next looked at.
 */
export async function keepRecord(ws: Workspace, asked: Keep, bytes: Uint8Array, first: First | null = null): Promise<{ meeting: number; series: string | null }> {
  let keep = asked;
  mustSee(ws, keep.project, 'project');
  const { record, encoding } = await readBytes(bytes, keep.fileName, keep.layout ?? null);
  const project = await ws.db.selectFrom('projects').select('started_on').where('id', '=', keep.project).executeTakeFirstOrThrow();
  if (keep.date < project.started_on) throw new Refusal('bad-input', `${keep.date} is before the project began (${project.started_on}).`, 'Check the year of the date.');
  if (keep.date > ws.today) throw new Refusal('bad-input', `${keep.date} is in the future. Records belong to meetings already held.`, 'Check the date.');
  const kept = await ws.transaction(async (ws) => {
    const sha256 = await mustBeNew(ws.db, keep.project, bytes);
    const named = Object.entries(keep.named ?? {});
    await mustBeOfProject(ws.db, keep.project, [...[...Object.values(keep.voices), ...named.map(([, v]) => v)].flatMap((v) => (v.person ? [v.person] : [])), ...(keep.author ? [keep.author] : [])]);
    if (first) keep = { ...keep, ...(await first(ws)) };
    const voices: Record<string, string> = {};
    for (const [label, v] of Object.entries(keep.voices)) {
      if (v.person) voices[label] = v.person;
      else if (v.name) voices[label] = await addPerson(ws, keep.project, v.name);
    }
    for (const [called, v] of named) {
      if (v.person) await callToo(ws.db, v.person, called);
      else if (v.name) await addPerson(ws, keep.project, v.name);
    }
    const meeting = keep.meeting ?? (await newMeeting(ws.db, keep));
    const row = await ws.db.selectFrom('meetings').select(['project_id', 'series_id', 'next', 'date']).where('id', '=', meeting).executeTakeFirst();
    if (row?.project_id !== keep.project) throw new Refusal('not-found', 'There is no such meeting.');
    await ws.db
      .updateTable('meetings')
      .set({ author_id: keep.author, next: row.next ?? (await nextSitting(ws.db, row.series_id, row.date)) })
      .where('id', '=', meeting)
      .execute();
    const { id } = await ws.db
      .insertInto('records')
      .values({
        meeting_id: meeting,
        file_name: keep.fileName,
        format: record.format,
        encoding,
        layout: record.layout,
        bytes: Buffer.from(bytes),
        sha256,
        brought_at: new Date().toISOString(),
        brought_by: ws.asker.person,
        voices: CODECS.voices.write(voices),
        keep_until: addDays(ws.today, await keepDaysOf(ws.db, keep.project)),
        read_as: keep.layout ?? null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (const person of new Set([...Object.values(voices), ...(keep.author ? [keep.author] : [])]))
      await ws.db
        .insertInto('attendance')
        .values({ meeting_id: meeting, person_id: person, present: 1 })
        .onConflict((c) => c.columns(['meeting_id', 'person_id']).doUpdateSet({ present: 1 }))
        .execute();
    if (first && row.series_id !== null)
      await ws.db
        .insertInto('series_people')
        .columns(['series_id', 'person_id'])
        .expression((eb) =>
          eb
            .selectFrom('attendance')
            .select([eb.val(row.series_id!).as('series_id'), 'person_id'])
            .where('meeting_id', '=', meeting),
        )
        .onConflict((c) => c.doNothing())
        .execute();
    await rememberVoices(ws.db, row.series_id, voices, new Roster(await peopleOf(ws, keep.project)));
    if (keep.replaces != null) await mustBeReplaceable(ws.db, keep.replaces, meeting);
    if (keep.replaces != null) await takePlaceOf(ws.db, meeting, keep.replaces, id);
    // until it is sifted, see siftWhatWaits
    await ws.db.updateTable('meetings').set({ sifted_at: null }).where('id', '=', meeting).execute();
    keepAtHand(sha256, record.format, keep.layout ?? null, record);
    return { meeting, id, series: row.series_id };
  });
  await siftMeeting(ws, kept.meeting, kept.id).catch((error: unknown) => {
    if (error instanceof RecordError) throw new Refusal('conflict', `The record is kept, and was not sifted: ${error.message}`, `Find it at /meetings/${kept.meeting}/sift.`);
    throw error;
  });
  return { meeting: kept.meeting, series: kept.series };
}

async function mustBeReplaceable(tx: Db, record: number, meeting: number): Promise<void> {
  const old = await tx.selectFrom('records').select(['meeting_id', 'replaced_by']).where('id', '=', record).executeTakeFirst();
  if (old?.meeting_id !== meeting) throw new Refusal('bad-input', 'The record to be replaced is not of this meeting.');
  if (old.replaced_by !== null) throw new Refusal('conflict', 'That record has been replaced already.');
}

/**
 * Lets one record take the place of another. What was taken from the old one stays, with its words; where the new one
 * says it too it is shown there as taken. What nobody had looked at leaves the list.
 */
async function takePlaceOf(tx: Db, meeting: number, old: number, record: number): Promise<void> {
  await tx.updateTable('records').set({ replaced_by: record }).where('id', '=', old).execute();
  await tx
    .updateTable('finds')
    .set({ reader: SUPERSEDED })
    .where('record_id', '=', old)
    .where('verdict', '=', 'open')
    .where('reader', '!=', 'hand')
    .where(({ not, exists, selectFrom }) => not(exists(selectFrom('find_changes').select('find_changes.id').whereRef('find_id', '=', 'finds.id'))))
    .execute();
  await partTwins(tx, old);
  await pairTwins(tx, meeting);
  await stamp(tx, meeting);
}

async function newMeeting(tx: Db, keep: Keep): Promise<number> {
  const series = keep.series ? await tx.selectFrom('series').selectAll().where('id', '=', keep.series).where('project_id', '=', keep.project).executeTakeFirst() : undefined;
  if (keep.series && !series) throw new Refusal('bad-input', 'There is no such series in this project.');
  const { n } = await whole(tx)
    .selectFrom('meetings')
    .select(({ fn }) => fn.max('number').as('n'))
    .where('series_id', '=', keep.series ?? '')
    .where('date', '<', keep.date)
    .executeTakeFirstOrThrow();
  const { id } = await tx
    .insertInto('meetings')
    .values({
      project_id: keep.project,
      series_id: keep.series,
      title: series?.title ?? keep.title,
      date: keep.date,
      slot: series ? keep.date : null,
      visibility: series?.visibility ?? 'project',
      time: series?.time ?? null,
      minutes: series?.minutes ?? null,
      number: series ? (n ?? 0) + 1 : null,
      place: series?.place ?? '',
      sifted_at: null,
      next: null,
      author_id: keep.author,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** The next sitting of a series after a day: one that is planned, or the one its rhythm gives. */
export async function nextSitting(tx: Db, series: string | null, date: string): Promise<string | null> {
  if (!series) return null;
  const planned = await tx.selectFrom('meetings').select('date').where('series_id', '=', series).where('date', '>', date).where('cancelled_at', 'is', null).orderBy('date').limit(1).executeTakeFirst();
  if (planned) return planned.date;
  const s = await tx.selectFrom('series').select(['rule', 'starts_on']).where('id', '=', series).where('ended_on', 'is', null).executeTakeFirst();
  return s ? (daysOf(s.rule, s.starts_on < date ? s.starts_on : date, { from: addDays(date, 1), count: 1 })[0] ?? null) : null;
}
