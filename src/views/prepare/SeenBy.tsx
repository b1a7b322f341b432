import { useState } from 'react';
import { listOf } from '../../core/language/days.ts';
import type { Visibility } from '../../core/people/rights.ts';
import type { Change } from '../../server/meetings/visibility.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

const WORDS: Record<Visibility, string> = { project: 'everybody in the project', attendees: 'those who are asked to it, and nobody else' };

/** Who sees a meeting and all that comes from it. Before it is changed, it says who gains or loses sight of it. */
export function useSeenBy(meeting: number, start: Visibility, say: (said: Said) => void) {
  const [now, setNow] = useState(start);
  const [would, setWould] = useState<Change | null>(null);
  const other: Visibility = now === 'project' ? 'attendees' : 'project';
  const ask = (visibility: Visibility, only?: 'look') => post<Change>(`/api/meetings/${meeting}/visibility`, { visibility, ...(only ? { only } : {}) });
  const look = () =>
    void ask(other, 'look').then(
      (change) => {
        setWould((was) => (was ? null : change));
        document.querySelector('.seen-by')?.scrollIntoView({ block: 'center' });
      },
      (error: unknown) => say(wentWrong(error)),
    );
  const keep = async (visibility: Visibility) => {
    try {
      const before = now;
      const { now: kept } = await ask(visibility);
      setNow(kept);
      setWould(null);
      say({ head: 'Changed', rest: `it is seen by ${WORDS[kept]}`, undo: () => void keep(before) });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  return { now, other, would, look, keep, leave: () => setWould(null) };
}

export function SeenBy({ now, other, would, look, keep, leave }: ReturnType<typeof useSeenBy>) {
  return (
    <section className="seen-by" aria-label="Seen by">
      <p>
        This meeting and all that comes from it is seen by {WORDS[now]}.{' '}
        <button type="button" className="may" onClick={look}>
          Change it <kbd>V</kbd>
        </button>
      </p>
      {would && (
        <p>
          Let it be seen by {WORDS[other]}? {would.lose.length > 0 && `${listOf(would.lose)} would lose sight of it.`} {would.gain.length > 0 && `${listOf(would.gain)} would see it.`} {would.lose.length + would.gain.length === 0 && 'Nobody would gain or lose sight of it today.'} What somebody holds themselves they see
          in any case.{' '}
          <button type="button" className="do" onClick={() => void keep(other)}>
            Do it
          </button>{' '}
          <button type="button" className="may" onClick={leave}>
            Leave it <kbd>Esc</kbd>
          </button>
        </p>
      )}
    </section>
  );
}
