import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readQuery } from '../../src/core/ledger/query.ts';
import { readRecord } from '../../src/core/record/read.ts';
import type { LedgerRow } from '../../src/server/ledger/commitments.ts';
import type { KeptFind } from '../../src/server/sift/finds.ts';
import { groupRows, passes } from '../../src/views/ledger/grouping.ts';
import { joinNotes } from '../../src/views/sift/joins.ts';
import { marksBySegment, runsOf } from '../../src/views/sift/marks.ts';
import { turnsOf } from '../../src/views/sift/turns.ts';

const find = (id: number, over: Partial<KeptFind> = {}): KeptFind => ({
  id,
  record: 1,
  verdict: 'open',
  ref: null,
  also: [],
  seen: 0,
  by: null,
  unadjusted: null,
  right: null,
  reader: 'quick',
  key: String(id),
  kind: 'action',
  text: 'x',
  owner: [],
  about: [],
  ownerHow: null,
  due: null,
  duePhrase: null,
  update: null,
  evidence: [{ segment: 0, from: 0, to: 10, role: 'states' }],
  clues: [],
  confidence: 0.5,
  reason: '',
  ...over,
});

describe('words with marks', () => {
  const text = 'I’ll send it by Friday, promise.';
  it('are cut at every edge and lose nothing', () => {
    const marks = marksBySegment([find(1, { clues: [{ segment: 0, from: 13, to: 22, what: 'when' }], evidence: [{ segment: 0, from: 0, to: 22, role: 'states' }] })], 1).get(0)!;
    const runs = runsOf(text, marks, 1);
    expect(runs.map((r) => r.text).join('')).toBe(text);
    expect(runs.map((r) => [r.text, r.what])).toEqual([
      ['I’ll send it ', null],
      ['by Friday', 'when'],
      [', promise.', null],
    ]);
    expect(runs[1]!.ends).toEqual([1]);
  });
  it('show the current find where two overlap, and let each line begin somewhere', () => {
    const both = [find(1, { evidence: [{ segment: 0, from: 0, to: 20, role: 'states' }] }), find(2, { evidence: [{ segment: 0, from: 0, to: 20, role: 'states' }] })];
    const marks = marksBySegment(both, 1).get(0)!;
    expect(runsOf(text, marks, 2)[0]).toMatchObject({ find: 2, current: true, ends: [1, 2] });
    expect(runsOf(text, marks, 1)[0]).toMatchObject({ find: 1, current: true, ends: [1, 2] });
  });
  it('never lose a character, however marks lie', () => {
    const place = fc.tuple(fc.nat(40), fc.nat(40)).map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const);
    fc.assert(
      fc.property(fc.array(place, { maxLength: 8 }), (places) => {
        const marks = places.map(([from, to], i) => ({ from, to, find: find(i), what: null }));
        expect(
          runsOf(text, marks, 0)
            .map((r) => r.text)
            .join(''),
        ).toBe(text);
      }),
    );
  });
});

describe('notes in the margin', () => {
  const at = (id: number, y: number, over = {}) => ({ id, x: 400, y, height: 40, open: false, passed: false, ...over });
  const geometry = { leaf: 736, note: 784, slip: 767 };
  it('stand level with their words and never cover each other', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(600), { minLength: 1, maxLength: 20 }), fc.nat(19), (ys, k) => {
        const list = [...ys].sort((a, b) => a - b).map((y, i) => at(i, y + 20, i === k % ys.length ? { open: true, height: 200 } : {}));
        const joins = joinNotes(list, geometry);
        for (let i = 1; i < joins.length; i++) expect(joins[i]!.top).toBeGreaterThanOrEqual(joins[i - 1]!.top + list[i - 1]!.height);
        expect(joins[0]!.top).toBeGreaterThanOrEqual(0);
      }),
    );
  });
  it('the open one is centred on its line where there is room', () => {
    const [note] = joinNotes([at(1, 400, { open: true, height: 200 })], geometry);
    expect(note!.top).toBe(300);
    expect(note!.dot).toEqual({ x: 767, y: 399.5 });
  });
});

describe('turns', () => {
  it('join chopped captions of one voice and leave notes alone', () => {
    const captions = readRecord('WEBVTT\n\n00:01.000 --> 00:02.000\n<v A>One\n\n00:02.100 --> 00:03.000\n<v A>two\n\n00:04.000 --> 00:05.000\n<v B>three\n\n00:30.000 --> 00:31.000\n<v B>four', 'vtt');
    expect(turnsOf(captions.segments, true).map((t) => t.segments.length)).toEqual([2, 1, 1]);
    const notes = readRecord('- one\n- two', 'md');
    expect(turnsOf(notes.segments, false)).toHaveLength(2);
  });
  it('leave out lines that only name the speaker', () => {
    const record = readRecord('Ines Falk  0:03\nHello.\n\nBram Osei  0:09\nHi.\n\nInes Falk  0:12\nSo.', 'txt');
    expect(turnsOf(record.segments, false).map((t) => t.segments[0]!.text)).toEqual(['Hello.', 'Hi.', 'So.']);
  });
});

describe('the Ledger’s grouping and filter', () => {
  const row = (over: Partial<LedgerRow>): LedgerRow => ({
    id: 1,
    ref: 'C-1',
    project: 'p',
    text: 'Pour the plinth',
    owner: [{ id: 'dele', name: 'Dele Marchetti' }],
    due: '2026-03-06',
    undated: false,
    state: 'open',
    madeOn: '2026-02-01',
    endedOn: null,
    moved: 0,
    handedOver: 0,
    carried: 0,
    lastOn: '2026-02-01',
    writtenOn: null,
    awaiting: false,
    putOff: null,
    waitsFor: null,
    last: 1,
    series: 'works',
    from: 'works',
    meeting: 1,
    life: [],
    ...over,
  });
  const all = { owner: '', state: 'open', series: '', due: '', text: '' };
  it('puts late ones first and ended ones last', () => {
    const rows = [row({ id: 1 }), row({ id: 2, due: '2026-03-01' }), row({ id: 3, due: null }), row({ id: 4, state: 'done', endedOn: '2026-03-02' })];
    expect(groupRows(rows, 'due', '2026-03-05').map((g) => [g.name, g.rows.length])).toEqual([
      ['Late', 1],
      ['Tomorrow', 1],
      ['No date', 1],
      ['Done', 1],
    ]);
    expect(
      groupRows(
        [
          row({
            owner: [
              { id: 'a', name: 'A' },
              { id: 'b', name: 'B' },
            ],
          }),
        ],
        'owner',
        '2026-03-05',
      ).map((g) => g.name),
    ).toEqual(['A', 'B']);
  });
  it.each([
    [{}, true],
    [{ state: 'ended' }, false],
    [{ owner: 'dele' }, true],
    [{ owner: 'nobody' }, false],
    [{ series: 'steering' }, false],
    [{ due: 'tomorrow' }, true],
    [{ due: 'late' }, false],
    [{ text: 'plinth dele' }, true],
    [{ text: 'c-1' }, true],
    [{ text: 'quay' }, false],
    [{ state: 'loose' }, false],
    [{ text: 'owner:dele due:<2026-03-10' }, true],
    [{ text: 'late' }, false],
    [{ text: 'is:done' }, false],
    [{ state: 'backlog' }, false],
  ])('%j passes: %s', (filter, expected) => {
    const asked: typeof all = { ...all, ...filter };
    expect(passes(row({}), asked, readQuery(asked.text), { today: '2026-03-05', me: 'ines' })).toBe(expected);
  });
});
