import { useEffect, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import type { Closing as Stand } from '../../server/meetings/closing.ts';
import type { Choice } from '../../server/people/people.ts';
import { get, post, wentWrong } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import type { Said } from '../parts/Foot.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';

interface Props {
  meeting: { id: number; date: string; next: string | null };
  finds: number;
  people: readonly Choice[];
  today: string;
  say(said: Said): void;
}

/** When every find is settled: what is still loose, to be given an owner and a date or a plain "no date"; then the close. */
export function Closing({ meeting, finds, people, today, say }: Props) {
  const [stand, setStand] = useState<Stand | null>(null);
  const [field, setField] = useState<{ id: number; what: 'owner' | 'due' } | null>(null);
  const load = () =>
    get<Stand>(`/api/meetings/${meeting.id}/closing`)
      .then(setStand)
      .catch(() => undefined);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the last find is settled
  useEffect(() => void load(), [meeting.id]);
  const attempt = async (run: () => Promise<unknown>) => {
    setField(null);
    try {
      await run();
      await load();
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const change = (id: number, body: object) => void attempt(() => post(`/api/commitments/${id}`, body));
  const close = (what: 'close' | 'open again') =>
    void attempt(async () => {
      await post(`/api/meetings/${meeting.id}/closing`, { do: what });
      say({ head: what === 'close' ? 'Closed' : 'Open again', rest: what === 'close' ? 'every find is settled and nothing is loose' : undefined });
    });
  if (!stand) return null;
  const loose = stand.loose;
  return (
    <aside className={`through${loose.length ? ' has-loose' : ''}`} aria-label="Close the meeting">
      {loose.length > 0 && (
        <>
          <p>
            <b>
              {loose.length} {loose.length === 1 ? 'commitment' : 'commitments'} of this meeting {loose.length === 1 ? 'is' : 'are'} loose.
            </b>{' '}
            Who, and by when?
          </p>
          <ul>
            {loose.map((r) => (
              <li key={r.id}>
                <a className="ref" href={`/ledger/${r.ref}`}>
                  {r.ref}
                </a>
                <span className="w">{r.text}</span>
                {field?.id === r.id && field.what === 'owner' ? (
                  <OwnerField value={r.owner.map((o) => o.id)} people={people} onKeep={(owner) => change(r.id, { do: 'hand over', owner })} onLeave={() => setField(null)} />
                ) : (
                  <button type="button" className={`set${r.owner.length ? '' : ' soon'}`} onClick={() => setField({ id: r.id, what: 'owner' })}>
                    {listOf(r.owner.map((o) => o.name)) || 'no owner'}
                  </button>
                )}
                {field?.id === r.id && field.what === 'due' ? (
                  <DateField value={r.due} context={meeting} today={today} label="Due date" onKeep={(due) => change(r.id, due ? { do: 'move', due } : { do: 'no date' })} onLeave={() => setField(null)} />
                ) : (
                  <button type="button" className={`set${r.due || r.undated ? '' : ' soon'}`} onClick={() => setField({ id: r.id, what: 'due' })}>
                    {r.due ? shortDay(r.due, today) : r.undated ? 'needs no date' : 'by when?'}
                  </button>
                )}
                {!r.due && !r.undated && (
                  <button type="button" className="may line" onClick={() => change(r.id, { do: 'no date' })}>
                    No date
                  </button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="acts">
        {loose.length === 0 && <span>{stand.closedAt ? 'This meeting is closed.' : `All ${finds} finds are settled${stand.left ? ' in this record' : ''}.`}</span>}
        {stand.closedAt ? (
          <button type="button" className="may line" onClick={() => close('open again')}>
            Open it again
          </button>
        ) : (
          <button type="button" className="may" disabled={loose.length > 0 || stand.left > 0} onClick={() => close('close')}>
            Close the meeting
          </button>
        )}
        <a className="do" href={`/meetings/${meeting.id}/follow-up`}>
          Write the round-up <kbd>F</kbd>
        </a>
      </p>
    </aside>
  );
}
