import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readRecord } from '../src/core/record/read.ts';
import type { Find, FindKind } from '../src/core/sift/find.ts';
import type { ModelAnswer } from '../src/core/sift/model/answer.ts';
import { checked } from '../src/core/sift/model/checking.ts';
import { askingOf, partsOf } from '../src/core/sift/model/question.ts';
import { TRUST, type Trust } from '../src/core/sift/model/trust.ts';
import type { SiftModels } from '../src/core/sift/models.ts';
import { readUnits, type SiftInput } from '../src/core/sift/reading.ts';
import { sift } from '../src/core/sift/sift.ts';
import type { ModelServer } from '../src/server/sift/model-reader/client.ts';
import { NO_SHELF, readWithModel } from '../src/server/sift/model-reader/reading.ts';
import { answerOf, showTallies } from './learn/evaluate.ts';
import { type Annotated, annotatedMeetings } from './meetings.ts';
import { emptyTallies, pairUp, tally } from './score.ts';
import { median } from './speed.ts';

type Row = [string, string, string, string];

/** What holding a model's answer against an hour's words costs, beside reading these words into units. */
export function checkingCost(): Row[] {
  const turns = annotatedMeetings()
    .flatMap((m) => m.input.record.segments.filter((s) => s.voice && s.text))
    .slice(0, 900);
  const record = readRecord(turns.map((s) => `${s.voice}: ${s.text}`).join('\n'), 'txt');
  const input: SiftInput = { record, people: annotatedMeetings()[0]!.input.people, meeting: { date: '2026-03-05', next: null, present: [], author: null }, open: [] };
  const [part] = partsOf(input, 2_000_000);
  const words = part!.segments.reduce((n, s) => n + s.text.split(/\s+/).length, 0);
  const items = part!.segments.filter((_, i) => i % 12 === 0).map((s) => ({ title: s.text.slice(0, 60), segments: [s.index], words: s.text, owner: [], ownerWords: null, dateWords: null }));
  const answer: ModelAnswer = { actions: items, decisions: [], questions: [], updates: [] };
  const asking = askingOf(input, [], false);
  const reading = readUnits(input);
  const check = median(() => checked(answer, reading, asking, part!, TRUST.alone));
  const units = median(() => readUnits(input), 5, 1);
  return [[`checking ${items.length} finds of a model against ${words.toLocaleString('en')} words`, `${check.toFixed(1)} ms`, `reading the words into units, ${Math.round(units)} ms`, (check / units).toFixed(2)]];
}

/**
 * What a model server gives on the annotated meetings, joined with Sift's own reader, and how far it is to be trusted.
 * @param keep writes that to src/core/sift/weights/model.json
 */
export async function modelScores(server: ModelServer, quick: SiftModels, keep: boolean): Promise<void> {
  const meetings = annotatedMeetings();
  const tallies = emptyTallies();
  const judged: { kind: FindKind; by: 'alone' | 'both'; right: boolean }[] = [];
  for (const m of meetings) {
    const own = sift(m.input, quick).finds;
    const { finds } = await readWithModel({ input: m.input, own, notes: [], server, masked: false, context: 16_000, shelf: NO_SHELF });
    tally(tallies, answerOf(finds), m.gold);
    judged.push(...judge(m, finds, own));
  }
  console.log(`\n${showTallies(`Quick reader with the model ${server.model} on the ${meetings.length} annotated meetings`, tallies)}`);
  const trust = trustOf(judged);
  for (const by of ['alone', 'both'] as const)
    console.log(
      `  right where ${by === 'alone' ? 'the model alone has it' : 'both have it'}: ${Object.entries(trust[by])
        .map(([k, p]) => `${k} ${p.toFixed(2)}`)
        .join(', ')}`,
    );
  if (keep) writeFileSync(join(import.meta.dirname, '../src/core/sift/weights/model.json'), `${JSON.stringify(trust, null, 2)}\n`);
}

const GOLD = { action: 'commitments', decision: 'decisions', question: 'questions' } as const;

function judge(m: Annotated, finds: readonly Find[], own: readonly Find[]): { kind: FindKind; by: 'alone' | 'both'; right: boolean }[] {
  const by = (f: Find) => (f.reason.startsWith('Both readers') ? 'both' : own.some((o) => o.key === f.key) ? null : 'alone');
  const out: ReturnType<typeof judge> = [];
  for (const kind of ['action', 'decision', 'question'] as const) {
    const some = finds.filter((f) => f.kind === kind);
    const right = new Set(
      pairUp(
        some.map((f) => ({ text: f.text, evidence: f.evidence.map((e) => e.segment), owner: f.owner })),
        m.gold[GOLD[kind]],
      ).map(([i]) => i),
    );
    some.forEach((f, i) => {
      const who = by(f);
      if (who) out.push({ kind, by: who, right: right.has(i) });
    });
  }
  for (const f of finds.filter((x) => x.update)) {
    const who = by(f);
    if (who) out.push({ kind: 'update', by: who, right: m.gold.updates.some((u) => u.open === f.update!.open && u.kind === f.update!.kind) });
  }
  return out;
}

/** What is estimated counts as much as so many finds. */
const PRIOR = 12;

function trustOf(judged: ReturnType<typeof judge>): Trust {
  const share = (by: 'alone' | 'both') =>
    Object.fromEntries(
      (['action', 'decision', 'question', 'update'] as const).map((kind) => {
        const some = judged.filter((j) => j.by === by && j.kind === kind);
        return [kind, Math.round((100 * (some.filter((j) => j.right).length + PRIOR * TRUST[by][kind])) / (some.length + PRIOR)) / 100];
      }),
    ) as Trust['alone'];
  return { measured: TRUST.measured + judged.length, alone: share('alone'), both: share('both') };
}
