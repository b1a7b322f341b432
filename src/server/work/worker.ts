import { RecordError } from '../../core/record/model.ts';
import { type Outcome, TASKS, type Tasks } from './tasks.ts';

/** Carries out one task in this thread. */
export default async function run({ task, asked }: { task: keyof Tasks; asked: never }): Promise<Outcome<unknown>> {
  try {
    return { ok: await TASKS[task](asked) };
  } catch (error) {
    if (error instanceof RecordError) return { refused: { message: error.message, advice: error.advice, line: error.line } };
    return { failed: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
}
