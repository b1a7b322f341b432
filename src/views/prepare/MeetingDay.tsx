import { useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import { MoveField } from '../parts/MoveField.tsx';
import { backFrom, changeDay, type DayChange, dayTold } from '../parts/meeting-day.ts';

export interface WhenItIs {
  date: string;
  time: string | null;
  cancelled: boolean;
}

/** On which day one meeting is held, and whether it is. */
export function useMeetingDay(meeting: number, start: WhenItIs, today: string, say: (said: Said) => void) {
  const [now, setNow] = useState(start);
  const [moving, setMoving] = useState(false);
  const change = async (wanted: DayChange, undoing = false) => {
    try {
      const got = await changeDay(meeting, wanted);
      setNow(got);
      setMoving(false);
      const told = dayTold(wanted, got, today);
      say(undoing ? { ...told, head: 'Taken back' } : { ...told, undo: () => void change(backFrom(wanted, got), true) });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  return { now, moving, setMoving, today, move: (when: string) => void change({ do: 'move', when }), turn: () => void change({ do: now.cancelled ? 'hold after all' : 'cancel' }) };
}

export function MeetingDay({ now, moving, setMoving, today, move, turn }: ReturnType<typeof useMeetingDay>) {
  return (
    <section className="seen-by" aria-label="When it is">
      <p>
        {now.cancelled ? 'Cancelled; it was to be on ' : 'It is on '}
        <b className="strong">
          {shortDay(now.date, today)}
          {now.time ? ` at ${now.time}` : ''}
        </b>
        .{' '}
        {moving ? (
          <MoveField onKeep={move} onLeave={() => setMoving(false)} />
        ) : (
          !now.cancelled && (
            <button type="button" className="may" onClick={() => setMoving(true)}>
              Move it <kbd>D</kbd>
            </button>
          )
        )}{' '}
        <button type="button" className="may" onClick={turn}>
          {now.cancelled ? 'Hold it after all' : 'Cancel it'} <kbd>X</kbd>
        </button>
      </p>
    </section>
  );
}
