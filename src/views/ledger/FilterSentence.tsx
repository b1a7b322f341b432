import type { RefObject } from 'react';
import { DUE_WINDOWS } from '../../core/ledger/due.ts';
import { type Grouping, readGrouping } from '../../core/ledger/look.ts';
import { Pick } from '../parts/Pick.tsx';
import type { Filter } from './grouping.ts';

interface Props {
  filter: Filter;
  by: Grouping;
  people: readonly { id: string; name: string }[];
  series: readonly { id: string; short: string }[];
  me: string;
  /** lines of several projects are shown */
  everywhere: boolean;
  search: RefObject<HTMLInputElement | null>;
  onFilter(filter: Filter): void;
  onGroup(by: Grouping): void;
}

/** What the Ledger shows, as a sentence whose words can be chosen, and the field for a typed query. */
export function FilterSentence({ filter, by, people, series, me, everywhere, search, onFilter, onGroup }: Props) {
  const part = (label: string, key: keyof Filter, options: [string, string][]) => <Pick label={label} value={filter[key]} options={options} onPick={(v) => onFilter({ ...filter, [key]: v })} />;
  return (
    <div className="say">
      <span className="fl">Show</span>
      <span className="sentence">
        {part('State', 'state', [
          ['open', 'open'],
          ['loose', 'loose'],
          ['waiting', 'waiting'],
          ['ended', 'ended'],
          ['off', 'put off'],
          ['backlog', 'backlogged'],
          ['all', 'all'],
        ])}{' '}
        commitments held by {part('Owner', 'owner', [['', 'anyone'], [me, 'me'], ['nobody', 'nobody'], ...people.filter((p) => p.id !== me).map((p): [string, string] => [p.id, p.name])])}, from {part('Series', 'series', [['', 'any meeting'], ...series.map((s): [string, string] => [s.id, s.short])])}, due{' '}
        {part('Due', 'due', [['', 'any time'], ...DUE_WINDOWS.map((w): [string, string] => [w, w === 'late' ? 'before today' : w])])}, grouped by{' '}
        <Pick label="Grouped by" value={by} options={[['due', 'when they are due'], ['owner', 'who holds them'], ['series', 'where they come from'], ['state', 'how they stand'], ...(everywhere ? [['project', 'which project'] as const] : [])]} onPick={(v) => onGroup(readGrouping(v, by))} />
      </span>
      <label className="in">
        <span className="vh">Words in them</span>
        <input ref={search} value={filter.text} placeholder="Words, or owner:bram late" onChange={(e) => onFilter({ ...filter, text: e.target.value })} onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && (e.target as HTMLElement).blur()} />
        <kbd>F</kbd>
      </label>
    </div>
  );
}
