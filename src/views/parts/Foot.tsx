import { useRef } from 'react';
import { type Key, useKeys } from './keys.ts';

export interface Said {
  /** what changed, or what went wrong */
  head: string;
  rest?: string | undefined;
  bad?: boolean;
  undo?: (() => void) | undefined;
  /** another way that is offered, with a key of its own */
  or?: { key: string; label: string; run: () => void } | undefined;
}

/** The bottom line: the last change with its undo, and the keys of the page. `?` shows them all. */
export function Foot({ said, keys, margin }: { said: Said | null; keys: readonly Key[]; margin?: string }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const all: Key[] = [
    ...keys,
    ...(said?.or ? [{ key: said.or.key, does: said.or.label, run: said.or.run }] : []),
    // a page that keeps a history has a key of its own for it
    ...(keys.some((k) => k.key === 'z') ? [] : [{ key: 'z', does: 'undo the last change', run: () => said?.undo?.() }]),
    { key: '/', does: 'quick entry: jot something down, type a reference, ? to find or ask, run and a routine’s name, or paste a record', run: () => document.querySelector<HTMLInputElement>('.quick input')?.focus() },
    { key: '?', does: 'these keys', line: 'All keys', run: () => dialog.current?.showModal() },
  ];
  useKeys(all);
  return (
    <footer className="foot">
      <span className="mrule" aria-hidden="true" />
      {margin && <span className="m">{margin}</span>}
      <span className="l" role="status">
        {said && (
          <>
            <b className={said.bad ? 'bad' : 'strong'}>{said.head}</b>
            {said.rest && <span className="moss">{said.rest}</span>}
            {said.or && (
              <button type="button" className="undo" onClick={said.or.run}>
                {said.or.label} <kbd>{keyName(said.or.key)}</kbd>
              </button>
            )}
            {said.undo && (
              <button type="button" className="undo" onClick={said.undo}>
                Undo
              </button>
            )}
          </>
        )}
      </span>
      <span className="r">
        {all
          .filter((k) => k.line)
          .map((k) => (
            <span key={k.key}>
              {k.line} <kbd>{keyName(k.key)}</kbd>
              {'\u2002'}
            </span>
          ))}
      </span>
      <dialog ref={dialog} className="keys" aria-label="Keys of this page" onClick={(e) => e.target === dialog.current && dialog.current.close()}>
        <h2>Keys of this page</h2>
        <dl>
          {all.map((k) => (
            <div key={k.key} style={{ display: 'contents' }}>
              <dt>
                <kbd>{keyName(k.key)}</kbd>
              </dt>
              <dd>{k.does}</dd>
            </div>
          ))}
        </dl>
      </dialog>
    </footer>
  );
}

const NAMES: Record<string, string> = { ' ': 'Space', '-': '−', Escape: 'Esc', ArrowRight: '→', ArrowLeft: '←', ArrowUp: '↑', ArrowDown: '↓' };

export function keyName(key: string): string {
  return NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key);
}
