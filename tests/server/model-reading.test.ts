import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { CAREFUL, CAREFUL_GIST } from '../../demo/careful.ts';
import { jot } from '../../src/server/day/jottings.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { workspaceOf } from '../../src/server/people/workspace.ts';
import { changeKeeping } from '../../src/server/records/retention.ts';
import { findsOf, keepOwnFinds, ownFinds } from '../../src/server/sift/finds.ts';
import { passFind, takeFind } from '../../src/server/sift/judging.ts';
import { forgetModelSetup, keepModelSetup, modelSetup, modelShown, STAND_IN, switchModelReader, tryModel } from '../../src/server/sift/model-reader/setup.ts';
import { lastModelReadings, type ModelReading, modelAct, modelAtRest, modelGistOf, modelReadingOf, readByItself } from '../../src/server/sift/model-reading.ts';
import { ModelStandIn } from '../../standins/model/server.ts';
import { demoWorld } from './world.ts';

let ws: Workspace;
let meeting: number;
let record: number;
let standIn: ModelStandIn;
let server: Server;
let folder: string;
let typed: Parameters<typeof keepModelSetup>[1];

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'ottik-model-'));
  vi.stubEnv('OTTIK_KEY_FILE', join(folder, 'ottik.key'));
});
afterAll(() => {
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true, force: true });
});
beforeEach(async () => {
  ws = await demoWorld();
  meeting = (await meetingRows(ws, { project: 'quiet-crossing' })).find((m) => m.findsLeft > 0)!.id;
  record = (await findsOf(ws, meeting))[0]!.record;
  standIn = new ModelStandIn(CAREFUL, CAREFUL_GIST);
  server = standIn.server();
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  typed = { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/v1`, model: STAND_IN, key: 'sesame', ownNetwork: true, masked: false, context: 16_000, patience: 5, parallel: 1 };
  await keepModelSetup(ws, typed);
});
afterEach(async () => {
  await modelAtRest();
  server.closeAllConnections();
  server.close();
  await ws.db.destroy();
});

/** What was asked about finds, and not what about the gist. */
const asked = () => standIn.asked.filter((a) => a.body.messages[0]!.content.includes('four kinds of thing'));

/** Waits until a reading has ended. */
async function ended(): Promise<ModelReading> {
  await modelAtRest();
  for (;;) {
    const now = await modelReadingOf(ws, record);
    if (now?.reading && now.reading.state !== 'waiting' && now.reading.state !== 'reading') return now;
    await new Promise((done) => setTimeout(done, 10));
  }
}

describe('a project that has its records read by a model', () => {
  it('has its finds become the careful ones; what a person settled stays', async () => {
    const before = await findsOf(ws, meeting);
    const [taken, passed] = before.filter((f) => f.kind === 'action');
    await takeFind(ws, taken!.id, { text: 'As a person put it' });
    await passFind(ws, passed!.id);
    expect(await modelReadingOf(ws, record)).toMatchObject({ on: false, standIn: true, words: 473, people: 13, notes: 0, reading: null });
    expect(asked()).toHaveLength(0);
    await modelAct(ws, record, { do: 'switch on' });
    const { reading, on } = await ended();
    expect(on).toBe(true);
    expect(reading).toMatchObject({ state: 'done', parts: 1, done: 1, found: 14, why: null });
    expect(reading!.both).toBeGreaterThan(5);
    const after = await findsOf(ws, meeting);
    expect(after.find((f) => f.id === taken!.id)).toMatchObject({ text: 'As a person put it', verdict: 'taken' });
    expect(after.find((f) => f.id === passed!.id)).toMatchObject({ verdict: 'passed' });
    // a question the quick reader did not have
    expect(after).toContainEqual(expect.objectContaining({ kind: 'question', text: 'Does the plug still reach at low spring tide if the plinth comes up forty centimetres?', reader: 'model', reason: 'The model reader; asked and left open.' }));
    expect(after.filter((f) => f.reason.startsWith('Both readers')).every((f) => before.some((b) => b.id === f.id))).toBe(true);
    for (const f of before) expect(after.some((a) => a.id === f.id)).toBe(true);
    expect(await ws.db.selectFrom('audit').select(['did', 'what', 'about']).where('did', '=', 'sent').executeTakeFirst()).toEqual({ did: 'sent', what: `a record to the model reader: 473 words to stand-in at ${new URL(typed.address).host}`, about: String(meeting) });
    expect(await lastModelReadings(ws)).toMatchObject([{ record, state: 'done', words: 473, standIn: true }]);
  });
  it('costs nothing when it is looked at a second time, until its words or notes are others', async () => {
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    const finds = await findsOf(ws, meeting);
    await readByItself(ws, record);
    await modelAct(ws, record, { do: 'read by model' });
    await ended();
    expect(asked()).toHaveLength(1);
    expect(await findsOf(ws, meeting)).toEqual(finds);
    await jot(ws, 'quiet-crossing', { text: 'Wim looked worried', about: { kind: 'meeting', id: String(meeting) } });
    await readByItself(ws, record);
    await ended();
    expect(asked()).toHaveLength(2);
    expect(JSON.parse(asked()[1]!.body.messages[1]!.content)).toMatchObject({ notes: ['Wim looked worried'] });
  });
  it('keeps what the model alone has when the close reader comes through after it', async () => {
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    const own = await ownFinds(ws, meeting, record);
    await keepOwnFinds(ws.db, meeting, record, { finds: own, reader: 'close' });
    await readByItself(ws, record);
    await ended();
    expect(await findsOf(ws, meeting)).toContainEqual(expect.objectContaining({ kind: 'question', reader: 'model' }));
    expect(asked()).toHaveLength(1);
    expect(await ws.db.selectFrom('audit').select('id').where('did', '=', 'sent').execute()).toHaveLength(1);
  });
  it('reads a record once, however often it is asked at once', async () => {
    await Promise.all([modelAct(ws, record, { do: 'switch on' }), modelAct(ws, record, { do: 'switch on' }), readByItself(ws, record)]);
    await ended();
    expect(asked()).toHaveLength(1);
  });
  it('loses nothing where the server fails, says why, and does not ask again by itself', async () => {
    const before = await findsOf(ws, meeting);
    standIn.mode = 'refusing';
    await modelAct(ws, record, { do: 'switch on' });
    expect((await ended()).reading).toMatchObject({ state: 'failed', why: `${new URL(typed.address).host} does not accept the key.` });
    expect(await findsOf(ws, meeting)).toEqual(before);
    await readByItself(ws, record);
    expect(asked()).toHaveLength(1);
    standIn.mode = 'well';
    await modelAct(ws, record, { do: 'read by model' });
    expect((await ended()).reading).toMatchObject({ state: 'done', why: null });
  });
  it('keeps what stands when it is stopped', async () => {
    const before = await findsOf(ws, meeting);
    standIn.mode = 'slow';
    await modelAct(ws, record, { do: 'switch on' });
    await new Promise((done) => setTimeout(done, 80));
    await modelAct(ws, record, { do: 'cancel' });
    expect((await ended()).reading).toMatchObject({ state: 'cancelled' });
    expect(await findsOf(ws, meeting)).toEqual(before);
  });
  it('has its gist told too, each sentence on its words', async () => {
    expect(await modelGistOf(ws, record)).toBeNull();
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    const told = (await modelGistOf(ws, record))!;
    expect(told.standIn).toBe(true);
    expect(told.gist.summary.brief).toHaveLength(2);
    expect(told.gist.summary.usual.length).toBeGreaterThan(6);
    expect(told.gist.topics.map((t) => t.name)).toContain('The vent trunk');
    expect(told.gist.risks.map((r) => r.kind)).toEqual(['blocker', 'risk']);
    expect(told.gist.ideas[0]!.sides).toMatchObject([{ side: 'for' }]);
  });
  it('says so of a reading that Ottik was stopped in', async () => {
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    await ws.db.updateTable('model_readings').set({ state: 'reading' }).execute();
    expect((await modelReadingOf(ws, record))!.reading).toMatchObject({ state: 'failed', why: 'Ottik was stopped meanwhile. What was answered is kept.' });
  });
});

describe('what may leave', () => {
  it('is no private record, whoever asks', async () => {
    await switchModelReader(ws, 'quiet-crossing', true);
    await modelAct(ws, record, { do: 'private', private: true });
    await expect(modelAct(ws, record, { do: 'read by model' })).rejects.toThrow('do not leave this machine');
    await readByItself(ws, record);
    expect(asked()).toHaveLength(0);
  });
  it('is nothing more once the project is switched off, wherever that is done', async () => {
    await switchModelReader(ws, 'quiet-crossing', true);
    standIn.mode = 'slow';
    await modelAct(ws, record, { do: 'read by model' });
    await new Promise((done) => setTimeout(done, 60));
    await switchModelReader(ws, 'quiet-crossing', false);
    await ended();
    // the question that was under way ends; the gist is not asked for any more
    expect(standIn.asked).toHaveLength(1);
    expect(await modelGistOf(ws, record)).toBeNull();
  });
  it('is nothing while the project has it off', async () => {
    await expect(modelAct(ws, record, { do: 'read by model' })).rejects.toThrow('off in this project');
    await readByItself(ws, record);
    expect(asked()).toHaveLength(0);
  });
  it('is decided by who runs the project, and seen by nobody from outside', async () => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', 'in', ['ruth', 'olu']).execute();
    await ws.db.updateTable('memberships').set({ sees: 1, access: 'member' }).where('person_id', 'in', ['ruth', 'olu']).execute();
    const [ruth, olu] = [await workspaceOf(ws.db, 'ruth'), await workspaceOf(ws.db, 'olu')];
    expect(await modelReadingOf(ruth, record)).toMatchObject({ on: false });
    await expect(modelAct(ruth, record, { do: 'switch on' })).rejects.toThrow('Only a manager');
    await expect(modelReadingOf(olu, record)).rejects.toThrow('There is no such record');
    expect(asked()).toHaveLength(0);
  });
  it('goes without names where that is wanted, and comes back with them', async () => {
    await keepModelSetup(ws, { ...typed, masked: true });
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    const sent = JSON.stringify(asked()[0]!.body);
    for (const name of ['Ines', 'Falk', 'Wim', 'Tove', 'Lindqvist', 'Bram']) expect(sent, name).not.toContain(name);
    expect(await findsOf(ws, meeting)).toContainEqual(expect.objectContaining({ kind: 'action', text: 'Ring the digger people to hold a week', owner: ['wim'] }));
  });
  it('is gone here too when the words of a record go', async () => {
    await modelAct(ws, record, { do: 'switch on' });
    await ended();
    await changeKeeping(ws, record, { do: 'now' });
    for (const table of ['model_answers', 'own_finds'] as const) expect(await ws.db.selectFrom(table).selectAll().where('record_id', '=', record).execute()).toEqual([]);
    expect(await modelReadingOf(ws, record)).toBeNull();
  });
});

describe('the setup of a model server', () => {
  it('keeps its key where nobody reads it, and shows it to nobody', async () => {
    const { value } = await ws.db.selectFrom('settings').select('value').where('name', '=', 'model').executeTakeFirstOrThrow();
    expect(value).not.toContain('sesame');
    expect(JSON.stringify(await modelShown(ws.db))).not.toContain('sesame');
    expect((await modelSetup(ws.db))!.server.key).toBe('sesame');
    await keepModelSetup(ws, { ...typed, key: null, patience: 9 });
    expect((await modelSetup(ws.db))!.server.key).toBe('sesame');
    await expect(keepModelSetup(ws, { ...typed, key: null, address: 'https://models.example/v1' })).rejects.toThrow('another one now');
  });
  it('is tried before it is kept, and told in words', async () => {
    expect((await tryModel(ws, typed)).words).toMatch(/answered in \d+ ms, and has stand-in/);
    await expect(tryModel(ws, { ...typed, model: 'another' })).rejects.toThrow('has no model “another”');
    server.close();
    server.closeAllConnections();
    await expect(tryModel(ws, typed)).rejects.toThrow('Nothing answers at');
  });
  it('can be taken away, and is nobody’s but the keeper’s to change', async () => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'bram').execute();
    const bram = await workspaceOf(ws.db, 'bram');
    await expect(keepModelSetup(bram, typed)).rejects.toThrow('Only whoever set up this Ottik');
    await forgetModelSetup(ws);
    expect(await modelReadingOf(ws, record)).toBeNull();
    await expect(modelAct(ws, record, { do: 'switch on' })).rejects.toThrow('No model server is set up');
  });
});
