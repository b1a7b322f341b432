import { z } from 'zod';
import { UPDATE_KINDS } from '../find.ts';

/** Longest quotation or title that is looked at; a record's segment may be longer, a find's own words are not. */
const LONGEST = 1_200;
/** More of a kind than anybody says in one part of a meeting. */
const MOST = 200;

const Words = z.string().max(LONGEST);
const Segments = z.array(z.number().int()).max(40);
/** What every find answers: a title, the segments it rests on, and the words in them that state it. */
const Stated = { title: z.string().max(400), segments: Segments, words: Words };
const Owned = { owner: z.array(z.string().max(140)).max(8), ownerWords: Words.nullable() };

export const ActionAnswer = z.object({ ...Stated, ...Owned, dateWords: Words.nullable() });
export const PlainAnswer = z.object(Stated);
export const UpdateAnswer = z.object({ commitment: z.string().max(20), kind: z.enum(UPDATE_KINDS), segments: Segments, words: Words, ...Owned, dateWords: Words.nullable() });

/** What a model is asked to answer about one part of a record. Every property is required, as strict JSON-schema servers want it. */
export const AnswerSchema = z.object({
  actions: z.array(ActionAnswer).max(MOST),
  decisions: z.array(PlainAnswer).max(MOST),
  questions: z.array(PlainAnswer).max(MOST),
  updates: z.array(UpdateAnswer).max(MOST),
});
export type ModelAnswer = z.infer<typeof AnswerSchema>;

const ITEMS = { actions: ActionAnswer, decisions: PlainAnswer, questions: PlainAnswer, updates: UpdateAnswer } as const;

/**
 * Reads an answer item by item, so that one bad item costs itself alone.
 * @param cut whether the answer broke off: its last item may be half of one, and is left out
 * @returns the answer and how many items had another shape, or null where it is no answer at all
 */
export function readAnswer(given: unknown, cut: boolean): { answer: ModelAnswer; malformed: number } | null {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) return null;
  const answer: ModelAnswer = { actions: [], decisions: [], questions: [], updates: [] };
  let malformed = 0;
  const kinds = (Object.keys(given) as (keyof ModelAnswer)[]).filter((k) => k in ITEMS && Array.isArray((given as Record<string, unknown>)[k]));
  if (kinds.length === 0) return null;
  for (const kind of kinds) {
    const items = (given as Record<string, unknown[]>)[kind]!;
    const last = cut && kind === kinds.at(-1);
    for (const item of last ? items.slice(0, -1) : items) {
      const read = ITEMS[kind].safeParse(item);
      if (read.success && answer[kind].length < MOST) (answer[kind] as unknown[]).push(read.data);
      else malformed++;
    }
    if (last && items.length > 0) malformed++;
  }
  return { answer, malformed };
}
