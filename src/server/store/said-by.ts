import { z } from 'zod';
import type { MeetingRecord } from '../../core/record/model.ts';

/** Lines under one name that another person spoke than the name says; the later entry counts. */
export const SaidBySchema = z.array(z.object({ voice: z.string(), from: z.number().int(), to: z.number().int(), person: z.string().nullable() }));
export type SaidBy = z.infer<typeof SaidBySchema>;

/** Who speaks a segment under one of the record's own names; null while nobody has said who that is. */
export function speakerOf(label: string, segment: number, voices: Readonly<Record<string, string>>, saidBy: SaidBy): string | null {
  const own = saidBy.findLast((s) => s.voice === label && s.from <= segment && segment <= s.to);
  return own ? own.person : (voices[label] ?? null);
}

/**
 * A record whose voices carry the names of the people they were matched with.
 * @param voices record's own names to people
 * @param saidBy lines that were put right one by one
 */
export function named(record: MeetingRecord, voices: Readonly<Record<string, string>>, people: readonly { id: string; name: string }[], saidBy: SaidBy = []): MeetingRecord {
  const names = new Map(people.map((p) => [p.id, p.name]));
  const call = (label: string, segment: number): string => {
    const person = speakerOf(label, segment, voices, saidBy);
    return person ? (names.get(person) ?? label) : label;
  };
  const segments = record.segments.map((s) => ({ ...s, voice: s.voice === null ? null : call(s.voice, s.index) }));
  return { ...record, voices: [...new Set(segments.flatMap((s) => (s.voice && s.role === 'words' ? [s.voice] : [])))], segments };
}
