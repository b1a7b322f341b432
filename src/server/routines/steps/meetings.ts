import { shortDay } from '../../../core/language/days.ts';
import { readFollowing } from '../../../core/routines/next-meeting.ts';
import { invitedTo, meetingRow } from '../../meetings/meetings.ts';
import { changeMinutes, minutesOf } from '../../meetings/minutes/minutes.ts';
import { plan } from '../../meetings/planning.ts';
import { Refusal } from '../../refusal.ts';
import type { Doers } from '../doing.ts';

/** Keeps the minutes as a draft, or issues them as they stand. */
export const minutes: Doers['minutes'] = async ({ act }, { ws, meeting }) => {
  const now = await minutesOf(ws, meeting!);
  const last = now.versions.at(-1);
  if (act === 'draft') {
    if (now.revision > 0 || last) return { said: last ? `version ${last.version} is issued already` : 'the minutes are drafted already' };
    await changeMinutes(ws, meeting!, { do: 'write', draft: now.draft, revision: now.revision });
    return { said: 'drafted' };
  }
  if (last && now.pending.length === 0) return { said: `version ${last.version} says the same already` };
  const after = await changeMinutes(ws, meeting!, { do: 'issue', revision: now.revision });
  return { said: `version ${after.versions.at(-1)!.version} issued`, details: after.versions.at(-1)!.changes };
};

/**
 * Sets up the meeting that follows: on the day that is said in the step, counted from this one, else on the day this one
 * named. One of its series that stands already is enough.
 */
export const next: Doers['next'] = async ({ when }, { ws, meeting }) => {
  const m = await meetingRow(ws, meeting!);
  const said = when === '' ? await namedIn(ws, m) : readFollowing(when, m.date);
  if (said === null) throw new Refusal('bad-input', when === '' ? 'No next meeting is known from this one.' : `“${when}” names no day.`, 'Say in the step when it is: a week later at 10:00.');
  const time = said.time ?? m.time;
  const told = `${shortDay(said.date, ws.today)}${time ? ` ${time}` : ''}`;
  const there = await ws.db
    .selectFrom('meetings')
    .select(['id', 'title'])
    .where('project_id', '=', m.project)
    .where('date', '=', said.date)
    .where('cancelled_at', 'is', null)
    .where((eb) => (m.series === null ? eb('title', '=', m.title) : eb('series_id', '=', m.series)))
    .executeTakeFirst();
  if (there) return { said: `${there.title} stands on ${told} already` };
  const people = (await invitedTo(ws.db, m.id)).map((p) => p.id);
  await plan(ws, m.project, { do: 'meeting', title: m.title, when: `${said.date}${time ? ` at ${time}` : ''}`, minutes: m.minutes ?? 60, place: m.place, people });
  return { said: `set up for ${told}, ${people.length} asked to it` };
};

async function namedIn(ws: Parameters<typeof meetingRow>[0], m: { id: number; date: string; series: string | null }): Promise<{ date: string; time: string | null } | null> {
  const coming = m.series === null ? undefined : await ws.db.selectFrom('meetings').select(['date', 'time']).where('series_id', '=', m.series).where('date', '>', m.date).where('cancelled_at', 'is', null).orderBy('date').executeTakeFirst();
  if (coming) return coming;
  const { next } = await ws.db.selectFrom('meetings').select('next').where('id', '=', m.id).executeTakeFirstOrThrow();
  return next === null ? null : { date: next, time: null };
}
