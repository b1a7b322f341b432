import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { SiftModels } from '../../src/core/sift/models.ts';
import type { CloseReading, Settled } from '../../src/core/sift/reading.ts';
import { startCloseReader } from '../../src/server/sift/close-reader/close-reader.ts';
import type { Annotated } from '../meetings.ts';

const Row = z.array(z.number());
const Settling = z.object({
  when: z.object({ none: z.number(), dates: z.array(z.tuple([z.number(), z.number(), z.number()])) }),
  who: z.object({ none: z.number(), people: z.array(z.tuple([z.string(), z.number()])) }),
  words: z.array(z.tuple([z.number(), z.number(), z.number()])),
  span: z.tuple([z.number(), z.number()]),
});
const Kept = z.array(
  z.object({
    name: z.string(),
    nature: z.array(Row),
    about: z.array(z.tuple([z.string(), z.array(z.tuple([z.number(), Row]))])),
    settled: z.array(z.tuple([z.number(), Settling])),
  }),
);
/** One file for a series. */
const FOLDER = join(import.meta.dirname, '../close-readings');

/**
 * What encoders said of the annotated meetings of series they had not seen: what the weights that go with the close
 * reader are learned from, and its scores on unseen series are told by. Kept, so that neither needs the encoders again.
 * @returns readings by meeting, or null where there are none
 */
export function unseenReadings(): Map<string, CloseReading> | null {
  if (!existsSync(FOLDER)) return null;
  const kept = readdirSync(FOLDER).flatMap((file) => Kept.parse(JSON.parse(readFileSync(join(FOLDER, file), 'utf8'))));
  return new Map(kept.map((a) => [a.name, { nature: a.nature, about: new Map(a.about.map(([open, rows]) => [open, new Map(rows)])), settled: new Map(a.settled) }]));
}

/**
 * Has encoders read what they have not seen, and keeps it. Each folder is of one fold of training/train.py: `held.json`
 * names the series it was kept from, `model` has the files of training/export.py.
 * @param quick decides what is read at all, as it does when Ottik runs
 */
export async function readUnseen(folders: readonly string[], meetings: readonly Annotated[], quick: SiftModels): Promise<void> {
  mkdirSync(FOLDER, { recursive: true });
  const short = (row: readonly number[]) => row.map(hundredth);
  for (const folder of folders) {
    const held = new Set(z.array(z.string()).parse(JSON.parse(readFileSync(join(folder, 'held.json'), 'utf8'))));
    const reader = await startCloseReader(join(folder, 'model'));
    for (const series of held) {
      const out: z.infer<typeof Kept> = [];
      for (const m of meetings.filter((x) => x.series === series)) {
        const { nature, about, settled } = await reader.read(m.input, quick);
        out.push({
          name: m.name,
          nature: nature.map(short),
          about: [...about].map(([open, rows]) => [open, [...rows].map(([i, row]) => [i, short(row)] as [number, number[]])]),
          settled: [...settled].map(([i, x]) => [i, shortened(x)] as [number, z.infer<typeof Settling>]),
        });
      }
      writeFileSync(join(FOLDER, `${series}.json`), `${JSON.stringify(out)}\n`);
    }
    await reader.close();
  }
}

const hundredth = (x: number) => Math.round(x * 100) / 100;

/** What is settled of a place, in numbers short enough to keep. */
function shortened({ when, who, words, span }: Settled): z.infer<typeof Settling> {
  return {
    when: { none: hundredth(when.none), dates: when.dates.map(([unit, which, log]) => [unit, which, hundredth(log)]) },
    who: { none: hundredth(who.none), people: who.people.map(([person, log]) => [person, hundredth(log)]) },
    words: words.map(([unit, at, log]) => [unit, at, hundredth(log)]),
    span: [...span],
  };
}
