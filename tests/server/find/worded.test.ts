import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkedWording, wordingMessage } from '../../../src/core/ask/wording.ts';
import { Roster } from '../../../src/core/language/people.ts';
import { plainNames } from '../../../src/core/sift/model/masking.ts';
import { worded } from '../../../src/server/find/worded.ts';
import { findPage } from '../../../src/server/pages/find.ts';
import type { Workspace } from '../../../src/server/people/workspace.ts';
import { keepModelSetup } from '../../../src/server/sift/model-reader/setup.ts';
import { ModelStandIn } from '../../../standins/model/server.ts';
import { demoWorld } from '../world.ts';

let ws: Workspace;
const model = new ModelStandIn([]);
let server: Server;
beforeAll(async () => {
  ws = (await demoWorld()).with({ needs: 'work' });
  server = model.server();
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await ws.db.destroy();
});

const setUp = (masked: boolean) => keepModelSetup(ws, { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/v1`, model: 'stand-in', key: '', ownNetwork: true, masked, context: 16_000, patience: 10, parallel: 1 });
const Q = 'who owns the plinth?';

describe('an answer in a model’s words', () => {
  it('is offered and made only where a model reads the project’s records', async () => {
    await expect(worded(ws, Q)).rejects.toThrow('No model reads this project');
    await setUp(false);
    await ws.db.updateTable('projects').set({ model_reader: 0 }).execute();
    expect((await findPage(ws, { q: Q, order: null, open: null, typing: false })).model).toBeNull();
    await expect(worded(ws, Q)).rejects.toThrow('No model reads this project');
    expect(model.asked).toHaveLength(0);
    await ws.db.updateTable('projects').set({ model_reader: 1 }).execute();
    expect((await findPage(ws, { q: Q, order: null, open: null, typing: false })).model).toMatchObject({ model: 'stand-in' });
  });
  it('keeps what holds up against the lines and their words, with their sources, and is told to the audit', async () => {
    const w = await worded(ws, Q);
    expect(w).toMatchObject({ dropped: 0, standIn: true });
    expect(w.lines[0]!.text).toMatch(/^Dele Marchetti holds C-2/);
    expect(w.lines[0]!.sources).toEqual([0]);
    expect((await ws.db.selectFrom('audit').select(['did', 'what']).where('did', '=', 'sent').execute()).at(-1)!.what).toMatch(/^a question and its answer to 127\.0\.0\.1/);
  });
  it('is not made of what the model makes up', async () => {
    model.mode = 'wrong';
    await expect(worded(ws, Q)).rejects.toThrow('Nothing the model said holds up');
    model.mode = 'malformed';
    await expect(worded(ws, Q)).rejects.toThrow(/Nothing the model said holds up|answer/);
    model.mode = 'well';
  });
  it('names nobody on its way out where names are replaced, and everybody again on its way in', async () => {
    await setUp(true);
    const w = await worded(ws, Q);
    const sent = model.asked.at(-1)!.body.messages.at(-1)!.content;
    expect(sent).not.toMatch(/Dele|Marchetti/);
    expect(w.lines[0]!.text).toMatch(/^Dele Marchetti holds C-2/);
    await setUp(false);
  });
  it('goes nowhere where a record of it never leaves, or there is no answer', async () => {
    const before = model.asked.length;
    await ws.db.updateTable('records').set({ private: 1 }).where('id', '=', 1).execute();
    await expect(worded(ws, Q)).rejects.toThrow('stands in a record whose words never leave');
    await ws.db.updateTable('records').set({ private: 0 }).execute();
    await expect(worded(ws, 'who owns the submarine?')).rejects.toThrow('has no answer');
    await expect(worded(ws, 'why is the sky blue?')).rejects.toThrow('has no answer');
    expect(model.asked).toHaveLength(before);
  });
});

describe('holding a sentence against its lines', () => {
  const roster = new Roster([
    { id: 'dele', name: 'Dele Marchetti', aliases: [], role: '' },
    { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '' },
  ]);
  const answer = { lines: [{ text: 'Dele Marchetti holds C-2, the plinth at Kelda; due Fri 6 Mar.', ref: null, sources: [0] }], sources: [{ words: 'You have the plinth by the sixth.', place: null, who: 'Dele Marchetti', on: '2026-01-29', where: 'call', at: 47, href: '/x' }], missing: null };
  const held = (text: string, lines = [0]) => checkedWording({ sentences: [{ text, lines }] }, answer, plainNames(), roster)?.lines.length ?? 0;
  it.each([
    ['The plinth at Kelda is with Dele Marchetti, due Fri 6 Mar.', 1],
    ['The plinth at Kelda is with Ruth Adair.', 0],
    ['Dele Marchetti holds the plinth, due Fri 7 Mar.', 0],
    ['Dele Marchetti does not hold the plinth at Kelda.', 0],
    ['The weather will be fine.', 0],
  ])('%s', (text, n) => {
    expect(held(text)).toBe(n);
  });
  it('a line that is not there holds nothing', () => {
    expect(held('Dele Marchetti holds the plinth at Kelda.', [3])).toBe(0);
    expect(checkedWording('nonsense', answer, plainNames(), roster)).toBeNull();
  });
  it('words that may not leave stay here', () => {
    expect(wordingMessage('who?', answer, plainNames(), () => false)).not.toContain('by the sixth');
  });
});
