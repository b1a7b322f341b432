import { useState } from 'react';
import { addDays } from '../../core/dates/calendar.ts';
import { shortDay } from '../../core/language/days.ts';
import type { Keeping } from '../../server/records/retention.ts';
import { post, Refused } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';

/** At the foot of a record: how long its words are kept, and how people were told that it is taken. */
export function KeepingLine({ keeping: given, today }: { keeping: Keeping; today: string }) {
  const [k, setK] = useState(given);
  const [editing, setEditing] = useState<'until' | 'told' | null>(null);
  const [wrong, setWrong] = useState('');
  const change = async (body: object) => {
    setEditing(null);
    try {
      setK(await post<Keeping>(`/api/records/${k.record}/keeping`, body));
      setWrong('');
    } catch (error) {
      setWrong(error instanceof Refused ? error.message : 'Something went wrong.');
    }
  };
  return (
    <div className="keeping">
      {k.goneOn ? (
        <p>
          <b>The words of this record went on {shortDay(k.goneOn, today)}.</b> What was taken from it keeps its quotes.
        </p>
      ) : (
        <p>
          Kept{' '}
          {editing === 'until' ? (
            <DateField value={k.until} context={{ date: today, next: null }} today={today} label="Kept until" onKeep={(day) => void change(day ? { do: 'until', day } : { do: 'for good' })} onLeave={() => setEditing(null)} />
          ) : (
            <button type="button" className="set" onClick={() => setEditing('until')}>
              {k.until ? `until ${shortDay(k.until, today)}` : 'for good'}
            </button>
          )}
          ; then its words go and the quotes stay.{' '}
          {k.until && (
            <>
              <button type="button" className="may line" onClick={() => void change({ do: 'until', day: addDays(k.until!, 60) })}>
                60 days longer
              </button>{' '}
              <button type="button" className="may line" onClick={() => void change({ do: 'for good' })}>
                for good
              </button>
            </>
          )}
        </p>
      )}
      <p>
        {editing === 'told' ? (
          <span className="typed">
            <input
              // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
              autoFocus
              aria-label="How people were told"
              defaultValue={k.told ?? ''}
              placeholder="said at the start of the call, 5 March"
              onKeyDown={(e) => {
                const how = (e.target as HTMLInputElement).value.trim();
                if (e.key === 'Enter' && how) void change({ do: 'told', how });
                if (e.key === 'Escape') setEditing(null);
              }}
            />
          </span>
        ) : (
          <button type="button" className={k.told ? 'set' : 'set soon'} onClick={() => setEditing('told')}>
            {k.told ? `People were told: ${k.told}` : 'It is not noted how people were told that a record is taken'}
          </button>
        )}
      </p>
      {wrong && <p className="late">{wrong}</p>}
      {k.history.length > 0 && <p className="moss n12">{k.history.map((h) => `${shortDay(h.on, today)}: ${h.kind}${h.note && h.kind !== 'told' ? ` ${/^\d{4}-/.test(h.note) ? shortDay(h.note, today) : h.note}` : ''}${h.by ? `, ${h.by}` : ''}`).join('; ')}</p>}
    </div>
  );
}
