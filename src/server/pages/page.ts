import type { APIContext } from 'astro';
import { RecordError } from '../../core/record/model.ts';
import { projectsOf } from '../people/projects.ts';
import { workspace } from '../people/session.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';

export interface FrameProps {
  projects: { id: string; name: string; archived: boolean }[];
  project: string;
  person: string;
}

type Outcome<T> = { ok: true; data: T; frame: FrameProps } | { ok: false; message: string; advice: string | null; frame: FrameProps };

/** Gathers what a page shows; a refusal becomes a page that says what is wrong, with its status. */
export async function tryPage<T>(context: Pick<APIContext, 'cookies'> & { response: { status?: number | undefined } }, load: (ws: Workspace) => Promise<T>): Promise<Outcome<T>> {
  const ws = await workspace(context);
  const frame = { projects: await projectsOf(ws), project: ws.project, person: ws.asker.name };
  try {
    return { ok: true, data: await load(ws), frame };
  } catch (error) {
    // a record may take longer to read than it is given, or no longer be readable
    if (!(error instanceof Refusal || error instanceof RecordError)) throw error;
    context.response.status = error instanceof Refusal ? error.status : 422;
    return { ok: false, message: error.message, advice: error.advice, frame };
  }
}
