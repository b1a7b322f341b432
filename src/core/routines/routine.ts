import { z } from 'zod';
import { IsoDateSchema } from '../ledger/events.ts';
import { readFollowing } from './next-meeting.ts';
import { readTimes } from './times.ts';

/** What starts a routine. `days` are working days; `text` is times as people say them, `from` the day they count from. */
export const WhenSchema = z.discriminatedUnion('on', [
  z.object({ on: z.literal('record') }),
  z.object({ on: z.literal('end') }),
  z.object({ on: z.literal('minutes') }),
  z.object({ on: z.literal('answer') }),
  z.object({ on: z.literal('late'), days: z.number().int().min(1).max(60) }),
  z.object({ on: z.literal('time'), text: z.string().trim().max(200), from: IsoDateSchema }),
  z.object({ on: z.literal('asked') }),
]);
export type When = z.infer<typeof WhenSchema>;

/** Kinds of meeting a routine can be kept to. */
export const MEETING_KINDS = ['any', 'series', 'single', 'two', 'outside', 'inside'] as const;
export type MeetingKind = (typeof MEETING_KINDS)[number];

export const FILE_FORMATS = ['md', 'html', 'docx', 'pdf', 'csv', 'json', 'ics'] as const;
export const EXPORTS = ['minutes', 'ledger'] as const;

/** What a routine does, one step after another. */
export const StepSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('sift') }),
  z.object({ do: z.literal('wait'), until: z.enum(['settled', 'word']) }),
  z.object({ do: z.literal('take'), sure: z.number().int().min(50).max(99) }),
  z.object({ do: z.literal('round-up'), act: z.enum(['draft', 'send']) }),
  z.object({ do: z.literal('letters') }),
  z.object({ do: z.literal('post'), text: z.string().trim().min(1, 'needs words').max(2000) }),
  z.object({ do: z.literal('minutes'), act: z.enum(['draft', 'issue']) }),
  z.object({ do: z.literal('file'), what: z.enum(EXPORTS), format: z.enum(FILE_FORMATS), folder: z.string().trim().max(120) }),
  z.object({ do: z.literal('hook'), what: z.enum(EXPORTS), format: z.enum(FILE_FORMATS), url: z.string().trim().max(500) }),
  z.object({ do: z.literal('next'), when: z.string().trim().max(200) }),
  z.object({ do: z.literal('ask'), question: z.string().trim().max(300), to: z.array(z.string().max(140)).max(20) }),
]);
export type Step = z.infer<typeof StepSchema>;
export type StepKind = Step['do'];

export const RoutineSchema = z.object({
  name: z.string().trim().min(2, 'needs a name').max(80),
  when: WhenSchema,
  /** id of the series its meetings are of; null for all */
  series: z.string().max(140).nullable(),
  kind: z.enum(MEETING_KINDS),
  /** it runs of itself, or is offered and runs when somebody says so */
  how: z.enum(['by itself', 'offered']),
  steps: z.array(StepSchema).min(1, 'needs at least one step').max(20),
  /** so many failures in a row, and it pauses */
  pauses: z.number().int().min(1).max(20),
});
export type Routine = z.infer<typeof RoutineSchema>;

/** What a routine has in hand while it runs. */
export const HAS_MEETING: ReadonlySet<When['on']> = new Set(['record', 'end', 'minutes', 'asked']);

/** Whether a step is about a meeting, and cannot be without one. */
export function needsMeeting(step: Step): boolean {
  if (step.do === 'wait') return step.until === 'settled';
  if (step.do === 'file' || step.do === 'hook') return step.what === 'minutes';
  if (step.do === 'post') return fieldsIn(step.text).some((name) => name.startsWith('meeting.'));
  return ABOUT_MEETINGS.has(step.do);
}

const ABOUT_MEETINGS: ReadonlySet<StepKind> = new Set(['sift', 'take', 'round-up', 'minutes', 'next']);

/** Steps whose doing cannot be taken back or looked up: whatever broke off in the middle of one may have gone out. */
export const REACHES_OUT: ReadonlySet<StepKind> = new Set(['post', 'hook', 'ask']);

/** Formats something can be taken along in. */
export const FORMATS_OF: Readonly<Record<(typeof EXPORTS)[number], readonly (typeof FILE_FORMATS)[number][]>> = { minutes: ['pdf', 'docx', 'html', 'md'], ledger: ['csv', 'json', 'md', 'ics'] };

/** What stands in the way of a routine, and at which of its steps; `step` is null where that is what starts it. */
export interface Fault {
  step: number | null;
  message: string;
  advice: string;
}

/** What cannot work in a routine, before it ever runs. */
export function faultsOf({ when, series, kind, how, steps }: Routine): Fault[] {
  const out: Fault[] = [];
  if (when.on === 'time') {
    const times = readTimes(when.text, when.from);
    if ('wrong' in times) out.push({ step: null, message: times.wrong, advice: times.advice });
  }
  if (when.on === 'asked' && how === 'offered') out.push({ step: null, message: 'What starts when somebody asks is not offered besides.', advice: 'Let it run by itself.' });
  if (when.on === 'time' && (series !== null || kind !== 'any')) out.push({ step: null, message: 'No meeting is at hand when it starts by the clock.', advice: 'Let it be for every meeting, or start it from one.' });
  steps.forEach((step, n) => {
    if (needsMeeting(step) && step.do !== 'post' && !HAS_MEETING.has(when.on)) out.push({ step: n, message: `${NAMES[step.do]} needs a meeting, and what starts this routine brings none.`, advice: 'Start it when a record arrives, a meeting ends or minutes are issued, or take the step out.' });
    if ((step.do === 'file' || step.do === 'hook') && !FORMATS_OF[step.what].includes(step.format)) out.push({ step: n, message: `${step.what === 'minutes' ? 'Minutes are' : 'The Ledger is'} not written as ${step.format}.`, advice: `Choose ${FORMATS_OF[step.what].join(', ')}.` });
    if (step.do === 'file' && !isFolder(step.folder)) out.push({ step: n, message: `“${step.folder}” is no folder name.`, advice: 'Use letters, figures, spaces, hyphens and / for folders in folders.' });
    if (step.do === 'hook' && !/^https?:\/\/[^\s@/]+(?:\/\S*)?$/.test(step.url)) out.push({ step: n, message: 'Sending needs an address that begins with https://.', advice: 'Copy it from the program that is to receive it.' });
    if (step.do === 'post') for (const name of fieldsIn(step.text)) if (!fieldsOf(when.on).includes(name)) out.push({ step: n, message: `There is no {{ ${name} }} here.`, advice: `What starts this routine brings ${fieldsOf(when.on).join(', ')}.` });
    if (step.do === 'next' && step.when !== '' && readFollowing(step.when, '2026-01-05') === null) out.push({ step: n, message: `“${step.when}” names no day.`, advice: 'Type it as it follows from the meeting: a week later at 10:00.' });
    if (step.do === 'ask' && step.question.length < 5) out.push({ step: n, message: 'Asking needs a question.', advice: 'Type one, such as “what is late?”.' });
    if (step.do === 'ask' && step.to.length === 0) out.push({ step: n, message: 'The answer goes to nobody.', advice: 'Choose who gets it.' });
  });
  return out;
}

const ALWAYS = ['routine.name', 'project.name', 'today'];
const BROUGHT: Readonly<Record<'meeting' | 'commitment' | 'answer', readonly string[]>> = {
  meeting: ['meeting.title', 'meeting.date', 'meeting.link'],
  commitment: ['commitment.ref', 'commitment.text', 'commitment.owner', 'commitment.due', 'commitment.link'],
  answer: ['answer.from', 'answer.subject', 'answer.words'],
};

/** What a text may speak of, by what starts the routine: names that stand in double braces. */
export const fieldsOf = (on: When['on']): readonly string[] => [...(HAS_MEETING.has(on) ? BROUGHT.meeting : on === 'late' ? BROUGHT.commitment : on === 'answer' ? BROUGHT.answer : []), ...ALWAYS];

const fieldsIn = (text: string): string[] => [...text.matchAll(/\{\{\s{0,9}([\w.]{1,60})/g)].map((m) => m[1]!);

/** Names of folders below the one everything is put into; none leads out of it. */
export const isFolder = (text: string): boolean => text.split('/').every((part) => /^[\p{L}\p{N}](?:[\p{L}\p{N} ._-]{0,60}[\p{L}\p{N}_-])?$/u.test(part));

/** What a step is called where one word must do. */
export const NAMES: Readonly<Record<StepKind, string>> = {
  sift: 'Sifting',
  wait: 'Waiting',
  take: 'Taking finds',
  'round-up': 'The round-up',
  letters: 'Planned letters',
  post: 'Posting to chat',
  minutes: 'Minutes',
  file: 'Writing a file',
  hook: 'Sending to an address',
  next: 'The next meeting',
  ask: 'Asking',
};
