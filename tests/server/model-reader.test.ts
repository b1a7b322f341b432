import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Ajv from 'ajv';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { CAREFUL } from '../../demo/careful.ts';
import { readRecord } from '../../src/core/record/read.ts';
import { AnswerSchema } from '../../src/core/sift/model/answer.ts';
import type { SiftInput } from '../../src/core/sift/reading.ts';
import { ask, type ModelServer, modelsOf } from '../../src/server/sift/model-reader/client.ts';
import { type AnswerShelf, type ModelProgress, NO_SHELF, readWithModel } from '../../src/server/sift/model-reader/reading.ts';
import { guardedFetch, mayReach } from '../../src/server/store/guarded-fetch.ts';
import { type Mode, ModelStandIn } from '../../standins/model/server.ts';

const RECORD = `Ines Falk: Good morning.
Wim Daal: Send me the form and I'll sign it before Friday.
Ines Falk: Anyone against two? No. Then it's two stops a day at Kelda, and Marrow Quay takes the rest at night.`;
const INPUT: SiftInput = {
  record: readRecord(RECORD, 'txt'),
  people: [
    { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
    { id: 'wim', name: 'Wim Daal', aliases: [], role: 'stores' },
  ],
  meeting: { date: '2026-03-02', next: null, present: ['ines', 'wim'], author: null },
  open: [],
};

let standIn: ModelStandIn;
let server: Server;
let at: ModelServer;
const listen = (s: Server) => new Promise<number>((done) => s.listen(0, '127.0.0.1', () => done((s.address() as AddressInfo).port)));
beforeEach(async () => {
  standIn = new ModelStandIn(CAREFUL);
  server = standIn.server();
  at = { address: `http://127.0.0.1:${await listen(server)}/v1`, model: 'stand-in', key: 'sesame', ownNetwork: true, patience: 5_000 };
});
afterEach(() => {
  server.closeAllConnections();
  server.close();
});

const read = (given: { shelf?: AnswerShelf; signal?: AbortSignal; onPart?(p: ModelProgress): void; context?: number; input?: SiftInput } = {}) => readWithModel({ input: INPUT, own: [], notes: ['Wim was in a hurry'], server: at, masked: false, context: 16_000, shelf: NO_SHELF, ...given });

describe('a model server that answers well', () => {
  it('is asked in the shape of the protocol, with the key, the notes and a schema', async () => {
    await read();
    const [{ body, key }] = standIn.asked as [(typeof standIn.asked)[number]];
    expect(key).toBe('sesame');
    // the published shape, from memory: model, messages of role and content, stream, response_format of json_schema
    expect(body).toMatchObject({ model: 'stand-in', stream: true, messages: [{ role: 'system' }, { role: 'user' }], response_format: { type: 'json_schema', json_schema: { strict: true, schema: { type: 'object', additionalProperties: false } } } });
    expect(JSON.parse(body.messages[1]!.content)).toMatchObject({ notes: ['Wim was in a hurry'], meeting: { date: 'Monday 2026-03-02' } });
  });
  it('gives finds that rest on the words', async () => {
    const p = await read();
    expect(p).toMatchObject({ done: 1, parts: 1, found: 2, both: 0 });
    expect(p.finds.map((f) => [f.kind, f.owner, f.due])).toEqual([
      ['action', ['wim'], '2026-03-05'],
      ['decision', [], null],
    ]);
  });
  it('is asked part by part, and gives finds as they come', async () => {
    const long = { ...INPUT, record: readRecord(`${RECORD}\n${Array.from({ length: 500 }, (_, i) => `Wim Daal: We talked of crate number ${i} and of the weather over the sound.`).join('\n')}`, 'txt') };
    const parts: number[] = [];
    const p = await read({ input: long, context: 4_000, onPart: (x) => parts.push(x.found) });
    expect(parts.length).toBe(p.parts);
    expect(parts[0]).toBe(2);
    expect(p.found).toBe(2);
  });
  it('is not asked the same twice', async () => {
    const kept = new Map<string, { value: unknown; cut: boolean }>();
    const shelf: AnswerShelf = { get: async (h) => kept.get(h) ?? null, put: async (h, a) => void kept.set(h, a) };
    const once = await read({ shelf });
    expect(await read({ shelf })).toEqual(once);
    expect(standIn.asked).toHaveLength(1);
    at = { ...at, model: 'another' };
    await expect(read({ shelf })).rejects.toThrow('knows no such model');
  });
  it('tells which models it has', async () => {
    expect(await modelsOf(at)).toEqual(['stand-in']);
  });
});

describe('a server that has a bad day', () => {
  it.each(['no schemas', 'talkative', 'slow'] as const)('that is %s is understood all the same', async (mode) => {
    standIn.mode = mode;
    expect((await read()).found).toBe(2);
  });
  it('that is busy is asked again', async () => {
    standIn.mode = 'busy';
    standIn.busyFor = 2;
    expect((await read()).found).toBe(2);
    expect(standIn.asked).toHaveLength(3);
  });
  it('that breaks off in mid-answer gives what was whole, and is asked again next time', async () => {
    standIn.mode = 'cut';
    const kept: string[] = [];
    const p = await read({ shelf: { get: async () => null, put: async (h) => void kept.push(h) } });
    expect(p.found).toBe(1);
    expect(p.faults).toEqual({ malformed: 1, 'title unlike': 1 });
    expect(kept).toEqual([]);
  });
  it('that makes things up gives nothing that was not said', async () => {
    standIn.mode = 'wrong';
    const p = await read();
    expect(p.faults).toEqual({ 'not said': 1, 'no such segment': 2, 'owner unknown': 1, 'date not said': 1, 'title unlike': 1, 'not open': 1, malformed: 1 });
    expect(p.finds).toMatchObject([{ text: 'Good morning', owner: [], due: null, doubtful: ['owner', 'due'] }]);
  });
  it.each<[Mode, RegExp]>([
    ['silent', /did not answer in time/],
    ['busy', /is busy and stayed so/],
    ['refusing', /does not accept the key/],
    ['malformed', /no list of finds/],
    ['endless', /beyond 4 MB/],
    ['elsewhere', /sends on to elsewhere\.example/],
  ])('that is %s is told in words', async (mode, words) => {
    standIn.mode = mode;
    at = { ...at, patience: mode === 'silent' ? 300 : 5_000 };
    await expect(read()).rejects.toThrow(words);
  });
  it('that repeats itself without end is stopped', async () => {
    standIn.mode = 'repeating';
    standIn.pause = 0;
    await expect(read()).rejects.toThrow('no list of finds');
  });
  it('that is not there, or not known, is told from one that is silent', async () => {
    server.close();
    await expect(read()).rejects.toThrow(/Nothing answers at 127\.0\.0\.1/);
    at = { ...at, address: 'http://no-such-host.invalid/v1' };
    await expect(read()).rejects.toThrow(/no-such-host\.invalid is not known/);
  });
  it('can be stopped in the middle', async () => {
    standIn.mode = 'slow';
    const stop = new AbortController();
    const reading = read({ signal: stop.signal });
    setTimeout(() => stop.abort(), 60);
    await expect(reading).rejects.toThrow('Cancelled');
  });
});

describe('whom Ottik speaks to', () => {
  it.each([
    ['127.0.0.1', true, true],
    ['127.0.0.1', false, false],
    ['10.1.2.3', false, false],
    ['::1', false, false],
    ['fd00::1', true, true],
    ['::ffff:192.168.1.4', false, false],
    ['169.254.169.254', true, false],
    ['fe80::1', true, false],
    ['93.184.216.34', false, true],
    ['elsewhere', true, false],
  ])('%s, one’s own network allowed: %s, is %s', (address, own, may) => expect(mayReach(address, own)).toBe(may));
  it('is no address of one’s own network where that is not allowed, by number or by name', async () => {
    for (const host of ['127.0.0.1', 'localhost']) {
      const address = new URL(at.address);
      address.hostname = host;
      await expect(guardedFetch({ address, ownNetwork: false, patience: 2_000 })(address)).rejects.toThrow('may not speak to');
    }
  });
  // the certificate is made by the command of OpenSSL, which not every machine has
  it.skipIf(!existsSync('/usr/bin/openssl'))('shows a certificate that is trusted', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'ottik-certificate-'));
    const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
    execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-keyout', key, '-out', cert, '-days', '2', '-subj', '/CN=localhost'], { stdio: 'ignore' });
    const one = createSecureServer({ key: readFileSync(key), cert: readFileSync(cert) }, (_, response) => response.end('{}'));
    const address = new URL(`https://127.0.0.1:${await listen(one)}/v1`);
    await expect(guardedFetch({ address, ownNetwork: true, patience: 2_000 })(address)).rejects.toThrow(`The certificate of ${address.host} is not trusted.`);
    one.close();
    rmSync(folder, { recursive: true });
  });
  it('is sent on within its host, and no further', async () => {
    const one = createServer((request, response) => {
      if (request.url === '/there') return void response.end('here');
      response.writeHead(302, { location: request.url === '/' ? '/there' : at.address });
      response.end();
    });
    const address = new URL(`http://127.0.0.1:${await listen(one)}/`);
    const get = guardedFetch({ address, ownNetwork: true, patience: 2_000 });
    expect(await (await get(address)).text()).toBe('here');
    await expect(get(new URL('/away', address))).rejects.toThrow('sends on to 127.0.0.1');
    one.close();
  });
});

describe('the schema a model is given', () => {
  it('is valid JSON Schema, and takes what the Zod schema takes (ajv, the reference validator)', async () => {
    await read();
    const { schema } = (standIn.asked[0]!.body.response_format as { json_schema: { schema: object } }).json_schema;
    const validate = new Ajv({ strict: false }).compile(schema);
    const good = { actions: [{ title: 'x', segments: [1], words: 'y', owner: [], ownerWords: null, dateWords: null }], decisions: [], questions: [], updates: [] };
    expect(validate(good)).toBe(true);
    for (const bad of [{ ...good, actions: [{ title: 'x' }] }, { ...good, updates: [{ ...good.actions[0], kind: 'lost', commitment: 'O1' }] }, { actions: [] }]) {
      expect(validate(bad)).toBe(false);
      expect(AnswerSchema.safeParse(bad).success).toBe(false);
    }
  });
});

describe('server-sent events', () => {
  // https://html.spec.whatwg.org/multipage/server-sent-events.html, “Interpreting an event stream”: comments, fields without
  // a space, CRLF, data over two lines; around pieces of an answer
  it('are read as the HTML standard says', async () => {
    const piece = (content: string) => JSON.stringify({ id: 'a', object: 'chat.completion.chunk', created: 0, model: 'm', choices: [{ index: 0, delta: { content }, finish_reason: null }] });
    const [before, after] = [piece('": 1}').slice(0, 60), piece('": 1}').slice(60)];
    const one = createServer((_, response) => {
      response.writeHead(200, { 'content-type': 'text/event-stream' });
      response.end([': test stream', '', `data:${piece('{"a')}`, 'id: 1', '', `data: ${before.slice(0, before.lastIndexOf(','))},`, `data: ${before.slice(before.lastIndexOf(',') + 1)}${after}`, 'retry: 10', '', 'event: done', 'data: [DONE]', '', ''].join('\r\n'));
    });
    const server: ModelServer = { ...at, address: `http://127.0.0.1:${await listen(one)}/v1` };
    expect(await ask(server, { system: 's', message: 'm', schema: z.object({ a: z.number() }) })).toMatchObject({ value: { a: 1 } });
    one.close();
  });
});
