import { z } from 'zod';
import { Roster } from '../../core/language/people.ts';
import type { MeetingRecord } from '../../core/record/model.ts';
import { addPerson, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { forgetReading } from '../sift/close-reading.ts';
import { siftMeeting } from '../sift/finds.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { recordWords } from '../store/segments.ts';

/** A name in a record that somebody speaks under. */
export interface Voice {
  label: string;
  turns: number;
  person: string | null;
}

/** Who speaks in a record, in order of appearance, with who they were taken for. */
export function voicesOf(record: MeetingRecord, people: Readonly<Record<string, string>>): Voice[] {
  const turns = new Map<string, number>();
  for (const s of record.segments) if (s.voice && s.role === 'words') turns.set(s.voice, (turns.get(s.voice) ?? 0) + 1);
  return record.voices.map((label) => ({ label, turns: turns.get(label) ?? 0, person: people[label] ?? null }));
}

/** An id of somebody known, `new:Name` for somebody new, null for nobody known. */
const Who = z.string().trim().min(1).max(140).nullable();

export const VoiceSchema = z.discriminatedUnion('do', [
  /** everything under this name is spoken by one person; two names of one person are joined so */
  z.object({ do: z.literal('voice'), label: z.string().max(200), person: Who }),
  /** these lines are spoken by another person than their name says; from here to the end of that name's lines where `to` is null */
  z.object({ do: z.literal('lines'), from: z.number().int().min(0), to: z.number().int().min(0).nullable(), person: Who }),
]);

/**
 * Says who speaks in a record, and sifts it anew: finds that nobody has touched follow. What a name stands for is
 * remembered for the series where the name itself tells nobody.
 */
export async function changeVoices(ws: Workspace, record: number, change: z.infer<typeof VoiceSchema>): Promise<void> {
  const row = await ws.db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select(['r.voices', 'r.said_by', 'r.gone_at', 'm.id as meeting', 'm.project_id as project', 'm.series_id as series']).where('r.id', '=', record).executeTakeFirst();
  mustSee(ws, row?.project, 'record');
  const { meeting, project, series } = row!;
  if (row!.gone_at) throw new Refusal('conflict', 'The words of this record are gone.', 'Who spoke cannot be changed any more.');
  const words = await recordWords(ws.db, record);
  await ws.transaction(async (ws) => {
    const people = await peopleOf(ws, project);
    let person = change.person;
    if (person?.startsWith('new:')) person = await addPerson(ws, project, person.slice(4));
    else if (person !== null && !people.some((p) => p.id === person)) throw new Refusal('bad-input', 'Nobody here has that name.', 'Choose somebody from the list, or add the person.');
    if (change.do === 'voice') {
      if (!words.voices.includes(change.label)) throw new Refusal('not-found', `Nobody speaks as “${change.label}” in this record.`);
      const { [change.label]: _, ...others } = CODECS.voices.read(row!.voices);
      const voices = person === null ? others : { ...others, [change.label]: person };
      await ws.db
        .updateTable('records')
        .set({ voices: CODECS.voices.write(voices) })
        .where('id', '=', record)
        .execute();
      await rememberVoices(ws.db, series, person === null ? {} : { [change.label]: person }, new Roster(people));
    } else {
      const first = words.segments[change.from];
      if (!first?.voice) throw new Refusal('bad-input', 'Nobody speaks on that line.');
      const to = change.to ?? words.segments.length - 1;
      if (to < change.from) throw new Refusal('bad-input', 'The last of the lines comes before the first.');
      const before = CODECS.saidBy.read(row!.said_by ?? '[]');
      const said = [...before.filter((s) => !(s.voice === first.voice && s.from >= change.from && s.to <= to)), { voice: first.voice, from: change.from, to, person }];
      await ws.db
        .updateTable('records')
        .set({ said_by: CODECS.saidBy.write(said) })
        .where('id', '=', record)
        .execute();
    }
    if (person !== null)
      await ws.db
        .insertInto('attendance')
        .values({ meeting_id: meeting, person_id: person, present: 1 })
        .onConflict((c) => c.columns(['meeting_id', 'person_id']).doUpdateSet({ present: 1 }))
        .execute();
  });
  await siftMeeting(ws, meeting, record);
  forgetReading(record);
}

/** Keeps for the next sitting of a series who spoke under a name that tells nobody ("Speaker 2", a telephone number). */
export async function rememberVoices(tx: Db, series: string | null, voices: Readonly<Record<string, string>>, roster: Roster): Promise<void> {
  if (series === null) return;
  for (const [label, person] of Object.entries(voices)) {
    if (roster.voice(label) !== null) continue;
    await tx
      .insertInto('series_voices')
      .values({ series_id: series, label, person_id: person })
      .onConflict((c) => c.columns(['series_id', 'label']).doUpdateSet({ person_id: person }))
      .execute();
  }
}

export async function rememberedVoices(db: Db, series: string | null): Promise<Map<string, string>> {
  if (series === null) return new Map();
  const rows = await db.selectFrom('series_voices').select(['label', 'person_id']).where('series_id', '=', series).execute();
  return new Map(rows.map((r) => [r.label, r.person_id]));
}
