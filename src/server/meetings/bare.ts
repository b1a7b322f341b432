import type { Db } from '../store/database.ts';

/** Whether nothing hangs on a meeting: no record, agenda, line, commitment, letter, minutes, statement, event or jotting. */
export async function isBare(tx: Db, meeting: number): Promise<boolean> {
  const left = await Promise.all([
    tx.selectFrom('records').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('commitments').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('letters').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('letters').select('id').where('sitting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('minutes_drafts').select('meeting_id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('minutes_versions').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('agenda_points').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('live_marks').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('live_lines').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('shares').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('statements').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('events').select('id').where('meeting_id', '=', meeting).executeTakeFirst(),
    tx.selectFrom('jottings').select('id').where('about_kind', '=', 'meeting').where('about_id', '=', String(meeting)).executeTakeFirst(),
  ]);
  return left.every((x) => x === undefined);
}

/** Takes a meeting that nothing hangs on out of the calendar. */
export async function removeBare(tx: Db, meeting: number): Promise<void> {
  await tx.deleteFrom('attendance').where('meeting_id', '=', meeting).execute();
  await tx.deleteFrom('calendar_ids').where('meeting_id', '=', meeting).execute();
  await tx.deleteFrom('meetings').where('id', '=', meeting).execute();
}
