import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../../../src/core/dates/calendar.ts';
import { matchColumns, readImport } from '../../../src/core/ledger/bring-in.ts';
import { closeOutSummary } from '../../../src/core/ledger/close-out.ts';
import { readEntry } from '../../../src/core/ledger/entry.ts';
import type { LedgerEvent } from '../../../src/core/ledger/events.ts';
import { type HeatInput, heatInWords, heatOf } from '../../../src/core/ledger/heat.ts';
import { answers, QUERY_KEYS, type Queried, readQuery } from '../../../src/core/ledger/query.ts';
import { standingOf, wouldCircle } from '../../../src/core/ledger/state.ts';
import { onTimeOf, wilson } from '../../../src/core/measures/on-time.ts';
import { briefing } from '../../../src/core/meetings/briefing.ts';

const TODAY = '2026-03-05';
const line = (over: Partial<Queried> = {}): Queried => ({
  ref: 'C-12',
  text: 'Pour the plinth',
  owner: [{ id: 'dele', name: 'Dele Marchetti' }],
  due: '2026-03-03',
  undated: false,
  state: 'open',
  madeOn: '2026-02-01',
  endedOn: null,
  moved: 2,
  carried: 3,
  lastOn: '2026-02-20',
  awaiting: false,
  putOff: null,
  series: 'works',
  from: 'works',
  ...over,
});
const fits = (text: string, over: Partial<Queried> = {}) => answers(line(over), readQuery(text), { today: TODAY, me: 'ines' });

describe('the query language', () => {
  it.each([
    ['', true],
    ['late', true],
    ['is:late owner:dele', true],
    ['-late', false],
    ['owner:"dele marchetti"', true],
    ['owner:DÉLÉ', true],
    ['owner:me', false],
    ['mine', false],
    ['owner:nobody', false],
    ['plinth', true],
    ['plinth quay', false],
    ['"the plinth"', true],
    ['-quay', true],
    ['carried:>2', true],
    ['carried:>3', false],
    ['carried:>=3 moved:2', true],
    ['age:>30', true],
    ['quiet:<10', false],
    ['due:<2026-03-05', true],
    ['due:>=2026-03-04', false],
    ['due:2026-03-03', true],
    ['due:late', true],
    ['due:none', false],
    ['series:work', true],
    ['ref:c-12', true],
    ['waiting', false],
    ['awaiting', false],
    ['done', false],
  ])('%j', (text, expected) => expect(fits(text)).toBe(expected));
  it('shows what ended, what is put off and the backlog only when they are asked for', () => {
    const done = { state: 'done', endedOn: TODAY } as const;
    expect([fits('', done), fits('done', done), fits('ended', done), fits('all', done), fits('late', done)]).toEqual([false, true, true, true, false]);
    expect([fits('', { putOff: 'backlog' }), fits('backlog', { putOff: 'backlog' }), fits('off', { putOff: 'backlog' }), fits('all', { putOff: 'backlog' }), fits('ref:C-12', { putOff: 'backlog' })]).toEqual([false, true, false, true, true]);
    expect([fits('', { putOff: '2026-03-09' }), fits('off', { putOff: '2026-03-09' }), fits('', { putOff: TODAY })]).toEqual([false, true, true]);
  });
  it('says what it does not understand, and filters by the rest', () => {
    const q = readQuery('colour:red age:old due:soon is:tired late');
    expect(q.terms.map((t) => t.value)).toEqual(['late']);
    expect(q.wrong).toHaveLength(4);
    expect(q.wrong[0]).toContain('“colour:” is no filter');
    for (const k of QUERY_KEYS) expect(readQuery(k.example).wrong).toEqual([]);
  });
  it('never throws, whatever is typed', () => {
    fc.assert(fc.property(fc.string({ maxLength: 200 }), (text) => typeof fits(text) === 'boolean'));
  });
});

describe('a commitment typed in one line', () => {
  const people = [
    { id: 'bram', name: 'Bram Osei', aliases: [], role: '' },
    { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '' },
  ];
  it.each([
    ['Bram to pour the plinth by Friday', { text: 'Pour the plinth', owner: ['bram'], due: '2026-03-06' }],
    ['bram: pour the plinth', { text: 'Pour the plinth', owner: ['bram'], due: null }],
    ['Bram and Ruth to check the weights on 12 March', { text: 'Check the weights', owner: ['bram', 'ruth'], due: '2026-03-12' }],
    ['Pour the plinth, Ruth Adair, 14 May', { text: 'Pour the plinth', owner: ['ruth'], due: '2026-05-14' }],
    ['Pour the plinth (Bram)', { text: 'Pour the plinth', owner: ['bram'], due: null }],
    ['Pour the plinth - Bram', { text: 'Pour the plinth', owner: ['bram'], due: null }],
    // he is called, and does not call
    ['Call Bram', { text: 'Call Bram', owner: [], due: null }],
    ['Order the second pump', { text: 'Order the second pump', owner: [], due: null }],
    ['Zoe: order the pump', { text: 'Zoe: order the pump', owner: [], due: null }],
  ])('%j', (text, wanted) => expect(readEntry(text, people, { date: TODAY, next: null })).toEqual(wanted));
});

describe('a typed query as a person means it', () => {
  const found = (row: Queried, text: string) => answers(row, readQuery(text), { today: TODAY, me: 'ines' });
  it('finds a series by its whole name or a part of it, hyphens and spaces alike', () => {
    const row = line({ from: 'works', series: 'works', seriesTitle: 'Weekly works call' });
    for (const q of ['series:"works call"', 'series:works', 'series:works-call', 'series:"Weekly works"']) expect([q, found(row, q)]).toEqual([q, true]);
    expect(found(row, 'series:"steering"')).toBe(false);
  });
  it('finds words with hyphens or without', () => {
    const row = line({ text: 'Cable-tray drawings for deck two' });
    for (const q of ['cable-tray', '"cable tray"', 'tray']) expect([q, found(row, q)]).toEqual([q, true]);
  });
  it('has today and tomorrow in this week', () => {
    for (const due of [TODAY, addDays(TODAY, 1)]) expect(found(line({ due }), 'due:week')).toBe(true);
    expect(found(line({ due: addDays(TODAY, -1) }), 'due:week')).toBe(false);
    expect(found(line({ due: addDays(TODAY, 9) }), 'due:week')).toBe(false);
  });
});

describe('heat', () => {
  const open = (over: Partial<HeatInput> = {}): HeatInput => ({ owner: ['a'], due: '2026-04-01', lastOn: TODAY, undated: false, carried: 0, moved: 0, waiting: false, ...over });
  it('is the sum of what is the matter (worked example)', () => {
    // one a day late (2), one three weeks late and silent (2 + 3, 1), one loose (1), one due tomorrow and carried (1, 1)
    const heat = heatOf([open({ due: '2026-03-04' }), open({ due: '2026-02-12', lastOn: '2026-02-12' }), open({ due: null }), open({ due: '2026-03-06', carried: 3 })], TODAY);
    expect(heat.points).toBe(2 + 5 + 1 + 1 + 1 + 1);
    expect(heat.level).toBe('warm');
    expect(heat.reasons.map((r) => [r.what, r.count, r.points])).toEqual([
      ['late', 2, 7],
      ['carried', 1, 1],
      ['loose', 1, 1],
      ['near', 1, 1],
      ['silent', 1, 1],
    ]);
    expect(heatInWords(heat.reasons[0]!)).toBe('2 late');
  });
  it('of a calm project is nothing, and late things never count for more than five each', () => {
    expect(heatOf([open()], TODAY)).toEqual({ points: 0, level: 'calm', reasons: [] });
    expect(heatOf([open({ due: '2020-01-01' })], TODAY).points).toBe(5);
    expect(
      heatOf(
        Array.from({ length: 4 }, () => open({ due: '2025-01-01' })),
        TODAY,
      ).level,
    ).toBe('hot');
  });
});

describe('on time', () => {
  it('has the score interval of E. B. Wilson (worked example, values from memory: 8 of 10 gives 0.490 to 0.943)', () => {
    expect(wilson(8, 10).from).toBeCloseTo(0.4902, 3);
    expect(wilson(8, 10).to).toBeCloseTo(0.9433, 3);
    expect(wilson(0, 0)).toEqual({ from: 0, to: 1 });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.nat(500), (n, k) => {
        const { from, to } = wilson(Math.min(k, n), n);
        expect(from).toBeGreaterThanOrEqual(0);
        expect(to).toBeLessThanOrEqual(1);
        expect(from).toBeLessThanOrEqual(Math.min(k, n) / n + 1e-9);
        expect(to).toBeGreaterThanOrEqual(Math.min(k, n) / n - 1e-9);
      }),
    );
  });
  it('counts what is open and late as not kept, and what is not due yet not at all', () => {
    const out = onTimeOf(
      [
        { ref: 'C-1', due: '2026-03-01', doneOn: '2026-02-27' },
        { ref: 'C-2', due: '2026-03-01', doneOn: '2026-03-03' },
        { ref: 'C-3', due: '2026-03-01', doneOn: null },
        { ref: 'C-4', due: '2026-04-01', doneOn: null },
        { ref: 'C-5', due: null, doneOn: '2026-03-01' },
      ],
      TODAY,
    );
    expect([out.onTime, out.of]).toEqual([1, 3]);
    expect(out.each).toEqual([
      { ref: 'C-1', days: -2, open: false },
      { ref: 'C-2', days: 2, open: false },
      { ref: 'C-3', days: 4, open: true },
    ]);
  });
});

let id = 0;
const event = (kind: LedgerEvent['kind'], on: string, data: LedgerEvent['data'] = {}): LedgerEvent => ({ id: ++id, kind, on, at: `${on}T09:00:00Z`, by: 'ines', meeting: null, data, evidence: [] });

describe('putting off, letters and waiting in a life', () => {
  it('leave the date and the last word of it alone', () => {
    const s = standingOf([event('made', '2026-02-01', { text: 'x', owner: ['a'], due: '2026-03-01' }), event('written', '2026-02-20', { asks: true }), event('put off', '2026-02-25', { until: '2026-03-10' })]);
    expect(s).toMatchObject({ due: '2026-03-01', lastOn: '2026-02-01', writtenOn: '2026-02-20', awaiting: true, putOff: '2026-03-10', state: 'open' });
    expect(standingOf([event('made', '2026-02-01'), event('put off', '2026-02-02', { until: null })]).putOff).toBe('backlog');
    expect(standingOf([event('made', '2026-02-01'), event('put off', '2026-02-02', { until: null }), event('taken up', '2026-02-03')]).putOff).toBeNull();
    expect(standingOf([event('made', '2026-02-01'), event('put off', '2026-02-02', { until: null }), event('done', '2026-02-03')]).putOff).toBeNull();
  });
  it('an answer ends the waiting for one, and anything that moves it ends waiting for another', () => {
    const made = event('made', '2026-02-01');
    expect(standingOf([made, event('written', '2026-02-02', { asks: true }), event('answered', '2026-02-03')]).awaiting).toBe(false);
    expect(standingOf([made, event('blocked', '2026-02-02', { waitsFor: 7 })])).toMatchObject({ state: 'blocked', waitsFor: 7 });
    expect(standingOf([made, event('blocked', '2026-02-02', { waitsFor: 7 }), event('restated', '2026-02-04')])).toMatchObject({ state: 'open', waitsFor: null });
  });
  it('nothing waits for itself, however long the chain', () => {
    const waits = new Map([
      [2, 3],
      [3, 4],
    ]);
    expect(wouldCircle(4, 2, waits)).toBe(true);
    expect(wouldCircle(5, 2, waits)).toBe(false);
    expect(
      wouldCircle(
        9,
        1,
        new Map([
          [1, 2],
          [2, 1],
        ]),
      ),
    ).toBe(false);
  });
});

describe('a briefing', () => {
  const item = (n: number, events: LedgerEvent[]) => ({ id: n, ref: `C-${n}`, events, now: standingOf(events) });
  it('lays both sides’ promises side by side, and what happened since last time', () => {
    const out = briefing({
      today: TODAY,
      since: '2026-02-26',
      me: 'ines',
      them: ['bram'],
      commitments: [
        item(1, [event('made', '2026-02-01', { text: 'Weights', owner: ['bram'], due: '2026-02-27' })]),
        item(2, [event('made', '2026-02-01', { text: 'Second week', owner: ['ines'], due: '2026-03-06' })]),
        item(3, [event('made', '2026-02-01', { text: 'Crane', owner: ['bram'] }), event('done', '2026-03-02')]),
        item(4, [event('made', '2026-02-01', { text: 'Old', owner: ['bram'] }), event('done', '2026-02-20')]),
        item(5, [event('made', '2026-02-01', { text: 'Diesel', owner: ['bram'], due: '2026-03-01' }), event('moved', '2026-03-03', { due: '2026-03-10' })]),
        item(6, [event('made', '2026-02-01', { text: 'Not between us', owner: ['ruth'], due: '2026-02-01' })]),
      ],
      decisions: [
        { ref: 'D-1', text: 'old', on: '2026-02-01' },
        { ref: 'D-2', text: 'new', on: '2026-03-01' },
      ],
      questions: [
        { ref: 'Q-1', text: 'who signs', on: '2026-02-01', open: true },
        { ref: 'Q-2', text: 'answered', on: '2026-02-01', open: false },
      ],
    });
    expect(out.theirs.map((p) => p.ref)).toEqual(['C-1', 'C-5']);
    expect(out.mine.map((p) => p.ref)).toEqual(['C-2']);
    expect(out.late.map((p) => p.ref)).toEqual(['C-1']);
    expect(out.doneSince.map((p) => p.ref)).toEqual(['C-3']);
    expect(out.changed).toMatchObject([{ ref: 'C-5', kind: 'moved', due: '2026-03-10' }]);
    expect([out.decided.map((d) => d.ref), out.parked.map((q) => q.ref)]).toEqual([['D-2'], ['Q-1']]);
  });
});

describe('a list from elsewhere', () => {
  const people = [{ id: 'bram', name: 'Bram Osei', aliases: [], role: '' }];
  it('is matched by its headings, in several languages', () => {
    expect(matchColumns(['Ref', 'Action', 'Owner', 'Due date', 'Status'])).toEqual({ ref: 0, text: 1, owner: 2, due: 3, state: 4, made: null });
    expect(matchColumns(['Aufgabe', 'Wer', 'Bis'])).toMatchObject({ text: 0, owner: 1, due: 2 });
    expect(matchColumns(['foo', 'bar'])).toMatchObject({ text: null });
  });
  it('gives what can be read and says of the rest what is wrong, line by line', () => {
    const columns = matchColumns(['ref', 'what', 'owner', 'due', 'state']);
    const out = readImport(
      [
        ['', 'Pour the plinth', 'Bram', '14.5.2026', 'open'],
        ['C-7', 'Known one', 'Zoe Quist; Bram Osei', '2026-05-01', 'done'],
        ['', '', '', '', ''],
        ['', 'Pour the  plinth.', '', '', ''],
        ['', 'x', '', '', ''],
        ['', 'Bad date', '', 'the day after the fair', ''],
        ['', 'Bad state', '', '', 'purple'],
        ['', "'=HYPERLINK(1)", '', 'tbd', ''],
      ],
      columns,
      people,
      [{ id: 70, ref: 'C-7', text: 'Known one' }],
      TODAY,
    );
    expect(out.lines.map((l) => [l.line, l.text, l.owner, l.due, l.state, l.same?.ref ?? null])).toEqual([
      [2, 'Pour the plinth', ['bram'], '2026-05-14', 'open', null],
      [3, 'Known one', ['bram', 'new:Zoe Quist'], '2026-05-01', 'done', 'C-7'],
      [9, '=HYPERLINK(1)', [], null, 'open', null],
    ]);
    expect(out.refused.map((r) => [r.line, r.what])).toEqual([
      [5, 'says the same as line 2'],
      [6, 'there are no words that say what is to be done'],
      [7, '“the day after the fair” is not a day'],
      [8, '“purple” is not known as a state'],
    ]);
  });
});

describe('the evening', () => {
  it('is told in a few lines', () => {
    expect(closeOutSummary({ day: TODAY, done: [{ ref: 'C-1', text: 'Gangway drawing.', owner: 'Ruth' }], rest: [{ ref: 'C-2', text: 'Certificate', owner: 'Bram', choice: { what: 'until', day: '2026-03-09' } }], firstThing: ' Ask Hanne ' })).toBe(
      'Thu 5 Mar\n\nDone\n- C-1  Gangway drawing (Ruth)\n\nStill open\n- C-2  Certificate (Bram): put off to Mon 9 Mar\n\nFirst thing tomorrow\n- Ask Hanne\n',
    );
    expect(closeOutSummary({ day: TODAY, done: [], rest: [], firstThing: '' })).toBe('Thu 5 Mar\n\nNothing was done today.\n');
  });
});
