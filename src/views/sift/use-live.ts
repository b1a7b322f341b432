import { useEffect, useRef } from 'react';
import type { KeptFind } from '../../server/finds.ts';
import { get } from '../parts/api.ts';

/** The page shows itself first, and then listens. */
const LISTEN_AFTER = 1500;

/** Proposed by a reader, and nobody has done anything with it: its coming and going is the reader's doing. */
const untouched = (f: KeptFind) => f.verdict === 'open' && f.seen === 0 && f.reader !== 'hand';

/**
 * What changed on a screen because of somebody else, in a few words; null where nothing did. What a reader proposes,
 * puts better or drops is not somebody's doing.
 */
export function changedElsewhere(shown: readonly KeptFind[], now: readonly KeptFind[]): string | null {
  const before = new Map(shown.map((f) => [f.id, f]));
  const changed = now.filter((f) => {
    const was = before.get(f.id);
    return was ? was.verdict !== f.verdict || was.seen !== f.seen : !untouched(f);
  });
  const gone = shown.filter((f) => !untouched(f) && !now.some((n) => n.id === f.id)).length;
  if (changed.length + gone === 0) return null;
  const [one] = changed;
  if (changed.length === 1 && gone === 0 && one) return `${one.by ?? 'Somebody'} ${one.verdict === 'taken' ? `took ${one.ref ?? 'a find'}` : one.verdict === 'passed' ? 'passed a find' : before.has(one.id) ? 'changed a find' : 'marked a find'}: ${one.text}`;
  return changed.length + gone === 1 ? 'A find was taken away' : `${changed.length + gone} finds were changed`;
}

/**
 * Hands the finds over again whenever somebody changed one, here or in another place.
 * @param ready whether they can be taken in now: not while a change of one's own is under way
 */
export function useLive(meeting: number, record: number, ready: () => boolean, got: (finds: KeptFind[]) => void): void {
  const latest = useRef({ ready, got });
  latest.current = { ready, got };
  useEffect(() => {
    let source: EventSource | null = null;
    let again = 0;
    let first = true;
    const ask = async () => {
      clearTimeout(again);
      if (!latest.current.ready()) {
        again = window.setTimeout(ask, 200);
        return;
      }
      const finds = await get<KeptFind[]>(`/api/meetings/${meeting}/finds?record=${record}`).catch(() => null);
      if (finds && latest.current.ready()) latest.current.got(finds);
      else if (finds) again = window.setTimeout(ask, 200);
    };
    const start = window.setTimeout(() => {
      source = new EventSource(`/api/meetings/${meeting}/live`);
      source.addEventListener('changed', () => {
        // the first word says how things stand, which the page shows already
        if (first) first = false;
        else void ask();
      });
    }, LISTEN_AFTER);
    return () => {
      clearTimeout(start);
      clearTimeout(again);
      source?.close();
    };
  }, [meeting, record]);
}
