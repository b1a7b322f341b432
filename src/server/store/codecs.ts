import { z } from 'zod';
import type { ModelGist } from '../../core/gist/model/checking.ts';
import { EventDataSchema, PlaceSchema } from '../../core/ledger/events.ts';
import type { Answer } from '../../core/letters/replies/read-reply.ts';
import { type Legend, LegendSchema } from '../../core/meetings/live/capture.ts';
import { DraftSchema, LENGTHS, type Minutes, type MinutesItem, PARTS } from '../../core/meetings/minutes.ts';
import type { QuotedSegment } from '../../core/record/quotes.ts';
import { type Routine, RoutineSchema } from '../../core/routines/routine.ts';
import { type Find, UPDATE_KINDS } from '../../core/sift/find.ts';
import { SaidBySchema } from './said-by.ts';

/** A text column that holds JSON: what is read from it has the shape it is said to have, and so has what is written. */
export interface Codec<T> {
  /** @throws an error that names the column, where what is kept has another shape */
  read(text: string): T;
  write(value: T): string;
}

function codec<T>(column: string, schema: z.ZodType<T>): Codec<T> {
  return {
    read(text) {
      const value = schema.safeParse(JSON.parse(text));
      if (value.success) return value.data;
      const [issue] = value.error.issues;
      throw new Error(`what is kept in ${column} has not its shape: ${issue?.path.join('.')} ${issue?.message}`);
    },
    write: (value) => JSON.stringify(schema.parse(value)),
  };
}

const Stretch = { segment: z.number(), from: z.number(), to: z.number() };

const FindSchema = z.object({
  key: z.string(),
  kind: z.enum(['action', 'decision', 'question', 'update']),
  text: z.string(),
  // finds that were kept before there were naming words have none
  about: z.array(z.string()).default([]),
  owner: z.array(z.string()),
  ownerHow: z.string().nullable(),
  due: z.string().nullable(),
  duePhrase: z.string().nullable(),
  update: z.object({ open: z.string(), kind: z.enum(UPDATE_KINDS), due: z.string().nullable(), owner: z.array(z.string()).nullable() }).nullable(),
  evidence: z.array(z.object({ ...Stretch, role: z.enum(['states', 'accepts', 'dates', 'repeats', 'corrects', 'asks']) })),
  clues: z.array(z.object({ ...Stretch, what: z.enum(['who', 'when', 'assent']) })),
  confidence: z.number(),
  doubtful: z.array(z.enum(['owner', 'due', 'news'])).exactOptional(),
  reason: z.string(),
}) satisfies z.ZodType<Find>;

const AnswerSchema = z.object({
  commitment: z.number().nullable(),
  kind: z.enum(['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress', 'confirmed', 'declined', 'question', 'remark']),
  due: z.string().nullable(),
  owner: z.array(z.string()).nullable(),
  words: z.string(),
  sure: z.boolean(),
  reason: z.string(),
}) satisfies z.ZodType<Answer>;

const QuotesSchema = z.object({ count: z.number(), segments: z.array(z.object({ index: z.number(), text: z.string(), voice: z.string().nullable(), start: z.number().nullable() }) satisfies z.ZodType<QuotedSegment>) });

const Runs = z.array(z.object({ text: z.string(), bold: z.boolean().exactOptional(), italic: z.boolean().exactOptional() }));
const Item = z.object({ ref: z.string(), commitment: z.number().nullable(), text: z.string(), owner: z.array(z.string()), due: z.string().nullable(), news: z.string().nullable(), moment: z.string().nullable() }) satisfies z.ZodType<MinutesItem>;
const IssuedSchema = z.object({
  title: z.string(),
  under: z.array(z.string()),
  blocks: z.array(
    z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('heading'), level: z.union([z.literal(2), z.literal(3)]), text: z.string() }),
      z.object({ kind: z.literal('text'), runs: Runs }),
      z.object({ kind: z.literal('list'), ordered: z.boolean(), items: z.array(Runs) }),
      z.object({ kind: z.literal('items'), of: z.enum(['decisions', 'actions', 'updates', 'questions']), items: z.array(Item) }),
      z.object({ kind: z.literal('table'), head: z.array(z.string()), wide: z.number(), rows: z.array(z.array(z.string())) }),
    ]),
  ),
}) satisfies z.ZodType<Minutes>;

const Supported = { text: z.string(), segments: z.array(z.number()) };
const Sentences = z.array(z.object(Supported));
const GistSchema = z.object({
  summary: z.object({ brief: Sentences, usual: Sentences, everything: Sentences }),
  topics: z.array(z.object({ name: z.string(), from: z.number(), to: z.number() })),
  ideas: z.array(z.object({ ...Supported, sides: z.array(z.object({ side: z.enum(['for', 'against']), ...Stretch })) })),
  risks: z.array(z.object({ ...Supported, kind: z.enum(['risk', 'blocker']) })),
  dropped: z.number(),
}) satisfies z.ZodType<ModelGist>;

const Cell = z.union([z.string(), z.number(), z.null()]);

/** Every column of JSON, by table and column. */
export const CODECS = {
  aliases: codec('people.aliases', z.array(z.string())),
  /** what a merge of two entries changed, so that it can be taken back */
  merged: codec(
    'people_merges.changed',
    z.object({
      moved: z.array(z.object({ table: z.string(), column: z.string(), rows: z.array(z.number()) })),
      doubled: z.array(z.object({ table: z.string(), row: z.record(z.string(), Cell) })),
      written: z.array(z.object({ table: z.string(), column: z.string(), row: z.number(), before: z.string(), after: z.string() })),
      aliases: z.string(),
    }),
  ),
  /** a record's own names for those who speak, to people */
  voices: codec('records.voices', z.record(z.string(), z.string())),
  saidBy: codec('records.said_by', SaidBySchema),
  /** what is quoted of a record once its words are gone */
  quotes: codec('records.quotes', QuotesSchema),
  media: codec('records.media', z.object({ file: z.string().regex(/^[0-9a-f]{64}$/), type: z.string(), name: z.string(), bytes: z.number() })),
  find: codec<Find>('finds.data', FindSchema),
  /** what one reader found in a record */
  foundBy: codec<Find[]>('own_finds.finds', z.array(FindSchema)),
  /** what was not believed of a model's answers: how many of each fault */
  faults: codec<Record<string, number>>('model_readings.faults', z.record(z.string(), z.number())),
  /** what a model told of a record besides its finds */
  modelGist: codec<ModelGist>('model_gists.gist', GistSchema),
  eventData: codec('events.data', EventDataSchema),
  places: codec('events.evidence', z.array(PlaceSchema)),
  answer: codec<Answer>('answers.data', AnswerSchema),
  draft: codec('minutes_drafts.draft', DraftSchema),
  issued: codec<Minutes>('minutes_versions.minutes', IssuedSchema),
  changes: codec('minutes_versions.changes', z.array(z.string())),
  routine: codec<Routine>('routines.routine', RoutineSchema),
  /** lines of what a step did, and who was told by it */
  lines: codec('routine_steps.details', z.array(z.string())),
  numbers: codec('routine_steps.took', z.array(z.number().int())),
  legend: codec<Legend>('capture_legends.legend', LegendSchema),
  parts: codec('series_minutes.parts', z.array(z.object({ part: z.enum(PARTS), length: z.enum(LENGTHS).optional() }))),
} as const;

export type Media = ReturnType<typeof CODECS.media.read>;
