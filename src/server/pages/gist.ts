import { type Gist, gistOf } from '../../core/gist/gist.ts';
import { stancesOn } from '../../core/gist/stances.ts';
import { timeOn } from '../../core/gist/subject.ts';
import { soFar, turnsOf } from '../../core/gist/turns.ts';
import { contentStems, wordsOf } from '../../core/language/words.ts';
import type { MeetingRecord } from '../../core/record/model.ts';
import { seenIn } from '../../core/sift/twins.ts';
import { findsOf } from '../finds.ts';
import { openBefore } from '../ledger.ts';
import { type MeetingRow, meetingRow } from '../meetings.ts';
import { peopleOf } from '../people.ts';
import { spokenRecord } from '../words.ts';
import type { PageSession } from './page.ts';

export interface GistAsked {
  record: number | null;
  /** a subject asked about */
  about: string;
  /** seconds up to which the record counts */
  until: number | null;
}

/** What somebody said, for showing beside what was read from it. */
export interface Said {
  segment: number;
  voice: string | null;
  text: string;
  start: number | null;
}

export interface GistShown {
  record: number;
  name: string;
  gist: Gist;
  /** words by segment */
  said: Map<number, Said>;
  about: { subject: string; time: ReturnType<typeof timeOn>; stances: ReturnType<typeof stancesOn> } | null;
  until: number | null;
  whole: number;
}

/** What one record of a meeting tells besides its finds. */
export async function gistPage({ db, asker, today }: PageSession, id: number, asked: GistAsked): Promise<{ meeting: MeetingRow; open: number; records: { id: number; name: string }[]; shown: GistShown | null }> {
  const meeting = await meetingRow(asker, db, Number.isInteger(id) ? id : -1);
  const open = await openBefore(asker, db, meeting.project, meeting.date, today);
  const kept = await db.selectFrom('records').select(['id', 'file_name']).where('meeting_id', '=', meeting.id).where('replaced_by', 'is', null).orderBy('id').execute();
  const records = kept.map((r, i) => ({ id: r.id, name: r.file_name ?? `pasted text ${i + 1}` }));
  const row = kept.find((r) => r.id === asked.record) ?? kept[0];
  if (!row) return { meeting, open, records, shown: null };
  const people = await peopleOf(asker, db, meeting.project);
  const whole = await spokenRecord(db, row.id, people);
  const part: MeetingRecord = asked.until === null ? whole : soFar(whole, { seconds: asked.until });
  const found = (await findsOf(asker, db, meeting.id))
    .map((f) => seenIn(f, row.id))
    .filter((f) => f.record === row.id && f.verdict !== 'passed')
    .flatMap((f) => f.evidence.filter((e) => e.role === 'states').map((e) => ({ segment: e.segment, kind: f.kind, confidence: f.verdict === 'taken' ? 1 : f.confidence })));
  const talk = turnsOf(part);
  const subject = asked.about.trim().slice(0, 200);
  return {
    meeting,
    open,
    records,
    shown: {
      record: row.id,
      name: records.find((r) => r.id === row.id)!.name,
      gist: gistOf(part, people, found),
      said: new Map(talk.turns.map((t) => [t.segment, { segment: t.segment, voice: t.voice, text: t.text, start: talk.times === 'measured' ? t.start : null }])),
      about: subject ? { subject, time: timeOn(talk, subject), stances: stancesOn(talk, new Set(contentStems(wordsOf(subject)))) } : null,
      until: asked.until,
      whole: turnsOf(whole).length,
    },
  };
}
