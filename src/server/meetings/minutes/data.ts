import { cameLate } from '../../../core/gist/arrivals.ts';
import { turnsOf } from '../../../core/gist/turns.ts';
import { shortDay } from '../../../core/language/days.ts';
import type { MinutesData, MinutesItem } from '../../../core/meetings/minutes.ts';
import { seenIn } from '../../../core/sift/twins.ts';
import { madeIn } from '../../ledger/commitments.ts';
import { peopleOf } from '../../people/people.ts';
import { projectsOf } from '../../people/projects.ts';
import type { Workspace } from '../../people/workspace.ts';
import { findsOf, type KeptFind } from '../../sift/finds.ts';
import type { Db } from '../../store/database.ts';
import { spokenRecord } from '../../store/segments.ts';
import { work } from '../../work/pool.ts';
import { attendeesOf, meetingRow } from '../meetings.ts';

const NEWS = { done: 'done', progress: 'still on it', dropped: 'no longer wanted', blocked: 'waiting', moved: 'moved', reassigned: 'handed over' } as const;
/** Everything minutes can tell of a meeting, as it stands now: what was taken, who holds it today, what the record tells. */
export async function minutesData(ws: Workspace, id: number): Promise<MinutesData & { project_id: string; series: string | null }> {
  const m = await meetingRow(ws, id);
  const [row, people, projects, attendees, finds] = await Promise.all([ws.db.selectFrom('meetings').select('next').where('id', '=', id).executeTakeFirstOrThrow(), peopleOf(ws, m.project), projectsOf(ws), attendeesOf(ws, id), findsOf(ws, id)]);
  const name = (p: string) => people.find((x) => x.id === p)?.name ?? p;
  const taken = finds.filter((f) => f.verdict === 'taken' && f.ref);
  const moment = (f: KeptFind) => {
    const e = f.evidence.find((x) => x.role === 'states') ?? f.evidence[0];
    return e ? `/meetings/${id}/sift?record=${f.record}#s${e.segment}` : null;
  };
  const said = (kind: 'decision' | 'question') => taken.filter((f) => f.kind === kind).map((f): MinutesItem => ({ ref: f.ref!, commitment: null, text: f.text, owner: [], due: null, news: null, moment: moment(f) }));
  const made = await madeIn(ws.db, id);
  const updates = taken
    .filter((f) => f.update)
    .map((f): MinutesItem => {
      const { kind, due } = f.update!;
      const owner = f.owner.map(name);
      return { ref: f.ref!, commitment: null, text: f.text, owner, due: f.due, news: kind === 'moved' && due ? `now by ${shortDay(due)}` : kind === 'reassigned' ? `now with ${owner.join(' and ')}` : NEWS[kind], moment: moment(f) };
    });
  const gist = await gistOfMeeting(ws.db, id, people, finds);
  return {
    project_id: m.project,
    series: m.series,
    meeting: { title: m.title, number: m.number, date: m.date, time: m.time, place: m.place, next: row.next },
    project: projects.find((p) => p.id === m.project)?.name ?? '',
    present: attendees.filter((a) => a.present).map((a) => a.name),
    absent: attendees.filter((a) => !a.present).map((a) => a.name),
    late: gist.late,
    decisions: said('decision'),
    questions: said('question'),
    actions: made.map((c) => {
      const f = taken.find((x) => x.ref === c.ref && !x.update);
      return { ref: c.ref, commitment: c.id, text: c.text, owner: c.owner.map(name), due: c.due, news: null, moment: f ? moment(f) : null };
    }),
    updates,
    topics: gist.topics,
    summary: gist.summary,
    ideas: gist.ideas,
    shares: gist.shares,
  };
}

/** What the meeting's longest record tells: the others are notes and memos of the same talk. */
async function gistOfMeeting(db: Db, meeting: number, people: Awaited<ReturnType<typeof peopleOf>>, finds: readonly KeptFind[]): Promise<Pick<MinutesData, 'topics' | 'summary' | 'ideas' | 'shares' | 'late'>> {
  const kept = await db.selectFrom('records').select('id').where('meeting_id', '=', meeting).where('replaced_by', 'is', null).execute();
  const read = await Promise.all(kept.map(async (r) => ({ id: r.id, record: await spokenRecord(db, r.id, people) })));
  const longest = read.reduce<(typeof read)[number] | null>((a, b) => (a && a.record.segments.length >= b.record.segments.length ? a : b), null);
  if (!longest) return { topics: [], summary: { brief: [], usual: [], everything: [] }, ideas: [], shares: [], late: [] };
  const found = finds
    .map((f) => seenIn(f, longest.id))
    .filter((f) => f.record === longest.id && f.verdict === 'taken')
    .flatMap((f) => f.evidence.filter((e) => e.role === 'states').map((e) => ({ segment: e.segment, kind: f.kind, confidence: 1 })));
  const { gist: g } = await work('gist', { record: longest.record, people, found, subject: '', until: null });
  const lines = (l: 'brief' | 'usual' | 'everything') => g.summary[l].map(({ voice, text }) => ({ voice, text }));
  return {
    topics: g.topics.map((t) => ({ title: t.title, start: g.times === 'measured' ? t.start : null, seconds: t.length })),
    summary: { brief: lines('brief'), usual: lines('usual'), everything: lines('everything') },
    ideas: g.ideas.map((i) => ({ text: i.text, voice: i.voice, stances: i.stances.map((s) => ({ voice: s.voice, side: s.side, text: s.text })) })),
    shares: g.shares.map(({ voice, seconds, share }) => ({ voice, seconds, share })),
    late: cameLate(turnsOf(longest.record)).map(({ voice, at }) => ({ name: voice, at })),
  };
}
