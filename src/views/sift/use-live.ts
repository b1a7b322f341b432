import { useEffect, useRef } from 'react';
import type { KeptFind } from '../../server/sift/finds.ts';
import { get } from '../parts/api.ts';
import { useStream } from '../parts/use-stream.ts';

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
  const again = useRef(0);
  const ask = async () => {
    clearTimeout(again.current);
    if (!latest.current.ready()) {
      again.current = window.setTimeout(ask, 200);
      return;
    }
    const finds = await get<KeptFind[]>(`/api/meetings/${meeting}/finds?record=${record}`).catch(() => null);
    if (finds && latest.current.ready()) latest.current.got(finds);
    else if (finds) again.current = window.setTimeout(ask, 200);
  };
  useEffect(() => {
    return () => clearTimeout(again.current);
  }, []);
  useStream(`/api/meetings/${meeting}/live`, () => void ask());
}
