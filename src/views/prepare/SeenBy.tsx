import { useState } from 'react';
import { listOf } from '../../core/language/days.ts';
import { VISIBILITIES, type Visibility } from '../../core/people/rights.ts';
import type { Change } from '../../server/meetings/visibility.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

const WORDS: Record<Visibility, string> = { attendees: 'those who are asked to it, and nobody else', project: 'everybody in the project', workspace: 'everybody who works in any project here' };

/** Who sees a meeting and all that comes from it. Before it is changed, it says who gains or loses sight of it. */
export function useSeenBy(meeting: number, start: Visibility, say: (said: Said) => void) {
  const [now, setNow] = useState(start);
  const [would, setWould] = useState<{ to: Visibility; change: Change }[] | null>(null);
  const ask = (visibility: Visibility, only?: 'look') => post<Change>(`/api/meetings/${meeting}/visibility`, { visibility, ...(only ? { only } : {}) });
  const look = () =>
    void Promise.all(VISIBILITIES.filter((v) => v !== now).map(async (to) => ({ to, change: await ask(to, 'look') }))).then(
      (changes) => {
        setWould((was) => (was ? null : changes));
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
  return { now, would, look, keep, leave: () => setWould(null) };
}

export function SeenBy({ now, would, look, keep, leave }: ReturnType<typeof useSeenBy>) {
  return (
    <section className="seen-by" aria-label="Seen by">
      <p>
        This meeting and all that comes from it is seen by {WORDS[now]}.{' '}
        <button type="button" className="may" onClick={look}>
          Change it <kbd>V</kbd>
        </button>
      </p>
      {would?.map(({ to, change }) => (
        <p key={to}>
          Let it be seen by {WORDS[to]}? {change.lose.length > 0 && `${listOf(change.lose)} would lose sight of it.`} {change.gain.length > 0 && `${listOf(change.gain)} would see it.`} {change.lose.length + change.gain.length === 0 && 'Nobody would gain or lose sight of it today.'}{' '}
          <button type="button" className="do" onClick={() => void keep(to)}>
            Do it
          </button>
        </p>
      ))}
      {would && (
        <p className="moss">
          What somebody holds themselves they see in any case.{' '}
          <button type="button" className="may" onClick={leave}>
            Leave it <kbd>Esc</kbd>
          </button>
        </p>
      )}
    </section>
  );
}
