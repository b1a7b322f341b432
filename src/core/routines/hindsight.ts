import type { Find } from '../sift/find.ts';

/** A find of a meeting that is long settled: what Sift thought of it, and what somebody did with it. */
export interface Settled {
  find: Pick<Find, 'text' | 'confidence'>;
  verdict: 'open' | 'taken' | 'passed';
  /** somebody put other words, another owner or another day into it before they took it */
  changed: boolean;
}

/** What taking by how sure would have done to a meeting, beside what people did. */
export interface Hindsight {
  /** of so many finds */
  of: number;
  would: number;
  /** of those it would have taken */
  taken: number;
  changed: number;
  passed: readonly string[];
  open: number;
}

/** @param sure at least so sure, in percent */
export function hindsight(finds: readonly Settled[], sure: number): Hindsight {
  const would = finds.filter((f) => isSure(f.find.confidence, sure));
  const by = (verdict: Settled['verdict']) => would.filter((f) => f.verdict === verdict);
  return { of: finds.length, would: would.length, taken: by('taken').length, changed: by('taken').filter((f) => f.changed).length, passed: by('passed').map((f) => f.find.text), open: by('open').length };
}

/** Whether Sift is so sure of something, as it says it itself: in whole percent. */
export const isSure = (confidence: number, sure: number): boolean => Math.round(confidence * 100) >= sure;

/** The same in words. */
export function hindsightInWords({ of, would, taken, changed, passed, open }: Hindsight): string {
  const finds = `${of} ${of === 1 ? 'find' : 'finds'}`;
  if (would === 0) return `would have taken none of ${finds}`;
  const beside = [taken ? `you took ${taken} of them${changed ? `, ${changed} after changing ${changed === 1 ? 'it' : 'them'}` : ''}` : null, passed.length ? `you passed ${passed.length}` : null, open ? `${open} ${open === 1 ? 'is' : 'are'} not settled yet` : null].filter((x) => x !== null);
  return `would have taken ${would} of ${finds}; ${beside.join('; ')}`;
}
