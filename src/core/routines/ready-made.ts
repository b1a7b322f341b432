import type { IsoDate } from '../dates/calendar.ts';
import { HAS_MEETING, type Routine, type Step, type StepKind, type When } from './routine.ts';

/** Routines to start from. Those that would mail go to whoever takes them up. */
export const readyMade = (me: string, today: IsoDate): readonly Routine[] => [
  {
    name: 'Round-up after every record',
    when: { on: 'record' },
    series: null,
    kind: 'any',
    how: 'by itself',
    steps: [{ do: 'sift' }, { do: 'wait', until: 'settled' }, { do: 'round-up', act: 'draft' }],
    pauses: 3,
  },
  {
    name: 'Minutes and round-up out',
    when: { on: 'record' },
    series: null,
    kind: 'any',
    how: 'offered',
    steps: [{ do: 'sift' }, { do: 'wait', until: 'settled' }, { do: 'minutes', act: 'issue' }, { do: 'wait', until: 'word' }, { do: 'round-up', act: 'send' }],
    pauses: 3,
  },
  { name: 'Take what is sure', when: { on: 'record' }, series: null, kind: 'any', how: 'offered', steps: [{ do: 'sift' }, { do: 'take', sure: 90 }], pauses: 3 },
  {
    name: 'File the minutes',
    when: { on: 'minutes' },
    series: null,
    kind: 'any',
    how: 'by itself',
    steps: [
      { do: 'file', what: 'minutes', format: 'pdf', folder: 'minutes' },
      { do: 'post', text: 'Minutes of {{ meeting.title }}, {{ meeting.date }}, are out.' },
    ],
    pauses: 3,
  },
  { name: 'Friday look at what is late', when: { on: 'time', text: 'every Friday at 10:00', from: today }, series: null, kind: 'any', how: 'by itself', steps: [{ do: 'ask', question: 'What is late?', to: [me] }], pauses: 3 },
  { name: 'Tell the chat what slips', when: { on: 'late', days: 3 }, series: null, kind: 'any', how: 'by itself', steps: [{ do: 'post', text: '{{ commitment.ref }} {{ commitment.text }} ({{ commitment.owner }}) was due {{ commitment.due }}.' }], pauses: 3 },
  { name: 'Say that an answer came', when: { on: 'answer' }, series: null, kind: 'any', how: 'by itself', steps: [{ do: 'post', text: '{{ answer.from }} answered: {{ answer.subject }}' }], pauses: 3 },
  { name: 'Set up the next one', when: { on: 'asked' }, series: null, kind: 'any', how: 'by itself', steps: [{ do: 'next', when: '' }], pauses: 3 },
];

/** A step as it begins when it is put into a routine. */
export function newStep(kind: StepKind, on: When['on'], me: string): Step {
  const withMeeting = HAS_MEETING.has(on);
  const steps: { [K in StepKind]: Extract<Step, { do: K }> } = {
    sift: { do: 'sift' },
    wait: { do: 'wait', until: 'settled' },
    take: { do: 'take', sure: 90 },
    'round-up': { do: 'round-up', act: 'draft' },
    letters: { do: 'letters' },
    post: { do: 'post', text: on === 'late' ? '{{ commitment.ref }} {{ commitment.text }} was due {{ commitment.due }}.' : on === 'answer' ? '{{ answer.from }} answered: {{ answer.subject }}' : on === 'time' ? '{{ project.name }}, {{ today }}' : '{{ meeting.title }}, {{ meeting.date }}' },
    minutes: { do: 'minutes', act: 'draft' },
    file: withMeeting ? { do: 'file', what: 'minutes', format: 'pdf', folder: 'minutes' } : { do: 'file', what: 'ledger', format: 'csv', folder: 'ledger' },
    hook: withMeeting ? { do: 'hook', what: 'minutes', format: 'md', url: '' } : { do: 'hook', what: 'ledger', format: 'json', url: '' },
    next: { do: 'next', when: '' },
    ask: { do: 'ask', question: 'What is late?', to: [me] },
  };
  return steps[kind];
}
