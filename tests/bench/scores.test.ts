import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { evaluate, reliability } from '../../bench/learn/evaluate.ts';
import { fitLogistic } from '../../bench/learn/logistic.ts';
import { annotatedMeetings, ownNotes, rehearsals, unseenMeetings } from '../../bench/meetings.ts';
import { emptyTallies, f1, likeness, pairUp, tally } from '../../bench/score.ts';
import { isIsoDate } from '../../src/core/dates/calendar.ts';
import { logOdds, probability } from '../../src/core/sift/linear.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import { readUnits } from '../../src/core/sift/reading.ts';

describe('Sift on the annotated meetings', () => {
  const meetings = annotatedMeetings();
  const weights = JSON.parse(readFileSync(join(import.meta.dirname, '../../src/core/sift/weights/quick.json'), 'utf8')) as SiftModels;
  const outcome = evaluate(meetings, () => weights, null);
  it.each([
    ['commitments', 0.71],
    ['with owner and date', 0.47],
    ['decisions', 0.6],
    ['questions', 0.69],
    ['updates', 0.63],
  ] as const)('%s stay at what was reached, F1 at least %d', (measure, least) => {
    expect(f1(outcome.tallies[measure])).toBeGreaterThanOrEqual(least);
  });
  it('reads notes it has not learned from by their form: boxes, labels, tables, marks', () => {
    const notes = evaluate(ownNotes(), () => weights, null).tallies;
    expect(f1(notes.commitments)).toBeGreaterThanOrEqual(0.93);
    expect(f1(notes.decisions)).toBeGreaterThanOrEqual(0.9);
    expect(f1(notes.questions)).toBeGreaterThanOrEqual(0.8);
    expect(f1(notes['with owner and date'])).toBeGreaterThanOrEqual(0.78);
  });
  it('reads talk it has not learned from', () => {
    const talk = evaluate(unseenMeetings(), () => weights, null).tallies;
    expect(f1(talk.commitments)).toBeGreaterThanOrEqual(0.6);
    expect(f1(talk['with owner and date'])).toBeGreaterThanOrEqual(0.38);
    expect(f1(talk.decisions)).toBeGreaterThanOrEqual(0.6);
    expect(f1(talk.updates)).toBeGreaterThanOrEqual(0.7);
  });
  it('leaves no series without finds', () => {
    for (const [series, t] of outcome.bySeries) expect(t.commitments.right, series).toBeGreaterThan(5);
  });
  it('is surer of what is right', () => {
    const bands = reliability(outcome.judged).filter((b) => b.count > 40);
    expect(bands.length).toBeGreaterThan(2);
    expect(bands[bands.length - 1]!.right).toBeGreaterThan(bands[0]!.right);
  });
});

describe('annotated meetings', () => {
  it('point at places that exist and at commitments that were open', () => {
    for (const m of [...annotatedMeetings(), ...ownNotes(), ...rehearsals(), ...unseenMeetings()]) {
      const open = new Set(m.input.open.map((o) => o.id));
      for (const item of [...m.gold.commitments, ...m.gold.decisions, ...m.gold.questions, ...m.gold.updates]) for (const e of item.evidence) expect(m.input.record.segments[e], `${m.name} ${e}`).toBeDefined();
      for (const u of m.gold.updates) expect(open.has(u.open), `${m.name} ${u.open}`).toBe(true);
    }
  });
  it('name people of the series, and dates that are not past', () => {
    for (const m of [...annotatedMeetings(), ...ownNotes(), ...rehearsals(), ...unseenMeetings()]) {
      const people = new Set(m.input.people.map((p) => p.id));
      for (const c of m.gold.commitments) {
        for (const who of c.owner) expect(people.has(who), `${m.name} ${c.text} ${who}`).toBe(true);
        if (c.due) expect(isIsoDate(c.due) && c.due >= m.input.meeting.date, `${m.name} ${c.text} ${c.due}`).toBe(true);
      }
    }
  });
  it('of our own say their dates where they point', () => {
    for (const m of [...rehearsals(), ...unseenMeetings()]) {
      const units = readUnits(m.input).units;
      for (const c of m.gold.commitments.filter((x) => x.due)) {
        const said = units.filter((u) => c.evidence.includes(u.segment)).flatMap((u) => u.dates.map((d) => d.date));
        expect(said, `${m.name} ${c.text}`).toContain(c.due);
      }
    }
  });
});

describe('scores', () => {
  it('pair one to one, the likest first', () => {
    const gold = [
      { text: 'send the plan to the vendor', evidence: [5] },
      { text: 'ring the vendor', evidence: [6] },
    ];
    expect(
      pairUp(
        [
          { text: 'ring vendor', evidence: [6] },
          { text: 'send plan', evidence: [4] },
        ],
        gold,
      ),
    ).toEqual([
      [0, 1],
      [1, 0],
    ]);
    expect(pairUp([{ text: 'ring vendor', evidence: [9] }], gold)).toEqual([]);
    expect(likeness('sending plans', 'send the plan')).toBe(1);
  });
  it('count an update only with item, kind and date right', () => {
    const t = emptyTallies();
    const gold = {
      commitments: [],
      decisions: [],
      questions: [],
      updates: [
        { open: 'a', kind: 'moved', due: '2026-03-13', evidence: [1] },
        { open: 'b', kind: 'done', evidence: [2] },
      ],
    };
    tally(
      t,
      {
        commitments: [],
        decisions: [],
        questions: [],
        updates: [
          { open: 'a', kind: 'moved', due: '2026-03-12', evidence: [1] },
          { open: 'b', kind: 'done', evidence: [9] },
        ],
      },
      gold,
    );
    expect(t.updates).toEqual({ right: 1, given: 2, wanted: 2 });
    expect(f1(t.updates)).toBe(0.5);
  });
});

describe('learning', () => {
  it('finds what tells the classes apart, the same each time', () => {
    const examples = Array.from({ length: 400 }, (_, i) => ({
      x: new Map([
        [i % 3 === 0 ? 'yes' : 'no', 1],
        [`noise${i % 7}`, 1],
      ]),
      y: (i % 3 === 0 ? 1 : 0) as 0 | 1,
    }));
    const model = fitLogistic(examples);
    expect(probability(logOdds(model, new Map([['yes', 1]])))).toBeGreaterThan(0.8);
    expect(probability(logOdds(model, new Map([['no', 1]])))).toBeLessThan(0.2);
    expect(fitLogistic(examples)).toEqual(model);
  });
});
