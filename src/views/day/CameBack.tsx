import { useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import type { KeptAnswer, Reply } from '../../server/letters/replies.ts';
import { post, Refused } from '../parts/api.ts';
import { ANSWERED } from '../post/entries.ts';

/** Replies shown on the Day sheet; the rest stand in Post. */
const SHOWN = 6;
/** Kinds of answers that are an event of a commitment and can be taken as they stand. */
const TAKEN_AS_IS: ReadonlySet<KeptAnswer['kind']> = new Set(['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress', 'confirmed']);

/** What a commitment was and would be, in a few words. */
export function beforeAndAfter(a: KeptAnswer, today: string, names: Readonly<Record<string, string>>): { was: string; now: string } {
  const who = (ids: readonly string[]) => listOf(ids.map((id) => names[id] ?? id.replace(/^new:/, ''))) || 'nobody';
  if (a.verdict !== 'open') return { was: '', now: a.kind === 'moved' && a.due ? shortDay(a.due, today) : (ANSWERED[a.kind] ?? a.kind) };
  const due = a.was?.due ? shortDay(a.was.due, today) : 'no date';
  if (a.kind === 'moved') return { was: due, now: a.due ? shortDay(a.due, today) : 'no date' };
  if (a.kind === 'reassigned') return { was: who(a.was?.owner ?? []), now: who(a.owner ?? []) };
  return { was: a.was ? `${a.was.state === 'blocked' ? 'waiting' : a.was.state}, ${due}` : '', now: ANSWERED[a.kind] ?? a.kind };
}

/** Answers that came back, on the Day sheet: each with its words, before and after, to be taken or passed where it stands. */
export default function CameBack({ replies: given, today, names }: { replies: Reply[]; today: string; names: Record<string, string> }) {
  const [replies, setReplies] = useState(given);
  const [said, setSaid] = useState<{ answer: number; words: string } | null>(null);
  const [wrong, setWrong] = useState('');
  const settle = async (answer: number, what: 'take' | 'pass' | 'reopen') => {
    try {
      const now = await post<Reply>(`/api/answers/${answer}`, { do: what });
      setReplies((all) => all.map((r) => (r.id === now.id ? now : r)));
      setSaid(what === 'reopen' ? null : { answer, words: what === 'take' ? 'Taken' : 'Passed' });
      setWrong('');
    } catch (error) {
      setWrong(error instanceof Refused ? `${error.message} ${error.advice ?? ''}` : 'Something went wrong in this page.');
    }
  };
  const waiting = replies.filter((r) => r.nature === 'unmatched' || r.answers.some((a) => a.verdict === 'open' || a.id === said?.answer));
  const left = replies.filter((r) => r.nature === 'unmatched' || r.answers.some((a) => a.verdict === 'open')).length;
  if (waiting.length === 0) return null;
  return (
    <>
      <h2 className="lh">
        Came back<span>{left}</span>
      </h2>
      {wrong && (
        <p className="late" role="alert">
          {wrong}
        </p>
      )}
      <ul>
        {waiting.slice(0, SHOWN).map((r) => (
          <li key={r.id} className="back">
            <p>
              <b>{r.from}</b> <span className="said">{r.words.replace(/\s+/g, ' ').slice(0, 160)}</span>
            </p>
            {r.nature === 'unmatched' && (
              <p>
                <a className="may line" href="/post">
                  It belongs to no letter: look at it in Post
                </a>
              </p>
            )}
            {r.answers
              .filter((a) => a.verdict === 'open' || a.id === said?.answer)
              .map((a) => {
                const { was, now } = beforeAndAfter(a, today, names);
                return (
                  <div key={a.id} className="ba">
                    {a.ref ? (
                      <a className="ref" href={`/ledger/${a.ref}`} title={a.text}>
                        {a.ref}
                      </a>
                    ) : (
                      <span className="ref" />
                    )}
                    <span className="w">
                      {was && (
                        <>
                          <s>{was}</s> →{' '}
                        </>
                      )}
                      <b>{now}</b>
                      {!a.sure && a.verdict === 'open' && <span className="soon"> look closely</span>}
                    </span>
                    {a.verdict === 'open' ? (
                      <span className="acts">
                        {TAKEN_AS_IS.has(a.kind) ? (
                          <button type="button" className="may line" onClick={() => void settle(a.id, 'take')}>
                            Take
                          </button>
                        ) : (
                          <a className="may line" href="/post">
                            In Post
                          </a>
                        )}
                        <button type="button" className="may line" onClick={() => void settle(a.id, 'pass')}>
                          Pass
                        </button>
                      </span>
                    ) : (
                      <span className="acts" role="status">
                        <span className="moss">{said?.words}</span>
                        <button type="button" className="may line" onClick={() => void settle(a.id, 'reopen')}>
                          Undo
                        </button>
                      </span>
                    )}
                  </div>
                );
              })}
          </li>
        ))}
      </ul>
      {waiting.length > SHOWN && (
        <p className="more">
          <a className="may line" href="/post">
            {waiting.length - SHOWN} more in Post
          </a>
        </p>
      )}
    </>
  );
}
