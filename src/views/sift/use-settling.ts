import { useEffect, useRef } from 'react';
import type { KeptFind } from '../../server/sift/finds.ts';
import { SETTLING_CHANGED, type Settling } from '../parts/sift-step.ts';

/** How far finds are settled. */
export function settlingOf(finds: readonly KeptFind[]): Settling {
  return {
    finds: finds.length,
    left: finds.filter((f) => f.verdict === 'open').length,
    loose: finds.filter((f) => f.kind === 'action' && f.verdict === 'taken' && (f.owner.length === 0 || f.due === null)).length,
  };
}

/** Lets the step above know whenever finds were settled, added or taken away since the page was made. */
export function useSettling(finds: readonly KeptFind[]): void {
  const first = useRef(settlingOf(finds));
  useEffect(() => {
    const now = settlingOf(finds);
    const was = first.current;
    const detail: Settling = { finds: now.finds - was.finds, left: now.left - was.left, loose: now.loose - was.loose };
    dispatchEvent(new CustomEvent(SETTLING_CHANGED, { detail }));
  }, [finds]);
}
