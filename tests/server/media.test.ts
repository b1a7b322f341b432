import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { attachMedia, detachMedia, mediaOf, mediaReply, mediaType } from '../../src/server/records/media.ts';
import { changeKeeping } from '../../src/server/records/retention.ts';
import { silence } from '../silence.ts';
import { demoWorld } from './world.ts';

let ws: Workspace;
let record: number;
const folder = mkdtempSync(join(tmpdir(), 'ottik-media-'));
const before = process.env.OTTIK_DB;
beforeAll(async () => {
  process.env.OTTIK_DB = join(folder, 'ottik.db');
  ws = await demoWorld();
  record = (await ws.db.selectFrom('records').select('id').orderBy('id').executeTakeFirstOrThrow()).id;
});
afterAll(async () => {
  await ws.db.destroy();
  if (before === undefined) delete process.env.OTTIK_DB;
  else process.env.OTTIK_DB = before;
  rmSync(folder, { recursive: true, force: true });
});

const stream = (...parts: Buffer[]) => new Blob(parts as unknown as BlobPart[]).stream() as never;
const files = () => readdirSync(join(folder, 'media'));

describe('a recording beside its record', () => {
  it('is kept whole and played in stretches, as a player asks (RFC 9110, section 14)', async () => {
    const media = await attachMedia(ws, record, 'call.wav', stream(silence(1)));
    expect(media).toMatchObject({ type: 'audio/wav', name: 'call.wav', bytes: 8044 });
    expect(await mediaOf(ws, record)).toEqual(media);
    const whole = await mediaReply(media, null);
    expect(whole.status).toBe(200);
    expect(Buffer.from(await whole.arrayBuffer()).equals(silence(1))).toBe(true);
    for (const [range, from, to] of [
      ['bytes=0-3', 0, 3],
      ['bytes=8000-', 8000, 8043],
      ['bytes=-4', 8040, 8043],
      ['bytes=8040-999999', 8040, 8043],
    ] as const) {
      const part = await mediaReply(media, range);
      expect(part.status).toBe(206);
      expect(part.headers.get('content-range')).toBe(`bytes ${from}-${to}/8044`);
      expect((await part.arrayBuffer()).byteLength).toBe(to - from + 1);
    }
    expect((await mediaReply(media, 'bytes=9000-')).status).toBe(416);
    // RFC 9110, 9.3.2: the headers of GET and nothing else; no file is opened for it
    const open = () => (existsSync('/proc/self/fd') ? readdirSync('/proc/self/fd').length : 0);
    const before = open();
    for (let i = 0; i < 50; i++) {
      const asked = await mediaReply(media, null, true);
      expect(asked.body).toBeNull();
      expect(asked.headers.get('content-length')).toBe('8044');
    }
    expect(open()).toBeLessThan(before + 10);
    expect((await mediaReply(media, 'pages=1-2')).status).toBe(200);
  });
  it('is refused when it is none, and leaves nothing behind', async () => {
    const there = files();
    await expect(attachMedia(ws, record, 'call.mp3', stream(Buffer.from('these are words and no sound at all')))).rejects.toThrow('call.mp3 is no recording');
    await expect(attachMedia(ws, record, 'empty.wav', stream(Buffer.alloc(0)))).rejects.toThrow('no recording');
    const broken = new ReadableStream({
      start(c) {
        c.enqueue(silence(1).subarray(0, 100));
        c.error(new Error('the line went dead'));
      },
    });
    await expect(attachMedia(ws, record, 'call.wav', broken as never)).rejects.toThrow('the line went dead');
    await expect(attachMedia(ws.with({ asker: { ...ws.asker, projects: new Set() } }), record, 'call.wav', stream(silence(1)))).rejects.toThrow('no such record');
    expect(files()).toEqual(there);
    expect((await mediaOf(ws, record))!.name).toBe('call.wav');
  });
  it('goes when it is taken away, replaced, or the words go', async () => {
    await attachMedia(ws, record, 'longer.wav', stream(silence(1), Buffer.alloc(10)));
    expect(files()).toHaveLength(1);
    await detachMedia(ws.db, record);
    expect(files()).toHaveLength(0);
    await attachMedia(ws, record, 'call.wav', stream(silence(1)));
    await changeKeeping(ws, record, { do: 'now' });
    expect(files()).toHaveLength(0);
    expect(await mediaOf(ws, record)).toBeNull();
  });
});

describe('a recording is told by its first bytes', () => {
  const bytes = (...b: (number | string)[]) => Buffer.concat([...b.map((x) => (typeof x === 'string' ? Buffer.from(x, 'latin1') : Buffer.from([x]))), Buffer.alloc(12)]);
  it.each([
    ['audio/mpeg', bytes('ID3', 4)],
    ['audio/mpeg', bytes(0xff, 0xfb, 0x90)],
    ['audio/aac', bytes(0xff, 0xf1)],
    ['audio/ogg', bytes('OggS')],
    ['audio/flac', bytes('fLaC')],
    ['audio/mp4', bytes(0, 0, 0, 0x20, 'ftypM4A ')],
    ['video/mp4', bytes(0, 0, 0, 0x20, 'ftypisom')],
    ['video/webm', bytes(0x1a, 0x45, 0xdf, 0xa3)],
    [null, bytes('%PDF-1.7')],
    [null, bytes('RIFF', 0, 0, 0, 0, 'AVI ')],
    [null, Buffer.from('ID3')],
  ])('%s', (type, head) => expect(mediaType(head)).toBe(type));
});
