import type { LiveState } from './live-state.ts';
import { spokenOf } from './live-state.ts';

/** What a key does on the page of a meeting that is held. */
export type LiveAct = 'begin' | 'vote' | 'note' | 'next' | 'tick' | 'read' | 'end' | 'forward' | 'back' | 'done' | 'move' | 'hand over' | 'still on it' | 'drop' | 'wait' | 'leave';

export interface LiveKey {
  key: string;
  does: string;
  line?: string;
  act: LiveAct;
}

/** The keys that do something as the meeting stands. */
export function liveKeys(state: LiveState, open: boolean): LiveKey[] {
  if (state.room.state === 'before') return [{ key: 'b', does: 'begin the meeting', line: 'Begin', act: 'begin' }];
  if (state.room.state === 'over') return [];
  if (open) return [{ key: 'Escape', does: 'leave it as it is', line: 'Leave', act: 'leave' }];
  const row = spokenOf(state);
  return [
    { key: 'n', does: 'write a line', line: 'Note', act: 'note' },
    { key: '.', does: 'on to the next point', line: 'Next point', act: 'next' },
    { key: 't', does: 'tick the point off, or take the tick away', line: 'Tick', act: 'tick' },
    { key: 'r', does: state.reading ? 'close the read-back' : 'read back what was written', line: state.reading ? 'Close read-back' : 'Read back', act: 'read' },
    ...(state.room.votes.some((v) => !v.closed) ? [] : [{ key: 'v', does: 'put something to the vote', act: 'vote' as const }]),
    ...(row
      ? ([
          { key: 'j', does: 'the next commitment of before', act: 'forward' },
          { key: 'k', does: 'the one before', act: 'back' },
          { key: 'd', does: `${row.ref} is done`, act: 'done' },
          { key: 's', does: `still on ${row.ref}`, act: 'still on it' },
          { key: 'm', does: `${row.ref} moves to another day`, act: 'move' },
          { key: 'o', does: `${row.ref} goes to somebody else`, act: 'hand over' },
          { key: 'w', does: `${row.ref} waits`, act: 'wait' },
          { key: 'x', does: `drop ${row.ref}`, act: 'drop' },
        ] as const)
      : []),
    ...(state.reading ? [{ key: 'e', does: 'end the meeting: its lines become its record, what is confirmed is taken', line: 'End', act: 'end' as const }] : []),
  ];
}
