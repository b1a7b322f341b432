import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { SiftModels } from '../../src/core/sift/models.ts';
import type { CloseReading } from '../../src/core/sift/reading.ts';
import { startCloseReader } from '../../src/server/close-reader/close-reader.ts';
import type { Annotated } from '../meetings.ts';

const Kept = z.array(z.object({ name: z.string(), nature: z.array(z.array(z.number())), about: z.array(z.tuple([z.string(), z.array(z.tuple([z.number(), z.array(z.number())]))])) }));

/**
 * What encoders say of series they have not seen. Each folder is of one fold of training/train.py: `held.json` names the
 * series it was kept from, `model` has the files of training/export.py; the answers are kept beside in `answers.json`.
 * @param quick decides what is read at all, as it does when Ottik runs
 */
export async function unseenAnswers(folders: readonly string[], meetings: readonly Annotated[], quick: SiftModels): Promise<Map<string, CloseReading>> {
  const out = new Map<string, CloseReading>();
  for (const folder of folders) {
    const file = join(folder, 'answers.json');
    if (!existsSync(file)) writeFileSync(file, JSON.stringify(await ask(folder, meetings, quick)));
    for (const a of Kept.parse(JSON.parse(readFileSync(file, 'utf8')))) out.set(a.name, { nature: a.nature, about: new Map(a.about.map(([open, rows]) => [open, new Map(rows)])) });
  }
  return out;
}

async function ask(folder: string, meetings: readonly Annotated[], quick: SiftModels): Promise<z.infer<typeof Kept>> {
  const held = new Set(z.array(z.string()).parse(JSON.parse(readFileSync(join(folder, 'held.json'), 'utf8'))));
  const reader = await startCloseReader(join(folder, 'model'));
  const out: z.infer<typeof Kept> = [];
  for (const m of meetings.filter((x) => held.has(x.series))) {
    const { nature, about } = await reader.read(m.input, quick);
    out.push({ name: m.name, nature: nature.map((r) => [...r]), about: [...about].map(([open, rows]) => [open, [...rows].map(([i, row]) => [i, [...row]] as [number, number[]])]) });
  }
  await reader.close();
  return out;
}
