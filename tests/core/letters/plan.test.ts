import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, weekday } from '../../../src/core/dates/calendar.ts';
import { workingWeek } from '../../../src/core/dates/working-days.ts';
import { type PlanCommitment, type PlanInput, type PlannedLetter, planLetters } from '../../../src/core/letters/plan.ts';
import { DEFAULT_RULES, hourOf, type LetterRules, type LetterWish } from '../../../src/core/letters/rules.ts';

/** Thursday */
const TODAY = '2026-03-05';
const works = workingWeek();
const reader = (id: string, letters: LetterWish = 'all', calendar = works) => ({ id, letters, works: calendar });
const OFF: LetterRules = {
  ...DEFAULT_RULES,
  assignment: { on: false, byItself: false },
  handOver: { on: false, byItself: false },
  reminder: { on: false, byItself: false, before: [2] },
  check: { on: false, byItself: false, every: 10 },
  overdue: { on: false, byItself: false, after: 1, every: 4, times: 5 },
  invitation: { on: false, byItself: false, before: 2 },
  gather: 0,
};
const commitment = (c: Partial<PlanCommitment>): PlanCommitment => ({ id: 1, owner: ['bram'], due: null, state: 'open', madeOn: '2026-02-02', endedOn: null, lastOn: '2026-02-02', handedOn: null, answerWaits: false, ...c });
const plan = (input: Partial<PlanInput>): PlannedLetter[] => planLetters({ today: TODAY, days: 14, rules: OFF, manager: 'ines', readers: [reader('bram'), reader('ruth'), reader('hanne'), reader('ines')], commitments: [], sittings: [], written: [], marks: [], ...input });
const said = (letters: PlannedLetter[]) => letters.map((l) => `${l.day} ${l.to} ${l.parts.map((p) => `${p.kind} ${p.commitment ?? ''}`.trim()).join(' + ')}${l.held ? ' held' : ''}`);
const only = (change: Partial<LetterRules>) => ({ ...OFF, ...change });
const REMINDER = { reminder: { on: true, byItself: false, before: [2] } };
const OVERDUE = { overdue: { on: true, byItself: false, after: 1, every: 4, times: 5 } };

describe('reasons to write', () => {
  it('a reminder comes so many working days before the date: over a weekend, and not twice', () => {
    const c = commitment({ due: '2026-03-10' });
    expect(said(plan({ rules: only(REMINDER), commitments: [c] }))).toEqual(['2026-03-06 bram reminder 1']);
    const key = plan({ rules: only(REMINDER), commitments: [c] })[0]!.parts[0]!.key;
    expect(plan({ rules: only(REMINDER), commitments: [c], written: [{ key, to: 'bram', on: '2026-03-04' }] })).toEqual([]);
  });
  it('a changed date makes another reminder, and the old one is gone', () => {
    const key = plan({ rules: only(REMINDER), commitments: [commitment({ due: '2026-03-10' })] })[0]!.parts[0]!.key;
    expect(said(plan({ rules: only(REMINDER), commitments: [commitment({ due: '2026-03-13' })], written: [{ key, to: 'bram', on: '2026-03-04' }] }))).toEqual(['2026-03-11 bram reminder 1']);
  });
  it('a changed owner is written to, and the old one is not', () => {
    expect(said(plan({ rules: only({ ...REMINDER, handOver: { on: true, byItself: false } }), commitments: [commitment({ due: '2026-03-10', owner: ['ruth'], handedOn: '2026-03-04' })] }))).toEqual(['2026-03-05 ruth hand-over 1', '2026-03-06 ruth reminder 1']);
  });
  it('what was missed is made up for once: of several reminders the nearest', () => {
    const rules = only({ reminder: { on: true, byItself: false, before: [5, 3, 1] } });
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-03-09' })] }))).toEqual(['2026-03-05 bram reminder 1', '2026-03-06 bram reminder 1']);
  });
  it('overdue notices come after the date and every so often, a number of times', () => {
    const rules = only({ overdue: { on: true, byItself: false, after: 1, every: 2, times: 3 } });
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-03-05' })] }))).toEqual(['2026-03-06 bram overdue 1', '2026-03-10 bram overdue 1', '2026-03-12 bram overdue 1']);
  });
  it('of many overdue notices that were missed one is sent', () => {
    expect(said(plan({ rules: only({ overdue: { on: true, byItself: false, after: 1, every: 4, times: null } }), days: 1, commitments: [commitment({ due: '2026-01-05' })] }))).toEqual(['2026-03-05 bram overdue 1']);
  });
  it('news after the date puts the next notice off', () => {
    expect(said(plan({ rules: only(OVERDUE), commitments: [commitment({ due: '2026-02-27', lastOn: '2026-03-04' })] }))).toEqual(['2026-03-10 bram overdue 1', '2026-03-16 bram overdue 1']);
  });
  it('whoever has answered is not asked again before somebody looked at it', () => {
    expect(plan({ rules: only({ ...OVERDUE, ...REMINDER }), commitments: [commitment({ due: '2026-02-27', answerWaits: true })] })).toEqual([]);
  });
  it('something new is assigned for a week of working days, and then no more', () => {
    const rules = only({ assignment: { on: true, byItself: false } });
    expect(said(plan({ rules, commitments: [commitment({ madeOn: '2026-02-26' })] }))).toEqual(['2026-03-05 bram assignment 1']);
    expect(plan({ rules, commitments: [commitment({ madeOn: '2026-02-25' })] })).toEqual([]);
  });
  it('silence brings a progress check, not when a reminder is near anyway', () => {
    const rules = only({ check: { on: true, byItself: false, every: 10 }, ...REMINDER });
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-05-01', lastOn: '2026-02-20' })] }))).toEqual(['2026-03-06 bram check 1']);
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-03-10', lastOn: '2026-02-20' })] }))).toEqual(['2026-03-06 bram reminder 1']);
  });
  it('what is late long enough goes to somebody else, once, and never about what the manager holds alone', () => {
    const rules = only({ escalation: { on: true, byItself: false, after: 8, to: 'hanne' } });
    const late = commitment({ due: '2026-02-23' });
    const asked = { key: 'reminder:1:bram:2026-02-23:2', to: 'bram', on: '2026-02-19' };
    const [letter] = plan({ rules, commitments: [late], written: [asked] });
    expect(said([letter!])).toEqual(['2026-03-05 hanne escalation 1']);
    expect(plan({ rules, commitments: [late], written: [asked, { key: letter!.parts[0]!.key, to: 'hanne', on: '2026-03-05' }] })).toEqual([]);
    expect(plan({ rules, commitments: [commitment({ due: '2026-02-23', owner: ['ines'] })], written: [{ ...asked, key: 'reminder:1:ines:2026-02-23:2' }] })).toEqual([]);
  });
  it('nothing goes over the head of somebody who was never asked, or has had it for less than the days of the rule', () => {
    const rules = only({ escalation: { on: true, byItself: false, after: 8, to: 'hanne' } });
    const asked = { key: 'overdue:1:bram:2026-02-23::0', to: 'bram', on: '2026-02-24' };
    expect(plan({ rules, commitments: [commitment({ due: '2026-02-23' })] })).toEqual([]);
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-02-23', handedOn: '2026-03-03' })], written: [asked] }))).toEqual(['2026-03-13 hanne escalation 1']);
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-02-23', madeOn: '2026-03-03' })], written: [asked] }))).toEqual(['2026-03-13 hanne escalation 1']);
  });
  it('what nobody holds goes to whoever runs the project', () => {
    const rules = only({ escalation: { on: true, byItself: false, after: 8, to: 'hanne' } });
    expect(said(plan({ rules, commitments: [commitment({ due: '2026-02-23', owner: [] })] }))).toEqual(['2026-03-05 ines escalation 1']);
  });
  it('a letter that is moved to a day off goes on the next day its reader works', () => {
    const due = commitment({ due: '2026-03-12' });
    const [letter] = plan({ rules: only(REMINDER), commitments: [due] });
    const moved = plan({ rules: only(REMINDER), commitments: [due], marks: letter!.covers.map((key) => ({ key, what: 'move' as const, day: '2026-03-07' })) });
    expect(said(moved)).toEqual(['2026-03-09 bram reminder 1']);
  });
  it('a sitting is announced to everybody but who runs it', () => {
    expect(said(plan({ rules: only({ invitation: { on: true, byItself: false, before: 2 } }), sittings: [{ id: 7, date: '2026-03-12', people: ['bram', 'ines'] }] }))).toEqual(['2026-03-10 bram invitation']);
  });
  it('what is done earns thanks, when the rule says so', () => {
    expect(said(plan({ rules: only({ thanks: { on: true, byItself: false } }), commitments: [commitment({ state: 'done', endedOn: '2026-03-04' })] }))).toEqual(['2026-03-05 bram thanks 1']);
  });
  it('the manager, and whoever wants none, get nothing', () => {
    const c = commitment({ due: '2026-03-06', owner: ['ines', 'bram', 'ruth'] });
    expect(said(plan({ rules: only(OVERDUE), readers: [reader('bram', 'none'), reader('ruth'), reader('ines')], days: 5, commitments: [c] }))).toEqual(['2026-03-09 ruth overdue 1']);
  });
});

describe('letters', () => {
  it('are one for each person and day, the most pressing reason first', () => {
    const letters = plan({ rules: only({ ...REMINDER, ...OVERDUE }), days: 1, commitments: [commitment({ id: 1, due: '2026-03-09' }), commitment({ id: 2, due: '2026-03-04' })] });
    expect(said(letters)).toEqual(['2026-03-05 bram overdue 2 + reminder 1']);
    expect(letters[0]!.kind).toBe('overdue');
  });
  it('take along what is due on the next days', () => {
    const rules = only({ ...REMINDER, gather: 1 });
    const letters = plan({ rules, commitments: [commitment({ id: 1, due: '2026-03-09' }), commitment({ id: 2, due: '2026-03-10' })] });
    expect(said(letters)).toEqual(['2026-03-05 bram reminder 1 + reminder 2']);
    expect(letters[0]!.parts[1]).toMatchObject({ from: '2026-03-06' });
  });
  it('of a digest hold everything, and name nothing a second time', () => {
    const rules = only({ ...OVERDUE, digest: { on: true, byItself: true, weekday: 4, hour: '08:30' } });
    const letters = plan({ rules, days: 1, commitments: [commitment({ id: 1, due: '2026-03-04' }), commitment({ id: 2, due: '2026-04-01' })] });
    expect(said(letters)).toEqual(['2026-03-05 bram digest 1 + digest 2']);
    // the overdue notice it stands for is not written the day after
    const written = letters[0]!.covers.map((key) => ({ key, to: 'bram', on: TODAY }));
    expect(written.some((w) => w.key.startsWith('overdue:'))).toBe(true);
    expect(said(plan({ rules, today: '2026-03-06', days: 1, written, commitments: [commitment({ id: 1, due: '2026-03-04' })] }))).toEqual([]);
  });
  it('of a digest are not for somebody who wants none, who gets the rest', () => {
    const rules = only({ ...OVERDUE, digest: { on: true, byItself: true, weekday: 4, hour: '08:30' } });
    expect(said(plan({ rules, readers: [reader('bram', 'no digest')], commitments: [commitment({ due: '2026-03-04' })] })).every((l) => !l.includes('digest'))).toBe(true);
  });
  it('go at an hour of their own where they are digests', () => {
    const rules = { hour: '08:30', digest: { ...DEFAULT_RULES.digest, hour: '16:00' } };
    expect([hourOf('digest', rules), hourOf('overdue', rules)]).toEqual(['16:00', '08:30']);
  });
  it('to somebody who wants only digests are digests', () => {
    expect(said(plan({ rules: only(OVERDUE), readers: [reader('bram', 'digest')], commitments: [commitment({ due: '2026-03-04' })] }))).toEqual(['2026-03-09 bram digest 1', '2026-03-16 bram digest 1']);
  });
  it('wait a day when something went to the same person today', () => {
    expect(said(plan({ rules: only(OVERDUE), days: 2, commitments: [commitment({ due: '2026-03-04' })], written: [{ key: 'reminder:9:bram:2026-03-06:2', to: 'bram', on: TODAY }] }))).toEqual(['2026-03-06 bram overdue 1']);
  });
  it('keep off the holidays of their reader', () => {
    const readers = [reader('bram', 'all', workingWeek(['2026-03-05', '2026-03-06']))];
    expect(said(plan({ rules: only(OVERDUE), readers, days: 5, commitments: [commitment({ due: '2026-03-03' })] }))).toEqual(['2026-03-09 bram overdue 1']);
  });
  it('can be held, moved onto another, and dropped', () => {
    const commitments = [commitment({ id: 1, due: '2026-03-09' }), commitment({ id: 2, due: '2026-03-11' })];
    const rules = only(REMINDER);
    const [first] = plan({ rules, commitments });
    const mark = (what: 'hold' | 'move' | 'drop', day: string | null = null) => plan({ rules, commitments, marks: first!.covers.map((key) => ({ key, what, day })) });
    expect(said(mark('hold'))).toEqual(['2026-03-05 bram reminder 1 held', '2026-03-09 bram reminder 2']);
    expect(said(mark('move', '2026-03-09'))).toEqual(['2026-03-09 bram reminder 1 + reminder 2']);
    expect(said(mark('drop'))).toEqual(['2026-03-09 bram reminder 2']);
  });
  it('go by themselves only when every rule in them says so', () => {
    const commitments = [commitment({ id: 1, due: '2026-03-09' }), commitment({ id: 2, due: '2026-03-04' })];
    const mixed = only({ reminder: { on: true, byItself: true, before: [2] }, ...OVERDUE });
    expect(plan({ rules: mixed, days: 1, commitments })[0]!.byItself).toBe(false);
    expect(plan({ rules: mixed, days: 1, commitments: commitments.slice(0, 1) })[0]!.byItself).toBe(true);
  });
  it('whatever is open and whatever was written: never two to one person on a day, never on a day off, never the same thing twice', () => {
    const day = fc.integer({ min: -40, max: 30 }).map((n) => addDays(TODAY, n));
    const one = fc.record({
      id: fc.integer({ min: 1, max: 12 }),
      owner: fc.subarray(['bram', 'ruth', 'hanne', 'ines']),
      due: fc.option(day),
      madeOn: fc.integer({ min: -60, max: 0 }).map((n) => addDays(TODAY, n)),
      handedOn: fc.option(fc.integer({ min: -20, max: 0 }).map((n) => addDays(TODAY, n))),
      state: fc.constantFrom('open' as const, 'blocked' as const, 'done' as const),
    });
    fc.assert(
      fc.property(fc.uniqueArray(one, { selector: (c) => c.id, maxLength: 12 }), fc.boolean(), fc.integer({ min: 0, max: 3 }), (list, digest, gather) => {
        const rules: LetterRules = { ...DEFAULT_RULES, gather, digest: { on: digest, byItself: false, weekday: 2, hour: '08:30' }, thanks: { on: true, byItself: false }, escalation: { on: true, byItself: false, after: 3, to: 'hanne' } };
        const commitments = list.map((c) => commitment({ ...c, lastOn: c.madeOn, endedOn: c.state === 'done' ? TODAY : null }));
        const letters = plan({ rules, commitments });
        const seen = new Set<string>();
        for (const l of letters) {
          expect(seen.has(`${l.to} ${l.day}`)).toBe(false);
          seen.add(`${l.to} ${l.day}`);
          expect(weekday(l.day)).toBeLessThanOrEqual(5);
          // whoever runs the project hears of nothing but what nobody holds
          if (l.to === 'ines') expect(l.parts.every((p) => p.kind === 'escalation' && commitments.find((c) => c.id === p.commitment)!.owner.length === 0)).toBe(true);
          expect(l.parts.length).toBeGreaterThan(0);
        }
        const keys = letters.flatMap((l) => l.covers);
        expect(new Set(keys).size).toBe(keys.length);
        // having written today's, the plan never brings them up again
        const today = letters.filter((l) => l.day === TODAY);
        const written = today.flatMap((l) => l.covers.map((key) => ({ key, to: l.to, on: TODAY })));
        const again = plan({ rules, commitments, written }).flatMap((l) => l.covers);
        for (const w of written) expect(again).not.toContain(w.key);
      }),
      { numRuns: 150 },
    );
  });
});
