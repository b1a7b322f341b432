import { MAY, type Right } from '../../core/people/rights.ts';
import { Refusal } from '../refusal.ts';
import { today } from '../store/clock.ts';
import type { Db } from '../store/database.ts';
import { inTransaction } from '../store/transactions.ts';
import { type Asker, askerFor } from './asker.ts';

/**
 * Who asks, on which day, of which database: made once a request, and the first argument of
 * everything that reads or changes what belongs to somebody.
 *
 *     const ws = await workspace(context);
 *     const rows = await ledgerRows(ws, { project: ws.project });
 */
export class Workspace {
  constructor(
    readonly db: Db,
    readonly asker: Asker,
    /** the day it is for whoever asks, `YYYY-MM-DD` */
    readonly today: string,
    /** the project that is being looked at; `''` while there is none */
    readonly project: string,
    /** what whoever asks must be allowed in a project, for it to be theirs to ask about */
    readonly needs: Right = 'read',
  ) {}

  /** The same but for what is given. */
  with(other: Partial<Pick<Workspace, 'db' | 'asker' | 'today' | 'project' | 'needs'>>): Workspace {
    return new Workspace(other.db ?? this.db, other.asker ?? this.asker, other.today ?? this.today, other.project ?? this.project, other.needs ?? this.needs);
  }

  /** Runs something as one transaction that writes from its beginning, or as part of the one that is under way. */
  transaction<T>(run: (ws: Workspace) => Promise<T>): Promise<T> {
    return inTransaction(this.db, (db) => run(this.with({ db })));
  }
}

/** The workspace as somebody sees it, today where they are unless another day is given. */
export async function workspaceOf(db: Db, person: string, day?: string): Promise<Workspace> {
  const asker = await askerFor(db, person);
  return new Workspace(db, asker, day ?? today(asker.zone), '');
}

/**
 * What a person may not see is answered like what does not exist, so that nothing leaks; what they see and may not
 * change is refused as that.
 */
export function mustSee(ws: Workspace, project: string | undefined, what: string): asserts project is string {
  if (project === undefined || !ws.asker.projects.has(project)) throw new Refusal('not-found', `There is no such ${what}.`);
  if (ws.needs !== 'read' && ws.asker.archived.has(project)) throw new Refusal('conflict', 'This project is archived: nothing in it changes.', 'Whoever runs it can take it out of the archive, on its page.');
  if (!mayIn(ws, project)) throw new Refusal('forbidden', ws.needs === 'manage' ? 'Only a manager of this project may change that.' : 'You may look at this project, and not change it.', 'Ask whoever runs it.');
}

const mayIn = (ws: Workspace, project: string) => ws.needs === 'read' || MAY[ws.asker.roles.get(project) ?? 'guest'].includes(ws.needs);

/** Project ids for a `where … in`, never empty. */
export function visible(ws: Workspace): string[] {
  return ws.asker.projects.size ? [...ws.asker.projects] : [''];
}
