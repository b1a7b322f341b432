import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SiftModels } from '../src/core/sift/models.ts';
import { evaluate, leaveOut, reliability, showTallies } from './learn/evaluate.ts';
import { annotatedMeetings } from './meetings.ts';
import { ledgerAgainstQuery, startUp } from './serving.ts';
import { siftAgainstWink } from './speed.ts';

/** `npm run bench`: ratios within one run, then scores. `--quick` leaves out the series-left-out scores, which take longest. */
const rows: [string, string, string, string][] = [...siftAgainstWink(), ...(await ledgerAgainstQuery()), ...(await startUp())];
const widths = [0, 1, 2, 3].map((i) => Math.max(...rows.map((r) => r[i]!.length), ['what', 'measured', 'against', 'ratio'][i]!.length));
const line = (r: readonly string[]) => `| ${r.map((c, i) => c.padEnd(widths[i]!)).join(' | ')} |`;
console.log(line(['what', 'measured', 'against', 'ratio']));
console.log(`| ${widths.map((w) => '-'.repeat(w)).join(' | ')} |`);
for (const r of rows) console.log(line(r));

const meetings = annotatedMeetings();
const weights = JSON.parse(readFileSync(join(import.meta.dirname, '../src/core/sift/weights/quick.json'), 'utf8')) as SiftModels;
console.log(`\n${showTallies(`Scores of the quick reader on the ${meetings.length} annotated meetings it learned from`, evaluate(meetings, () => weights, null).tallies)}`);
if (!process.argv.includes('--quick') && existsSync(join(import.meta.dirname, 'meetings'))) {
  const out = leaveOut(meetings, 4, null);
  console.log(`\n${showTallies('Scores on series left out of learning (4 folds): what an unseen series gives', out.tallies)}`);
  console.log('\nReliability on series left out: of the finds with about this confidence, so many are right');
  for (const b of reliability(out.judged)) if (b.count) console.log(`  ${b.from.toFixed(1)} to ${b.to.toFixed(1)}  ${String(b.count).padStart(4)} finds  mean ${b.mean.toFixed(2)}  right ${b.right.toFixed(2)}`);
}
