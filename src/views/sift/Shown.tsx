import type { FindKind } from '../../core/sift/find.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import { KIND_NAMES, KindShape } from '../parts/Shapes.tsx';
import { isDoubtful, SURE_FROM } from './sure.ts';

/** Which finds stand in the margin. */
export interface Shown {
  hidden: readonly FindKind[];
  leftOnly: boolean;
  sureOnly: boolean;
  /** what is likelier wrong than one time in five stands in full too, and not only as a faint mark */
  doubtful: boolean;
}

export const ALL_SHOWN: Shown = { hidden: [], leftOnly: false, sureOnly: false, doubtful: false };
export const KINDS: readonly FindKind[] = ['action', 'decision', 'question', 'update'];

/** Whether a find stands as a faint mark. */
export const isFaint = (f: KeptFind, s: Shown): boolean => !s.doubtful && isDoubtful(f);

export function isShown(f: KeptFind, s: Shown): boolean {
  return !s.hidden.includes(f.kind) && (!s.leftOnly || f.verdict === 'open') && (!s.sureOnly || f.verdict !== 'open' || f.confidence >= SURE_FROM);
}

/** Actions that were found without owner or date, and would be loose as they stand. */
export function looseOnes(finds: readonly KeptFind[]): number {
  return finds.filter((f) => f.kind === 'action' && f.verdict !== 'passed' && (f.owner.length === 0 || f.due === null)).length;
}

/** The line under the title: what is shown of the finds, as a sentence that can be changed. */
export function ShownLine({ finds, shown, onChange }: { finds: readonly KeptFind[]; shown: Shown; onChange(s: Shown): void }) {
  const loose = looseOnes(finds);
  const doubtful = finds.filter(isDoubtful).length;
  return (
    <div className="say shown">
      {KINDS.map((k, i) => {
        const left = finds.filter((f) => f.kind === k && f.verdict === 'open').length;
        const on = !shown.hidden.includes(k);
        return (
          <button key={k} type="button" aria-pressed={on} title={`Show or hide (${i + 1})`} onClick={() => onChange({ ...shown, hidden: on ? [...shown.hidden, k] : shown.hidden.filter((h) => h !== k) })}>
            <KindShape kind={k} hollow={!on} />
            {KIND_NAMES[k]}s <b>{left}</b>
          </button>
        );
      })}
      <button type="button" aria-pressed={shown.leftOnly} title="V" onClick={() => onChange({ ...shown, leftOnly: !shown.leftOnly })}>
        only what is left
      </button>
      <button type="button" aria-pressed={shown.sureOnly} title="Finds of which at least 80 in 100 are right" onClick={() => onChange({ ...shown, sureOnly: !shown.sureOnly })}>
        only sure ones
      </button>
      {doubtful > 0 && (
        <button type="button" aria-pressed={shown.doubtful} title="Finds that are wrong more often than one time in five: faint marks in the margin, until X shows them" onClick={() => onChange({ ...shown, doubtful: !shown.doubtful })}>
          <b>{doubtful}</b> doubtful <kbd>X</kbd>
        </button>
      )}
      <span className="end">
        {loose > 0 && <span className="soon">{loose} without owner or date</span>}
        <a className="moss" href="/learned" title="How far finds are trusted after what was taken and passed">
          what is learned
        </a>
      </span>
    </div>
  );
}
