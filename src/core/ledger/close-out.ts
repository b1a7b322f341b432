import { shortDay } from '../language/days.ts';
import { trimEnd } from '../language/trim.ts';

/** What somebody does in the evening with a thing that is still open. */
export type Choice = { what: 'tomorrow' | 'backlog' | 'leave' } | { what: 'until'; day: string };

export interface CloseOutInput {
  day: string;
  done: readonly { ref: string; text: string; owner: string }[];
  /** what was due or late, and what was chosen for it */
  rest: readonly { ref: string; text: string; owner: string; choice: Choice }[];
  firstThing: string;
}

/** A summary of the day as text that can be sent or kept. */
export function closeOutSummary({ day, done, rest, firstThing }: CloseOutInput): string {
  const line = (i: { ref: string; text: string; owner: string }) => `- ${i.ref}  ${trimEnd(i.text, '.')}${i.owner ? ` (${i.owner})` : ''}`;
  const chosen = (c: Choice) => (c.what === 'until' ? `put off to ${shortDay(c.day)}` : c.what === 'tomorrow' ? 'tomorrow' : c.what === 'backlog' ? 'in the backlog' : 'stays as it is');
  const parts = [shortDay(day), done.length ? `Done\n${done.map(line).join('\n')}` : 'Nothing was done today.', ...(rest.length ? [`Still open\n${rest.map((r) => `${line(r)}: ${chosen(r.choice)}`).join('\n')}`] : []), ...(firstThing.trim() ? [`First thing tomorrow\n- ${firstThing.trim()}`] : [])];
  return `${parts.join('\n\n')}\n`;
}
