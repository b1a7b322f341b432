import { type RawBuilder, sql } from 'kysely';
import { ENDED } from '../../core/ledger/state.ts';

/** What the words of the Ledger mean, as conditions on rows of `commitments`. */
export interface Predicates {
  /** neither ended nor withdrawn */
  standing: RawBuilder<boolean>;
  ended: RawBuilder<boolean>;
  putOff: RawBuilder<boolean>;
  backlog: RawBuilder<boolean>;
  open: RawBuilder<boolean>;
  late: RawBuilder<boolean>;
  due: RawBuilder<boolean>;
  loose: RawBuilder<boolean>;
}

/**
 * The twins of `core/ledger/predicates.ts`, for counting what is not read; a test holds that both agree.
 * @param table what `commitments` are called in the query
 */
export function predicates(today: string, table = 'c'): Predicates {
  const of = (column: string) => sql.ref(`${table}.${column}`);
  const standing = sql<boolean>`${of('state')} IN ('open', 'blocked')`;
  const putOff = sql<boolean>`(${of('put_off')} IS NOT NULL AND (${of('put_off')} = 'backlog' OR ${of('put_off')} > ${today}))`;
  const open = sql<boolean>`(${standing} AND NOT ${putOff})`;
  return {
    standing,
    ended: sql<boolean>`${of('state')} IN (${sql.join(ENDED)})`,
    putOff,
    backlog: sql<boolean>`(${standing} AND ${of('put_off')} = 'backlog')`,
    open,
    late: sql<boolean>`(${open} AND ${of('due')} < ${today})`,
    due: sql<boolean>`(${open} AND ${of('due')} <= ${today})`,
    loose: sql<boolean>`(${open} AND ((${of('due')} IS NULL AND ${of('undated')} = 0) OR NOT EXISTS (SELECT 1 FROM commitment_owners AS whose WHERE whose.commitment_id = ${of('id')})))`,
  };
}
