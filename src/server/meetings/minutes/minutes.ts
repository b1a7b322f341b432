import { z } from 'zod';
import { shortDay } from '../../../core/language/days.ts';
import { changesBetween, compileMinutes, type Draft, DraftSchema, draftOf, type LENGTHS, type Minutes, type MinutesData, minutesFileName, type Part, partsOf, USUAL_PARTS } from '../../../core/meetings/minutes.ts';
import { minutesHtml, minutesMarkdown, type Standing } from '../../../core/meetings/minutes-text.ts';
import type { Workspace } from '../../people/workspace.ts';
import { mustSee } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import { CODECS } from '../../store/codecs.ts';
import type { Db } from '../../store/database.ts';
import { minutesData } from './data.ts';
import { minutesDocx } from './docx.ts';
import { minutesPdf } from './pdf.ts';

export interface Version {
  version: number;
  issuedOn: string;
  by: string;
  changes: string[];
  minutes: Minutes;
}

export interface MinutesState {
  draft: Draft;
  /** what the next change must be based on; 0 while nothing was written */
  revision: number;
  data: MinutesData;
  versions: Version[];
  /** what issuing now would say otherwise than the last version */
  pending: string[];
  /** the parts a series' minutes begin with */
  template: { part: Part; length?: (typeof LENGTHS)[number] | undefined }[];
  series: string | null;
}

/** A meeting's minutes: the draft, or the one its series begins with, and the versions that were issued. */
export async function minutesOf(ws: Workspace, meeting: number): Promise<MinutesState> {
  const { project_id, series, ...data } = await minutesData(ws, meeting);
  mustSee(ws, project_id, 'meeting');
  const kept = await ws.db.selectFrom('minutes_drafts').selectAll().where('meeting_id', '=', meeting).executeTakeFirst();
  const template = await templateOf(ws.db, series);
  const draft = kept ? CODECS.draft.read(kept.draft) : draftOf(template);
  const versions = await versionsOf(ws.db, meeting);
  const last = versions[versions.length - 1];
  return { draft, revision: kept?.revision ?? 0, data, versions, template, series, pending: last ? changesBetween(last.minutes, compileMinutes(draft, data)) : [] };
}

async function templateOf(db: Db, series: string | null): Promise<MinutesState['template']> {
  const row = series ? await db.selectFrom('series_minutes').select('parts').where('series_id', '=', series).executeTakeFirst() : undefined;
  return row ? CODECS.parts.read(row.parts) : USUAL_PARTS.map((part) => ({ part }));
}

async function versionsOf(db: Db, meeting: number): Promise<Version[]> {
  const rows = await db.selectFrom('minutes_versions as v').innerJoin('people as p', 'p.id', 'v.by_person').select(['v.version', 'v.minutes', 'v.changes', 'v.issued_on', 'p.name']).where('v.meeting_id', '=', meeting).orderBy('v.version').execute();
  return rows.map((r) => ({ version: r.version, issuedOn: r.issued_on, by: r.name, changes: CODECS.changes.read(r.changes), minutes: CODECS.issued.read(r.minutes) }));
}

export const MinutesSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('write'), draft: DraftSchema, revision: z.number().int().min(0) }),
  z.object({ do: z.literal('issue'), revision: z.number().int().min(0) }),
  z.object({ do: z.literal('template') }),
  /** nothing is changed; what is known is looked up anew */
  z.object({ do: z.literal('look') }),
]);

export async function changeMinutes(ws: Workspace, meeting: number, change: z.infer<typeof MinutesSchema>): Promise<MinutesState> {
  if (change.do === 'look') return minutesOf(ws, meeting);
  await ws.transaction(async (ws) => {
    const state = await minutesOf(ws, meeting);
    if (change.do !== 'template' && change.revision !== state.revision) {
      throw new Refusal('conflict', 'Somebody else changed these minutes meanwhile.', 'Load the page again; what you wrote is still here to be copied.');
    }
    if (change.do === 'write') await write(ws, meeting, change.draft, state.revision);
    else if (change.do === 'issue') await issue(ws, meeting, state);
    else {
      if (!state.series) throw new Refusal('bad-input', 'This meeting is in no series, so there is nothing to keep a template for.');
      const parts = CODECS.parts.write(partsOf(state.draft));
      await ws.db
        .insertInto('series_minutes')
        .values({ series_id: state.series, parts })
        .onConflict((c) => c.column('series_id').doUpdateSet({ parts }))
        .execute();
    }
  });
  return minutesOf(ws, meeting);
}

async function write(ws: Workspace, meeting: number, draft: Draft, revision: number): Promise<void> {
  const values = { draft: CODECS.draft.write(draft), revision: revision + 1, changed_at: new Date().toISOString(), by_person: ws.asker.person };
  await ws.db
    .insertInto('minutes_drafts')
    .values({ meeting_id: meeting, ...values })
    .onConflict((c) => c.column('meeting_id').doUpdateSet(values))
    .execute();
}

async function issue(ws: Workspace, meeting: number, state: MinutesState): Promise<void> {
  const minutes = compileMinutes(state.draft, state.data);
  if (minutes.blocks.length === 0) throw new Refusal('bad-input', 'These minutes are empty.', 'Put a part in, or write something.');
  const last = state.versions[state.versions.length - 1];
  if (last && state.pending.length === 0) throw new Refusal('conflict', `Version ${last.version} says the same.`, 'A new version is issued when something has changed.');
  await ws.db
    .insertInto('minutes_versions')
    .values({ meeting_id: meeting, version: (last?.version ?? 0) + 1, minutes: CODECS.issued.write(minutes), changes: CODECS.changes.write(state.pending), issued_on: ws.today, at: new Date().toISOString(), by_person: ws.asker.person })
    .execute();
}

export const FORMATS = {
  md: 'text/markdown; charset=utf-8',
  html: 'text/html; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  pdf: 'application/pdf',
} as const;
export type MinutesFormat = keyof typeof FORMATS;

/** Minutes as a file: an issued version, or the draft as it stands. */
export async function minutesFile(ws: Workspace, meeting: number, format: MinutesFormat, version: number | null): Promise<{ name: string; type: string; bytes: Uint8Array }> {
  const state = await minutesOf(ws, meeting);
  const issued = version === null ? null : state.versions.find((v) => v.version === version);
  if (issued === undefined) throw new Refusal('not-found', `There is no version ${version} of these minutes.`);
  const minutes = issued?.minutes ?? compileMinutes(state.draft, state.data);
  const standing: Standing = { version: issued?.version ?? null, issuedOn: issued ? shortDay(issued.issuedOn, state.data.meeting.date) : null, changes: issued?.changes ?? [] };
  const bytes = await setAs(format, minutes, standing);
  return { name: `${minutesFileName(minutes, state.data.meeting.date, issued?.version ?? null)}.${format}`, type: FORMATS[format], bytes };
}

/** A document in one of the formats it can be taken away in. */
export async function setAs(format: MinutesFormat, document: Minutes, standing: Standing): Promise<Uint8Array> {
  const text = (s: string) => new TextEncoder().encode(s);
  if (format === 'md') return text(minutesMarkdown(document, standing));
  if (format === 'html') return text(minutesHtml(document, standing));
  return format === 'docx' ? minutesDocx(document, standing) : minutesPdf(document, standing);
}

/** Every issued version of every meeting, as Markdown, for whoever takes the whole workspace along. */
export async function issuedMinutes(db: Db): Promise<{ name: string; text: string }[]> {
  const rows = await db.selectFrom('minutes_versions as v').innerJoin('meetings as m', 'm.id', 'v.meeting_id').select(['v.meeting_id', 'v.version', 'v.minutes', 'v.changes', 'v.issued_on', 'm.date']).orderBy('v.meeting_id').orderBy('v.version').execute();
  return rows.map((r) => {
    const minutes = CODECS.issued.read(r.minutes);
    return { name: `${r.meeting_id}-${minutesFileName(minutes, r.date, r.version)}.md`, text: minutesMarkdown(minutes, { version: r.version, issuedOn: shortDay(r.issued_on, r.date), changes: CODECS.changes.read(r.changes) }) };
  });
}
