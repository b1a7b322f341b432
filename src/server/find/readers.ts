import type { Insertable } from 'kysely';
import { passagesOf, writeCuts } from '../../core/find/passages.ts';
import type { PassageKind } from '../../core/find/query.ts';
import { runsText } from '../../core/meetings/minutes.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { speakerOf } from '../store/said-by.ts';
import type { Database } from '../store/schema.ts';
import { recordWords } from '../store/segments.ts';

/** A passage before it is kept: its kind and its source are known by whoever asks for it. */
export type NewPassage = Omit<Insertable<Database['passages']>, 'kind' | 'source' | 'id'>;

/** Most characters of a passage, and of the words beside it. */
const [LONGEST, BESIDE] = [20_000, 2_000];

/** What a row of each kind says; nothing for one that is not to be found, such as a letter that has not gone. */
export const READERS: Readonly<Record<PassageKind, (db: Db, source: number) => Promise<NewPassage[]>>> = { said, decision: statement, question: statement, commitment, minutes, letter, answer, jotting };

async function said(db: Db, source: number): Promise<NewPassage[]> {
  const r = await db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select(['m.id', 'm.project_id', 'm.date', 'm.author_id', 'r.voices', 'r.said_by', 'r.replaced_by']).where('r.id', '=', source).executeTakeFirst();
  if (!r || r.replaced_by !== null) return [];
  const record = await recordWords(db, source);
  const voices = CODECS.voices.read(r.voices);
  const saidBy = CODECS.saidBy.read(r.said_by ?? '[]');
  return passagesOf(record).map((p) => {
    // notes without names are whoever wrote them
    const person = p.voice === null ? r.author_id : speakerOf(p.voice, p.cuts[0]!.segment, voices, saidBy);
    return { project_id: r.project_id, meeting_id: r.id, person_id: person, voice: person === null ? p.voice : null, on_day: r.date, start: p.start, cuts: writeCuts(p.cuts), text: p.text.slice(0, LONGEST) };
  });
}

async function statement(db: Db, source: number): Promise<NewPassage[]> {
  const s = await db.selectFrom('statements as s').innerJoin('meetings as m', 'm.id', 's.meeting_id').select(['s.project_id', 's.meeting_id', 's.kind', 's.number', 's.text', 's.evidence', 'm.date']).where('s.id', '=', source).executeTakeFirst();
  const events = await db.selectFrom('statement_events').select(['kind', 'note']).where('statement_id', '=', source).orderBy('id').execute();
  if (!s || events.at(-1)?.kind === 'withdrawn') return [];
  const answered = events.filter((e) => e.kind === 'closed' && e.note).map((e) => e.note);
  return [{ project_id: s.project_id, meeting_id: s.meeting_id, person_id: null, on_day: s.date, text: s.text, beside: [`${s.kind === 'decision' ? 'D' : 'Q'}-${s.number}`, ...answered, await quoted(db, [s.evidence])].join(' ').slice(0, BESIDE) }];
}

/** A commitment is found by its reference, by every wording it had, and by the words it was made in; later words speak of much else. */
async function commitment(db: Db, source: number): Promise<NewPassage[]> {
  const c = await db.selectFrom('commitments').select(['project_id', 'number', 'meeting_id', 'text', 'state', 'made_on']).where('id', '=', source).executeTakeFirst();
  if (!c || c.state === 'withdrawn') return [];
  const events = await db.selectFrom('events').select(['kind', 'data', 'evidence']).where('commitment_id', '=', source).orderBy('id').execute();
  const wordings = events.flatMap((e) => CODECS.eventData.read(e.data).text ?? []).filter((t) => t !== c.text);
  const beside = [
    `C-${c.number}`,
    ...wordings,
    await quoted(
      db,
      events.filter((e) => e.kind === 'made').map((e) => e.evidence),
    ),
  ].join(' ');
  return [{ project_id: c.project_id, meeting_id: c.meeting_id, person_id: null, on_day: c.made_on, text: c.text, beside: beside.slice(0, BESIDE) }];
}

/** The words at some places, each once. */
async function quoted(db: Db, evidence: readonly string[]): Promise<string> {
  const out = new Set<string>();
  for (const p of evidence.flatMap((e) => CODECS.places.read(e))) {
    const text = (await recordWords(db, p.record)).segments[p.segment]?.text;
    if (text) out.add(text.slice(p.from, p.to) || text);
  }
  return [...out].join(' ');
}

/** Of several versions the last one counts. */
async function minutes(db: Db, source: number): Promise<NewPassage[]> {
  const v = await db.selectFrom('minutes_versions as v').innerJoin('meetings as m', 'm.id', 'v.meeting_id').select(['v.meeting_id', 'v.minutes', 'v.by_person', 'm.project_id', 'm.date']).where('v.id', '=', source).executeTakeFirst();
  const later = v && (await db.selectFrom('minutes_versions').select('id').where('meeting_id', '=', v.meeting_id).where('id', '>', source).executeTakeFirst());
  if (!v || later) return [];
  const base = { project_id: v.project_id, meeting_id: v.meeting_id, person_id: v.by_person, on_day: v.date };
  return CODECS.issued
    .read(v.minutes)
    .blocks.flatMap((b) => (b.kind === 'text' ? [runsText(b.runs)] : b.kind === 'list' ? b.items.map(runsText) : b.kind === 'items' ? b.items.map((i) => i.text) : []))
    .filter((text) => text.trim() !== '')
    .map((text) => ({ ...base, text: text.slice(0, LONGEST) }));
}

async function letter(db: Db, source: number): Promise<NewPassage[]> {
  const l = await db.selectFrom('letters').select(['project_id', 'meeting_id', 'by_person', 'sent_at', 'created_at', 'subject', 'body', 'state']).where('id', '=', source).executeTakeFirst();
  if (!l || (l.state !== 'sent' && l.state !== 'part sent')) return [];
  return [{ project_id: l.project_id, meeting_id: l.meeting_id, person_id: l.by_person, on_day: (l.sent_at ?? l.created_at).slice(0, 10), text: `${l.subject}\n${l.body}`.slice(0, LONGEST) }];
}

async function answer(db: Db, source: number): Promise<NewPassage[]> {
  const r = await db.selectFrom('replies').select(['project_id', 'person_id', 'from_address', 'words', 'received_at', 'nature']).where('id', '=', source).executeTakeFirst();
  if (!r?.project_id || (r.nature !== 'answer' && r.nature !== 'unmatched') || r.words.trim() === '') return [];
  return [{ project_id: r.project_id, meeting_id: null, person_id: r.person_id, voice: r.person_id === null ? r.from_address : null, on_day: r.received_at.slice(0, 10), text: r.words.slice(0, LONGEST) }];
}

async function jotting(db: Db, source: number): Promise<NewPassage[]> {
  const j = await db.selectFrom('jottings').select(['project_id', 'by_person', 'on_day', 'text', 'removed_at']).where('id', '=', source).executeTakeFirst();
  return j && j.removed_at === null ? [{ project_id: j.project_id, meeting_id: null, person_id: j.by_person, on_day: j.on_day, text: j.text.slice(0, LONGEST) }] : [];
}
