import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { quotesOf, recordOfQuotes } from '../../src/core/record/quotes.ts';
import { readRecord } from '../../src/core/record/read.ts';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { registerOf } from '../../src/server/ledger/registers.ts';
import { siftPage } from '../../src/server/pages/sift.ts';
import { trailPage } from '../../src/server/pages/trail.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { changeKeeping, expireRecords, keepingOf } from '../../src/server/records/retention.ts';
import { findsOf } from '../../src/server/sift/finds.ts';
import { recordWords } from '../../src/server/store/segments.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});
const trail = (ref: string) => trailPage(ws.with({ project: P, today: TODAY }), ref);

describe('the end of a record’s keeping', () => {
  it('takes the words away and leaves every quote that something rests on, where it stood', async () => {
    const before = await trail('C-1');
    const said = before.trail.events.flatMap((e) => e.said);
    const record = said[0]!.record;
    const decisions = await registerOf(ws, P, 'decision');
    const raw = (await recordWords(ws.db, record)).segments;
    await ws.db.updateTable('records').set({ keep_until: '2026-03-04' }).where('id', '=', record).execute();
    expect(await expireRecords(ws.db, TODAY)).toBe(1);
    expect(await expireRecords(ws.db, TODAY)).toBe(0);
    expect((await trail('C-1')).trail.events.flatMap((e) => e.said)).toEqual(said);
    expect((await registerOf(ws, P, 'decision')).map((d) => d.said.map((s) => s.words))).toEqual(decisions.map((d) => d.said.map((s) => s.words)));
    const left = (await recordWords(ws.db, record)).segments;
    expect(left.length).toBe(raw.length);
    expect(
      left
        .map((s) => s.text)
        .join('')
        .replace(/\s/g, '').length,
    ).toBeLessThan(
      raw
        .map((s) => s.text)
        .join('')
        .replace(/\s/g, '').length / 2,
    );
    const row = await ws.db.selectFrom('records').select(['bytes', 'file_name', 'gone_at', 'quotes']).where('id', '=', record).executeTakeFirstOrThrow();
    expect([row.bytes.length, row.file_name]).toEqual([0, null]);
    // nothing that nobody took is left to be read
    const unquoted = raw.find((s) => s.text.length > 40 && !left[s.index]!.text.trim())!;
    expect(JSON.stringify([row.quotes, ...(await ws.db.selectFrom('finds').select('data').where('record_id', '=', record).execute())])).not.toContain(unquoted.text.slice(0, 40));
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('empties finds that nobody took, and keeps those that were', async () => {
    const row = await ws.db.selectFrom('finds').select(['record_id', 'meeting_id']).where('verdict', '=', 'open').executeTakeFirstOrThrow();
    await changeKeeping(ws, row.record_id, { do: 'now' });
    expect(await findsOf(ws, row.meeting_id)).toEqual([]);
    const page = await siftPage(ws.with({ project: P, today: TODAY }), row.meeting_id);
    expect(page.view!.keeping).toMatchObject({ goneOn: expect.stringMatching(/^\d{4}-/), history: [{ kind: 'let go', by: 'Ines Falk' }] });
  });
  it('is put off or taken away, noted each time, and cannot be undone afterwards', async () => {
    const { id } = await ws.db.selectFrom('records').select('id').executeTakeFirstOrThrow();
    await changeKeeping(ws, id, { do: 'until', day: '2026-09-01' });
    await changeKeeping(ws, id, { do: 'told', how: 'said at the start' });
    await changeKeeping(ws, id, { do: 'for good' });
    expect(await keepingOf(ws, id)).toMatchObject({ until: null, told: 'said at the start', history: [{ kind: 'kept until', note: '2026-09-01' }, { kind: 'told' }, { kind: 'kept for good' }] });
    await expect(changeKeeping(ws, id, { do: 'until', day: '2020-01-01' })).rejects.toThrow('a day that is to come');
    await changeKeeping(ws, id, { do: 'now' });
    await expect(changeKeeping(ws, id, { do: 'for good' })).rejects.toThrow('words of this record are gone');
    await expect(
      ws.db
        .updateTable('records')
        .set({ bytes: Buffer.from('forged') })
        .where('id', '=', id)
        .execute(),
    ).rejects.toThrow('kept as they came');
    await expect(ws.db.deleteFrom('record_events').execute()).rejects.toThrow('never deleted');
  });
});

describe('quotes', () => {
  it('stand where they stood, and nothing else does', () => {
    const record = readRecord('Bram: I paint the casing by Friday, and my neighbour is ill.\nRuth: Fine.', 'txt');
    const quotes = quotesOf(record, [{ segment: 0, from: 2, to: 29 }]);
    const back = recordOfQuotes('txt', record.segments.length, quotes);
    expect(back.segments.map((s) => s.text.trim())).toEqual(['paint the casing by Friday,', '']);
    expect(back.segments[0]!.text.slice(2, 29)).toBe(record.segments[0]!.text.slice(2, 29));
  });
  it('of any places give back just those places', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ segment: fc.nat(3), from: fc.nat(30), to: fc.nat(40) }), { maxLength: 6 }), (places) => {
        const segments = [0, 1, 2].map((index) => ({ index, line: 1, text: `word number ${index} of a segment`, voice: null, start: null, end: null, role: 'words' as const, item: null, section: null }));
        const back = recordOfQuotes('txt', 3, quotesOf({ segments }, places));
        for (const p of places) if (p.segment < 3 && p.to > p.from) expect(back.segments[p.segment]!.text.slice(p.from, p.to).trimEnd()).toBe(segments[p.segment]!.text.slice(p.from, p.to).trimEnd());
        for (const s of back.segments) for (const [i, ch] of [...s.text].entries()) if (ch !== ' ') expect(places.some((p) => p.segment === s.index && i >= p.from && i < p.to)).toBe(true);
      }),
    );
  });
});
