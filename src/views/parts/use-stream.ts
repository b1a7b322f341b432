import { useEffect, useRef } from 'react';

/** The page shows itself first, and then listens. */
const LISTEN_AFTER = 1500;

/**
 * Listens to a stream of stamps, and tells of each one that follows the first: the first says how things stand, which the
 * page shows already.
 */
export function useStream(path: string, onChange: (stamp: string, before: string) => void): void {
  const latest = useRef(onChange);
  latest.current = onChange;
  useEffect(() => {
    let source: EventSource | null = null;
    let before: string | null = null;
    const start = window.setTimeout(() => {
      source = new EventSource(path);
      source.addEventListener('changed', (e) => {
        const stamp = (e as MessageEvent<string>).data;
        if (before !== null && before !== stamp) latest.current(stamp, before);
        before = stamp;
      });
    }, LISTEN_AFTER);
    return () => {
      clearTimeout(start);
      source?.close();
    };
  }, [path]);
}
