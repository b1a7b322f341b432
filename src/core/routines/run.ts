import type { Entry } from '../people/deeds.ts';
import { NAMES, type Routine, type Step } from './routine.ts';

/** How a run stands. */
export const RUN_STATES = ['offered', 'running', 'waiting', 'failed', 'done', 'stopped', 'left'] as const;
export type RunState = (typeof RUN_STATES)[number];

export const STEP_STATES = ['running', 'waiting', 'done', 'failed'] as const;
export type StepState = (typeof STEP_STATES)[number];

export const RUN_WORDS: Readonly<Record<RunState, string>> = { offered: 'offered', running: 'running', waiting: 'waits', failed: 'failed', done: 'done', stopped: 'stopped', left: 'not this time' };

/** What came of a step: it is done, or waits for something that will be so, or for somebody to say go on. */
export type Outcome = { said: string; details?: string[] } | { waits: string; word?: true };

/** Minutes after each try of a step that failed for the time being; after the last it has failed. */
const AGAIN_AFTER = [1, 5, 30];

/** When a step that failed for the time being is tried again, or null when it has failed for good. */
export function triedAgain(tries: number, now: Date): Date | null {
  const minutes = AGAIN_AFTER[tries - 1];
  return minutes === undefined ? null : new Date(now.getTime() + minutes * 60_000);
}

/**
 * What a cause is known by: nothing starts a routine twice for the same one.
 *
 *     causeKey('late', 12, '2026-03-06') === 'late:12:2026-03-06'
 */
export const causeKey = (...parts: readonly (string | number)[]): string => parts.join(':');

/** What a step that is done tells the audit: routines act in somebody’s name, and that is told like what they do by hand. */
export function routineDeed(routine: Pick<Routine, 'name'>, step: Step, run: number): Entry | null {
  if (step.do === 'sift' || step.do === 'wait') return null;
  const out = step.do === 'post' || step.do === 'hook' || step.do === 'ask' || (step.do === 'round-up' && step.act === 'send');
  return { did: out ? 'sent' : step.do === 'file' ? 'took away' : 'changed', what: `routine “${routine.name}”: ${NAMES[step.do].toLowerCase()}`, about: String(run) };
}
