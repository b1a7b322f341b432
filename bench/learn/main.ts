/**
 * Learns Sift's weights from the annotated meetings and the rehearsals.
 *   npm run learn                     writes src/core/sift/weights/*.json
 *   npm run learn -- --check          only shows what series left out would give
 *   npm run learn -- --no-check       writes without showing that, which takes most of the time
 *   npm run learn -- --export FILE    writes the units the close reader is trained on (training/README.md)
 *   npm run learn -- --close DIR...   first has newly trained encoders read the series they have not seen, one folder
 *                                     for each fold of training, and keeps that in bench/close-readings
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentStems, wordsOf } from '../../src/core/language/words.ts';
import { matterWords } from '../../src/core/sift/matter-words.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import { readUnits } from '../../src/core/sift/reading.ts';
import quick from '../../src/core/sift/weights/quick.json' with { type: 'json' };
import { annotatedMeetings, furtherMeetings, rehearsals } from '../meetings.ts';
import { readUnseen, unseenReadings } from './answers.ts';
import { evaluate, leaveOut, showTallies } from './evaluate.ts';
import { learn } from './stages.ts';

const argv = process.argv.slice(2);
const after = (flag: string) => {
  const at = argv.indexOf(flag);
  return at < 0 ? [] : argv.slice(at + 1).filter((a) => !a.startsWith('--'));
};
const meetings = annotatedMeetings();
const besides = rehearsals();
// the encoder's weights come from series it has not seen, and those are the scored ones and some of the further ones; the quick
// reader, learned from all of these, read talk better and plain notes worse, and learns from neither
const further = furtherMeetings();

if (argv.includes('--export')) {
  writeFileSync(
    after('--export')[0]!,
    JSON.stringify(
      [...meetings, ...further, ...besides].map((m) => {
        const reading = readUnits(m.input);
        const { units, roster } = reading;
        const withStems = <T extends { text: string }>(items: readonly T[]) => items.map((g) => ({ ...g, stems: contentStems(wordsOf(g.text)) }));
        // places are counted in characters here and in code units there
        const place = (text: string, from: number) => [...text.slice(0, from)].length;
        return {
          name: m.name,
          rehearsal: m.rehearsal,
          units: units.map((u) => ({
            i: u.index,
            s: u.segment,
            t: u.text,
            p: u.speaker ? roster.firstName(u.speaker) : (u.source.voice ?? ''),
            who: u.speaker,
            dates: u.dates.map((d) => [place(u.text, d.from), d.date]),
            words: matterWords(reading, u).map((w) => [place(u.text, w.from), w.stem]),
            names: u.mentions.map((x) => [place(u.text, x.from), x.person, place(u.text, x.to)]),
          })),
          open: m.input.open.map((o) => ({ ...o, who: o.owner.map((p) => roster.firstName(p)).join(' and ') })),
          gold: { ...m.gold, commitments: withStems(m.gold.commitments), decisions: withStems(m.gold.decisions), questions: withStems(m.gold.questions) },
        };
      }),
    ),
  );
  process.exit(0);
}

const folders = after('--close');
if (folders.length) await readUnseen(folders, [...meetings, ...further, ...besides], quick as unknown as SiftModels);
const began = Date.now();
const folds = 4;
for (const [name, close] of [
  ['quick', null],
  ['close', unseenReadings()],
] as const) {
  if (name === 'close' && !close) continue;
  const known = (some: typeof meetings) => (close ? some.filter((m) => close.has(m.name)) : some);
  const scored = known(meetings);
  const others = close ? known([...further, ...besides]) : besides;
  if (!argv.includes('--no-check')) console.log(showTallies(`${name} reader, series left out (${folds} folds, ${scored.length} meetings)`, leaveOut(scored, others, folds, close).tallies));
  if (argv.includes('--check')) continue;
  const models = learn([...scored, ...others], close);
  const file = join(import.meta.dirname, '../../src/core/sift/weights', `${name}.json`);
  writeFileSync(file, `${JSON.stringify(models)}\n`);
  console.log(showTallies('on the meetings learned from', evaluate(scored, () => models, close).tallies));
}
console.log(`${((Date.now() - began) / 1000).toFixed(0)} s`);
