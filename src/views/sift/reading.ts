import { useEffect, useState } from 'react';
import type { ReadingState } from '../../server/sift/close-reading.ts';
import type { KeptFind } from '../../server/sift/finds.ts';

/** Between two questions how far the close reader is, in milliseconds. */
const ASK_EVERY = 800;

/** What a reader changed: how many finds are new, put better, no longer believed. */
export interface Counts {
  added: number;
  changed: number;
  gone: number;
}

/** The counts in words; both may stand for one reading, whose finds arrived in two goes. */
export function countsInWords(...counts: readonly Counts[]): string {
  const sum = (of: keyof Counts) => counts.reduce((n, c) => n + c[of], 0);
  const said = [sum('added') && `${sum('added')} new`, sum('changed') && `${sum('changed')} put better`, sum('gone') && `${sum('gone')} doubted`];
  return said.filter(Boolean).join(', ') || 'nothing changed';
}

/**
 * The close reader's finds laid over those on the screen. What a person has judged or is editing stays as it is; the
 * rest takes the close reader's words.
 * @param held ids of finds that are being edited
 */
export function refine(shown: readonly KeptFind[], read: readonly KeptFind[], held: ReadonlySet<number>): Counts & { finds: KeptFind[] } {
  const anew = new Map(read.map((f) => [f.id, f]));
  const out: KeptFind[] = [];
  let [changed, gone] = [0, 0];
  for (const f of shown) {
    const now = anew.get(f.id);
    anew.delete(f.id);
    if (f.verdict !== 'open' || held.has(f.id)) out.push(f);
    else if (now) {
      if (now.reader === 'doubted' && f.reader !== 'doubted') gone++;
      else if (now.text !== f.text || now.due !== f.due || now.owner.join() !== f.owner.join() || now.update?.kind !== f.update?.kind) changed++;
      out.push(now);
    } else gone++;
  }
  return { finds: [...out, ...anew.values()], added: anew.size, changed, gone };
}

/** Asks until the close reader is through with a record, then hands its finds over once. */
export function useReading(record: number, waits: boolean, got: (finds: KeptFind[]) => void): ReadingState | null {
  const [state, setState] = useState<ReadingState | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for once for each record; what is done with the answer may change meanwhile
  useEffect(() => {
    if (!waits) return;
    let timer = 0;
    let over = false;
    const ask = async () => {
      const answer = await fetch(`/api/records/${record}/reading`)
        .then((r) => (r.ok ? (r.json() as Promise<ReadingState & { finds: KeptFind[] | null }>) : null))
        .catch(() => null);
      if (over) return;
      if (answer) setState(answer);
      if (answer?.finds) got(answer.finds);
      else if (answer?.state !== 'quick only') timer = window.setTimeout(ask, ASK_EVERY);
    };
    void ask();
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [record]);
  return state;
}

/** The state in the few words that the bottom line has room for. */
export function readingWords(state: ReadingState | null): string | undefined {
  if (state?.state === 'waiting') return 'reads closely next';
  if (state?.state === 'reading') return state.all ? `read closely ${Math.round((state.done / state.all) * 100)}%` : 'reading closely';
  if (state?.state === 'quick only') return 'quick reader only';
  return undefined;
}
