import { useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { Choice } from '../../core/ledger/close-out.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { CloseOutProps } from '../../server/day/close-out.ts';
import { post, wentWrong } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';

const WORDS: [Choice['what'], string, string][] = [
  ['tomorrow', 'tomorrow', 't'],
  ['until', 'put off', 'p'],
  ['backlog', 'backlog', 'b'],
  ['leave', 'as it is', 'l'],
];

/** The evening: what was done, one key for each of the rest, tomorrow's first thing, and the day is closed. */
export default function CloseOutView({ today, tomorrow, done, rest, firstThing: pinned, closed: given }: CloseOutProps) {
  const [choices, setChoices] = useState<ReadonlyMap<number, Choice>>(new Map());
  const [at, setAt] = useState(0);
  const [dating, setDating] = useState(false);
  const [first, setFirst] = useState(pinned);
  const [closed, setClosed] = useState(given?.summary ?? null);
  const [said, setSaid] = useState<Said | null>(null);
  const current = rest[at];
  const left = rest.filter((r) => !choices.has(r.id)).length;
  const choose = (choice: Choice, on = current) => {
    if (!on || closed) return;
    setDating(false);
    setChoices((old) => new Map(old).set(on.id, choice));
    const after = rest.findIndex((r, i) => i > at && !choices.has(r.id) && r.id !== on.id);
    setAt(after >= 0 ? after : Math.min(rest.length - 1, at + 1));
  };
  const close = async () => {
    if (closed) return;
    try {
      const out = await post<{ summary: string; changed: number }>('/api/close-out', { choices: rest.filter((r) => choices.has(r.id)).map((r) => ({ id: r.id, choice: choices.get(r.id)! })), firstThing: first });
      setClosed(out.summary);
      setSaid({ head: 'The day is closed', rest: `${done.length} done, ${out.changed} put off` });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const copy = async () => {
    if (!closed) return;
    await navigator.clipboard.writeText(closed).then(
      () => setSaid({ head: 'Copied', rest: 'the summary of the day' }),
      () => setSaid({ head: 'It could not be copied', rest: 'mark the words and copy them', bad: true }),
    );
  };
  return (
    <>
      <div className="close-out">
        <section>
          <h2 className="lh">
            Done today<span>to the archive</span>
          </h2>
          <ul>
            {done.length === 0 && <li className="moss">Nothing yet.</li>}
            {done.map((d) => (
              <li key={d.id}>
                <a className="ref ok" href={`/ledger/${d.ref}`}>
                  {d.ref}
                </a>
                <span>{d.text}</span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2 className="lh">
            Still open<span>{closed ? '' : left === 0 ? 'all chosen' : `${left} left to choose`}</span>
          </h2>
          <ul>
            {rest.length === 0 && <li className="moss">Nothing was due today.</li>}
            {rest.map((r, i) => {
              const c = choices.get(r.id);
              return (
                <li key={r.id} className={`choice${i === at && !closed ? ' at' : ''}`} onClick={() => setAt(i)}>
                  <p>
                    <a className="ref" href={`/ledger/${r.ref}`}>
                      {r.ref}
                    </a>
                    <b>{r.text}</b>
                    <span className={r.due && r.due < today ? 'late' : 'soon'}>
                      {r.mine ? 'yours' : r.owner || 'nobody’s'}
                      {r.due && r.due < today ? `, ${relativeDay(r.due, today)}` : ''}
                    </span>
                  </p>
                  <p className="ways">
                    {WORDS.map(([what, words]) => (
                      <button
                        key={what}
                        type="button"
                        disabled={closed !== null}
                        aria-pressed={c?.what === what}
                        onClick={() => {
                          setAt(i);
                          if (what === 'until') setDating(true);
                          else choose({ what } as Choice, r);
                        }}
                      >
                        {what === 'until' && c?.what === 'until' ? `put off to ${shortDay(c.day)}` : words}
                      </button>
                    ))}
                  </p>
                  {i === at && dating && <DateField value={null} context={{ date: today, next: null }} today={today} label="Put off to" onKeep={(day) => (day && day > today ? choose({ what: 'until', day }, r) : setDating(false))} onLeave={() => setDating(false)} />}
                </li>
              );
            })}
          </ul>
        </section>
        <section>
          <h2 className="lh">
            First thing on {shortDay(tomorrow).split(' ')[0]}
            <span>on top of the day</span>
          </h2>
          {closed ? (
            <pre className="said">{closed}</pre>
          ) : (
            <textarea
              id="first"
              className="said"
              rows={3}
              maxLength={300}
              value={first}
              aria-label="First thing tomorrow"
              placeholder="What comes first tomorrow"
              onChange={(e) => setFirst(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === 'Escape' || (e.key === 'Enter' && !e.shiftKey)) {
                  e.preventDefault();
                  (e.target as HTMLElement).blur();
                }
              }}
            />
          )}
          <p className="acts">
            {closed ? (
              <button type="button" className="do" onClick={() => void copy()}>
                Copy the summary <kbd>C</kbd>
              </button>
            ) : (
              <button type="button" className="do" onClick={() => void close()}>
                Close the day <kbd>Enter</kbd>
              </button>
            )}
          </p>
        </section>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next', run: () => setAt(Math.min(rest.length - 1, at + 1)) },
          { key: 'k', does: 'the one before', run: () => setAt(Math.max(0, at - 1)) },
          { key: 't', does: 'tomorrow', line: 'Tomorrow', run: () => choose({ what: 'tomorrow' }) },
          { key: 'p', does: 'put off: type a day', line: 'Put off', run: () => current && setDating(true) },
          { key: 'b', does: 'into the backlog', line: 'Backlog', run: () => choose({ what: 'backlog' }) },
          { key: 'l', does: 'leave it as it is', line: 'Leave', run: () => choose({ what: 'leave' }) },
          { key: 'f', does: 'tomorrow’s first thing', line: 'First thing', run: () => document.getElementById('first')?.focus() },
          { key: 'Enter', does: 'close the day', run: () => void close() },
          { key: 'c', does: 'copy the summary', run: () => void copy() },
        ]}
      />
    </>
  );
}
