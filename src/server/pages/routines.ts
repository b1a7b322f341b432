import { shortDay } from '../../core/language/days.ts';
import { meetingRows } from '../meetings/meetings.ts';
import { ownerOf } from '../people/owner.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { exportsFolder } from '../routines/exports/folder.ts';
import { webhookKey } from '../routines/exports/webhook.ts';
import { routinesOf } from '../routines/routines.ts';
import { type Askable, askable, type LoggedRun, runsOf } from '../routines/runs.ts';

/** Meetings a routine can be tried on. */
const TRIED_ON = 30;

/** Routines of the project with their log, and what their fields can be filled with. */
export async function routinesPage(ws: Workspace) {
  const [routines, runs, series, people, project, held] = await Promise.all([
    routinesOf(ws),
    runsOf(ws),
    ws.db.selectFrom('series').select(['id', 'title']).where('project_id', '=', ws.project).orderBy('title').execute(),
    peopleOf(ws, ws.project),
    ws.db.selectFrom('projects').select(['chat_url', 'archived_at']).where('id', '=', ws.project).executeTakeFirstOrThrow(),
    meetingRows(ws, { project: ws.project, to: ws.today }),
  ]);
  const keepsHouse = (await ownerOf(ws.db)) === ws.asker.person;
  return {
    today: ws.today,
    me: ws.asker.person,
    zone: ws.asker.zone,
    mayChange: ws.asker.roles.get(ws.project) === 'manager' && project.archived_at === null,
    routines,
    runs,
    series,
    people: choicesOf(people, ws.asker),
    /** who can get an answer: those who sign in here and have an address */
    readers: (await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select('p.id').where('m.project_id', '=', ws.project).where('m.sees', '=', 1).where('p.account', '=', 1).where('p.mail', 'is not', null).execute()).map((p) => p.id),
    channel: project.chat_url !== null,
    held: held
      .filter((m) => m.records > 0 && !m.cancelled)
      .reverse()
      .slice(0, TRIED_ON)
      .map((m) => ({ id: m.id, words: `${m.title}, ${shortDay(m.date, ws.today)}` })),
    house: keepsHouse ? { folder: exportsFolder(), key: webhookKey() } : null,
  };
}
export type RoutinesShown = Awaited<ReturnType<typeof routinesPage>>;

/** What a meeting's pages say of routines: what is offered, waits, or failed, and what can be asked for. */
export async function routinesHere(ws: Workspace, meeting: number): Promise<{ runs: LoggedRun[]; askable: Askable[] }> {
  const row = await ws.db.selectFrom('meetings').select('project_id').where('id', '=', meeting).executeTakeFirst();
  if (!row || !ws.asker.projects.has(row.project_id)) return { runs: [], askable: [] };
  const here = ws.with({ project: row.project_id });
  const runs = (await runsOf(here, { meeting })).filter((r) => ['offered', 'running', 'waiting', 'failed'].includes(r.state));
  return { runs, askable: (await askable(here, meeting)).filter((a) => a.meeting?.id === meeting) };
}

/** Routines that have paused, for whoever runs the project to hear of. */
export async function pausedRoutines(ws: Workspace): Promise<{ name: string; why: string }[]> {
  if (ws.asker.roles.get(ws.project) !== 'manager') return [];
  return (await routinesOf(ws)).filter((r) => r.state === 'paused').map((r) => ({ name: r.routine.name, why: r.pausedWhy ?? '' }));
}
