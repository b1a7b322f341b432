import { type Kysely, sql } from 'kysely';

/** Puts what a trigger names into the queue of what is to be read into the find index anew. */
const queue = (kind: string, source: string) => `INSERT INTO passage_queue (kind, source) VALUES (${kind}, ${source}) ON CONFLICT DO UPDATE SET n = n + 1`;

const again = (kind: string, table: string, where: string) => `INSERT INTO passage_queue (kind, source) SELECT ${kind}, id FROM ${table} WHERE ${where} ON CONFLICT DO UPDATE SET n = n + 1`;

/**
 * The find index: passages of everything said, written, decided, promised, sent and jotted, with their words in an FTS5
 * table beside. Whatever changes in a table is queued here by a trigger, and read in anew before the next search.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    `CREATE TABLE passages (
      id INTEGER PRIMARY KEY,
      project_id TEXT NOT NULL,
      kind TEXT NOT NULL CHECK (kind IN ('said', 'decision', 'question', 'commitment', 'minutes', 'letter', 'answer', 'jotting')),
      source INTEGER NOT NULL,
      meeting_id INTEGER,
      person_id TEXT,
      voice TEXT,
      on_day TEXT NOT NULL,
      start REAL,
      cuts TEXT NOT NULL DEFAULT '',
      text TEXT NOT NULL,
      beside TEXT NOT NULL DEFAULT ''
    )`,
    'CREATE INDEX passages_source ON passages (kind, source)',
    'CREATE INDEX passages_day ON passages (on_day)',
    // Porter’s stems; accents do not count; the beginnings of words are kept ready, since people search while they type
    `CREATE VIRTUAL TABLE passages_fts USING fts5 (text, beside, content = 'passages', content_rowid = 'id', tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3 4')`,
    // words that are let go leave no trace in the index either
    "INSERT INTO passages_fts (passages_fts, rank) VALUES ('secure-delete', 1)",
    "CREATE VIRTUAL TABLE passages_terms USING fts5vocab ('passages_fts', 'row')",
    // what may have been meant by a word that is nowhere; words that are no longer said go at night
    'CREATE TABLE passage_words (word TEXT PRIMARY KEY) WITHOUT ROWID',
    'CREATE TRIGGER passages_in AFTER INSERT ON passages BEGIN INSERT INTO passages_fts (rowid, text, beside) VALUES (new.id, new.text, new.beside); END',
    "CREATE TRIGGER passages_out AFTER DELETE ON passages BEGIN INSERT INTO passages_fts (passages_fts, rowid, text, beside) VALUES ('delete', old.id, old.text, old.beside); END",
    'CREATE TABLE passage_queue (kind TEXT NOT NULL, source INTEGER NOT NULL, n INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (kind, source)) WITHOUT ROWID',
    `CREATE TRIGGER find_record_in AFTER INSERT ON records BEGIN ${queue("'said'", 'new.id')}; END`,
    `CREATE TRIGGER find_record_changed AFTER UPDATE OF voices, said_by, gone_at, read_as, replaced_by ON records BEGIN ${queue("'said'", 'new.id')}; END`,
    "CREATE TRIGGER find_record_gone AFTER UPDATE OF gone_at ON records WHEN new.gone_at IS NOT NULL BEGIN DELETE FROM passages WHERE kind = 'said' AND source = new.id; END",
    `CREATE TRIGGER find_meeting_changed AFTER UPDATE OF date, author_id ON meetings WHEN old.date IS NOT new.date OR old.author_id IS NOT new.author_id BEGIN
      ${again("'said'", 'records', 'meeting_id = new.id')};
      ${again('kind', 'statements', 'meeting_id = new.id')};
      ${again("'minutes'", 'minutes_versions', 'meeting_id = new.id')};
    END`,
    `CREATE TRIGGER find_statement_in AFTER INSERT ON statements BEGIN ${queue('new.kind', 'new.id')}; END`,
    `CREATE TRIGGER find_statement_event_in AFTER INSERT ON statement_events BEGIN ${again('kind', 'statements', 'id = new.statement_id')}; END`,
    `CREATE TRIGGER find_event_in AFTER INSERT ON events BEGIN ${queue("'commitment'", 'new.commitment_id')}; END`,
    `CREATE TRIGGER find_minutes_in AFTER INSERT ON minutes_versions BEGIN ${again("'minutes'", 'minutes_versions', 'meeting_id = new.meeting_id')}; END`,
    `CREATE TRIGGER find_letter_in AFTER INSERT ON letters WHEN new.state IN ('sent', 'part sent') BEGIN ${queue("'letter'", 'new.id')}; END`,
    `CREATE TRIGGER find_letter_changed AFTER UPDATE OF state ON letters WHEN new.state IN ('sent', 'part sent') BEGIN ${queue("'letter'", 'new.id')}; END`,
    `CREATE TRIGGER find_reply_in AFTER INSERT ON replies BEGIN ${queue("'answer'", 'new.id')}; END`,
    `CREATE TRIGGER find_reply_changed AFTER UPDATE OF project_id, person_id, nature, words, recipient_id ON replies BEGIN ${queue("'answer'", 'new.id')}; END`,
    `CREATE TRIGGER find_jotting_in AFTER INSERT ON jottings BEGIN ${queue("'jotting'", 'new.id')}; END`,
    `CREATE TRIGGER find_jotting_changed AFTER UPDATE OF text, removed_at ON jottings BEGIN ${queue("'jotting'", 'new.id')}; END`,
    // what is there already is read in after the start
    "INSERT INTO passage_queue (kind, source) SELECT 'said', id FROM records",
    'INSERT INTO passage_queue (kind, source) SELECT kind, id FROM statements',
    "INSERT INTO passage_queue (kind, source) SELECT 'commitment', id FROM commitments",
    "INSERT INTO passage_queue (kind, source) SELECT 'minutes', id FROM minutes_versions",
    "INSERT INTO passage_queue (kind, source) SELECT 'letter', id FROM letters WHERE state IN ('sent', 'part sent')",
    "INSERT INTO passage_queue (kind, source) SELECT 'answer', id FROM replies",
    "INSERT INTO passage_queue (kind, source) SELECT 'jotting', id FROM jottings",
  ])
    await sql.raw(statement).execute(db);
}
