import type { ColumnType, Generated } from 'kysely';

/** In place of a reader's name: the find was proposed once, and a later reader did not have it. */
export const SUPERSEDED = 'superseded';

/** Tables as Kysely types them. JSON columns are text and pass through the Zod schema named beside them. */
export interface Database {
  people: { id: string; name: string; aliases: string; role: string; mail: string | null; organisation: string; account: number };
  projects: { id: string; name: string; started_on: string };
  memberships: { project_id: string; person_id: string; sees: number };
  series: { id: string; project_id: string; title: string; short: string; weekday: number; every_weeks: number; time: string; minutes: number; place: string };
  series_people: { series_id: string; person_id: string };
  meetings: {
    id: Generated<number>;
    project_id: string;
    series_id: string | null;
    title: string;
    date: string;
    time: string | null;
    minutes: number | null;
    number: number | null;
    place: string;
    sifted_at: string | null;
    next: string | null;
    author_id: string | null;
  };
  attendance: { meeting_id: number; person_id: string; present: number };
  records: {
    id: Generated<number>;
    meeting_id: number;
    file_name: string | null;
    format: string;
    encoding: string;
    layout: string;
    bytes: Buffer;
    sha256: string;
    brought_at: string;
    brought_by: string;
    /** JSON, {@link VoicesSchema}: record's own names to people */
    voices: string;
    keep_until: string | null;
  };
  finds: {
    id: Generated<number>;
    meeting_id: number;
    record_id: number;
    key: string;
    kind: string;
    /** JSON, a Find of the core */
    data: string;
    position: number;
    verdict: ColumnType<'open' | 'taken' | 'passed', 'open' | 'taken' | 'passed' | undefined, 'open' | 'taken' | 'passed'>;
    reader: string;
  };
  find_changes: { id: Generated<number>; find_id: number; verdict: string; at: string; by_person: string; event_id: number | null; statement_id: number | null; before: ColumnType<string | null, string | null | undefined, never>; swallowed: ColumnType<number | null, number | null | undefined, never> };
  commitments: {
    id: Generated<number>;
    project_id: string;
    number: number;
    meeting_id: number | null;
    series_id: string | null;
    text: string;
    due: string | null;
    state: string;
    made_on: string;
    ended_on: string | null;
    moved: number;
    handed_over: number;
    last_on: string;
  };
  commitment_owners: { commitment_id: number; person_id: string };
  events: {
    id: Generated<number>;
    commitment_id: number;
    kind: string;
    on_day: string;
    at: string;
    by_person: string;
    meeting_id: number | null;
    /** JSON, {@link EventDataSchema} */
    data: string;
    /** JSON, list of {@link PlaceSchema} */
    evidence: string;
  };
  statements: { id: Generated<number>; project_id: string; kind: 'decision' | 'question'; number: number; text: string; meeting_id: number; evidence: string; at: string; by_person: string };
  statement_events: { id: Generated<number>; statement_id: number; kind: 'taken' | 'withdrawn'; at: string; by_person: string };
  letters: {
    id: Generated<number>;
    project_id: string;
    meeting_id: number;
    kind: string;
    subject: string;
    body: string;
    state: 'draft' | 'sending' | 'sent' | 'part sent';
    created_at: string;
    sent_at: string | null;
    by_person: string;
    from_name: string;
    from_mail: string;
    /** version of the minutes that goes with it */
    minutes_version: ColumnType<number | null, number | null | undefined, number | null>;
  };
  letter_recipients: { letter_id: number; person_id: string; mail: string; state: 'waiting' | 'sent' | 'refused'; error: string | null; message_id: string | null; sent_at: string | null };
  /** what is being written; `revision` goes up with every change, so that two people do not overwrite each other */
  minutes_drafts: { meeting_id: number; draft: string; revision: number; changed_at: string; by_person: string };
  /** issued minutes as they were set; JSON, Minutes of the core */
  minutes_versions: { id: Generated<number>; meeting_id: number; version: number; minutes: string; changes: string; issued_on: string; at: string; by_person: string };
  /** JSON, parts of the minutes of a series in their order */
  series_minutes: { series_id: string; parts: string };
}
