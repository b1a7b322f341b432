import type { APIContext } from 'astro';
import { RecordError } from '../../core/record/model.ts';
import type { Asker } from '../people/asker.ts';
import { currentProject, session } from '../people/session.ts';
import { Refusal } from '../refusal.ts';
import { today } from '../store/clock.ts';
import type { Db } from '../store/database.ts';

export interface PageSession {
  db: Db;
  asker: Asker;
  project: string;
  today: string;
}

export interface FrameProps {
  projects: { id: string; name: string }[];
  project: string;
  person: string;
}

type Outcome<T> = { ok: true; data: T; frame: FrameProps } | { ok: false; message: string; advice: string | null; frame: FrameProps };

/** Gathers what a page shows; a refusal becomes a page that says what is wrong, with its status. */
export async function tryPage<T>(context: Pick<APIContext, 'cookies'> & { response: { status?: number | undefined } }, load: (s: PageSession) => Promise<T>): Promise<Outcome<T>> {
  const { db, asker } = await session();
  const { current, all } = await currentProject(context, asker, db);
  const frame = { projects: all, project: current, person: asker.name };
  try {
    return { ok: true, data: await load({ db, asker, project: current, today: today() }), frame };
  } catch (error) {
    // a record may take longer to read than it is given, or no longer be readable
    if (!(error instanceof Refusal || error instanceof RecordError)) throw error;
    context.response.status = error instanceof Refusal ? error.status : 422;
    return { ok: false, message: error.message, advice: error.advice, frame };
  }
}
