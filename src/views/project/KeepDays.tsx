import { useState } from 'react';
import { post, Refused } from '../parts/api.ts';

/** How long a project keeps the words of its records, as a sentence that can be changed. */
export default function KeepDays({ project, days: given }: { project: string; days: number }) {
  const [days, setDays] = useState(given);
  const [typed, setTyped] = useState<string | null>(null);
  const [said, setSaid] = useState<{ words: string; bad: boolean } | null>(null);
  const keep = async (words: string) => {
    setTyped(null);
    const wanted = words.trim() === '' ? null : Number(words);
    try {
      const kept = await post<{ days: number }>('/api/keep-days', { project, days: wanted });
      setDays(kept.days);
      setSaid({ words: 'for records that are brought in from now on', bad: false });
    } catch (error) {
      setSaid({ words: error instanceof Refused ? error.message : 'Something went wrong in this page.', bad: true });
    }
  };
  return (
    <p className="moss" role="status">
      The words of a record are kept for{' '}
      {typed === null ? (
        <button type="button" className="set" onClick={() => setTyped(String(days))}>
          {days} days
        </button>
      ) : (
        <span className="typed">
          <input
            // biome-ignore lint/a11y/noAutofocus: the field opens because the number was chosen to be changed
            autoFocus
            aria-label="Days a record is kept"
            inputMode="numeric"
            value={typed}
            onFocus={(e) => e.target.select()}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') void keep(typed);
              if (e.key === 'Escape') setTyped(null);
            }}
          />
        </span>
      )}
      ; then its words go and the quotes stay. {said && <span className={said.bad ? 'late' : 'ok'}>{said.words}</span>}
    </p>
  );
}
