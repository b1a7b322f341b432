import { useEffect, useReducer, useRef, useState } from 'react';
import type { Worded } from '../../server/find/worded.ts';
import type { FindShown } from '../../server/pages/find.ts';
import { get, post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { AnswerPart } from './AnswerPart.tsx';
import { answerAsText, findReducer, placesOf, withFilter, withoutFilters } from './find-state.ts';
import { Narrow } from './Narrow.tsx';
import { Places } from './Places.tsx';

/** Nobody types faster than this between two words they mean. */
const PAUSE = 140;
const BEFORE = 'ottik asked before';

/** One field over everything: what is typed is looked for, what is asked is answered. */
export default function FindView({ first, day }: { first: FindShown; day: string }) {
  const [state, tell] = useReducer(findReducer, { typed: first.q, shown: first, at: -1, busy: false });
  const [said, setSaid] = useState<Said | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const before = useAskedBefore(state.shown);
  const { typed, shown, at, busy } = state;
  const places = placesOf(shown);
  const answered = shown.answered !== null && shown.answered !== 'unread' ? shown.answered : null;

  const look = async (q: string, more: { typing?: boolean; order?: string; open?: string } = {}) => {
    const asked = new URLSearchParams({ q, order: more.order ?? shown.order, ...(more.typing ? { typing: '1' } : {}), ...(more.open ? { open: more.open } : {}) });
    try {
      const came = await get<FindShown>(`/api/find?${asked}`);
      tell({ do: 'came', shown: came });
      history.replaceState(null, '', q.trim() ? `/find?q=${encodeURIComponent(q.trim())}` : '/find');
    } catch (error) {
      tell({ do: 'failed' });
      setSaid(wentWrong(error));
    }
  };
  const timer = useRef(0);
  const type = (text: string, at = PAUSE) => {
    tell({ do: 'type', text });
    setSaid(null);
    clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void look(text, { typing: true }), at);
  };
  const now = (text: string) => {
    tell({ do: 'type', text });
    clearTimeout(timer.current);
    void look(text);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: another place is looked at
  useEffect(() => {
    document.querySelector('[data-place=on]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const [worded, setWorded] = useState<Worded | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other words were asked
  useEffect(() => setWorded(null), [shown.q]);
  const word = async () => {
    if (!shown.model || !answered?.answer.lines.length) return;
    if (worded) return setWorded(null);
    const { q } = shown;
    setSaid({ head: `Asking ${shown.model.model}`, rest: shown.model.host });
    try {
      const came = await post<Worded>('/api/find/worded', { q });
      setWorded(came);
      setSaid(null);
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const again = useRef(look);
  again.current = look;
  useEffect(() => {
    // what is still being read in shows by itself
    if (shown.behind === 0 || shown.q === '') return;
    const soon = window.setTimeout(() => void again.current(shown.q), 1000);
    return () => clearTimeout(soon);
  }, [shown]);
  const copy = async () => {
    if (!answered) return;
    try {
      await navigator.clipboard.writeText(
        answerAsText(
          shown.q,
          answered.answer,
          location.origin,
          answered.answer.sources.map((s) => s.href),
        ),
      );
      setSaid({ head: 'Answer copied', rest: 'with its sources' });
    } catch {
      setSaid({ head: 'Your browser does not let Ottik copy.', rest: 'Select the answer and copy it by hand.', bad: true });
    }
  };
  const subject = answered?.about || (shown.answered === null ? withoutFilters(shown.lookedFor ?? shown.q) : '');
  const dossier = () => subject && location.assign(`/find/dossier.docx?about=${encodeURIComponent(subject)}`);
  const order = shown.order === 'best' ? 'newest' : 'best';

  return (
    <>
      <div className="asking">
        <p className="fig">
          {day}
          <b>Find</b>
        </p>
        <h1 className="vh">Find</h1>
        <label>
          <span className="vh">Search or ask</span>
          <input
            ref={field}
            value={typed}
            placeholder="Search, or ask a question"
            // biome-ignore lint/a11y/noAutofocus: the page is its field
            autoFocus={first.q === ''}
            autoComplete="off"
            spellCheck={false}
            maxLength={300}
            onChange={(e) => type(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') now(typed);
              if (e.key === 'Escape' || e.key === 'ArrowDown') {
                (e.target as HTMLElement).blur();
                if (e.key === 'ArrowDown') tell({ do: 'step', by: 1 });
              }
            }}
          />
        </label>
        {typed && (
          <button
            type="button"
            className="may"
            onClick={() => {
              now('');
              field.current?.focus();
            }}
          >
            Clear
          </button>
        )}
      </div>
      <ReadAs shown={shown} busy={busy} onType={now} />
      {answered && (answered.answer.lines.length > 0 || answered.answer.missing) && <AnswerPart answered={answered} worded={worded} today={shown.today} />}
      {answered && (
        <p className="offers">
          <button type="button" className="may" onClick={() => void copy()}>
            Copy the answer with its sources <kbd>C</kbd>
          </button>
          {shown.model && answered.answer.lines.length > 0 && (
            <button type="button" className="may" title={`The question and its answer go to ${shown.model.host}`} onClick={() => void word()}>
              {worded ? 'Ottik’s own words' : `Have ${shown.model.model} word it`} <kbd>W</kbd>
            </button>
          )}
          {subject && <DossierLinks about={subject} />}
        </p>
      )}
      {shown.answered === 'unread' && <Unread examples={shown.examples} onTry={(text) => type(text, 0)} />}
      {shown.found && (
        <div className="found">
          <div>
            {shown.found.groups.length === 0 && <p className="none moss">{answered ? 'No words beside it.' : 'Nothing found. Try fewer words, or only the beginning of one.'}</p>}
            <Places groups={shown.found.groups} today={shown.today} at={at} onAt={(place) => tell({ do: 'at', place })} onUnfold={(open) => void look(typed, { open })} />
            {shown.found.moreGroups > 0 && <p className="none moss">In {shown.found.moreGroups} more meetings and letters. Add a word or a filter to see them.</p>}
          </div>
          {shown.found.total > 0 && (
            <div>
              <Narrow found={shown.found} typed={typed} order={shown.order} onFilter={(key, value) => now(withFilter(answered ? (shown.lookedFor ?? typed) : typed, key, value))} onOrder={() => void look(typed, { order })} />
              {!answered && subject && (
                <p className="offers">
                  <DossierLinks about={subject} />
                </p>
              )}
            </div>
          )}
        </div>
      )}
      {shown.q === '' && <Empty examples={shown.examples} before={before} onAsk={now} />}
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next place', line: 'Next', run: () => tell({ do: 'step', by: 1 }) },
          { key: 'k', does: 'the place before', run: () => tell({ do: 'step', by: -1 }) },
          { key: 'Enter', does: 'open the place', line: 'Open', run: () => places[at] && location.assign(places[at].href) },
          { key: 'f', does: 'type into the field', line: 'Field', run: () => field.current?.select() },
          { key: 'n', does: 'newest first, or best first', run: () => void look(typed, { order }) },
          { key: 'c', does: 'copy the answer with its sources', run: () => void copy() },
          ...(shown.model ? [{ key: 'w', does: `have ${shown.model.model} word the answer, and back to Ottik’s own words`, run: () => void word() }] : []),
          { key: 'm', does: 'make a dossier as a Word file', ...(subject ? { line: 'Dossier' } : {}), run: () => void dossier() },
          ...[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => ({ key: String(n), does: `open source ${n} of the answer`, run: () => answered?.answer.sources[n - 1] && location.assign(answered.answer.sources[n - 1]!.href) })),
        ]}
      />
    </>
  );
}

/** How what was typed was understood, and what was put right in it. */
function ReadAs({ shown, busy, onType }: { shown: FindShown; busy: boolean; onType(text: string): void }) {
  const answered = shown.answered !== null && shown.answered !== 'unread' ? shown.answered : null;
  const meant = [...(answered?.meant ?? []), ...(shown.found?.meant ?? [])].filter((m, i, all) => all.findIndex((o) => o.typed === m.typed) === i);
  const wrong = shown.found?.wrong ?? [];
  return (
    <div className="say" aria-live="polite">
      <span className="fl moss">{answered ? 'Read as' : ''}</span>
      <span className="sentence">
        {answered && <b>{answered.readAs}</b>}
        {!answered && shown.found && <>{shown.found.loosened ? 'No place has all of these words; these have some of them' : shown.answered === 'unread' ? 'Places with the words of your question' : 'Everything you may see'}</>}
        {!answered && !shown.found && <>Everything said, written, decided, promised, sent and jotted</>}
        {meant.map((m) => (
          <span key={m.typed}>
            ; <s>{m.typed}</s> read as{' '}
            <button type="button" className="set" onClick={() => onType(shown.q.replace(m.typed, m.taken))}>
              {m.taken}
            </button>
          </span>
        ))}
        {wrong.map((w) => (
          <span key={w} className="warn">
            ; {w}
          </span>
        ))}
      </span>
      <span className="end">{busy ? 'looking …' : shown.behind ? `${shown.behind} ${shown.behind === 1 ? 'record or letter is' : 'records and letters are'} still being added` : ''}</span>
    </div>
  );
}

const FORMATS = ['docx', 'pdf', 'html', 'md'] as const;

function DossierLinks({ about }: { about: string }) {
  return (
    <span className="dossier">
      Dossier on {about}:{' '}
      {FORMATS.map((f) => (
        <a key={f} className="may line" href={`/find/dossier.${f}?about=${encodeURIComponent(about)}`} download>
          {f === 'docx' ? 'Word' : f === 'md' ? 'Markdown' : f.toUpperCase()}
        </a>
      ))}
    </span>
  );
}

function Unread({ examples, onTry }: { examples: readonly string[]; onTry(text: string): void }) {
  return (
    <section className="unread">
      <h2>Ottik does not understand this question</h2>
      <p className="moss">It answers questions like these; the places below have the words of yours.</p>
      <Questions examples={examples} onAsk={onTry} />
    </section>
  );
}

function Questions({ examples, onAsk }: { examples: readonly string[]; onAsk(text: string): void }) {
  return (
    <ul className="questions">
      {examples.map((e) => (
        <li key={e}>
          <button type="button" className="set" onClick={() => (e.includes('…') ? begin(e) : onAsk(e))}>
            {e}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Puts a question with a gap into the field, with the gap selected. */
function begin(example: string): void {
  const field = document.querySelector<HTMLInputElement>('.asking input');
  if (!field) return;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
  set.call(field, example);
  field.dispatchEvent(new Event('input', { bubbles: true }));
  field.focus();
  const at = example.indexOf('…');
  field.setSelectionRange(at, at + 1);
}

function Empty({ examples, before, onAsk }: { examples: readonly string[]; before: readonly string[]; onAsk(text: string): void }) {
  return (
    <section className="beginning">
      {before.length > 0 && (
        <>
          <h2>Asked before</h2>
          <ul className="questions">
            {before.map((q) => (
              <li key={q}>
                <button type="button" className="set" onClick={() => onAsk(q)}>
                  {q}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      <h2>Questions Ottik answers</h2>
      <Questions examples={examples} onAsk={onAsk} />
      <h2>Ways to search</h2>
      <dl className="ways">
        {[
          ['"dry corner"', 'these words, one after the other'],
          ['plinth near rain', 'both, close together'],
          ['transf*', 'words that begin like this'],
          ['berth or quay', 'one of them is enough'],
          ['diesel -hoist', 'the first without the second'],
          ['who:bram since:"1 march"', 'also in: kind: when: before: project:'],
        ].map(([typed, means]) => (
          <div key={typed}>
            <dt>
              <button type="button" className="set" onClick={() => onAsk(typed!)}>
                {typed}
              </button>
            </dt>
            <dd>{means}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

const MOST = 6;

/** The last questions that were answered, kept in this browser and nowhere else. */
function useAskedBefore(shown: FindShown): string[] {
  const [before, setBefore] = useState<string[]>([]);
  useEffect(() => {
    const read = () => {
      try {
        const kept: unknown = JSON.parse(localStorage.getItem(BEFORE) ?? '[]');
        return Array.isArray(kept) ? kept.filter((q): q is string => typeof q === 'string').slice(0, MOST) : [];
      } catch {
        return [];
      }
    };
    const asked = shown.answered !== null && shown.answered !== 'unread' ? shown.q : null;
    const all = asked ? [asked, ...read().filter((q) => !asked.startsWith(q) && q !== asked)].slice(0, MOST) : read();
    if (asked) localStorage.setItem(BEFORE, JSON.stringify(all));
    setBefore(all);
  }, [shown]);
  return before;
}
