import { listOf, shortDay } from '../../core/language/days.ts';
import type { MeetingChanged } from '../../server/meetings/series.ts';
import { post } from './api.ts';
import type { Said } from './Foot.tsx';

export type DayChange = { do: 'move'; when: string } | { do: 'cancel' } | { do: 'hold after all' };

/** Moves a meeting, cancels it, or holds it after all. */
export const changeDay = (meeting: number, change: DayChange): Promise<MeetingChanged> => post<MeetingChanged>(`/api/meetings/${meeting}/day`, change);

/** What takes a change back. */
export function backFrom(change: DayChange, { before }: MeetingChanged): DayChange {
  if (change.do === 'move') return { do: 'move', when: `${before.date}${before.time ? ` at ${before.time}` : ''}` };
  return { do: change.do === 'cancel' ? 'hold after all' : 'cancel' };
}

/** What is told of a change, with whom has to be told of it. */
export function dayTold(change: DayChange, now: MeetingChanged, today: string): Said {
  const day = `${shortDay(now.date, today)}${now.time ? ` at ${now.time}` : ''}`;
  const invited = now.invited.length ? `; ${listOf(now.invited.slice(0, 4))} ${now.invited.length > 1 ? 'have' : 'has'} the invitation as it was` : '';
  return { head: change.do === 'cancel' ? 'Cancelled' : change.do === 'move' ? 'Moved' : 'It is held after all', rest: (change.do === 'move' ? `to ${day}` : day) + invited };
}
