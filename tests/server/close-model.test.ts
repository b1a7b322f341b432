import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { readRecord } from '../../src/core/record/read.ts';
import type { SiftInput } from '../../src/core/sift/reading.ts';
import { startCloseReader } from '../../src/server/sift/close-reader/close-reader.ts';
import { loadModel } from '../../src/server/sift/close-reader/model.ts';
import { closeReading, siftClosely } from '../../src/server/sift/run.ts';

const SHIPPED = join(import.meta.dirname, '../../src/server/sift/close-reader/model');
const people = ['Ines Falk', 'Bram Osei', 'Ruth Adair'].map((name) => ({ id: name.split(' ')[0]!.toLowerCase(), name, aliases: [], role: '' }));
const input = (text: string, open: SiftInput['open'] = []): SiftInput => ({ record: readRecord(text, 'txt'), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: people.map((p) => p.id), author: null }, open });
const CALL = 'Ines: Bram, can you send the signed weights of the engine to Ruth by Friday?\nBram: Yes, I will.\nRuth: Thank you.\nInes: And the fire plan?\nRuth: The fire plan went to the inspectorate yesterday, it is done.\nInes: Good.';

describe('the encoder’s file', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'ottik-model-'));
    cpSync(SHIPPED, folder, { recursive: true });
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));
  it('comes in pieces that a clone has whole, and is put together from them', async () => {
    const model = await loadModel(folder);
    expect(model.graph.length).toBeGreaterThan(10_000_000);
    const { pieces } = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8')) as { pieces: { bytes: number }[] };
    for (const p of pieces) expect(p.bytes).toBeLessThan(4_000_000);
  });
  it('is refused when a piece is damaged or missing, by name', async () => {
    const piece = join(folder, 'reader.2');
    const bytes = readFileSync(piece);
    bytes[1000]! ^= 1;
    writeFileSync(piece, bytes);
    await expect(loadModel(folder)).rejects.toThrow('reader.2 is not as it was made');
    rmSync(piece);
    await expect(loadModel(folder)).rejects.toThrow('reader.2 is missing');
    await expect(startCloseReader(folder)).rejects.toThrow('reader.2 is missing');
  });
});

describe('the close reader', () => {
  afterAll(() => closeReading());
  it('reads the same words the same way every time, and says how far it is', async () => {
    const steps: [number, number][] = [];
    const open = [{ id: 'C-1', text: 'Fire plan, sheet 3, to the inspectorate', owner: ['ruth'], due: '2026-03-01', madeOn: '2026-02-05' }];
    const first = await siftClosely(input(CALL, open), (done, all) => steps.push([done, all]));
    const again = await siftClosely(input(CALL, open));
    expect(first).toEqual(again);
    expect(steps.at(-1)![0]).toBe(steps.at(-1)![1]);
    if (!('finds' in first)) throw new Error(first.quickOnly);
    expect(first.finds.reader).toBe('close');
    const action = first.finds.finds.find((f) => f.kind === 'action')!;
    expect(action).toMatchObject({ owner: ['bram'], due: '2026-03-06' });
    expect(first.finds.finds.find((f) => f.kind === 'update')?.update).toMatchObject({ open: 'C-1', kind: 'done' });
  });
  it('can be switched off, and on again', async () => {
    vi.stubEnv('OTTIK_CLOSE_READER', 'off');
    expect(await siftClosely(input(CALL))).toEqual({ quickOnly: 'it is switched off' });
    vi.unstubAllEnvs();
    expect(await siftClosely(input('hello'))).toHaveProperty('finds');
  });
  it.each([
    ['nothing', ''],
    ['one line', 'hello'],
    ['signs alone', '👩‍👩‍👧 \u202E ,,, !!!'],
    ['a word of ten thousand letters', 'a'.repeat(10_000)],
  ])('gets through %s', async (_, text) => {
    expect(await siftClosely(input(text))).toHaveProperty('finds');
  });
});
