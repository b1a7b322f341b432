import { z } from 'zod';
import { isIsoDate } from '../dates/calendar.ts';

export const IsoDateSchema = z.string().refine(isIsoDate, { message: 'is not a date like 2026-03-05' });

/** A place in a kept record. */
export const PlaceSchema = z.object({
  record: z.number().int(),
  segment: z.number().int().min(0),
  from: z.number().int().min(0),
  to: z.number().int().min(0),
  role: z.enum(['states', 'accepts', 'dates', 'repeats', 'corrects', 'asks']),
});
export type Place = z.infer<typeof PlaceSchema>;

export const EVENT_KINDS = ['made', 'restated', 'moved', 'handed over', 'blocked', 'done', 'dropped', 'reopened', 'reworded', 'written', 'answered', 'put off', 'taken up', 'no date', 'merged', 'undone'] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** What an event says beside its kind. `due: null` means that the date was taken away. */
export const EventDataSchema = z.object({
  text: z.string().min(1).max(2000).optional(),
  owner: z.array(z.string()).optional(),
  due: IsoDateSchema.nullable().optional(),
  /** the words the date came from */
  phrase: z.string().max(400).optional(),
  reason: z.string().max(2000).optional(),
  /** for `put off`: the day it comes back, or null for the backlog */
  until: IsoDateSchema.nullable().optional(),
  /** for `blocked`: the commitment it waits for */
  waitsFor: z.number().int().optional(),
  /** for `undone`: the event that is taken back */
  undoes: z.number().int().optional(),
  /** for `merged`: the commitment it went into, or the one that went into it */
  into: z.number().int().optional(),
  took: z.number().int().optional(),
  letter: z.number().int().optional(),
  /** for `written`: that the letter asks its reader to say that they take it on */
  asks: z.boolean().optional(),
  /** the answer it was taken from */
  reply: z.number().int().optional(),
});
export type EventData = z.infer<typeof EventDataSchema>;

/** Something that happened to a commitment. Events are never changed and never deleted. */
export interface LedgerEvent {
  id: number;
  kind: EventKind;
  /** the day it happened: the meeting's date, or the day somebody changed it by hand */
  on: string;
  /** the moment it was written down, ISO 8601 with zone */
  at: string;
  /** who wrote it down */
  by: string;
  meeting: number | null;
  data: EventData;
  evidence: Place[];
}

/** Events that still count: without those taken back, and without the taking back. */
export function standingEvents(events: readonly LedgerEvent[]): LedgerEvent[] {
  const back = new Set<number>();
  for (const e of [...events].reverse()) if (e.kind === 'undone' && !back.has(e.id) && e.data.undoes !== undefined) back.add(e.data.undoes);
  return events.filter((e) => e.kind !== 'undone' && !back.has(e.id));
}
