import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hostileMails, hostileRecords } from '../../bench/hostile.ts';
import { RecordError } from '../../src/core/record/model.ts';
import { endWork, work } from '../../src/server/work/pool.ts';

// in the threads that the application uses, and not in this one
const before = process.env.OTTIK_WORK;
beforeAll(() => {
  delete process.env.OTTIK_WORK;
});
afterAll(async () => {
  process.env.OTTIK_WORK = before;
  await endWork();
});

/** Few characters here; `npm run bench` sends a hundred times as many. */
const SIZE = 3000;
const meeting = { date: '2026-03-05', next: null, present: ['ines'], author: null };
const people = [{ id: 'ines', name: 'Ines Falk', aliases: [], role: '' }];

/** What became of a task: what it gave, or in what words it was refused; whatever else it throws is a fault. */
const outcome = <T>(task: Promise<T>): Promise<T | string> =>
  task.catch((error: unknown) => {
    if (error instanceof RecordError) return error.message;
    throw error;
  });

describe('whatever comes in', () => {
  it('as a record is read or refused with words, and sifted', async () => {
    const all = hostileRecords(SIZE);
    expect(all.length).toBeGreaterThan(100);
    for (const h of all) {
      const read = await outcome(work('record', { bytes: new Uint8Array(h.bytes), fileName: h.file, format: null, as: null }));
      if (typeof read === 'string') expect(read.length, h.name).toBeGreaterThan(10);
      else await work('sift', { input: { record: read.record, people, meeting, open: [] }, close: null });
    }
  });
  it('as a mail is opened and read', async () => {
    for (const h of hostileMails(SIZE)) {
      const mail = await work('mail', { raw: new Uint8Array(h.bytes) });
      const reply = { writer: { id: 'bram', name: 'Bram' }, on: '2026-03-05', next: null, language: 'en' as const, items: [{ n: 1, commitment: 1, ref: 'C-1', text: 'Bolts', due: null }], asks: false, people: [] };
      expect((await work('answer', { text: mail.text, writer: 'Bram', reply })).words, h.name).toBeTypeOf('string');
    }
  });
});

describe('what takes too long', () => {
  it('is stopped and refused with words, and whatever comes after it is read', async () => {
    const long = hostileRecords(400_000).find((h) => h.name === 'boxes')!;
    const { record } = await work('record', { bytes: new Uint8Array(long.bytes), fileName: long.file, format: null, as: null });
    await expect(work('sift', { input: { record, people, meeting, open: [] }, close: null }, { time: 50 })).rejects.toThrow(/took longer than .* and was stopped/);
    const after = await work('record', { bytes: new TextEncoder().encode('Ines: I will send the weights by Friday.'), fileName: 'a.txt', format: null, as: null });
    expect((await work('sift', { input: { record: after.record, people, meeting, open: [] }, close: null })).finds).toHaveLength(1);
  });
});
