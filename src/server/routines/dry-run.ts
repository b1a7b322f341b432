import type { Routine } from '../../core/routines/routine.ts';
import { faultsOf, HAS_MEETING } from '../../core/routines/routine.ts';
import { stepInWords } from '../../core/routines/sentences.ts';
import { MailError } from '../letters/mailer.ts';
import type { Carriers } from '../letters/queue.ts';
import { meetingRow } from '../meetings/meetings.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ServerTrouble } from '../store/guarded-fetch.ts';
import { fits } from './causes.ts';
import { doStep } from './steps/index.ts';

/** What a step would have done. */
export interface DryStep {
  words: string;
  said: string;
  details: string[];
  /** it would have failed: the steps after it were not tried */
  failed: boolean;
}

export interface DryRun {
  /** why the routine would not have started for this meeting at all; the steps are tried all the same */
  not: string | null;
  steps: DryStep[];
}

/** Thrown to let go of everything a dry run has done. */
class LetGo extends Error {}

const NOTHING: Carriers = {
  mail: { send: () => Promise.reject(new Error('a dry run sends nothing')) },
  chat: { post: () => Promise.reject(new Error('a dry run posts nothing')) },
};

/**
 * Tries a routine on a meeting that was held, or for one that starts without a meeting, on today: every step is really done,
 * one after another, in one transaction of which nothing is kept, and whatever would leave the house is said and not sent.
 */
export async function dryRun(ws: Workspace, routine: Routine, meeting: number | null, now: Date): Promise<DryRun> {
  mustSee(ws, ws.project, 'project');
  const [fault] = faultsOf(routine);
  if (fault) throw new Refusal('bad-input', `${fault.step === null ? '' : `Step ${fault.step + 1}: `}${fault.message}`, fault.advice);
  const about = HAS_MEETING.has(routine.when.on);
  if (about && meeting === null) throw new Refusal('bad-input', 'Choose a meeting to try it on.');
  const m = about ? await meetingRow(ws, meeting!) : null;
  if (m && m.project !== ws.project) throw new Refusal('not-found', 'There is no such meeting.');
  const not = m && !(await fits(ws, routine, { id: m.id, series_id: m.series })) ? `${m.title} is not among the meetings this routine is for.` : null;
  const example = about ? { commitment: null, reply: null } : await lastExample(ws, routine);
  const steps: DryStep[] = [];
  const name = namesOf(await ws.db.selectFrom('people').select(['id', 'name']).execute());
  try {
    await ws.transaction(async (ws) => {
      for (const step of routine.steps) {
        const words = stepInWords(step, name);
        try {
          const done = await doStep(step, { ws, now, routine, meeting: m?.id ?? null, ...example, carriers: NOTHING, key: 'dry', dry: true, told: [], tell: async () => {} });
          steps.push({ words, said: 'waits' in done ? `would wait for ${done.waits}` : done.said, details: 'waits' in done ? [] : (done.details ?? []), failed: false });
        } catch (error) {
          if (!(error instanceof Refusal || error instanceof MailError || error instanceof ServerTrouble)) throw error;
          steps.push({ words, said: error.message, details: error instanceof Refusal && error.advice ? [error.advice] : [], failed: true });
          break;
        }
      }
      throw new LetGo();
    });
  } catch (error) {
    if (!(error instanceof LetGo)) throw error;
  }
  return { not, steps };
}

const namesOf = (people: readonly { id: string; name: string }[]) => (id: string) => people.find((p) => p.id === id)?.name ?? id;

/** The last thing of the kind that starts a routine, for it to be tried on. */
async function lastExample(ws: Workspace, { when }: Routine): Promise<{ commitment: number | null; reply: number | null }> {
  if (when.on === 'late') {
    const c = await ws.db.selectFrom('commitments').select('id').where('project_id', '=', ws.project).where('state', 'in', ['open', 'blocked']).where('due', 'is not', null).orderBy('due').limit(1).executeTakeFirst();
    if (!c) throw new Refusal('conflict', 'No commitment with a date is open to try it on.');
    return { commitment: c.id, reply: null };
  }
  if (when.on === 'answer') {
    const r = await ws.db.selectFrom('replies').select('id').where('project_id', '=', ws.project).where('nature', '=', 'answer').orderBy('id', 'desc').limit(1).executeTakeFirst();
    if (!r) throw new Refusal('conflict', 'No answer has come yet to try it on.');
    return { commitment: null, reply: r.id };
  }
  return { commitment: null, reply: null };
}
