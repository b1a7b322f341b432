import { describe, expect, it } from 'vitest';
import { practiceMeetings } from '../../bench/learn/practice/compose.ts';
import { dictatedScenes, readScenes, spokenScenes, writtenScenes } from '../../bench/learn/practice/scenes.ts';
import { readUnits } from '../../src/core/sift/reading.ts';

const meetings = practiceMeetings(120, 11);

describe('meetings of practice', () => {
  it('are the same for the same seed, and others for another', () => {
    const lines = (seed: number) => practiceMeetings(3, seed).map((m) => m.input.record.segments.map((s) => s.text));
    expect(lines(4)).toEqual(lines(4));
    expect(lines(4)).not.toEqual(lines(5));
  });
  it('leave no blank open', () => {
    for (const m of meetings) {
      for (const s of m.input.record.segments) expect(s.text, m.name).not.toMatch(/[{}]/);
      for (const c of m.gold.commitments) expect(c.text, m.name).not.toMatch(/[{}]/);
    }
  });
  it('point at lines that are there, for every job', () => {
    for (const m of meetings)
      for (const c of m.gold.commitments) {
        expect(c.evidence.length, `${m.name}: ${c.text}`).toBeGreaterThan(0);
        expect(Math.max(...c.evidence), m.name).toBeLessThan(m.input.record.segments.length);
      }
  });
  it('have owners who speak or are named around their job', () => {
    for (const m of meetings) {
      const { units } = readUnits(m.input);
      for (const c of m.gold.commitments) {
        const near = units.filter((u) => u.segment >= Math.min(...c.evidence) - 6 && u.segment <= Math.max(...c.evidence) + 6);
        for (const who of c.owner)
          expect(
            near.some((u) => u.speaker === who || u.mentions.some((x) => x.person === who)),
            `${m.name}: ${c.text}`,
          ).toBe(true);
      }
    }
  });
  it('are due on a day that Ottik reads in the words', () => {
    let [dated, read] = [0, 0];
    for (const m of meetings) {
      const { units } = readUnits(m.input);
      for (const c of m.gold.commitments) {
        if (!c.due) continue;
        dated++;
        const near = units.filter((u) => u.segment >= Math.min(...c.evidence) - 3 && u.segment <= Math.max(...c.evidence) + 3);
        if (near.some((u) => u.dates.some((d) => d.date === c.due))) read++;
      }
    }
    expect(dated).toBeGreaterThan(800);
    // a phrase that captions cut in two is the exception
    expect(read / dated).toBeGreaterThan(0.98);
  });
  it('use every exchange that is written', () => {
    expect(spokenScenes().length).toBeGreaterThan(100);
    expect(writtenScenes().length).toBeGreaterThan(20);
    expect(dictatedScenes().length).toBeGreaterThan(8);
  });
});

describe('an exchange', () => {
  it('with a line that is none is refused with that line', () => {
    expect(() => readScenes('A1: Could you {1}?\nhm\n= 1 B d')).toThrow('not a line of an exchange: hm');
  });
  it('whose job nobody is told of is refused', () => {
    expect(() => readScenes('A12: I {1} and {2}.\n= 1 A d')).toThrow('whose job is it? I {1} and {2}.');
  });
});
