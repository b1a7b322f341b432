import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import { unitFeatures } from '../../../src/core/sift/features.ts';
import { groupUnits } from '../../../src/core/sift/group.ts';
import { groupFeatures } from '../../../src/core/sift/judge.ts';
import { keywordsOf } from '../../../src/core/sift/keywords.ts';
import { linkFeatures } from '../../../src/core/sift/link.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { readNatures, secondFeatures } from '../../../src/core/sift/natures.ts';
import { chooseKind, newDateCandidates, newDue, newsFeatures, newsWindow } from '../../../src/core/sift/news.ts';
import { type CloseReading, readUnits } from '../../../src/core/sift/reading.ts';
import { aboutFeatures, placesFor, stemIndex, viewOpen } from '../../../src/core/sift/reconcile.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import { partAround, sharedStems, stemsElsewhere } from '../../../src/core/sift/surroundings.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'dele', name: 'Dele Marchetti', aliases: [], role: 'shore power' },
];
const open = [
  { id: '1', text: 'Pour the transformer plinth at Kelda', owner: ['dele'], due: '2026-03-06', madeOn: '2026-02-12' },
  { id: '2', text: 'Signed weights of the engine', owner: ['bram'], due: null, madeOn: '2026-02-12' },
];
const input = (text: string, format: 'txt' | 'md' = 'txt') => ({ record: readRecord(text, format), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram', 'dele'], author: null }, open });
const reading = (text: string, close: CloseReading | null = null) => readUnits(input(text), close);

describe('features of a unit', () => {
  const r = reading('Ines: Bram, can you send the weights by Friday?\nBram: Yes, I will.\nInes: Good.\nDele: The plinth at Kelda is poured.');
  const f = unitFeatures(r, new Set(['weights', 'can you', '^bram can']));
  it('tell what is said, by whom, and what stands around', () => {
    expect([...f[0]!.keys()]).toEqual(expect.arrayContaining(['spoken', 'request', 'name:first', 'date', 'date:by', 'after:accept', 'named-answers', 'w:weights', 'w:can you', 'w:^bram can', 'before:none']));
    expect(f[1]!.has('before:request')).toBe(true);
    expect(f[2]!.has('before2:request')).toBe(true);
  });
  it('notice what sounds like an open commitment', () => {
    expect(f[3]!.has('like-open>=0.35')).toBe(true);
    expect(f[2]!.has('like-open>=0.15')).toBe(false);
  });
  it('know notes from talk', () => {
    const notes = readUnits(input('## Actions\n\n- [ ] Bram: the weights\n- ~~old~~', 'md'));
    const g = unitFeatures(notes, new Set());
    expect([...g[1]!.keys()]).toEqual(expect.arrayContaining(['notes:list', 'box:open', 'section:actions', 'name:first:']));
    expect(g[2]!.has('struck')).toBe(true);
  });
  it('are looked at twice, the second time with the neighbours’ first judgement', () => {
    const natures = readNatures(r, models.natures);
    expect(natures.odds.action).toHaveLength(r.units.length);
    const second = secondFeatures(r, natures.odds, 1);
    expect([...second.keys()]).toEqual(expect.arrayContaining(['first:action', 'first:action-1', 'first:decision+1']));
    expect([...second.keys()].some((k) => k.startsWith('close'))).toBe(false);
  });
  it('take in what the close reader says, where there is one', () => {
    const close: CloseReading = { nature: r.units.map(() => [1, 0, 0, 0, 0, 0]), about: new Map(), settled: new Map() };
    const second = secondFeatures({ ...r, close }, readNatures(r, models.natures).odds, 1);
    expect(second.get('close:0')).toBe(1);
  });
});

describe('groups', () => {
  const r = reading('Ines: Bram, can you send the weights?\nBram: Yes, the weights, by Friday.\nInes: And the permit, Dele?\nDele: I will ask for the permit on Monday.');
  const odds = Float64Array.from([2, 2, -3, 2]);
  it('are compared by distance, words, names and answers', () => {
    const near = linkFeatures(r, odds, 0, 1);
    expect([...near.keys()]).toEqual(expect.arrayContaining(['request>accept', 'named-speaks', 'shared>=1']));
    expect(linkFeatures(r, odds, 0, 3).has('gap>=3')).toBe(true);
  });
  it('hold what is linked and part what is not', () => {
    const always = { bias: 5, weights: {} };
    const never = { bias: -5, weights: {} };
    expect(groupUnits(r, odds, always, -0.6).map((g) => g.units)).toEqual([[0, 1, 3]]);
    expect(groupUnits(r, odds, never, -0.6).map((g) => g.units)).toEqual([[0], [1], [3]]);
    expect(groupUnits(r, odds, always, 3)).toEqual([]);
  });
  it('are judged as a whole, and beside their rivals', () => {
    const natures = readNatures(r, models.natures);
    const f = groupFeatures(r, natures, { units: [0, 1], core: 0 }, 'action', { dated: true, owned: 0.9, likeOpen: 0.5, old: new Map([[0, 0.6]]), named: 2.2, rivals: [{ gap: 1, surer: true, first: false, sameOwner: true, sameDue: true, share: 0.5 }] });
    expect([...f.keys()]).toEqual(expect.arrayContaining(['dated', 'owned', 'like-open>=0.4', 'old-core>=0.6', 'old-first', 'units>=2', 'rival:beside:surer:both', 'rival:beside:surer:words']));
  });
});

describe('words that name the matter', () => {
  it('leave out empty words and know a name for one', () => {
    const r = reading('Ines: Bram, the signed weights of the old engine, can you send them?\nBram: Yes.');
    const words = keywordsOf(r, { units: [0, 1], core: 0 });
    const said = words.map((k) => k.word.toLowerCase());
    expect(said).toEqual(expect.arrayContaining(['signed', 'weights', 'engine', 'send']));
    expect(said).not.toContain('the');
    expect(words.find((k) => k.word === 'Bram')!.places[0]!.name).toBe(true);
    expect(words.find((k) => k.word === 'send')!.places[0]!.promised).toBe(true);
    expect(words.find((k) => k.word === 'engine')!.places[0]!.promised).toBe(false);
  });
});

describe('a sentence that deals out several jobs', () => {
  const text = 'Ilse brings the list next time, Gregor opens the share by Wednesday and Bram signs.';
  it('is taken apart at its stops', () => {
    expect(partAround(text, text.indexOf('Gregor'), text.indexOf('Gregor') + 6).trim()).toBe('Gregor opens the share by Wednesday');
    expect(partAround(text, text.indexOf('Bram'), text.indexOf('Bram') + 4).trim()).toBe('Bram signs');
    expect(partAround('one', 0, 3)).toBe('one');
  });
  it('is compared with what the matter says elsewhere', () => {
    const r = reading('Ines: The share must be opened.\nBram: Gregor opens the share.\nInes: ok');
    const elsewhere = stemsElsewhere(r, { units: [0, 1], core: 0 }, 1);
    expect(sharedStems('opens the share', elsewhere)).toBe(2);
    expect(sharedStems('the weather', elsewhere)).toBe(0);
  });
});

describe('news of what was open', () => {
  const r = reading('Ines: Dele, where is the plinth?\nDele: The plinth at Kelda is not poured.\nDele: I need more time, give me until Monday.\nInes: Monday, fine.\nBram: The signed weights of the engine are with Ruth.\nInes: good');
  const natures = readNatures(r, models.natures);
  const [plinth, weightsOf] = viewOpen(r);
  it('is looked for where words are shared', () => {
    expect(placesFor(r, natures, plinth!, stemIndex(r))).toEqual(expect.arrayContaining([0, 1]));
    expect(placesFor(r, natures, weightsOf!, stemIndex(r))).toContain(4);
  });
  it('is compared by words, speaker and what came before', () => {
    const f = aboutFeatures(r, natures, plinth!, 1);
    expect([...f.keys()]).toEqual(expect.arrayContaining(['owner-speaks', 'owner-named-before', 'count>=2']));
    expect(f.has('close')).toBe(false);
  });
  it('is read on until another commitment is spoken of', () => {
    expect(newsWindow(r, plinth!, [1])).toEqual([1, 2, 3]);
    expect(newsWindow(readUnits(input('- Plinth: not poured\n- Weights: done', 'md')), plinth!, [0])).toEqual([0]);
  });
  it('has features that tell its kinds apart', () => {
    const f = newsFeatures(r, plinth!, [1]);
    expect([...f.keys()]).toEqual(expect.arrayContaining(['negated-inside', 'not-due']));
  });
  it('gets the likeliest of six kinds', () => {
    const { kind, sure } = chooseKind({ bias: 0, weights: { moved: 2 } }, new Map(), 0);
    expect(kind).toBe('moved');
    expect(sure).toBeGreaterThan(0.5);
  });
  it('has a new date only where one is named that is ahead and not the one it has', () => {
    const said = readUnits(input('Ines: The plinth, is it poured?\nBram: No, it slipped. Can I have until the 20th of March?\nInes: Fine.'));
    const [view] = viewOpen(said);
    const natures = readNatures(said, models.natures);
    const group = { units: [0, 1], core: 1 };
    expect(newDateCandidates(said, group, view!).map((c) => c.date)).toEqual(['2026-03-20']);
    const moves = newDue(said, natures, group, view!, newsFeatures(said, view!, group.units), { bias: 0, weights: { 'later-than-old': 3 } });
    expect(moves.due).toBe('2026-03-20');
    expect(moves.sure).toBeGreaterThan(0.5);
  });
});

describe('a close reading', () => {
  it('is used when it is there, and said', () => {
    const text = 'Ines: Bram, can you send the weights by Friday?\nBram: Yes, I will send them.\nInes: Good.';
    const r = reading(text);
    const close: CloseReading = { nature: r.units.map((_, i) => (i < 2 ? [4, 3, -4, -4, -4, -4] : [-4, -4, -4, -4, -4, -4])), about: new Map([['1', new Map([[0, [-4, 0, 0, 0, 0, 0, 0]]])]]), settled: new Map() };
    expect(sift(input(text), models, close).reader).toBe('close');
    expect(sift(input(text), models).reader).toBe('quick');
  });
});
