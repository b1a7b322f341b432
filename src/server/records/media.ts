import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, mkdirSync, readdirSync } from 'node:fs';
import { open, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as WebStream } from 'node:stream/web';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Media } from '../store/codecs.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';

/** The recording a record was written down from; its file lies beside the database under the name of its digest. */

/** A day of good sound, or some hours of a picture. */
export const LARGEST_MEDIA = 2 * 1024 ** 3;

/** Kinds of recordings that browsers play, by the bytes they begin with (common practice, after each format's own specification). */
const KINDS: readonly { type: string; is(head: Buffer): boolean }[] = [
  { type: 'audio/mpeg', is: (b) => b.subarray(0, 3).toString('latin1') === 'ID3' || (b[0] === 0xff && (b[1]! & 0xe6) === 0xe2) },
  { type: 'audio/aac', is: (b) => b[0] === 0xff && (b[1]! & 0xf6) === 0xf0 },
  { type: 'audio/wav', is: (b) => b.subarray(0, 4).toString('latin1') === 'RIFF' && b.subarray(8, 12).toString('latin1') === 'WAVE' },
  { type: 'audio/ogg', is: (b) => b.subarray(0, 4).toString('latin1') === 'OggS' },
  { type: 'audio/flac', is: (b) => b.subarray(0, 4).toString('latin1') === 'fLaC' },
  { type: 'audio/mp4', is: (b) => b.subarray(4, 8).toString('latin1') === 'ftyp' && b.subarray(8, 11).toString('latin1') === 'M4A' },
  { type: 'video/mp4', is: (b) => b.subarray(4, 8).toString('latin1') === 'ftyp' },
  { type: 'video/webm', is: (b) => b.subarray(0, 4).equals(Buffer.from([0x1a, 0x45, 0xdf, 0xa3])) },
];

/** What kind of recording bytes are by how they begin, or null when they are none. */
export function mediaType(head: Buffer): string | null {
  return head.length < 12 ? null : (KINDS.find((k) => k.is(head))?.type ?? null);
}

function folder(): string {
  return join(dirname(process.env.OTTIK_DB ?? 'data/ottik.db'), 'media');
}

/** The recording that goes with a record, or null. */
export async function mediaOf(ws: Workspace, record: number): Promise<Media | null> {
  const row = await ws.db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select(['m.project_id', 'r.media']).where('r.id', '=', record).executeTakeFirst();
  mustSee(ws, row?.project_id, 'record');
  return row!.media ? CODECS.media.read(row!.media) : null;
}

/**
 * Puts a recording beside a record. It is written to a file of its own first and counts only when it is whole and is a
 * recording; what breaks off half-way leaves nothing behind.
 */
export async function attachMedia(ws: Workspace, record: number, name: string, body: WebStream<Uint8Array> | null, gone?: AbortSignal): Promise<Media> {
  await mediaOf(ws, record);
  if (!body) throw new Refusal('bad-input', 'There is no file in this request.');
  mkdirSync(folder(), { recursive: true });
  const waiting = join(folder(), `coming-${randomUUID()}`);
  const digest = createHash('sha256');
  let bytes = 0;
  const count = new Transform({
    transform(chunk: Buffer, _, done) {
      bytes += chunk.length;
      digest.update(chunk);
      if (bytes > LARGEST_MEDIA) done(new Refusal('bad-input', `${name} is larger than a recording may be (2 GB).`, 'Keep the sound alone; a day of it fits.'));
      else done(null, chunk);
    },
  });
  try {
    await pipeline(Readable.fromWeb(body), count, createWriteStream(waiting), gone ? { signal: gone } : {});
    const file = await open(waiting, 'r');
    const head = Buffer.alloc(16);
    const { bytesRead } = await file.read(head, 0, 16, 0);
    await file.close();
    const type = mediaType(head.subarray(0, bytesRead));
    if (!type) throw new Refusal('bad-input', `${name} is no recording that can be played here.`, 'mp3, m4a, aac, wav, ogg, flac, mp4 and webm can.');
    const media: Media = { file: digest.digest('hex'), type, name: name.slice(0, 300), bytes };
    await rename(waiting, join(folder(), media.file));
    await setMedia(ws.db, record, media);
    return media;
  } catch (error) {
    await rm(waiting, { force: true });
    throw error;
  }
}

/** Takes away what uploads left behind that were cut off with the server itself. */
export async function sweepMedia(now = Date.now()): Promise<number> {
  let n = 0;
  for (const name of existsSync(folder()) ? readdirSync(folder()) : []) {
    const path = join(folder(), name);
    if (!name.startsWith('coming-') || now - (await stat(path)).mtimeMs < 3_600_000) continue;
    await rm(path, { force: true });
    n++;
  }
  return n;
}

/** Takes the recording away; its file goes when no other record has it. */
export async function detachMedia(db: Db, record: number): Promise<void> {
  await setMedia(db, record, null);
}

async function setMedia(db: Db, record: number, media: Media | null): Promise<void> {
  const before = await db.selectFrom('records').select('media').where('id', '=', record).executeTakeFirst();
  await db
    .updateTable('records')
    .set({ media: media ? CODECS.media.write(media) : null })
    .where('id', '=', record)
    .execute();
  const old = before?.media ? CODECS.media.read(before.media) : null;
  if (!old || old.file === media?.file) return;
  const still = await db.selectFrom('records').select('id').where('media', 'like', `%${old.file}%`).executeTakeFirst();
  if (!still) await rm(join(folder(), old.file), { force: true });
}

/** A stretch of the recording, as a player asks for it (RFC 9110, section 14); for HEAD its headers alone, and no file is opened. */
export async function mediaReply(media: Media, range: string | null, head = false): Promise<Response> {
  const bodyOf = head ? () => null : stretchOf;
  const path = join(folder(), media.file);
  if (!existsSync(path)) throw new Refusal('not-found', 'The file of this recording is not where it was put.', 'Attach it again.');
  const { size } = await stat(path);
  const headers = { 'content-type': media.type, 'accept-ranges': 'bytes', 'cache-control': 'private, max-age=3600', 'x-content-type-options': 'nosniff' };
  const asked = /^bytes=(\d*)-(\d*)$/.exec(range ?? '');
  if (!asked || (asked[1] === '' && asked[2] === '')) return new Response(bodyOf(path, 0, size - 1), { headers: { ...headers, 'content-length': String(size) } });
  const from = asked[1] === '' ? Math.max(0, size - Number(asked[2])) : Number(asked[1]);
  const to = asked[1] === '' || asked[2] === '' ? size - 1 : Math.min(size - 1, Number(asked[2]));
  if (from >= size || from > to) return new Response(null, { status: 416, headers: { ...headers, 'content-range': `bytes */${size}` } });
  return new Response(bodyOf(path, from, to), { status: 206, headers: { ...headers, 'content-length': String(to - from + 1), 'content-range': `bytes ${from}-${to}/${size}` } });
}

const stretchOf = (path: string, start: number, end: number) => Readable.toWeb(createReadStream(path, { start, end })) as unknown as BodyInit;
