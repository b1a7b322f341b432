import { useEffect, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { WeaveGroup } from '../../core/ledger/weave.ts';
import type { Change } from '../../server/ledger/changes.ts';
import type { Choice } from '../../server/people/people.ts';
import { post, wentWrong } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import type { Said } from '../parts/Foot.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';

export type Acting = 'due' | 'owner' | 'off' | null;

/** Where what was done is kept over the drawing anew, so that it can still be taken back. */
const DONE = 'ottik-weave-done';

/** Marked threads and what is done with them; the picture is drawn anew after it. */
export function useThreads(groups: readonly WeaveGroup[]) {
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [acting, setActing] = useState<Acting>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [events, setEvents] = useState<number[]>([]);
  useEffect(() => {
    const kept = sessionStorage.getItem(DONE);
    sessionStorage.removeItem(DONE);
    if (!kept) return;
    const { head, rest, events: these } = JSON.parse(kept) as { head: string; rest?: string; events: number[] };
    setEvents(these);
    setSaid({ head, ...(rest ? { rest } : {}) });
  }, []);
  const open = new Set(groups.flatMap((g) => g.rows.filter((r) => r.open).map((r) => r.id)));
  const refused = (error: unknown) => {
    setSaid(wentWrong(error));
  };
  const toggle = (id: number) => {
    if (!open.has(id)) {
      setSaid({ head: 'This thread has ended', rest: 'reopen it from its trail', bad: true });
      return;
    }
    setSaid(null);
    setMarked((old) => {
      const now = new Set(old);
      if (!now.delete(id)) now.add(id);
      return now;
    });
  };
  const act = async (change: Change, words: string) => {
    setActing(null);
    try {
      const out = await post<{ rows: unknown[]; events: number[]; left: string[] }>('/api/commitments', { ids: [...marked], change });
      sessionStorage.setItem(DONE, JSON.stringify({ head: `${out.rows.length} ${words}`, rest: out.left.join(' '), events: out.events }));
      location.reload();
    } catch (error) {
      refused(error);
    }
  };
  const undo = async () => {
    try {
      await post('/api/commitments', { undo: events });
      location.reload();
    } catch (error) {
      refused(error);
    }
  };
  return { marked, toggle, acting, setActing, said, act, undo, unmark: () => setMarked(new Set()) };
}

/** The line that says what can be done with the marked threads, and the field for it. */
export function ThreadActs({ count, acting, today, people, onActing, onAct }: { count: number; acting: Acting; today: string; people: readonly Choice[]; onActing(a: Acting): void; onAct(change: Change, words: string): void }) {
  const context = { date: today, next: null };
  return (
    <p className="thread-acts" role="status">
      <b>
        {count} {count === 1 ? 'thread' : 'threads'} marked
      </b>
      {acting === 'due' ? (
        <DateField value={null} context={context} today={today} label="Due date" onLeave={() => onActing(null)} onKeep={(due) => onAct({ do: 'move', due }, due ? `moved to ${shortDay(due, today)}` : 'without a date now')} />
      ) : acting === 'off' ? (
        <DateField value={null} context={context} today={today} label="Put off until" onLeave={() => onActing(null)} onKeep={(until) => onAct({ do: 'put off', until }, until ? `put off to ${shortDay(until, today)}` : 'in the backlog')} />
      ) : acting === 'owner' ? (
        <OwnerField value={[]} people={people} onLeave={() => onActing(null)} onKeep={(owner) => onAct({ do: 'hand over', owner }, 'handed over')} />
      ) : (
        <>
          <button type="button" className="may" onClick={() => onAct({ do: 'done' }, 'done')}>
            Done <kbd>D</kbd>
          </button>
          <button type="button" className="may" onClick={() => onActing('due')}>
            Move <kbd>M</kbd>
          </button>
          <button type="button" className="may" onClick={() => onActing('owner')}>
            Hand over <kbd>O</kbd>
          </button>
          <button type="button" className="may" onClick={() => onActing('off')}>
            Put off <kbd>Q</kbd>
          </button>
          <button type="button" className="may" onClick={() => onAct({ do: 'drop' }, 'dropped')}>
            Drop <kbd>X</kbd>
          </button>
        </>
      )}
    </p>
  );
}
