import type { Step, StepKind } from '../../../core/routines/routine.ts';
import type { Doers, Doing, Done } from '../doing.ts';
import { sift, take, wait } from './finds.ts';
import { planned, roundUp } from './letters.ts';
import { minutes, next } from './meetings.ts';
import { ask, file, hook, post } from './outside.ts';

const DOERS: Doers = { sift, wait, take, 'round-up': roundUp, letters: planned, post, minutes, file, hook, next, ask };

/** Steps that are done in one transaction with the note that they are: all of it or nothing, and never twice. */
export const IN_ONE: ReadonlySet<StepKind> = new Set(['take', 'round-up', 'letters', 'minutes', 'next']);

/** Does a step. */
export const doStep = (step: Step, doing: Doing): Promise<Done> => (DOERS[step.do] as (step: Step, doing: Doing) => Promise<Done>)(step, doing);
