import type { Column } from '../../core/ledger/look.ts';

export const COLUMN_NAMES: Record<Column, string> = { owner: 'Owner', due: 'Due', state: 'State', age: 'Age', carried: 'Carried', moved: 'Moved', said: 'Last said', written: 'Last written', waits: 'Waits for', life: 'Life', from: 'From' };

/** The class its cells have: numbers stand at the right, the rest has a width of its own. */
export const COLUMN_CLASS: Record<Column, string> = { owner: 'c-owner', due: 'c-due', state: 'c-from', age: 'n c-n', carried: 'n c-n', moved: 'n c-n', said: 'c-day', written: 'c-day', waits: 'c-day', life: 'c-life', from: 'c-from' };
