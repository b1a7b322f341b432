/** What a line of the Ledger can show beside its reference and its words. */
export const COLUMNS = ['owner', 'due', 'state', 'age', 'carried', 'moved', 'said', 'written', 'waits', 'life', 'from'] as const;
export type Column = (typeof COLUMNS)[number];

/** What is shown until somebody chooses. */
export const USUAL: readonly Column[] = ['owner', 'due', 'age', 'carried', 'moved', 'life', 'from'];

/** What stands on the printed page until somebody chooses: nothing that only a screen shows well. */
export const USUAL_IN_PRINT: readonly Column[] = ['owner', 'due', 'state', 'age', 'from'];

/** Columns as they were kept or stand in an address, names with a space between; null where that names none. */
export function readColumns(kept: string | null): Column[] | null {
  const known = (kept ?? '').split(' ').filter((c): c is Column => (COLUMNS as readonly string[]).includes(c));
  return known.length ? [...new Set(known)] : null;
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

/** What lines can stand together by. */
export const GROUPINGS = ['due', 'owner', 'series', 'state', 'project'] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** A grouping by its name in an address, or the one that is used without. */
export function readGrouping(name: string | null, otherwise: Grouping): Grouping {
  return GROUPINGS.find((g) => g === name) ?? otherwise;
}
