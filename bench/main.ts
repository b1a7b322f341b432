import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SiftModels } from '../src/core/sift/models.ts';
import { underAttack } from './attack.ts';
import { finding } from './finding.ts';
import { unseenReadings } from './learn/answers.ts';
import { evaluate, leaveOut, reliability, showTallies } from './learn/evaluate.ts';
import { liveBench } from './live.ts';
import { measuresBench } from './measures.ts';
import { type Annotated, annotatedMeetings, furtherMeetings, rehearsals, unseenMeetings } from './meetings.ts';
import { checkingCost, modelScores } from './model.ts';
import { added, emptyTallies } from './score.ts';
import { segmentationScores } from './segmentation.ts';
import { ledgerAgainstQuery, startUp } from './serving.ts';
import { closeReaderTimes, closeReadings, siftAgainstWink } from './speed.ts';
import { untilDone } from './until-done.ts';

// what is read here is our own, and measured by itself
process.env.OTTIK_WORK = 'here';

/**
 * `npm run bench`: ratios within one run, then scores. `--quick` leaves out the series-left-out scores, which take longest;
 * `--server URL --model NAME` asks a model server too, its key in OTTIK_MODEL_KEY, and `--keep` keeps how far it was right.
 */
const rows: [string, string, string, string][] = [...siftAgainstWink(), ...(await closeReaderTimes()), ...checkingCost(), ...(await ledgerAgainstQuery()), ...(await startUp()), ...(await untilDone()), ...(await finding()), ...(await measuresBench()), ...(await liveBench()), ...(await underAttack())];
const widths = [0, 1, 2, 3].map((i) => Math.max(...rows.map((r) => r[i]!.length), ['what', 'measured', 'against', 'ratio'][i]!.length));
const line = (r: readonly string[]) => `| ${r.map((c, i) => c.padEnd(widths[i]!)).join(' | ')} |`;
console.log(line(['what', 'measured', 'against', 'ratio']));
console.log(`| ${widths.map((w) => '-'.repeat(w)).join(' | ')} |`);
for (const r of rows) console.log(line(r));

console.log('\nTopics of records put together from stretches of eight meetings; 0 is right everywhere');
for (const s of segmentationScores()) console.log(`  ${s.name.padEnd(22)} Pk ${s.pk.toFixed(3)}  WindowDiff ${s.windowDiff.toFixed(3)}`);

const meetings = annotatedMeetings();
const weights = (name: string) => JSON.parse(readFileSync(join(import.meta.dirname, `../src/core/sift/weights/${name}.json`), 'utf8')) as SiftModels;
const quick = weights('quick');
console.log(`\n${showTallies(`Quick reader on the ${meetings.length} annotated meetings it learned from`, evaluate(meetings, () => quick, null).tallies)}`);
console.log(`\n${showTallies('Quick reader on talk that no weight is learned from (bench/unseen)', evaluate(unseenMeetings(), () => quick, null).tallies)}`);
const read = await closeReadings(meetings, quick);
if (read) {
  const close = weights('close');
  console.log(`\n${showTallies('Close reader on the same', evaluate(meetings, () => close, read).tallies)}`);
}
const option = (name: string) => process.argv[process.argv.indexOf(name) + 1];
if (process.argv.includes('--server')) {
  const [address, model] = [option('--server'), process.argv.includes('--model') ? option('--model') : undefined];
  if (!address || !model) throw new Error('--server needs an address, and --model a name');
  await modelScores({ address, model, key: process.env.OTTIK_MODEL_KEY ?? null, ownNetwork: true, patience: 300_000 }, quick, process.argv.includes('--keep'));
}
if (!process.argv.includes('--quick')) {
  const thirteen = new Set(meetings.map((m) => m.series));
  for (const [name, close] of [
    ['Quick', null],
    ['Close', unseenReadings()],
  ] as const) {
    if (name === 'Close' && !close) continue;
    // what no reading is kept of, the encoder has learned from
    const known = (some: Annotated[]) => (close ? some.filter((m) => close.has(m.name)) : some);
    const out = leaveOut(known(close ? [...meetings, ...furtherMeetings()] : meetings), known(rehearsals()), 4, close);
    const of = (one: boolean) => [...out.bySeries].reduce((sum, [series, t]) => (thirteen.has(series) === one ? added(sum, t) : sum), emptyTallies());
    console.log(`\n${showTallies(`${name} reader on the thirteen series, left out of learning (4 folds)`, of(true))}`);
    if (close) console.log(`\n${showTallies(`${name} reader on further series, left out too`, of(false))}`);
    console.log(`\nReliability of the ${name.toLowerCase()} reader on series left out: of the finds with about this confidence, so many are right`);
    for (const b of reliability(out.judged)) if (b.count) console.log(`  ${b.from.toFixed(1)} to ${b.to.toFixed(1)}  ${String(b.count).padStart(4)} finds  mean ${b.mean.toFixed(2)}  right ${b.right.toFixed(2)}`);
  }
}
