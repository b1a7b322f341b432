import type { Routine, Step, StepKind } from '../../core/routines/routine.ts';
import type { Outcome } from '../../core/routines/run.ts';
import type { Carriers } from '../letters/queue.ts';
import type { Workspace } from '../people/workspace.ts';

/** What a step is done with. */
export interface Doing {
  ws: Workspace;
  now: Date;
  routine: Routine;
  meeting: number | null;
  commitment: number | null;
  reply: number | null;
  carriers: Carriers;
  /** names this step of this run, the same at every try: whoever is told twice can tell */
  key: string;
  /** nothing leaves the house and nothing is kept: what it would do is said */
  dry: boolean;
  /** whom this step has told already, in an earlier try of it */
  told: readonly string[];
  /** notes that somebody has been told, so that no later try tells them again */
  tell(whom: string): Promise<void>;
}

/** What a step did, with the finds it took, which can be put back. */
export type Done = Outcome & { took?: number[] };

export type Doers = { [K in StepKind]: (step: Extract<Step, { do: K }>, doing: Doing) => Promise<Done> };
