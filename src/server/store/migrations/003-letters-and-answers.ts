import { type Kysely, sql } from 'kysely';

/**
 * Letters that no meeting stands behind, the plan they come from, the queue they go through, and what comes back.
 * Letters and their recipients are made anew, since SQLite cannot take a constraint away from a column.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const people = db.schema.alterTable('people');
  await people.addColumn('language', 'text', (c) => c.notNull().defaultTo('en')).execute();
  await people.addColumn('zone', 'text', (c) => c.notNull().defaultTo('UTC')).execute();
  await people.addColumn('country', 'text', (c) => c.notNull().defaultTo('')).execute();
  await people.addColumn('letters', 'text', (c) => c.notNull().defaultTo('all')).execute();
  await people.addColumn('bounced', 'text').execute();
  await db.schema
    .alterTable('projects')
    .addColumn('manager_id', 'text', (c) => c.references('people.id'))
    .execute();
  await db.schema.alterTable('projects').addColumn('rules', 'text').execute();
  await db.schema.alterTable('projects').addColumn('chat_url', 'text').execute();
  await db.schema.alterTable('commitments').addColumn('handed_on', 'text').execute();
  await db.schema.alterTable('commitments').addColumn('written_on', 'text').execute();
  await db.schema
    .alterTable('commitments')
    .addColumn('awaiting', 'integer', (c) => c.notNull().defaultTo(0))
    .execute();
  // kept in step with the events that are there
  await sql.raw("UPDATE commitments SET handed_on = (SELECT max(e.on_day) FROM events e WHERE e.commitment_id = commitments.id AND e.kind = 'handed over' AND NOT EXISTS (SELECT 1 FROM events u WHERE u.commitment_id = e.commitment_id AND u.kind = 'undone' AND json_extract(u.data, '$.undoes') = e.id))").execute(db);

  await db.schema
    .createTable('letters_anew')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('meeting_id', 'integer', (c) => c.references('meetings.id'))
    .addColumn('sitting_id', 'integer', (c) => c.references('meetings.id'))
    .addColumn('kind', 'text', (c) => c.notNull())
    .addColumn('subject', 'text', (c) => c.notNull())
    .addColumn('body', 'text', (c) => c.notNull())
    .addColumn('short', 'text', (c) => c.notNull().defaultTo(''))
    .addColumn('language', 'text', (c) => c.notNull().defaultTo('en'))
    .addColumn('tone', 'text', (c) => c.notNull().defaultTo('plain'))
    .addColumn('length', 'text', (c) => c.notNull().defaultTo('usual'))
    .addColumn('state', 'text', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .addColumn('planned_on', 'text')
    .addColumn('by_itself', 'integer', (c) => c.notNull().defaultTo(0))
    .addColumn('sent_at', 'text')
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('from_name', 'text', (c) => c.notNull())
    .addColumn('from_mail', 'text', (c) => c.notNull())
    .addColumn('minutes_version', 'integer')
    .execute();
  await db.schema
    .createTable('recipients_anew')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('letter_id', 'integer', (c) => c.notNull().references('letters_anew.id'))
    .addColumn('person_id', 'text', (c) => c.references('people.id'))
    .addColumn('via', 'text', (c) => c.notNull().defaultTo('mail'))
    .addColumn('mail', 'text', (c) => c.notNull())
    .addColumn('state', 'text', (c) => c.notNull())
    .addColumn('error', 'text')
    .addColumn('message_id', 'text')
    .addColumn('sent_at', 'text')
    .addColumn('token', 'text', (c) => c.notNull().unique())
    .addColumn('tries', 'integer', (c) => c.notNull().defaultTo(0))
    .addColumn('next_try', 'text')
    .addUniqueConstraint('recipients_once', ['letter_id', 'via', 'person_id'])
    .execute();
  await sql
    .raw(
      "INSERT INTO letters_anew (id, project_id, meeting_id, kind, subject, body, state, created_at, sent_at, by_person, from_name, from_mail, minutes_version) SELECT id, project_id, meeting_id, kind, subject, body, CASE state WHEN 'sending' THEN 'draft' ELSE state END, created_at, sent_at, by_person, from_name, from_mail, minutes_version FROM letters",
    )
    .execute(db);
  await sql.raw('INSERT INTO recipients_anew (letter_id, person_id, mail, state, error, message_id, sent_at, token) SELECT letter_id, person_id, mail, state, error, message_id, sent_at, lower(hex(randomblob(16))) FROM letter_recipients').execute(db);
  await db.schema.dropTable('letter_recipients').execute();
  await db.schema.dropTable('letters').execute();
  await db.schema.alterTable('letters_anew').renameTo('letters').execute();
  await db.schema.alterTable('recipients_anew').renameTo('letter_recipients').execute();
  await db.schema.createIndex('letters_by_project').on('letters').columns(['project_id', 'state']).execute();
  await db.schema.createIndex('letters_by_meeting').on('letters').column('meeting_id').execute();
  await db.schema.createIndex('recipients_by_state').on('letter_recipients').columns(['state', 'next_try']).execute();
  await db.schema.createIndex('recipients_by_message').on('letter_recipients').column('message_id').execute();
  await db.schema.createIndex('recipients_by_person').on('letter_recipients').columns(['person_id', 'sent_at']).execute();

  await db.schema
    .createTable('letter_items')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('letter_id', 'integer', (c) => c.notNull().references('letters.id'))
    .addColumn('n', 'integer')
    .addColumn('key', 'text', (c) => c.notNull())
    .addColumn('kind', 'text', (c) => c.notNull())
    .addColumn('commitment_id', 'integer', (c) => c.references('commitments.id'))
    .execute();
  await db.schema.createIndex('letter_items_by_letter').on('letter_items').column('letter_id').execute();
  await db.schema.createIndex('letter_items_by_key').on('letter_items').column('key').execute();
  await db.schema
    .createTable('plan_marks')
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('key', 'text', (c) => c.notNull())
    .addColumn('what', 'text', (c) => c.notNull())
    .addColumn('day', 'text')
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addPrimaryKeyConstraint('plan_marks_key', ['project_id', 'key'])
    .execute();
  await db.schema
    .createTable('letter_templates')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('series_id', 'text', (c) => c.notNull().defaultTo(''))
    .addColumn('kind', 'text', (c) => c.notNull())
    .addColumn('language', 'text', (c) => c.notNull())
    .addColumn('subject', 'text', (c) => c.notNull())
    .addColumn('body', 'text', (c) => c.notNull())
    .addColumn('short', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addUniqueConstraint('letter_templates_once', ['project_id', 'series_id', 'kind', 'language'])
    .execute();
  await db.schema
    .createTable('replies')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.references('projects.id'))
    .addColumn('recipient_id', 'integer', (c) => c.references('letter_recipients.id'))
    .addColumn('person_id', 'text', (c) => c.references('people.id'))
    .addColumn('from_address', 'text', (c) => c.notNull())
    .addColumn('subject', 'text', (c) => c.notNull())
    .addColumn('words', 'text', (c) => c.notNull())
    .addColumn('raw', 'blob')
    .addColumn('message_key', 'text', (c) => c.notNull().unique())
    .addColumn('received_at', 'text', (c) => c.notNull())
    .addColumn('how', 'text', (c) => c.notNull())
    .addColumn('nature', 'text', (c) => c.notNull())
    .addColumn('verified', 'integer', (c) => c.notNull())
    .addColumn('note', 'text')
    .execute();
  await db.schema.createIndex('replies_by_project').on('replies').columns(['project_id', 'received_at']).execute();
  await db.schema
    .createTable('answers')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('reply_id', 'integer', (c) => c.notNull().references('replies.id'))
    .addColumn('commitment_id', 'integer', (c) => c.references('commitments.id'))
    .addColumn('data', 'text', (c) => c.notNull())
    .addColumn('verdict', 'text', (c) => c.notNull().defaultTo('open'))
    .addColumn('event_id', 'integer', (c) => c.references('events.id'))
    .addColumn('by_itself', 'integer', (c) => c.notNull().defaultTo(0))
    .execute();
  await db.schema.createIndex('answers_by_reply').on('answers').column('reply_id').execute();
  await db.schema
    .createTable('settings')
    .addColumn('name', 'text', (c) => c.primaryKey())
    .addColumn('value', 'text', (c) => c.notNull())
    .execute();
}
