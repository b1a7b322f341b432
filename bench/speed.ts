import model from 'wink-eng-lite-web-model';
import winkNLP from 'wink-nlp';
import { readRecord } from '../src/core/record/read.ts';
import type { SiftModels } from '../src/core/sift/models.ts';
import type { CloseReading, OpenCommitment, SiftInput } from '../src/core/sift/reading.ts';
import { sift } from '../src/core/sift/sift.ts';
import weights from '../src/core/sift/weights/quick.json' with { type: 'json' };
import { startCloseReader } from '../src/server/sift/close-reader/close-reader.ts';
import { type Annotated, annotatedMeetings } from './meetings.ts';

type Row = [string, string, string, string];
const ms = (x: number) => `${x < 10 ? x.toFixed(1) : Math.round(x)} ms`;

/** Median of several runs, in milliseconds, after warm-up. */
export function median(run: () => void, times = 7, warm = 3): number {
  for (let i = 0; i < warm; i++) run();
  const out: number[] = [];
  for (let i = 0; i < times; i++) {
    const at = performance.now();
    run();
    out.push(performance.now() - at);
  }
  return out.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

/** A call of so many words, put together from the annotated meetings' own turns. */
function callOf(words: number): { text: string; people: SiftInput['people'] } {
  const meetings = annotatedMeetings().filter((m) => m.input.record.voices.length > 1);
  const lines: string[] = [];
  let n = 0;
  for (let k = 0; n < words; k++) {
    for (const s of meetings[k % meetings.length]!.input.record.segments) {
      if (n >= words) break;
      if (!s.voice || !s.text) continue;
      lines.push(`${s.voice}: ${s.text}`);
      n += s.text.split(/\s+/).length;
    }
  }
  return { text: lines.join('\n'), people: meetings[0]!.input.people };
}

function inputOf(words: number): { text: string; input: SiftInput } {
  const { text, people } = callOf(words);
  const open: OpenCommitment[] = annotatedMeetings()
    .flatMap((m) => m.gold.commitments)
    .slice(0, 60)
    .map((c, i) => ({ id: String(i), text: c.text, owner: c.owner, due: c.due, madeOn: '2026-02-01' }));
  return { text, input: { record: readRecord(text, 'txt'), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: people.map((p) => p.id), author: null }, open } };
}

/** Sift on 10,000 words and 60 open commitments against a bare wink-nlp pass over the same text, and on ten times as much. */
export function siftAgainstWink(): Row[] {
  const models = weights as unknown as SiftModels;
  const nlp = winkNLP(model);
  const small = inputOf(10_000);
  const large = inputOf(100_000);
  const wink = median(() => nlp.readDoc(small.text).tokens().out());
  const own = median(() => sift(small.input, models));
  const tenfold = median(() => sift(large.input, models), 3, 1);
  return [
    ['Sift, 10,000 words, 60 open', ms(own), `bare wink-nlp pass ${ms(wink)}`, `${(own / wink).toFixed(2)}`],
    ['Sift, 100,000 words, 60 open', ms(tenfold), `10,000 words ${ms(own)}`, `${(tenfold / own).toFixed(1)}`],
  ];
}

/** An hour's record (9,000 words, twelve open commitments) read closely on this machine, beside the same work by the quick reader, and a tenth of it. */
export async function closeReaderTimes(): Promise<Row[]> {
  const reader = await startCloseReader().catch(() => null);
  if (!reader) return [];
  const models = weights as unknown as SiftModels;
  const timed = async (words: number) => {
    const { input } = inputOf(words);
    const some = { ...input, open: input.open.slice(0, 12) };
    const at = performance.now();
    await reader.read(some, models);
    const took = performance.now() - at;
    return { took, quick: median(() => sift(some, models), 3, 1) };
  };
  await timed(300);
  const tenth = await timed(900);
  const hour = await timed(9_000);
  await reader.close();
  return [
    ['Close reader, 9,000 words, 12 open', ms(hour.took), `quick reader ${ms(hour.quick)}`, (hour.took / hour.quick).toFixed(0)],
    ['Close reader, 9,000 words, 12 open', ms(hour.took), `900 words ${ms(tenth.took)}`, (hour.took / tenth.took).toFixed(1)],
  ];
}

/** What the shipped encoder says of the annotated meetings, which it has seen; null where it cannot be started. */
export async function closeReadings(meetings: readonly Annotated[], quick: SiftModels): Promise<Map<string, CloseReading> | null> {
  const reader = await startCloseReader().catch(() => null);
  if (!reader) return null;
  const out = new Map<string, CloseReading>();
  for (const m of meetings) out.set(m.name, await reader.read(m.input, quick));
  await reader.close();
  return out;
}
