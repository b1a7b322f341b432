import type { ColumnType, Generated } from 'kysely';
import type { PassageKind } from '../../core/find/query.ts';
import type { LetterWish } from '../../core/letters/rules.ts';
import type { PointKind } from '../../core/meetings/agenda.ts';
import type { Mark } from '../../core/meetings/live/clock.ts';
import type { Part } from '../../core/meetings/parts.ts';
import type { Deed } from '../../core/people/deeds.ts';
import type { Role, Visibility } from '../../core/people/rights.ts';
import type { RunState, StepState } from '../../core/routines/run.ts';

/** In place of a reader's name: the find was proposed once, and a later reader did not have it. */
export const SUPERSEDED = 'superseded';

/** In place of a reader's name: the quick reader proposed it and the close one does not; it stays until somebody settles it. */
export const DOUBTED = 'doubted';

/** How somebody wants to be written to; see ReaderWishes of the core. */
interface ReaderColumns {
  language: ColumnType<string, string | undefined, string>;
  zone: ColumnType<string, string | undefined, string>;
  country: ColumnType<string, string | undefined, string>;
  /** weekdays they work on, Monday is 1: `12345`; null for those of the project */
  working_days: ColumnType<string | null, string | null | undefined, string | null>;
  /** goes up when their personal links are made anew: the older ones open nothing */
  links: ColumnType<number, number | undefined, number>;
  /** what came back when they were last written to, and could not be reached */
  bounced: ColumnType<string | null, string | null | undefined, string | null>;
}

/** Tables as Kysely types them. JSON columns are text and pass through the Zod schema named beside them. */
export interface Database {
  people: { id: string; name: string; aliases: string; role: string; mail: string | null; organisation: string; account: number } & ReaderColumns;
  projects: {
    id: string;
    name: string;
    started_on: string;
    /** who runs it: letters go out in this person's name */
    manager_id: ColumnType<string | null, string | null | undefined, string | null>;
    /** JSON, LetterRules of the core; null for those a project starts with */
    rules: ColumnType<string | null, string | null | undefined, string | null>;
    /** address of the chat channel's webhook */
    chat_url: ColumnType<string | null, string | null | undefined, string | null>;
    /** address its letters go out from; null for that of whoever writes them */
    sender: ColumnType<string | null, string | null | undefined, string | null>;
    /** days its records are kept; null for the usual number */
    keep_days: ColumnType<number | null, number | null | undefined, number | null>;
    /** 1 where its records are read by the model reader too */
    model_reader: ColumnType<number, number | undefined, number>;
    /** since when nothing is done in it any more; null while it runs */
    archived_at: ColumnType<string | null, string | null | undefined, string | null>;
    /** whose holidays hold for those who name no country; '' for weekends only */
    country: ColumnType<string, string | undefined, string>;
    /** weekdays that are worked on, Monday is 1 */
    working_days: ColumnType<string, string | undefined, string>;
  };
  /** `changed`: JSON, what a merge of two entries changed, so that it can be taken back */
  people_merges: { id: Generated<number>; gone: string; kept: string; changed: string; at: string; by_person: string; undone_at: ColumnType<string | null, string | null | undefined, string | null> };
  memberships: { project_id: string; person_id: string; sees: number; access: ColumnType<Role, Role | undefined, Role> };
  /** which of a project's letters somebody wants, where that is not all; kept also while they are off the project */
  letter_wishes: { project_id: string; person_id: string; letters: LetterWish };
  /** who may sign in; this and what they prove it by are better-auth's, and written by it alone */
  users: { id: string; name: string; email: string; personId: string; twoFactorEnabled: number | null };
  sessions: { id: string; userId: string };
  /** who saw, changed, sent, shared and took away what; rows are added and never changed */
  audit: { id: Generated<number>; at: string; person_id: string; project_id: string | null; did: Deed; what: string; about: string | null };
  shares: {
    id: Generated<number>;
    token_hash: string;
    meeting_id: number;
    /** issued minutes, or what came of the meeting as it stands */
    what: ColumnType<'minutes' | 'meeting', 'minutes' | 'meeting' | undefined, never>;
    version: number;
    by_person: string;
    at: string;
    expires_at: string;
    passcode: string | null;
    opened: ColumnType<number, number | undefined, number>;
    wrong: ColumnType<number, number | undefined, number>;
    revoked_at: ColumnType<string | null, string | null | undefined, string | null>;
  };
  invitations: { id: Generated<number>; token_hash: string; person_id: string; project_id: string; role: Role; by_person: string; at: string; expires_at: string; used_at: ColumnType<string | null, string | null | undefined, string | null> };
  series: {
    id: string;
    project_id: string;
    title: string;
    short: string;
    /** recurrence rule of RFC 5545, counted from `starts_on` */
    rule: string;
    starts_on: string;
    /** the day from which it meets no more */
    ended_on: ColumnType<string | null, string | null | undefined, string | null>;
    time: string;
    minutes: number;
    place: string;
    /** what holds for every one of its meetings, shown while one is prepared */
    notes: ColumnType<string, string | undefined, string>;
    /** who sees the meetings it makes */
    visibility: ColumnType<Visibility, Visibility | undefined, Visibility>;
  };
  /** series and meetings that came from a calendar, by its UID and the SEQUENCE that was taken last */
  calendar_ids: { project_id: string; uid: string; sequence: number; series_id: string | null; meeting_id: number | null };
  series_people: { series_id: string; person_id: string; part: ColumnType<Part, Part | undefined, Part> };
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
    /** who sees it and all that comes from it */
    visibility: ColumnType<Visibility, Visibility | undefined, Visibility>;
    /** the day the rule of its series gave it, wherever it was moved since; null for a single meeting */
    slot: ColumnType<string | null, string | null | undefined, string | null>;
    cancelled_at: ColumnType<string | null, string | null | undefined, string | null>;
    /** when everything of it was settled and its loose ones were looked at */
    closed_at: ColumnType<string | null, string | null | undefined, string | null>;
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
    /** JSON, what is quoted of it once its words are gone */
    quotes: ColumnType<string | null, string | null | undefined, string | null>;
    gone_at: ColumnType<string | null, string | null | undefined, string | null>;
    /** how and when people were told that it is taken */
    told: ColumnType<string | null, string | null | undefined, string | null>;
    /** the better record that took its place */
    replaced_by: ColumnType<number | null, number | null | undefined, number | null>;
    /** JSON, SaidBy of voices.ts: turns that another person spoke than their voice says */
    said_by: ColumnType<string | null, string | null | undefined, string | null>;
    /** the layout its plain text was said to have; null where that was told by its look */
    read_as: ColumnType<string | null, string | null | undefined, string | null>;
    /** JSON, Media of media.ts: the recording it was written down from */
    media: ColumnType<string | null, string | null | undefined, string | null>;
    /** 1 where its words never leave for a model server */
    private: ColumnType<number, number | undefined, number>;
  };
  /** what Sift's own reader last found in a record, before it was joined with what another found: JSON, Finds of the core */
  own_finds: { record_id: number; reader: 'quick' | 'close'; finds: string; at: string };
  /** what a model server answered about a part of a record; the same question is not asked twice */
  model_answers: { id: Generated<number>; record_id: number; hash: string; answer: string; cut: number; at: string };
  /** what a model told of a record besides its finds, as far as it held up: JSON, ModelGist of the core */
  model_gists: { record_id: number; model: string; gist: string; at: string };
  /** how the model reader's last reading of a record went; `faults`: JSON, how many of each */
  model_readings: {
    record_id: number;
    state: 'waiting' | 'reading' | 'done' | 'failed' | 'cancelled';
    hash: string;
    model: string;
    parts: number;
    done: number;
    words: number;
    found: number;
    both: number;
    faults: string;
    why: string | null;
    milliseconds: number;
    at: string;
    by_person: string;
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
    /** the find of another record of the meeting that says the same, and that stands for both */
    twin_of: ColumnType<number | null, number | null | undefined, number | null>;
  };
  /** what a person said of a find, whatever became of it */
  find_judgements: { id: Generated<number>; find_id: number; by_person: string; right: number; at: string };
  /** what was settled and judged up to these numbers is forgotten */
  learned_resets: { id: Generated<number>; project_id: string; at: string; by_person: string; after_change: number; after_judgement: number };
  /** who spoke under a name that tells nobody, when it was last said for a series */
  series_voices: { series_id: string; label: string; person_id: string };
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
    handed_on: ColumnType<string | null, string | null | undefined, string | null>;
    written_on: ColumnType<string | null, string | null | undefined, string | null>;
    awaiting: ColumnType<number, number | undefined, number>;
    /** day it comes back, or `backlog` */
    put_off: ColumnType<string | null, string | null | undefined, string | null>;
    waits_for: ColumnType<number | null, number | null | undefined, number | null>;
    /** somebody said that it needs no date */
    undated: ColumnType<number, number | undefined, number>;
  };
  /** two commitments that look the same and are not, the older one first */
  differing: { one: number; other: number; by_person: string };
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
  statement_events: { id: Generated<number>; statement_id: number; kind: 'taken' | 'withdrawn' | 'closed' | 'replaced' | 'opened'; note: ColumnType<string | null, string | null | undefined, never>; at: string; by_person: string };
  letters: {
    id: Generated<number>;
    project_id: string;
    /** the meeting a round-up is of */
    meeting_id: number | null;
    /** the sitting it asks to */
    sitting_id: ColumnType<number | null, number | null | undefined, number | null>;
    /** what came back that it answers */
    reply_id: ColumnType<number | null, number | null | undefined, never>;
    /** the day whose facts it tells; null where it was not composed from the plan */
    composed_on: ColumnType<string | null, string | null | undefined, string | null>;
    /** number of the last event it knows of; null where that was not kept */
    as_of: ColumnType<number | null, number | null | undefined, number | null>;
    /** somebody has changed its words since */
    edited: ColumnType<number, number | undefined, number>;
    kind: string;
    subject: string;
    body: string;
    /** the same as a chat message */
    short: ColumnType<string, string | undefined, string>;
    language: ColumnType<string, string | undefined, string>;
    tone: ColumnType<string, string | undefined, string>;
    length: ColumnType<string, string | undefined, string>;
    state: 'draft' | 'queued' | 'sent' | 'part sent' | 'withdrawn';
    created_at: string;
    /** the day it was planned for; null for letters that no rule made */
    planned_on: ColumnType<string | null, string | null | undefined, string | null>;
    /** went without being looked at, by a rule */
    by_itself: ColumnType<number, number | undefined, number>;
    sent_at: string | null;
    by_person: string;
    from_name: string;
    from_mail: string;
    /** version of the minutes that goes with it */
    minutes_version: ColumnType<number | null, number | null | undefined, number | null>;
  };
  letter_recipients: {
    id: Generated<number>;
    letter_id: number;
    /** null for the chat channel */
    person_id: string | null;
    via: ColumnType<'mail' | 'chat', 'mail' | 'chat' | undefined, never>;
    mail: string;
    state: 'waiting' | 'queued' | 'sending' | 'sent' | 'refused' | 'bounced';
    error: string | null;
    /** given when it is queued and the same at every try */
    message_id: string | null;
    sent_at: string | null;
    /** names the letter and its reader in the address answers come to */
    token: string;
    tries: ColumnType<number, number | undefined, number>;
    next_try: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** what a letter is about: the reasons of the plan it answers, numbered as in the letter */
  letter_items: { id: Generated<number>; letter_id: number; n: number | null; key: string; kind: string; commitment_id: number | null };
  plan_marks: { project_id: string; key: string; what: 'hold' | 'move' | 'drop'; day: string | null; at: string; by_person: string };
  letter_templates: { id: Generated<number>; project_id: string; series_id: string; kind: string; language: string; subject: string; body: string; short: string; at: string; by_person: string };
  replies: {
    id: Generated<number>;
    project_id: string | null;
    recipient_id: number | null;
    person_id: string | null;
    from_address: string;
    subject: string;
    /** what its writer wrote, without what they quote */
    words: string;
    raw: Buffer | null;
    message_key: string;
    received_at: string;
    how: 'mail' | 'page';
    nature: 'answer' | 'away' | 'automatic' | 'bounce' | 'unmatched' | 'put away';
    /** whether it came from the address the letter went to */
    verified: number;
    note: string | null;
  };
  answers: {
    id: Generated<number>;
    reply_id: number;
    commitment_id: number | null /** JSON, Answer of the core */;
    data: string;
    verdict: ColumnType<'open' | 'taken' | 'passed' | 'replaced', 'open' | undefined, 'open' | 'taken' | 'passed' | 'replaced'>;
    event_id: ColumnType<number | null, number | null | undefined, number | null>;
    by_itself: ColumnType<number, number | undefined, number>;
  };
  settings: { name: string; value: string };
  record_events: { id: Generated<number>; record_id: number; kind: string; note: string | null; on_day: string; at: string; by_person: string | null };
  /** dated scraps, also those about a person, project, meeting or commitment; `standing` ones stay in sight */
  jottings: {
    id: Generated<number>;
    project_id: string;
    text: string;
    on_day: string;
    at: string;
    by_person: string;
    about_kind: ColumnType<'person' | 'project' | 'meeting' | 'commitment' | null, 'person' | 'project' | 'meeting' | 'commitment' | null | undefined, 'person' | 'project' | 'meeting' | 'commitment' | null>;
    about_id: string | null;
    standing: number;
    became: ColumnType<string | null, string | null | undefined, string | null>;
    removed_at: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** `columns`: their names with a space between; null where the view says nothing of them */
  ledger_views: { id: Generated<number>; project_id: string; person_id: string; name: string; query: string; grouping: string; columns: string | null };
  close_outs: { project_id: string; person_id: string; day: string; first_thing: string; summary: string; at: string };
  /** what is being written; `revision` goes up with every change, so that two people do not overwrite each other */
  minutes_drafts: { meeting_id: number; draft: string; revision: number; changed_at: string; by_person: string };
  /** issued minutes as they were set; JSON, Minutes of the core */
  minutes_versions: { id: Generated<number>; meeting_id: number; version: number; minutes: string; changes: string; issued_on: string; at: string; by_person: string };
  /** JSON, parts of the minutes of a series in their order */
  series_minutes: { series_id: string; parts: string };
  /** what can be found, made from the other tables and never written by hand */
  passages: {
    id: Generated<number>;
    project_id: string;
    kind: PassageKind;
    /** row it comes from: a record, statement, commitment, version of minutes, letter, reply or jotting */
    source: number;
    meeting_id: number | null;
    /** who said or wrote it */
    person_id: string | null;
    /** the record's own name for a voice nobody has named yet */
    voice: string | null;
    on_day: string;
    /** seconds from the start of the record */
    start: number | null;
    /** where each segment of the record begins in the text, `12:0 13:45` */
    cuts: ColumnType<string, string | undefined, never>;
    text: string;
    /** words it is found by too, and that are not its own: the evidence of a commitment */
    beside: ColumnType<string, string | undefined, never>;
  };
  /** the words of the passages; `passages_fts` stands for all of its columns in a `MATCH` */
  passages_fts: { rowid: number; passages_fts: string };
  /** all words in the index, from which what is misspelt is put right */
  passage_words: { word: string };
  /** what changed and is to be read in anew; `n` goes up with every change, so that one during the reading is not missed */
  passage_queue: { kind: PassageKind; source: number; n: Generated<number> };
  routines: {
    id: Generated<number>;
    project_id: string;
    /** whose name it acts in, and whose sight: whoever kept it last */
    person_id: string;
    /** JSON, Routine of the core */
    routine: string;
    state: ColumnType<'on' | 'off' | 'paused', 'on' | 'off' | undefined, 'on' | 'off' | 'paused'>;
    /** what happened before this moment starts nothing */
    since: string;
    /** records, issued minutes and replies up to these numbers start nothing */
    after_record: ColumnType<number, number | undefined, number>;
    after_version: ColumnType<number, number | undefined, number>;
    after_reply: ColumnType<number, number | undefined, number>;
    /** when the clock starts it next */
    next_at: ColumnType<string | null, string | null | undefined, string | null>;
    /** runs that failed in a row */
    failed: ColumnType<number, number | undefined, number>;
    paused_why: ColumnType<string | null, string | null | undefined, string | null>;
    /** goes up with every change, so that two people do not overwrite each other */
    revision: ColumnType<number, number | undefined, number>;
    removed_at: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** a routine that was started, as it was then; no cause starts it twice */
  routine_runs: {
    id: Generated<number>;
    routine_id: number;
    /** what started it, see `causeKey` of the core */
    cause: string;
    /** the same in words */
    about: string;
    meeting_id: number | null;
    commitment_id: number | null;
    reply_id: number | null;
    /** JSON, Routine of the core */
    routine: string;
    state: RunState;
    /** the step it is at, from 0 */
    step: ColumnType<number, number | undefined, number>;
    /** how often that step was tried */
    tries: ColumnType<number, number | undefined, number>;
    next_try: ColumnType<string | null, string | null | undefined, string | null>;
    /** 1 while it waits for somebody to say go on */
    word: ColumnType<number, number | undefined, number>;
    /** JSON, who has been told already by the step it is at */
    told: ColumnType<string, string | undefined, string>;
    began_at: string;
    ended_at: ColumnType<string | null, string | null | undefined, string | null>;
    /** who asked for it; null where something that happened started it */
    by_person: string | null;
  };
  /** tries of the steps of a run; of those of one step one alone is done */
  routine_steps: {
    id: Generated<number>;
    run_id: number;
    position: number;
    state: StepState;
    began_at: string;
    ended_at: ColumnType<string | null, string | null | undefined, string | null>;
    said: ColumnType<string, string | undefined, string>;
    /** JSON, list of lines */
    details: ColumnType<string, string | undefined, string>;
    /** JSON, numbers of the finds it took */
    took: ColumnType<string, string | undefined, string>;
  };
  agenda_points: {
    id: Generated<number>;
    meeting_id: number;
    position: number;
    kind: PointKind;
    title: string;
    minutes: number;
    why: ColumnType<string, string | undefined, string>;
    /** the question it is about, or the number of the point of an earlier agenda that was not reached */
    about: string | null;
    /** what to read before, and other words */
    note: ColumnType<string, string | undefined, string>;
    by_person: string;
    removed_at: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** who changed what of an agenda; rows are added and never changed */
  agenda_changes: { id: Generated<number>; meeting_id: number; point_id: number | null; what: string; at: string; by_person: string };
  /** what stands on every agenda of a series */
  series_agenda: { series_id: string; position: number; title: string; minutes: number };
  /** what happened in a meeting that is held, by the clock; rows are added and never changed */
  live_marks: { id: Generated<number>; meeting_id: number; kind: Mark['kind']; point_id: number | null; at: string; by_person: string };
  /** lines written in a meeting; the id comes from whoever writes, so that a line sent twice is one */
  live_lines: {
    id: string;
    /** their order */
    n: number;
    meeting_id: number;
    point_id: number | null;
    /** as it was typed, sign and all */
    text: string;
    /** since the meeting began */
    seconds: number;
    at: string;
    by_person: string;
    revision: ColumnType<number, number | undefined, number>;
    changed_by: ColumnType<string | null, string | null | undefined, string | null>;
    /** who said at the read-back that it stands */
    confirmed_by: ColumnType<string | null, string | null | undefined, string | null>;
    removed_at: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** JSON, Legend of the core: the signs somebody writes in front of lines */
  capture_legends: { person_id: string; legend: string };
  /** `ideas`: JSON, list of words; `revision` goes up with every mark, so that pages hear of it */
  votes: { id: Generated<number>; meeting_id: number; question: string; ideas: string; each: number; at: string; by_person: string; revision: ColumnType<number, number | undefined, number>; closed_at: ColumnType<string | null, string | null | undefined, string | null> };
  /** JSON, how somebody spread their votes over the ideas */
  vote_marks: { vote_id: number; person_id: string; marks: string };
}
