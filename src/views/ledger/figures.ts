import { useEffect, useRef } from 'react';
import type { LedgerCounts } from '../../server/ledger/commitments.ts';
import { get } from '../parts/api.ts';

/** What is not open, in the words under the title. */
export function apartInWords({ done, dropped, merged, putOff, backlog }: Pick<LedgerCounts, 'done' | 'dropped' | 'merged' | 'putOff' | 'backlog'>): string {
  return [`${done} done`, `${dropped} dropped`, merged && `${merged} merged`, putOff && `${putOff} put off`, backlog && `${backlog} in the backlog`].filter(Boolean).join(', ');
}

/** Writes figures into the title of the page, which stands outside of what moves. */
function showFigures(counts: LedgerCounts): void {
  for (const el of document.querySelectorAll<HTMLElement>('[data-figure]')) {
    const what = el.dataset.figure!;
    el.textContent = what === 'apart' ? apartInWords(counts) : String(counts[what as keyof LedgerCounts]);
    if (what === 'late') el.classList.toggle('late', counts.late > 0);
    if (what === 'loose') el.classList.toggle('soon', counts.loose > 0);
  }
}

/** After a change has settled, the figures of the title are asked for again, in milliseconds. */
const AFTER = 120;

/** Keeps the figures in the title true to the lines below, whoever changes them. */
export function useFigures(rows: readonly unknown[], everywhere: boolean): void {
  const first = useRef(true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for again whenever a line has changed
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    const timer = setTimeout(() => {
      get<LedgerCounts>(`/api/ledger-counts${everywhere ? '?projects=all' : ''}`).then(showFigures, () => undefined);
    }, AFTER);
    return () => clearTimeout(timer);
  }, [rows]);
}
