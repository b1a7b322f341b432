import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asKind, LegendSchema, readCapture, signOf, USUAL_LEGEND } from '../../../../src/core/meetings/live/capture.ts';
import { clockOf, clockWords, type Mark } from '../../../../src/core/meetings/live/clock.ts';
import { asRecord, readBack } from '../../../../src/core/meetings/live/read-back.ts';
import { isSpread, outcomeOf } from '../../../../src/core/meetings/live/vote.ts';
import { readRecord } from '../../../../src/core/record/read.ts';

const PEOPLE = ['Ruth Adair', 'Kit Ferrand', 'Jonas Pike', 'Ines Falk'].map((name) => ({ id: name.split(' ')[0]!.toLowerCase(), name, aliases: [], role: '', mail: null }));
const read = (line: string, legend = USUAL_LEGEND) => readCapture(line, { legend, people: PEOPLE, writer: 'ines', date: '2026-03-05', next: '2026-03-12' });
const brief = (line: string) => {
  const { kind, text, owner, due } = read(line);
  return [kind, text, owner.join(), due];
};

describe('a line written in a meeting', () => {
  it.each([
    ['! tell kit the training day moves, ruth before friday lunch', ['action', 'Tell kit the training day moves', 'ruth', '2026-03-06']],
    ['! redraw the outline, Jonas, Tue 10 Mar', ['action', 'Redraw the outline', 'jonas', '2026-03-10']],
    ['!Kit to pour the plinth by Monday', ['action', 'Pour the plinth', 'kit', '2026-03-09']],
    ['! ask @Jonas for the drawing by monday', ['action', 'Ask for the drawing', 'jonas', '2026-03-09']],
    ['! send form, by Monday, ruth', ['action', 'Send form', 'ruth', '2026-03-09']],
    ['! Ruth and Kit: check cells 14 May', ['action', 'Check cells', 'ruth,kit', '2026-05-14']],
    ['! I send the papers tomorrow', ['action', 'Send the papers', 'ines', '2026-03-06']],
    ['! Ruth sends the papers tomorrow', ['action', 'Ruth sends the papers', 'ruth', '2026-03-06']],
    ['! call the yard', ['action', 'Call the yard', '', null]],
    ['= trunk goes aft, by Monday at the latest', ['decision', 'Trunk goes aft, by Monday at the latest', '', null]],
    ['? who tells the board', ['question', 'Who tells the board', '', null]],
    ['- cells are packed', ['point', 'Cells are packed', '', null]],
    ['cells are packed!', ['point', 'Cells are packed!', '', null]],
  ])('%s', (line, wanted) => {
    expect(brief(line)).toEqual(wanted);
  });
  it('goes by the signs of whoever writes', () => {
    const own = LegendSchema.parse({ action: 'A', decision: '!!', question: '!', point: '*' });
    expect(['A call Kit', '!! settled', '! who pays', '* note', 'Also this', 'And that'].map((l) => read(l, own).kind)).toEqual(['action', 'decision', 'question', 'point', 'point', 'point']);
    expect(LegendSchema.safeParse({ ...USUAL_LEGEND, question: '!' }).success).toBe(false);
  });
  it('becomes another kind and keeps its words', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 60 }), fc.constantFrom('action' as const, 'decision' as const, 'question' as const, 'point' as const), (words, kind) => {
        const { rest } = signOf(words, USUAL_LEGEND);
        // signs in front of signs are words
        fc.pre(rest !== '' && signOf(rest, USUAL_LEGEND).rest === rest);
        expect(signOf(asKind(words, kind, USUAL_LEGEND), USUAL_LEGEND)).toEqual({ kind, rest });
      }),
    );
  });
});

describe('the clock', () => {
  const POINTS = [
    { id: 1, minutes: 10 },
    { id: 2, minutes: 20 },
    { id: 3, minutes: 30 },
  ];
  const min = (n: number) => n * 60_000;
  const mark = (kind: Mark['kind'], at: number, item: number | null = null): Mark => ({ kind, item, at: min(at) });
  const begun = [mark('begin', 0), mark('point', 0, 1)];
  it('tells what each point used, and what is over', () => {
    const c = clockOf(POINTS, [...begun, mark('tick', 14, 1), mark('point', 14, 2)], 60, min(20));
    expect(c.points.map((p) => [p.item, p.used / 60, p.done, p.current])).toEqual([
      [1, 14, true, false],
      [2, 6, false, true],
      [3, 0, false, false],
    ]);
    expect([c.gone / 60, c.running]).toEqual([20, true]);
  });
  it('spreads what is left where it is too little, and gives nobody more than they asked for', () => {
    // 46 minutes are left for 50 asked for; after ticking the second off at once, all 30 fit
    const late = clockOf(POINTS, [...begun, mark('tick', 14, 1), mark('point', 14, 2)], 60, min(14));
    expect(late.points.map((p) => Math.round(p.left / 6) / 10)).toEqual([0, 18.4, 27.6]);
    const free = clockOf(POINTS, [...begun, mark('tick', 14, 1), mark('tick', 14, 2), mark('point', 14, 3)], 60, min(14));
    expect(free.points.map((p) => p.left / 60)).toEqual([0, 0, 30]);
  });
  it('stands still once it has ended, and a tick can be taken away', () => {
    const c = clockOf(POINTS, [...begun, mark('tick', 5, 1), mark('untick', 6, 1), mark('end', 8)], 60, min(600));
    expect([c.gone / 60, c.running, c.points[0]!.done, c.points[0]!.used / 60]).toEqual([8, false, false, 8]);
  });
  it('never counts a second twice, nor loses one', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ kind: fc.constantFrom('point' as const, 'tick' as const, 'untick' as const), item: fc.constantFrom(1, 2, 3), after: fc.integer({ min: 0, max: 600 }) }), { maxLength: 20 }), (steps) => {
        let at = 0;
        const marks = [...begun];
        for (const s of steps) {
          at += s.after * 1000;
          marks.push({ kind: s.kind, item: s.item, at });
        }
        const c = clockOf(POINTS, marks, 60, at + 5000);
        expect(c.points.reduce((n, p) => n + p.used, 0)).toBeCloseTo(c.gone, 6);
        expect(c.points.reduce((n, p) => n + p.left, 0)).toBeLessThanOrEqual(Math.max(0, c.planned - c.gone) + 1e-6);
      }),
    );
  });
  it('is read as a clock', () => {
    expect([0, 208, 3850, -75].map(clockWords)).toEqual(['0:00', '3:28', '1:04:10', '+1:15']);
  });
});

describe('the read-back', () => {
  const line = (text: string, item: number | null = null) => ({ text: signOf(text, USUAL_LEGEND).rest, item, read: read(text) });
  it('has decisions, actions with what each lacks, and questions, in that order', () => {
    const all = readBack([line('? who pays'), line('! call Kit'), line('talk'), line('= settled'), line('! Ruth: papers by Monday')]);
    expect(all.map((b) => [b.kind, b.line.read.text, b.lacks])).toEqual([
      ['decision', 'Settled', []],
      ['action', 'Call Kit', ['owner', 'date']],
      ['action', 'Papers', []],
      ['question', 'Who pays', []],
    ]);
  });
  it('becomes a record in which every line stands where it is said to stand, word for word', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ text: fc.string({ minLength: 1, maxLength: 40 }).filter((t) => /[a-z]/i.test(t) && !/[\r\n]/.test(t)), item: fc.constantFrom(1, 2, null) }), { minLength: 1, maxLength: 8 }), (lines) => {
        const { text, at } = asRecord(
          'Weekly *call*',
          [
            { id: 1, title: 'One' },
            { id: 2, title: '# Two' },
          ],
          lines,
        );
        const { segments } = readRecord(text, 'md');
        for (const l of lines) {
          const segment = segments.find((s) => s.line === at.get(l) && s.role !== 'heading');
          expect(segment?.text.replace(/\s+/g, '')).toBe(l.text.replace(/\s+/g, ''));
        }
      }),
      { numRuns: 200 },
    );
  });
});

describe('a vote', () => {
  it('is decided where one idea has the most, with its figures; a tie, and nobody voting, leave a question', () => {
    expect(outcomeOf('Where does the trunk go?', ['over the shed', 'aft', 'nowhere'], [2, 5, 0], 3)).toEqual({ kind: 'decision', words: 'Where does the trunk go? aft (5 of 7 votes by 3 people; over the shed 2; nowhere 0)' });
    expect(outcomeOf('Where?', ['aft', 'fore', 'up'], [2, 2, 1], 2)).toEqual({ kind: 'question', words: 'Where? A tie between aft and fore (2 votes each, by 2 people; up 1)' });
    expect(outcomeOf('Where?', ['aft', 'fore'], [0, 0], 0)).toEqual({ kind: 'question', words: 'Where? Nobody voted.' });
  });
  it.each([
    [[1, 2], 2, 3, true],
    [[0, 0], 2, 3, true],
    [[2, 2], 2, 3, false],
    [[-1, 2], 2, 3, false],
    [[1], 2, 3, false],
    [[0.5, 1], 2, 3, false],
  ])('%j over %i ideas with %i votes: %s', (marks, ideas, each, ok) => {
    expect(isSpread(marks, ideas, each)).toBe(ok);
  });
});
