import type { FindKind } from '../../core/sift/find.ts';

/** The four kinds as shapes of their own: a ticket, a long stop, a ring, an arrow. */
export function KindShape({ kind, hollow = false }: { kind: FindKind; hollow?: boolean }) {
  const stroke = { fill: 'none', stroke: 'currentColor' } as const;
  return (
    <svg className={`sh sh-${kind} k-${kind}`} viewBox="0 0 12 12" aria-hidden="true">
      {kind === 'action' && <path d="M.5.5h7.5L11.5 4v7.5H.5z" {...(hollow ? { ...stroke, strokeWidth: 1.2 } : {})} />}
      {kind === 'decision' && <path d="M-1 4.5h14v4H-1z" {...(hollow ? { ...stroke, strokeWidth: 1.2 } : {})} />}
      {kind === 'question' && <circle cx="6" cy="6" r="4.6" strokeWidth={hollow ? 1.2 : 2} {...stroke} />}
      {kind === 'update' && <path d="M-1 6H11.5M7.5 2l4 4-4 4" strokeWidth={hollow ? 1 : 1.6} {...stroke} />}
    </svg>
  );
}

export const KIND_NAMES: Record<FindKind, string> = { action: 'Action', decision: 'Decision', question: 'Open question', update: 'Update' };
