import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { OutputShape } from '../../../core/sift/close/collect.ts';
import { WordPieces } from '../../../core/sift/close/word-pieces.ts';

const Manifest = z.object({
  bytes: z.number().int().positive(),
  sha256: z.string(),
  pieces: z.array(z.object({ name: z.string().regex(/^reader\.\d+$/), bytes: z.number().int(), sha256: z.string() })),
  turn: z.array(z.string()),
  job: z.number().int(),
  about: z.array(z.string()),
  settle: z.array(z.string()),
});

export interface CloseModel {
  graph: Uint8Array;
  pieces: WordPieces;
  shape: OutputShape;
}

const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/**
 * Puts the encoder's file together from its pieces and checks each, and the whole, against the manifest.
 * @throws Error that says which piece is missing or not as it was made
 */
export async function loadModel(folder: string): Promise<CloseModel> {
  const manifest = Manifest.parse(JSON.parse(await readFile(join(folder, 'manifest.json'), 'utf8')));
  const parts = await Promise.all(
    manifest.pieces.map(async (p) => {
      const bytes = await readFile(join(folder, p.name)).catch(() => null);
      if (!bytes) throw new Error(`${p.name} is missing`);
      if (bytes.length !== p.bytes || digest(bytes) !== p.sha256) throw new Error(`${p.name} is not as it was made`);
      return bytes;
    }),
  );
  const graph = new Uint8Array(Buffer.concat(parts));
  if (graph.length !== manifest.bytes || digest(graph) !== manifest.sha256) throw new Error('the pieces do not make up the whole');
  const vocabulary = (await readFile(join(folder, 'vocabulary.txt'), 'utf8')).replace(/\n$/, '').split('\n');
  return { graph, pieces: new WordPieces(vocabulary), shape: { turn: manifest.turn.length, job: manifest.job, about: manifest.about.length, settle: manifest.settle.length } };
}
