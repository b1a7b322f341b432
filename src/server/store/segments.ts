import type { MeetingRecord, RecordFormat } from '../../core/record/model.ts';
import { recordOfQuotes } from '../../core/record/quotes.ts';
import { work } from '../work/pool.ts';
import { CODECS } from './codecs.ts';
import type { Db } from './database.ts';
import { named } from './said-by.ts';

const read = new Map<string, MeetingRecord>();

/**
 * The record as it was read; of one whose words are gone, its quotes. Reading can be repeated at any time from the
 * bytes, so only a few are kept at hand.
 */
export async function recordWords(db: Db, id: number): Promise<MeetingRecord> {
  const row = await db.selectFrom('records').select(['bytes', 'format', 'sha256', 'quotes', 'gone_at', 'read_as']).where('id', '=', id).executeTakeFirstOrThrow();
  if (row.gone_at) {
    const kept = CODECS.quotes.read(row.quotes ?? '{"count":0,"segments":[]}');
    return recordOfQuotes(row.format as RecordFormat, kept.count, kept.segments);
  }
  const known = read.get(keyOf(row.sha256, row.format, row.read_as));
  if (known) return known;
  const { record } = await work('record', { bytes: new Uint8Array(row.bytes), fileName: null, format: row.format as RecordFormat, as: row.read_as });
  keepAtHand(row.sha256, row.format, row.read_as, record);
  return record;
}

const keyOf = (sha256: string, format: string, as: string | null) => `${sha256}.${format}.${as ?? ''}`;

/** Keeps a record that was just read at hand, so that it is not read again. */
export function keepAtHand(sha256: string, format: string, as: string | null, record: MeetingRecord): void {
  if (read.size > 24) read.delete(read.keys().next().value!);
  read.set(keyOf(sha256, format, as), record);
}

/** The same with the names of the people who speak in place of the record's own names for them. */
export async function spokenRecord(db: Db, id: number, people: readonly { id: string; name: string }[]): Promise<MeetingRecord> {
  const row = await db.selectFrom('records').select(['voices', 'said_by']).where('id', '=', id).executeTakeFirstOrThrow();
  return named(await recordWords(db, id), CODECS.voices.read(row.voices), people, CODECS.saidBy.read(row.said_by ?? '[]'));
}

/** Forgets what is kept at hand: words that are to go go here too. */
export function forgetWords(): void {
  read.clear();
}
