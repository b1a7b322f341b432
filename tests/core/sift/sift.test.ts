import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import { cuesOf } from '../../../src/core/sift/cues.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import type { OpenCommitment, SiftInput } from '../../../src/core/sift/reading.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'wim', name: 'Wim Daal', aliases: [], role: 'stores' },
  { id: 'dele', name: 'Dele Marchetti', aliases: [], role: 'shore power' },
];
const read = (text: string, open: OpenCommitment[] = [], format: 'txt' | 'md' = 'txt', author: string | null = null) => {
  const input: SiftInput = { record: readRecord(text, format), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: people.map((p) => p.id), author }, open };
  return sift(input, models).finds;
};

const CALL = `[10:00] Ines Falk: Good morning everybody, it is recorded.
[10:01] Bram Osei: The hull is sound.
[10:02] Ines Falk: Bram, can you send Ruth the signed weights of the old engine?
[10:02] Bram Osei: Yes, I'll send the weights by Friday.
[10:03] Ines Falk: Good.
[10:04] Wim Daal: The shed is full of paint again.
[10:05] Wim Daal: I'll clear a dry corner of the shed by next Tuesday.
[10:06] Ines Falk: Lovely. Does the insurance cover the cells in the shed?
[10:06] Wim Daal: I don't know. Nobody knows.
[10:07] Ines Falk: Then let's park that.
[10:08] Ines Falk: Anyone against two charging stops at Kelda? No? Then it's two stops, agreed.`;

describe('reading a call', () => {
  const finds = read(CALL);
  const actions = finds.filter((f) => f.kind === 'action');
  it('finds who takes on what, by when', () => {
    const weightsOf = actions.find((f) => /weights/i.test(f.text));
    expect(weightsOf).toMatchObject({ owner: ['bram'], due: '2026-03-06' });
    expect(actions.find((f) => /corner/i.test(f.text))).toMatchObject({ owner: ['wim'], due: '2026-03-10' });
  });
  it('points at the words, with places that exist', () => {
    const { segments } = readRecord(CALL, 'txt');
    for (const f of finds) {
      expect(f.evidence.length).toBeGreaterThan(0);
      for (const p of [...f.evidence, ...f.clues]) {
        expect(p.from).toBeLessThan(p.to);
        expect(p.to).toBeLessThanOrEqual(segments[p.segment]!.text.length);
      }
    }
  });
  it('gives each find a reason, a confidence and a key of its own', () => {
    expect(new Set(finds.map((f) => f.key)).size).toBe(finds.length);
    for (const f of finds) {
      expect(f.reason).toMatch(/^[A-Z“].*\.$/);
      expect(f.confidence).toBeGreaterThan(0);
      expect(f.confidence).toBeLessThanOrEqual(1);
      expect(f.text.length).toBeGreaterThan(2);
    }
  });
  it('is the same every time', () => {
    expect(read(CALL)).toEqual(finds);
  });
});

describe('what was open before', () => {
  const open: OpenCommitment[] = [
    { id: '1', text: 'Clear a dry corner of the shed for the cells', owner: ['wim'], due: '2026-03-06', madeOn: '2026-02-20' },
    { id: '2', text: 'Transformer plinth poured at Kelda Point', owner: ['dele'], due: '2026-03-04', madeOn: '2026-02-20' },
    { id: '3', text: 'Ask the harbour board about night berths', owner: ['ines'], due: null, madeOn: '2026-02-20' },
  ];
  const finds = read(
    `[10:00] Ines Falk: Wim, where are we with the shed?\n[10:01] Wim Daal: The dry corner is cleared, done since Monday.\n[10:02] Ines Falk: Thank you.\n[10:03] Dele Marchetti: The plinth at Kelda was not poured, the ground was too wet. I need more time, call it next Friday.\n[10:04] Ines Falk: Next Friday, fine.`,
    open,
  ).filter((f) => f.kind === 'update');
  it('is recognised though worded differently, with its news', () => {
    expect(finds.find((f) => f.update!.open === '1')?.update).toMatchObject({ kind: 'done' });
    expect(finds.find((f) => f.update!.open === '2')?.update).toMatchObject({ kind: 'moved', due: '2026-03-13' });
  });
  it('is left alone when nobody speaks of it', () => {
    expect(finds.some((f) => f.update!.open === '3')).toBe(false);
  });
});

describe('cues', () => {
  it.each([
    ['I’ll send it tomorrow', 'will-verb'],
    ['ill ring them', 'will-verb'],
    ['leave that with me', 'leave-me'],
    ['Could you ask Ruth?', 'request'],
    ['Bram is to bring the plan', 'assign'],
    ['somebody has to tell Kit', 'obligation'],
    ['yep', 'accept'],
    ['scrap that', 'retract'],
    ['what if we painted it', 'hypothetical'],
    ['Agreed.', 'decide'],
    ['any objections?', 'consent'],
    ['let’s park it', 'put-off'],
    ['nobody knows', 'unknown'],
    ['it is signed', 'done'],
    ['call it Monday', 'slip'],
    ['it’s stuck', 'stuck'],
    ['-> Wim', 'mark:arrow'],
    ['!! keep both', 'mark:bang-start'],
  ])('%s shows %s', (text, name) => {
    expect(cuesOf(text)).toContain(name);
  });
});

describe('whatever comes', () => {
  it('is sifted without a throw, and every find stays inside the record', () => {
    const piece = fc.oneof(fc.string({ unit: 'binary', maxLength: 60 }), fc.constantFrom('[10:00] Ines Falk: ', 'Bram: ', '\n', 'I’ll send it by Friday. ', 'Agreed? ', '<script>alert(1)</script>', '\u202Eabc', '👩‍👩‍👧 ', '- [ ] ', '| a | b |', 'Wim to ring them '));
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 40 }), fc.constantFrom('txt', 'md' as const), (pieces, format) => {
        const text = pieces.join('');
        const { segments } = readRecord(text, format as 'txt');
        for (const f of read(text, [], format as 'txt')) for (const e of f.evidence) expect(e.to).toBeLessThanOrEqual(segments[e.segment]!.text.length);
      }),
      { numRuns: 150 },
    );
  });
  it.each([
    ['nothing', ''],
    ['a million characters without a space', 'a'.repeat(1_000_000)],
    ['ten thousand speakers', Array.from({ length: 10_000 }, (_, i) => `Voice ${i}: I will do it by Friday.`).join('\n')],
    ['one line of a hundred thousand words', 'I will do it and '.repeat(25_000)],
  ])('%s does not hang it', (_, text) => {
    expect(Array.isArray(read(text))).toBe(true);
  });
});
