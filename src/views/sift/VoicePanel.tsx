import { useState } from 'react';
import type { Choice } from '../../server/people/people.ts';
import { post, Refused } from '../parts/api.ts';
import { OwnerField } from '../parts/OwnerField.tsx';

/** Which lines are meant. */
type Reach = 'all' | 'here' | 'on';

interface Props {
  record: number;
  /** the record's own name for the voice, and the line that was asked about */
  label: string;
  segment: number;
  /** segments of that turn, the last of them */
  last: number;
  person: string | null;
  people: readonly Choice[];
  onLeave(): void;
}

/** Who speaks: everything under a name, one turn of it, or it from there on. The record is sifted anew after it. */
export function VoicePanel({ record, label, segment, last, person, people, onLeave }: Props) {
  const [reach, setReach] = useState<Reach>('all');
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const say = async (who: string | null) => {
    setBusy(true);
    try {
      await post(`/api/records/${record}/voices`, reach === 'all' ? { do: 'voice', label, person: who } : { do: 'lines', from: segment, to: reach === 'here' ? last : null, person: who });
      location.reload();
    } catch (error) {
      setBusy(false);
      setWrong(error instanceof Refused ? `${error.message} ${error.advice ?? ''}` : 'Something went wrong.');
    }
  };
  const words: Record<Reach, string> = { all: `all of “${label}”`, here: 'only this', on: 'from here on' };
  return (
    <section className="voice-panel" aria-label={`Who speaks as ${label}`}>
      <p>
        <b>Who is this?</b>{' '}
        {(Object.keys(words) as Reach[]).map((r) => (
          <button key={r} type="button" className={r === reach ? 'on' : ''} aria-pressed={r === reach} onClick={() => setReach(r)}>
            {words[r]}
          </button>
        ))}
      </p>
      {busy ? (
        <p className="moss" role="status">
          Sifting anew
        </p>
      ) : (
        <OwnerField value={person ? [person] : []} people={people} onKeep={(owner) => void say(owner[0] ?? null)} onLeave={onLeave} />
      )}
      {wrong && <p className="late">{wrong}</p>}
    </section>
  );
}
