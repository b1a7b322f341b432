import { useEffect, useRef, useState } from 'react';
import { listOf } from '../../core/language/days.ts';
import type { CalendarRead, CalendarTaken, Fate } from '../../server/meetings/calendar-in.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

const FATES: Record<Fate, string> = { new: 'new', changed: 'changed since', 'called off': 'called off', 'here already': 'here already', past: 'past: left out', 'not held': 'called off: left out' };
/** So long after the last letter a text is read, in milliseconds. */
const PAUSE = 250;

/** Bringing in a calendar file or an invitation: read while it is pasted, taken when somebody says so. */
export function CalendarIn({ say, onTaken, onLeave }: { say(said: Said): void; onTaken(taken: CalendarTaken): void; onLeave(): void }) {
  const [text, setText] = useState('');
  const [read, setRead] = useState<CalendarRead | null>(null);
  const file = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!text.trim()) return setRead(null);
    let over = false;
    const timer = setTimeout(() => {
      post<CalendarRead>('/api/meetings/calendar', { do: 'read', text }).then(
        (now) => !over && setRead(now),
        (error: unknown) => say(wentWrong(error)),
      );
    }, PAUSE);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [text, say]);
  const fresh = read?.meetings.filter((m) => m.fate !== 'past' && m.fate !== 'not held' && m.fate !== 'here already').length ?? 0;
  const take = async () => {
    if (fresh === 0) return;
    try {
      onTaken(await post<CalendarTaken>('/api/meetings/calendar', { do: 'take', text }));
    } catch (error) {
      say(wentWrong(error));
    }
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void take();
      }}
      onKeyDown={(e) => e.key === 'Escape' && onLeave()}
    >
      <p className="acts">
        <button type="button" className="may" onClick={() => file.current?.click()}>
          Choose a calendar file
        </button>
        <input ref={file} type="file" hidden accept=".ics,text/calendar" onChange={(e) => void e.target.files?.[0]?.text().then(setText)} />
        <span className="moss">or paste an invitation (iCalendar)</span>
      </p>
      <label>
        Calendar
        {/* biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to paste into it */}
        <textarea autoFocus rows={5} value={text} placeholder="BEGIN:VCALENDAR" onChange={(e) => setText(e.target.value)} />
      </label>
      {read && (
        <ul className="coming-in" aria-label="What was read">
          {read.meetings.map((m, i) => (
            <li key={`${i}${m.title}`}>
              <b>{m.title}</b>
              <span>{m.when}</span>
              <span className="moss">{listOf(m.people.slice(0, 4))}</span>
              <span className={m.fate === 'new' || m.fate === 'changed' ? 'ok' : m.fate === 'called off' ? 'late' : 'moss'}>{FATES[m.fate]}</span>
            </li>
          ))}
          {read.doubts.map((d) => (
            <li key={d.title + d.why} className="soon">
              {d.title && `${d.title}: `}
              {d.why}
            </li>
          ))}
        </ul>
      )}
      <p className="acts">
        <button type="submit" className="do" disabled={fresh === 0}>
          {fresh === 1 ? 'Take it' : `Take ${fresh}`} <kbd>Enter</kbd>
        </button>
        <button type="button" className="may" onClick={onLeave}>
          Leave <kbd>Esc</kbd>
        </button>
      </p>
    </form>
  );
}
