/** What a line of the Ledger can show beside its reference and its words. */
export const COLUMNS = ['owner', 'due', 'state', 'age', 'carried', 'moved', 'said', 'written', 'waits', 'life', 'from'] as const;
export type Column = (typeof COLUMNS)[number];

/** What is shown until somebody chooses. */
export const USUAL: readonly Column[] = ['owner', 'due', 'age', 'carried', 'moved', 'life', 'from'];

export const COLUMN_NAMES: Record<Column, string> = { owner: 'Owner', due: 'Due', state: 'State', age: 'Age', carried: 'Carried', moved: 'Moved', said: 'Last said', written: 'Last written', waits: 'Waits for', life: 'Life', from: 'From' };

/** The class its cells have: numbers stand at the right, the rest has a width of its own. */
export const COLUMN_CLASS: Record<Column, string> = { owner: 'c-owner', due: 'c-due', state: 'c-from', age: 'n c-n', carried: 'n c-n', moved: 'n c-n', said: 'c-day', written: 'c-day', waits: 'c-day', life: 'c-life', from: 'c-from' };

/** Columns as they were kept, or the usual ones where that is none or unreadable. */
export function readColumns(kept: string | null): Column[] {
  const known = (kept ?? '').split(' ').filter((c): c is Column => (COLUMNS as readonly string[]).includes(c));
  return known.length ? [...new Set(known)] : [...USUAL];
}

/** Shows a column or leaves it out; a new one stands last. */
export function toggled(columns: readonly Column[], column: Column): Column[] {
  const without = columns.filter((c) => c !== column);
  return without.length < columns.length ? (without.length ? without : [...columns]) : [...columns, column];
}

/** Moves a column one place to the left (-1) or to the right (1). */
export function shifted(columns: readonly Column[], column: Column, by: -1 | 1): Column[] {
  const at = columns.indexOf(column);
  const to = at + by;
  if (at < 0 || to < 0 || to >= columns.length) return [...columns];
  const out = [...columns];
  [out[at], out[to]] = [out[to]!, out[at]!];
  return out;
}
