import { daysBetween } from '../../core/dates/calendar.ts';
import { shortDay } from '../../core/language/days.ts';
import type { Column } from '../../core/ledger/look.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';

export const COLUMN_NAMES: Record<Column, string> = { owner: 'Owner', due: 'Due', state: 'State', age: 'Age', carried: 'Carried', moved: 'Moved', said: 'Last said', written: 'Last written', waits: 'Waits for', life: 'Life', from: 'From' };

/** The class its cells have: numbers stand at the right, the rest has a width of its own. */
export const COLUMN_CLASS: Record<Column, string> = { owner: 'c-owner', due: 'c-due', state: 'c-from', age: 'n c-n', carried: 'n c-n', moved: 'n c-n', said: 'c-day', written: 'c-day', waits: 'c-day', life: 'c-life', from: 'c-from' };

/** What a line has in a column that is only read; an empty string where it has nothing. */
export function cellText(column: Exclude<Column, 'owner' | 'due' | 'life'>, r: LedgerRow, today: string): string {
  switch (column) {
    case 'state':
      return r.state === 'blocked' ? 'waiting' : r.state;
    case 'age':
      return String(Math.max(0, daysBetween(r.madeOn, r.endedOn ?? today)) || '');
    case 'carried':
      return String(r.carried || '');
    case 'moved':
      return String(r.moved || '');
    case 'said':
      return shortDay(r.lastOn, today);
    case 'written':
      return r.writtenOn ? shortDay(r.writtenOn, today) : '';
    case 'waits':
      return r.waitsFor ?? (r.state === 'blocked' ? 'something' : r.awaiting ? 'a confirmation' : '');
    case 'from':
      return r.from;
  }
}
