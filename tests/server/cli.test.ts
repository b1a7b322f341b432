import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { loadDemo } from '../../demo/load.ts';
import { runFind } from '../../src/cli/find.ts';
import { runSift } from '../../src/cli/sift.ts';
import { openDatabase } from '../../src/server/store/database.ts';

const folder = mkdtempSync(join(tmpdir(), 'ottik-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};
const CALL = 'Ines Falk: Bram, can you send the signed weights of the engine?\nBram Osei: Yes, I will send the weights by Friday.\nInes Falk: Good.\nBram Osei: The weather is bad.';

let out = '';
beforeEach(() => {
  out = '';
  vi.spyOn(process.stdout, 'write').mockImplementation((text) => {
    out += String(text);
    return true;
  });
});
afterEach(() => vi.restoreAllMocks());

describe('ottik sift', () => {
  it('prints a table', async () => {
    expect(await runSift([file('call.txt', CALL), '--date', '2026-03-05'])).toBe(0);
    expect(out).toMatch(/action\s+\d+%.*weights.*Bram Osei.*2026-03-06/);
  });
  it('leaves the close reader out when asked', async () => {
    await runSift([file('call.txt', CALL), '--date', '2026-03-05', '--json', '--quick']);
    expect((JSON.parse(out) as { reader: string }).reader).toBe('quick');
  });
  it('prints JSON', async () => {
    await runSift([file('call.txt', CALL), '--date', '2026-03-05', '--people', 'Ines Falk, Bram Osei', '--json']);
    const answer = JSON.parse(out) as { reader: string; finds: { kind: string }[] };
    expect(answer.reader).toBe('close');
    expect(answer.finds.some((f) => f.kind === 'action')).toBe(true);
  });
  it('answers cases, one line each, in their order', async () => {
    const record = file('a.txt', CALL);
    const made = (id: string) =>
      file(
        `${id}.case.json`,
        JSON.stringify({
          meeting: { id, date: '2026-03-05', next: null, present: ['p1', 'p2'], author: null },
          people: [
            { id: 'p1', name: 'Ines Falk', aliases: [], role: '' },
            { id: 'p2', name: 'Bram Osei', aliases: [], role: '' },
          ],
          record: { file: record, format: 'txt' },
          open: [],
        }),
      );
    await runSift(['--case', made('one'), made('two')]);
    const lines = out
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as { commitments: { owner: string[]; due: string }[] });
    expect(lines).toHaveLength(2);
    expect(lines[0]!.commitments[0]).toMatchObject({ owner: ['p2'], due: '2026-03-06' });
  });
  it.each([
    [['--date', '2026-03-05'], /name the record/],
    [[file('b.txt', CALL)], /day of the meeting/],
    [[file('b.txt', CALL), '--date', 'monday'], /not a date/],
    [[file('b.txt', CALL), '--date'], /needs a value/],
    [[file('empty.txt', ''), '--date', '2026-03-05'], /empty/],
    [[file('c.vtt', 'WEBVTT\n\nnone'), '--date', '2026-03-05'], /c\.vtt, line 1: There is no cue/],
    [['--case', file('bad.json', '{"people":[]}')], /bad\.json: meeting/],
  ])('says what is wrong: %#', async (argv, words) => {
    await expect(runSift(argv)).rejects.toThrow(words);
  });
  it('says so when there is nothing', async () => {
    await runSift([file('none.txt', 'The weather.\nIs bad.'), '--date', '2026-03-05']);
    expect(out === 'No finds in this record.\n' || out.includes('%')).toBe(true);
  });
});

describe('ottik find', () => {
  const database = join(folder, 'find.db');
  beforeAll(async () => {
    const db = await openDatabase(database);
    await loadDemo(db, '2026-03-05', null);
    await db.destroy();
  });
  it('answers a question with its sources, and lists places', async () => {
    expect(await runFind(['who', 'owns', 'the', 'plinth?', '--database', database])).toBe(0);
    expect(out).toMatch(/^Dele Marchetti holds C-2 of Quiet Crossing, Transformer plinth poured at Kelda Point; due .*\[1\]/);
    expect(out).toMatch(/\[1\] Dele Marchetti, \d{4}-\d\d-\d\d, Weekly works call no\. 1, 0:47: Two weeks for it/);
  });
  it('prints what the page gets as JSON', async () => {
    expect(await runFind(['dry corner', '--json', '--database', database])).toBe(0);
    expect((JSON.parse(out) as { found: { total: number } }).found.total).toBeGreaterThan(3);
  });
  it('says that nothing is on record, that nothing was asked, and that there is no database', async () => {
    expect(await runFind(['who owns the submarine?', '--database', database])).toBe(1);
    expect(out).toContain('Nothing on record says who holds the submarine.');
    vi.spyOn(process.stderr, 'write').mockReturnValue(true);
    expect(await runFind([])).toBe(2);
    await expect(runFind(['x', '--database', join(folder, 'none.db')])).rejects.toThrow('There is no database');
  });
});
