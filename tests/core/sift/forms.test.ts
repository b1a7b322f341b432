import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import { type Form, formOf, namesNobody, twoMatters } from '../../../src/core/sift/forms.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { readUnits } from '../../../src/core/sift/reading.ts';
import { natureBySection } from '../../../src/core/sift/sections.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: 'architect' },
];
const input = (text: string, format: 'txt' | 'md') => ({ record: readRecord(text, format), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram'], author: 'ines' }, open: [] });
const units = (text: string, format: 'txt' | 'md' = 'md') => readUnits(input(text, format)).units;

describe('the form of a line of notes', () => {
  it.each<[string, Form | null]>([
    ['- [ ] grease the sheaves', 'todo'],
    ['- [x] grease the sheaves', null],
    ['- ~~Action: grease the sheaves~~', null],
    ['Action: Bram to grease the sheaves', 'todo'],
    ['Action (Bram): grease the sheaves', 'todo'],
    ['TODO grease the sheaves', 'todo'],
    ['Decision: the hatch opens forward', 'decided'],
    ['Open: who holds the key', 'asked'],
    ['- !! the old ladder stays', 'decided'],
    ['- the old ladder stays!!', null],
    ['- ! the old ladder stays', null],
    ['- → Bram: grease the sheaves', 'todo'],
    ['- -> BO: grease the sheaves', 'todo'],
    ['- → Bram + RA: the list for the crews', 'todo'],
    ['- → Bram and Ruth: the list for the crews', 'todo'],
    ['- → next week: the list for the crews', null],
    ['- → Bram has the list', null],
    ['- → Bram, after the trial: the list', null],
    ['- Bram: grease the sheaves', null],
    ['the action was good', null],
  ])('%s', (line, form) => {
    expect(formOf(units(line)[0]!)).toBe(form);
  });
});

describe('a line of a list', () => {
  it.each<[string, Form | null]>([
    ['## To do', 'todo'],
    ['## Actions', 'todo'],
    ['### Next steps', 'todo'],
    ['## Decided', 'decided'],
    ['## Decisions of the day', 'decided'],
    ['## Open points', 'asked'],
    ['## Not clear', 'asked'],
    ['## Issues', null],
    ['## Actions from last time', null],
    ['## Matters arising', null],
    ['## Decisions and actions', null],
    ['## What was agreed about the crane and the ferry berth', null],
    ['## The crane', null],
  ])('is what the heading “%s” says', (heading, form) => {
    expect(formOf(units(`${heading}\n\n- the hatch of the wheelhouse\n`).at(-1)!)).toBe(form);
  });
  it('and words of a paragraph are not', () => {
    expect(formOf(units('## Actions\n\nThe hatch was talked about.')[1]!)).toBeNull();
  });
  it('that is ticked off is nothing to do', () => {
    expect(formOf(units('## Actions\n\n- [x] the hatch')[1]!)).toBeNull();
  });
  it('is a matter of its own, and nobody’s where it names nobody', () => {
    const [, first, second, mine] = units('## To do\n\n- the hatch\n- Bram: the hatch of the wheelhouse\n- list for me');
    expect(twoMatters(first!, second!)).toBe(true);
    expect([first, second, mine].map((u) => namesNobody(u!))).toEqual([true, false, false]);
  });
});

describe('headings', () => {
  it('say what their lines are, or nothing where they say two things', () => {
    expect(['Actions', 'Decided', 'Questions', 'Old actions', 'Actions and questions', 'Any other business', null].map(natureBySection)).toEqual(['action', 'decision', 'question', null, null, null, null]);
  });
});

describe('labels of a minute taker in plain text', () => {
  const NOTES = 'Slipway, typed by Ines\n\nAction: Bram to grease the sheaves before Saturday\nDecision: the hatch opens forward\nAction (Ruth): redraw the fire plan, by 25 March\nQuestion: can the ferry berth on the east side?\nAction: Bram, order two drums of primer, tomorrow\nDecision: the sea trial moves to May';
  it('are nobody’s name', () => {
    const record = readRecord(NOTES, 'txt');
    expect(record.voices).toEqual([]);
    expect(record.segments[1]!.text).toBe('Action: Bram to grease the sheaves before Saturday');
  });
  it('are read for what they say', () => {
    const { finds } = sift(input(NOTES, 'txt'), weights as unknown as SiftModels);
    const actions = finds.filter((f) => f.kind === 'action').map((f) => [f.evidence[0]!.segment, f.owner, f.due]);
    expect(actions).toEqual([
      [1, ['bram'], '2026-03-06'],
      [3, ['ruth'], '2026-03-25'],
      [5, ['bram'], '2026-03-06'],
    ]);
    expect(finds.filter((f) => f.kind === 'decision').map((f) => f.evidence[0]!.segment)).toEqual([2, 6]);
    expect(finds.filter((f) => f.kind === 'question').map((f) => f.evidence[0]!.segment)).toEqual([4]);
  });
  it.each(['To do', 'Next steps', 'Action 2', 'Open question'])('%s is one too', (label) => {
    expect(readRecord(`${label}: the hatch\n${label}: the key\n${label}: the slip`, 'txt').voices).toEqual([]);
  });
  it('do not keep people from being voices', () => {
    expect(readRecord('Opena: Morning.\nBram: Here.\nOpena: Right.', 'txt').voices).toEqual(['Opena', 'Bram']);
    expect(readRecord('Ines: Morning.\nBram: Here.\nInes: Right.', 'txt').voices).toEqual(['Ines', 'Bram']);
  });
});
