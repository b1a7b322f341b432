import { proposedPeople } from '../../core/gist/proposed-people.ts';
import type { Person } from '../../core/language/people.ts';
import { readImport } from '../../core/ledger/bring-in.ts';
import type { MeetingRecord } from '../../core/record/model.ts';
import type { CloseReading, SiftInput } from '../../core/sift/reading.ts';
import { copyDatabase } from './copying.ts';
import { type GistAskedFor, gistHere } from './gist.ts';
import { importTable } from './import-table.ts';
import { type AskedMail, answerIn, type MailInside, openMail } from './mail-inside.ts';
import { readRecordFile } from './record-files.ts';
import { siftHere } from './sifting.ts';

/**
 * What is read from what others wrote. It is done in threads apart from the pages, since nobody can say beforehand how long a
 * record or a mail keeps its reader busy. What goes in and out is plain data.
 */
export const TASKS = {
  record: (file: { bytes: Uint8Array; fileName: string | null; format: Parameters<typeof readRecordFile>[2]; as: string | null }) => readRecordFile(file.bytes, file.fileName, file.format, file.as),
  sift: async ({ input, close }: { input: SiftInput; close: CloseReading | null }) => siftHere(input, close),
  named: async ({ record, people, other }: { record: MeetingRecord; people: readonly Person[]; other: readonly string[] }) => proposedPeople(record, people, other),
  gist: async (asked: GistAskedFor) => gistHere(asked),
  mail: ({ raw }: { raw: Uint8Array }): Promise<MailInside> => openMail(raw),
  table: async ({ text }: { text: string }) => importTable(text),
  importing: async ({ rows, columns, people, known, today }: { rows: Parameters<typeof readImport>[0]; columns: Parameters<typeof readImport>[1]; people: Parameters<typeof readImport>[2]; known: Parameters<typeof readImport>[3]; today: string }) => readImport(rows, columns, people, known, today, 0),
  answer: async (asked: AskedMail) => answerIn(asked),
  copy: async ({ from, to }: { from: string; to: string }) => copyDatabase(from, to),
};
export type Tasks = typeof TASKS;

/** What a task came to, as it goes from thread to thread: errors keep their words, which a clone of an error would lose. */
export type Outcome<T> = { ok: T } | { refused: { message: string; advice: string; line: number | null } } | { failed: string };
