import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
];
const finds = (text: string, format: 'txt' | 'md' | 'vtt' = 'md') => sift({ record: readRecord(text, format), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram'], author: 'ines' }, open: [] }, models).finds;

describe('a decision keeps what turns it', () => {
  it.each([
    ['No dogs on the track', 'No dogs on the track'],
    ['No prize money this year', 'No prize money this year'],
    ['No weekend work', 'No weekend work'],
    ['Only the port ramp is rebuilt', 'Only the port ramp is rebuilt'],
    ['Second ferry stays on diesel until the charger is tested', 'Second ferry stays on diesel until the charger is tested'],
    ['Never more than forty passengers on the upper deck', 'Never more than forty passengers on the upper deck'],
    ['Next year no open day unless the harbour pays', 'Next year no open day unless the harbour pays'],
    ['Last sailing stays at 22:40', 'Last sailing stays at 22:40'],
    ['Then, no cables through the mess room', 'No cables through the mess room'],
    ['No, we keep the old moorings', 'We keep the old moorings'],
  ])('%s', (line, title) => {
    const found = finds(`# Works call\n\n## Decisions\n\n- ${line}\n- The paint stays green\n`).filter((f) => f.kind === 'decision');
    expect(found.map((f) => f.text)).toContain(title);
  });
});

describe('an action keeps what turns it', () => {
  it.each([
    ['Order the spare pump unless the harbour lends us one', /unless the harbour lends us one/],
    ['Do not release the invoice before Friday', /^Do not release the invoice/],
    ['Send the drawings to everybody except the insurers', /except the insurers/],
    ['Unless Dora objects, book the slipway', /unless Dora objects/i],
    ['Print 14 copies of the plan and 3 of the annex', /14 copies of the plan and 3 of the annex/],
    ['Only invite the two deck crews', /^Only invite the two deck crews/],
    ['Never leave the charger on overnight; write that on the door', /Never leave|write that/i],
    ['Don’t forget to ring the surveyor', /ring the surveyor/i],
  ])('%s', (line, title) => {
    const found = finds(`# Works call\n\n## To do\n\n- [ ] ${line}\n- [ ] Paint the bollards\n`).filter((f) => f.kind === 'action');
    expect(found.map((f) => f.text).join('\n')).toMatch(title);
  });
});

it('a sentence cut by captions is worded whole', () => {
  const vtt = ['WEBVTT', '', '00:00:01.000 --> 00:00:04.000', '<v Bram Osei>I will send the revised load', '', '00:00:04.100 --> 00:00:07.000', '<v Bram Osei>test plan to the vendor by Friday.', '', '00:00:08.000 --> 00:00:09.000', '<v Ines Falk>Good, thanks.', ''].join('\n');
  const found = finds(vtt, 'vtt').filter((f) => f.kind === 'action');
  expect(found[0]!.text).toBe('Send the revised load test plan to the vendor');
  expect(found[0]!.evidence.map((e) => e.segment)).toContain(0);
});
