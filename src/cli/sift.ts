import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { z } from 'zod';
import { isIsoDate } from '../core/dates/calendar.ts';
import type { Person } from '../core/language/people.ts';
import { decodeRecord } from '../core/record/decode.ts';
import { RecordError } from '../core/record/model.ts';
import { readRecord } from '../core/record/read.ts';
import type { Find, Finds } from '../core/sift/find.ts';
import type { SiftInput } from '../core/sift/reading.ts';
import { inOneLine } from '../core/sift/wording.ts';
import type { ModelServer } from '../server/sift/model-reader/client.ts';
import { NO_SHELF, readWithModel } from '../server/sift/model-reader/reading.ts';
import { faultsInWords } from '../server/sift/model-reading.ts';
import { closeReading, siftClosely, siftRecord } from '../server/sift/run.ts';
import { ServerTrouble } from '../server/store/guarded-fetch.ts';
import { readRecordFile } from '../server/work/record-files.ts';

const date = z.string().refine(isIsoDate, 'is not a date like 2026-03-05');

/** A case file: one meeting with all that Sift is given. */
const CaseFile = z.object({
  meeting: z.object({ date, next: date.nullish(), present: z.array(z.string()).default([]), author: z.string().nullish() }),
  people: z.array(z.object({ id: z.string(), name: z.string(), aliases: z.array(z.string()).default([]), role: z.string().default('') })),
  record: z.object({ file: z.string(), format: z.enum(['vtt', 'srt', 'txt', 'md']) }),
  open: z.array(z.object({ id: z.string(), text: z.string(), owner: z.array(z.string()), due: date.nullable(), madeOn: date })).default([]),
});

/** `ottik sift`: finds of one record for people to read, or of many cases for programs. Gives the exit code. */
export async function runSift(argv: string[]): Promise<number> {
  const at = argv.indexOf('--case');
  if (at >= 0) {
    const { files, options } = parse(argv.filter((a) => a !== '--case'));
    const model = modelServer(options);
    for (const file of files) process.stdout.write(`${JSON.stringify(answer(await findsIn(caseInput(file), options.has('quick'), model)))}\n`);
    await closeReading();
    return 0;
  }
  const { files, options } = parse(argv);
  const input = await fileInput(files.at(-1)!, options);
  const { finds, reader } = await findsIn(input, options.has('quick'), modelServer(options));
  await closeReading();
  if (options.has('json')) process.stdout.write(`${JSON.stringify({ reader, finds }, null, 2)}\n`);
  else process.stdout.write(table(finds, input.people));
  return 0;
}

/** The close reader's finds, or the quick reader's when that was asked for or the close one cannot be had, which is said. */
async function findsIn(input: SiftInput, quick: boolean, model: ModelServer | null): Promise<Finds> {
  const own = quick ? await siftRecord(input) : await ownFindsIn(input);
  if (!model) return own;
  try {
    const { finds, faults } = await readWithModel({ input, own: own.finds, notes: [], server: model, masked: false, context: CONTEXT, shelf: NO_SHELF });
    for (const line of faultsInWords(faults)) process.stderr.write(`ottik: ${line}\n`);
    return { finds, reader: 'model' };
  } catch (error) {
    if (!(error instanceof ServerTrouble)) throw error;
    process.stderr.write(`ottik: without the model reader: ${error.message}\n`);
    return own;
  }
}

/** Tokens a model is taken to hold at once, where nobody says. */
const CONTEXT = 16_000;
/** Milliseconds to wait for a word of it. */
const PATIENCE = 300_000;

/** The model server that the options name; its key is `OTTIK_MODEL_KEY`, which no list of processes shows. */
function modelServer(options: ReadonlyMap<string, string>): ModelServer | null {
  const reader = options.get('reader');
  if (reader !== undefined && reader !== 'model' && reader !== 'close' && reader !== 'quick') throw new Error(`--reader ${reader} is none: quick, close or model`);
  if (reader !== 'model') return null;
  const [address, model] = [options.get('server'), options.get('model')];
  if (!address || !URL.canParse(address)) throw new Error('--reader model needs --server with its address, like http://localhost:8080/v1');
  if (!model) throw new Error('--reader model needs --model with the name of a model');
  return { address, model, key: process.env.OTTIK_MODEL_KEY ?? null, ownNetwork: true, patience: PATIENCE };
}

async function ownFindsIn(input: SiftInput): Promise<Finds> {
  const read = await siftClosely(input);
  if ('finds' in read) return read.finds;
  process.stderr.write(`ottik: quick reader only, the close reader cannot be used: ${read.quickOnly}\n`);
  return siftRecord(input);
}

function caseInput(file: string): SiftInput {
  const found = CaseFile.safeParse(JSON.parse(readFileSync(file, 'utf8')));
  if (!found.success) throw new Error(`${basename(file)}: ${found.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; ')}`);
  const c = found.data;
  return {
    record: readRecord(decodeRecord(readFileSync(c.record.file)).text, c.record.format),
    people: c.people,
    meeting: { date: c.meeting.date, next: c.meeting.next ?? null, present: c.meeting.present, author: c.meeting.author ?? null },
    open: c.open,
  };
}

function answer({ finds }: { finds: Find[] }) {
  const evidence = (f: Find) => [...new Set(f.evidence.map((e) => e.segment))].sort((a, b) => a - b);
  const of = (kind: Find['kind']) => finds.filter((f) => f.kind === kind);
  return {
    commitments: of('action').map((f) => ({ text: inOneLine(f), owner: f.owner, due: f.due, evidence: evidence(f) })),
    decisions: of('decision').map((f) => ({ text: inOneLine(f), evidence: evidence(f) })),
    questions: of('question').map((f) => ({ text: inOneLine(f), evidence: evidence(f) })),
    updates: of('update').map((f) => ({ open: f.update!.open, kind: f.update!.kind, ...(f.update!.due ? { due: f.update!.due } : {}), ...(f.update!.owner ? { owner: f.update!.owner } : {}), evidence: evidence(f) })),
  };
}

function parse(argv: string[]): { files: string[]; options: Map<string, string> } {
  const options = new Map<string, string>();
  const files: string[] = [];
  for (let i = 0; i < argv.length; i++) {
    const a = argv[i]!;
    if (a === '--json' || a === '--quick') options.set(a.slice(2), '');
    else if (a.startsWith('--')) {
      const value = argv[++i];
      if (value === undefined) throw new Error(`${a} needs a value`);
      options.set(a.slice(2), value);
    } else files.push(a);
  }
  if (files.length === 0) throw new Error('name the record to sift, or --case and case files');
  for (const name of ['date', 'next']) {
    const value = options.get(name);
    if (value !== undefined && !isIsoDate(value)) throw new Error(`--${name} ${value} is not a date like 2026-03-05`);
  }
  if (options.get('reader') === 'quick') options.set('quick', '');
  return { files, options };
}

async function fileInput(file: string, options: Map<string, string>): Promise<SiftInput> {
  const on = options.get('date');
  if (!on) throw new Error('give the day of the meeting: --date 2026-03-05');
  try {
    const { record } = await readRecordFile(readFileSync(file), file);
    const names = (options.get('people') ?? record.voices.join(','))
      .split(',')
      .map((n) => n.trim())
      .filter(Boolean);
    const people: Person[] = names.map((name, i) => ({ id: `p${i + 1}`, name, aliases: [], role: '' }));
    const author = people.find((p) => p.name === options.get('author'))?.id ?? null;
    return { record, people, meeting: { date: on, next: options.get('next') ?? null, present: people.map((p) => p.id), author }, open: [] };
  } catch (error) {
    if (error instanceof RecordError) throw new Error(`${basename(file)}${error.line ? `, line ${error.line}` : ''}: ${error.message} ${error.advice}`);
    throw error;
  }
}

function table(finds: readonly Find[], people: readonly Person[]): string {
  if (finds.length === 0) return 'No finds in this record.\n';
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? id;
  return finds
    .map((f) => {
      const who = f.kind === 'action' ? f.owner.map(name).join(' and ') || 'nobody yet' : '';
      const when = f.kind === 'action' ? (f.due ?? 'no date') : '';
      return `${f.kind.padEnd(8)}  ${String(Math.round(f.confidence * 100)).padStart(3)}%  ${[inOneLine(f), who, when].filter(Boolean).join('  |  ')}\n                 ${f.reason}  [${f.evidence.map((e) => e.segment).join(', ')}]\n`;
    })
    .join('');
}
