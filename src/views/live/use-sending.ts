import { useEffect, useRef } from 'react';
import type { Room } from '../../server/meetings/live/room.ts';
import { post, Refused } from '../parts/api.ts';
import type { LiveTold, Unsent } from './live-state.ts';

/** While nobody can be reached it is tried again so often, in milliseconds. */
const AGAIN = 2500;

/** Lines that nobody has heard of yet, kept where a closed page does not lose them. */
const shelf = (meeting: number) => `ottik-live-${meeting}`;

/** Lines of an earlier page that never got through. */
export function unsentBefore(meeting: number): Unsent[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(shelf(meeting)) ?? '[]');
    return Array.isArray(kept) ? kept.filter((u): u is Unsent => typeof u?.id === 'string' && typeof u?.text === 'string') : [];
  } catch {
    return [];
  }
}

/** Sends lines in their order, one after another, again and again until each is heard of; each has its own name, so that none counts twice. */
export function useSending(meeting: number, unsent: readonly Unsent[], tell: (told: LiveTold) => void): void {
  const busy = useRef(false);
  const now = useRef(unsent);
  now.current = unsent;
  useEffect(() => {
    if (unsent.length) localStorage.setItem(shelf(meeting), JSON.stringify(unsent));
    else localStorage.removeItem(shelf(meeting));
  }, [meeting, unsent]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another line wants to go
  useEffect(() => {
    const send = async () => {
      if (busy.current) return;
      busy.current = true;
      try {
        for (let line = next(now.current, []); line; line = next(now.current, [line.id])) {
          try {
            const { room } = await post<{ room: Room }>(`/api/meetings/${meeting}/room`, { do: 'line', id: line.id, text: line.text, point: line.point });
            tell({ do: 'sent', id: line.id, room });
            now.current = now.current.filter((u) => u.id !== line!.id);
          } catch (error) {
            const unreachable = !(error instanceof Refused) || /cannot be reached|did not answer/.test(error.message);
            if (unreachable) {
              tell({ do: 'offline', is: true });
              return;
            }
            tell({ do: 'refused', id: line.id, why: (error as Refused).message });
            now.current = now.current.map((u) => (u.id === line!.id ? { ...u, refused: 'refused' } : u));
          }
        }
      } finally {
        busy.current = false;
      }
    };
    void send();
    const timer = setInterval(() => void send(), AGAIN);
    return () => clearInterval(timer);
  }, [meeting, tell, unsent.length]);
}

const next = (unsent: readonly Unsent[], sent: readonly string[]): Unsent | undefined => unsent.find((u) => u.refused === null && !sent.includes(u.id));
