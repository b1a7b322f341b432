import type { ProposedPerson } from '../../core/gist/proposed-people.ts';
import { type Person, Roster } from '../../core/language/people.ts';
import { type ProposedSeries, proposedSeries } from '../../core/meetings/proposed-series.ts';
import { guessMeeting, type MeetingGuess } from '../../core/record/guess.ts';
import type { Doubt, MeetingRecord, RecordFormat } from '../../core/record/model.ts';
import { LAYOUT_NAMES } from '../../core/record/plain.ts';
import { peopleOf } from '../people/people.ts';
import { projectsOf } from '../people/projects.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee, visible } from '../people/workspace.ts';
import { work } from '../work/pool.ts';
import { mustBeNew } from './bringing-in.ts';
import { readBytes } from './reading.ts';
import { rememberedVoices, type Voice, voicesOf } from './speakers.ts';

/** What would be kept, shown before anything is. */
export interface Preview {
  format: RecordFormat;
  encoding: string;
  layout: string;
  /** layouts its plain text can be said to have; none where the format fixes it */
  layouts: readonly string[];
  lines: number;
  seconds: number | null;
  doubts: Doubt[];
  voices: Voice[];
  guess: MeetingGuess;
  /** a meeting it may belong to: same day, no record yet, or of a series that sits on that day */
  meeting: number | null;
  series: string | null;
  /** a series it looks like one of, where it belongs to none yet */
  newSeries: ProposedSeries | null;
  /** people it names whom nobody here knows */
  named: ProposedPerson[];
  sample: { text: string; voice: string | null; start: number | null; role: string }[];
}

/** Reads a record without keeping it. */
export async function previewRecord(ws: Workspace, project: string, bytes: Uint8Array, fileName: string | null, as: string | null = null): Promise<Preview> {
  mustSee(ws, project, 'project');
  const { record, encoding } = await readBytes(bytes, fileName, as);
  await mustBeNew(ws.db, project, bytes);
  const people = await peopleOf(ws, project);
  const roster = new Roster(people);
  const guess = guessMeeting(record, fileName, ws.today);
  const { meeting, series } = await belongsTo(ws, project, guess);
  const remembered = await rememberedVoices(ws.db, series);
  const last = [...record.segments].reverse().find((s) => s.start !== null);
  return {
    format: record.format,
    encoding,
    layout: record.layout,
    layouts: record.format === 'txt' && record.layout !== 'a mail' ? LAYOUT_NAMES : [],
    lines: record.segments.length,
    seconds: last?.end ?? last?.start ?? null,
    doubts: record.doubts.slice(0, 50),
    voices: voicesOf(record, {})
      .slice(0, 60)
      .map((v) => ({ ...v, person: roster.voice(v.label) ?? remembered.get(v.label) ?? null })),
    guess,
    meeting,
    series,
    newSeries: meeting === null && series === null ? await seriesLike(ws, project, guess) : null,
    named: await namedIn(ws, project, record, people),
    sample: record.segments.slice(0, 40).map((s) => ({ text: s.text.slice(0, 600), voice: s.voice, start: s.start, role: s.role })),
  };
}

/** So much of a record is looked through for people nobody knows. */
const LOOKED_THROUGH = 3000;

async function namedIn(ws: Workspace, project: string, record: MeetingRecord, people: readonly Person[]): Promise<ProposedPerson[]> {
  const [projects, series] = await Promise.all([projectsOf(ws), ws.db.selectFrom('series').select('title').where('project_id', '=', project).execute()]);
  return work('named', { record: { ...record, segments: record.segments.slice(0, LOOKED_THROUGH) }, people, other: [...projects.map((p) => p.name), ...series.map((s) => s.title)] });
}

/** A series that the meeting of a record looks like one of, by its title and by earlier ones of the same title. */
async function seriesLike(ws: Workspace, project: string, guess: MeetingGuess): Promise<ProposedSeries | null> {
  if (!guess.title) return null;
  const others = await ws.db.selectFrom('meetings').select(['title', 'date', 'time']).where('project_id', '=', project).where('series_id', 'is', null).orderBy('date', 'desc').limit(200).execute();
  return proposedSeries({ title: guess.title, date: guess.date ?? ws.today, time: null }, others);
}

const wordsIn = (title: string): string[] => title.toLowerCase().match(/[\p{L}\p{N}]{3,}/gu) ?? [];
const ANY_SERIES = new Set(['weekly', 'fortnightly', 'monthly', 'quarterly', 'daily', 'regular', 'meeting', 'call', 'sitting', 'session', 'the', 'and', 'with', 'for', 'our', 'team', 'status', 'sync']);

async function belongsTo(ws: Workspace, project: string, guess: MeetingGuess): Promise<{ meeting: number | null; series: string | null }> {
  const series = await ws.db.selectFrom('series').select(['id', 'title', 'rule']).where('project_id', '=', project).execute();
  const words = wordsIn(guess.title ?? '');
  const alike = (title: string) => {
    const own = wordsIn(title);
    const shared = words.filter((w) => own.includes(w));
    // what every series could be called tells none of them, but for a title that is nothing else
    return shared.length === words.length && words.length > 0 ? shared.length : shared.filter((w) => !ANY_SERIES.has(w)).length;
  };
  if (guess.date) {
    const meetings = await ws.db
      .selectFrom('meetings')
      .leftJoin('records', 'records.meeting_id', 'meetings.id')
      .select(['meetings.id', 'meetings.title', 'meetings.series_id', 'records.id as record'])
      .where('meetings.project_id', 'in', visible(ws))
      .where('meetings.project_id', '=', project)
      .where('meetings.date', '=', guess.date)
      .execute();
    const free = meetings.filter((m) => m.record === null).sort((a, b) => alike(b.title) - alike(a.title));
    if (free.length === 1 || (free[0] && alike(free[0].title) > 0)) return { meeting: free[0]!.id, series: free[0]!.series_id };
  }
  const best = series.map((s) => ({ s, n: alike(s.title) })).sort((a, b) => b.n - a.n)[0];
  return { meeting: null, series: best && best.n > 0 ? best.s.id : null };
}
