import { decodeRecord } from '../core/record/decode.ts';
import type { MeetingRecord, RecordFormat } from '../core/record/model.ts';
import { readRecord } from '../core/record/read.ts';
import type { Db } from './database.ts';

const read = new Map<string, MeetingRecord>();

/** The record as it was read. Reading can be repeated at any time from the bytes, so only a few are kept at hand. */
export async function recordWords(db: Db, id: number): Promise<MeetingRecord> {
  const row = await db.selectFrom('records').select(['bytes', 'format', 'sha256']).where('id', '=', id).executeTakeFirstOrThrow();
  const key = `${row.sha256}.${row.format}`;
  let record = read.get(key);
  if (!record) {
    record = readRecord(decodeRecord(row.bytes).text, row.format as RecordFormat);
    if (read.size > 24) read.delete(read.keys().next().value!);
    read.set(key, record);
  }
  return record;
}
