import type { ReactNode } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import { KindShape } from '../parts/Shapes.tsx';
import { type Edits, NEWS } from './Slip.tsx';

interface Props {
  find: KeptFind;
  /** what was typed over it and is not kept yet */
  edits: Edits | undefined;
  /** where it stands beside the record; null where it stands below its words */
  at: { top: number; visible: boolean } | null;
  /** the slip of the open find, in place of its lines */
  slip: ReactNode;
  typing: boolean;
  /** not sure enough to stand in full: a faint mark that opens it */
  faint: boolean;
  /** it is the one that is looked at, settled or not */
  looked: boolean;
  today: string;
  name(person: string): string;
  onGo(): void;
  onReopen(): void;
}

/** A find as a note in the margin: open, waiting, taken, or passed. */
export function Note({ find: f, edits, at, slip, typing, faint, looked, today, name, onGo, onReopen }: Props) {
  const cls = `note n-${f.kind}${slip ? ` is-open${typing ? ' is-typing' : ''}` : f.verdict === 'taken' ? ' is-taken' : f.verdict === 'passed' ? ' is-passed' : ''}${looked && !slip ? ' is-looked' : ''}${f.reader === 'doubted' && f.verdict === 'open' ? ' is-doubted' : ''}${faint && !slip ? ' is-faint' : ''}`;
  return (
    <article className={cls} data-for={f.id} aria-current={slip || looked ? true : undefined} style={at ? { top: at.top, visibility: at.visible ? 'visible' : 'hidden' } : undefined}>
      {slip ??
        (faint ? (
          <button type="button" className="rest" onClick={onGo} title={`Doubtful: ${f.text}`} aria-label={`Doubtful ${f.kind}: ${f.text}`}>
            <KindShape kind={f.kind} hollow />
          </button>
        ) : (
          <>
            <span className="pin">
              <KindShape kind={f.kind} hollow={f.verdict === 'passed'} />
            </span>
            <div>
              {f.verdict === 'passed' ? (
                <p>
                  <s>{f.text}</s> passed{' '}
                  <button type="button" onClick={onReopen}>
                    Bring back
                  </button>
                </p>
              ) : f.verdict === 'taken' ? (
                <p className="taken">
                  <b>{f.ref}</b> {f.update ? NEWS[f.update.kind] : f.text}{' '}
                  <button type="button" onClick={onReopen}>
                    Take back
                  </button>
                </p>
              ) : (
                <button type="button" className="rest" onClick={onGo}>
                  <span className="head">
                    {f.ref && <b>{f.ref} </b>}
                    {edits?.text ?? f.text}
                  </span>
                  {f.kind === 'action' && <span className={`meta${f.owner.length && f.due ? '' : ' soon'}`}>{f.owner.length || f.due ? [listOf(f.owner.map(name)) || 'no owner', f.due ? shortDay(f.due, today) : 'no date'].join(', ') : 'loose: no owner, no date'}</span>}
                  {f.reader === 'doubted' && <span className="meta soon">doubted by the close reader</span>}
                  {f.update && (
                    <span className="meta">
                      {NEWS[f.update.kind]}
                      {f.update.kind === 'moved' && f.due ? ` to ${shortDay(f.due, today)}` : ''}
                    </span>
                  )}
                </button>
              )}
            </div>
          </>
        ))}
    </article>
  );
}
