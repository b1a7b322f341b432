import { shortDay } from '../../core/language/days.ts';
import type { EventKind } from '../../core/ledger/events.ts';
import type { WeaveRow } from '../../core/ledger/weave.ts';
import type { KnotWords } from '../../server/pages/weave.ts';

/** What a knot stands for, in a word or two. */
export const TOLD: Partial<Record<EventKind, string>> = { merged: 'merged', made: 'made', restated: 'said again', moved: 'moved', 'handed over': 'handed over', blocked: 'waiting', done: 'done', dropped: 'dropped', reopened: 'reopened', reworded: 'reworded', written: 'written about', answered: 'answered' };

export function Words({ words, row, left, top, flip }: { words: KnotWords; row: WeaveRow; left: number; top: number; flip: boolean }) {
  return (
    <aside className="knot-words" style={{ left, ...(flip ? { bottom: `calc(100% - ${top - 34}px)` } : { top }) }} role="status">
      <p>
        <b>{words.voice ?? words.by}</b> {TOLD[words.kind] ?? words.kind}, {shortDay(words.on)}
        {words.due && <span className="moss"> for {shortDay(words.due)}</span>}
      </p>
      {words.text ? <p className="said">{words.text}</p> : <p className="moss">By hand, in Ottik.</p>}
      <p className="acts">
        {words.href && (
          <a className="may" href={words.href}>
            Read it in the record <kbd>R</kbd>
          </a>
        )}
        <a className="may" href={`/ledger/${row.ref}`}>
          Trail <kbd>T</kbd>
        </a>
      </p>
    </aside>
  );
}
