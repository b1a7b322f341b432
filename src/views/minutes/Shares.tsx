import { useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { Share } from '../../server/meetings/shares.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

interface Props {
  meeting: number;
  /** the last issued version; null where the meeting itself is shared */
  version: number | null;
  start: readonly Share[];
  today: string;
  say(said: Said): void;
}

/** Links by which others read issued minutes, or what came of a meeting: made, counted, taken back. */
export function Shares({ meeting, version, start, today, say }: Props) {
  const [all, setShares] = useState(start);
  const shares = all.filter((s) => (s.version === null) === (version === null));
  const [typed, setTyped] = useState<{ days: string; passcode: string } | null>(null);
  const [link, setLink] = useState<string | null>(null);
  const ask = async (body: unknown, head: string) => {
    try {
      const got = await post<{ shares: Share[]; link: string | null }>(`/api/meetings/${meeting}/shares`, body);
      setShares(got.shares);
      setLink(got.link);
      setTyped(null);
      say({ head });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  return (
    <section aria-label="Shared">
      <h2 className="lh">
        Shared <span>by link</span>
      </h2>
      {link && (
        <p>
          Send this link; it is shown this once: <b className="share-link">{link}</b>
        </p>
      )}
      <ul>
        {shares.map((s) => (
          <li key={s.id} className={s.stands === 'open' ? '' : 'moss'}>
            {s.version === null ? 'What came of it' : `Version ${s.version}`}, {s.stands === 'open' ? `until ${shortDay(s.until, today)}` : s.stands}, opened {s.opened} {s.opened === 1 ? 'time' : 'times'}
            {s.passcode ? ', with a passcode' : ''}{' '}
            {s.stands === 'open' && (
              <button type="button" className="may" onClick={() => void ask({ do: 'revoke', share: s.id }, 'The link is taken back.')}>
                Take back
              </button>
            )}
          </li>
        ))}
      </ul>
      {typed ? (
        <form
          className="share"
          onSubmit={(e) => {
            e.preventDefault();
            void ask({ do: 'share', version, days: Number(typed.days), passcode: typed.passcode }, 'A link was made.');
          }}
          onKeyDown={(e) => e.key === 'Escape' && setTyped(null)}
        >
          <label>
            Days it is open
            {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
            <input autoFocus required inputMode="numeric" value={typed.days} onChange={(e) => setTyped({ ...typed, days: e.target.value.replace(/\D/g, '').slice(0, 3) })} />
          </label>
          <label>
            Passcode, if any
            <input value={typed.passcode} maxLength={100} autoComplete="off" onChange={(e) => setTyped({ ...typed, passcode: e.target.value })} />
          </label>
          <p className="acts">
            <button type="submit" className="do">
              Make the link <kbd>Enter</kbd>
            </button>
          </p>
        </form>
      ) : (
        <p className="acts">
          <button type="button" className="may" onClick={() => setTyped({ days: '14', passcode: '' })}>
            {version === null ? 'Share what came of it by a link' : `Share version ${version} by a link`}
          </button>
        </p>
      )}
    </section>
  );
}
