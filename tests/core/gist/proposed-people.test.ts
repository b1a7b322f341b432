import { describe, expect, it } from 'vitest';
import { annotatedMeetings } from '../../../bench/meetings.ts';
import { proposedPeople } from '../../../src/core/gist/proposed-people.ts';
import { Roster } from '../../../src/core/language/people.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const people = [{ id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' }];
const named = (text: string, other: string[] = []) => proposedPeople(readRecord(text, 'txt'), people, other).map((p) => p.name);

describe('people a record names whom nobody knows', () => {
  it('are on its list of who was there, and beside words that only people do or are told', () => {
    expect(named('Present: Bram Osei, Ada Roy (chair), Tomas Reis and Jo Lund\nBram: Mira Holt will send the log.\nBram: Ask Kees about it.\nBram: Kees said Friday.\n')).toEqual(['Kees', 'Ada Roy', 'Tomas Reis', 'Jo Lund', 'Mira Holt']);
  });
  it('are no voices, nobody known, no place, day or project, and no word that begins a sentence', () => {
    expect(named('Ada Roy: Bram will ring on Monday.\nAda Roy: Pell Yard will pay. Quiet Crossing will wait. When will Bram be back?\nAda Roy: Ada will come too.\n', ['Quiet Crossing'])).toEqual([]);
  });
  it('are proposed once: a first name belongs to the full one', () => {
    expect(named('Bram: Mira Holt will send it.\nBram: Ask Mira for the key.\nBram: Mira said yes.\n')).toEqual(['Mira Holt']);
  });
  it('are people in at least eight of ten cases, on meetings of which we know everybody', () => {
    let right = 0;
    let all = 0;
    for (const m of annotatedMeetings()) {
      const roster = new Roster(m.input.people);
      for (const p of proposedPeople(m.input.record, [])) {
        all++;
        if (roster.voice(p.name)) right++;
      }
    }
    expect(all).toBeGreaterThan(20);
    expect(right / all).toBeGreaterThanOrEqual(0.8);
  });
});
