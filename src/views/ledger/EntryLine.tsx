import { useMemo, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { readEntry } from '../../core/ledger/entry.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { Choice } from '../../server/people/people.ts';
import { post } from '../parts/api.ts';

interface Props {
  people: readonly Choice[];
  today: string;
  onMade(made: { row: LedgerRow; event: number }): void;
  onLeave(): void;
  onRefused(error: unknown): void;
}

/** A commitment typed in one line; who, what and by when are read while it is typed. */
export function EntryLine({ people, today, onMade, onLeave, onRefused }: Props) {
  const [line, setLine] = useState('');
  const roster = useMemo(() => people.map((p) => ({ ...p, aliases: [] })), [people]);
  const read = readEntry(line, roster, { date: today, next: null });
  const names = listOf(read.owner.map((o) => people.find((p) => p.id === o)?.name ?? o));
  return (
    <span className="typed entry">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        aria-label="New commitment"
        value={line}
        maxLength={2000}
        placeholder="Bram to pour the plinth by Friday"
        onChange={(e) => setLine(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && read.text.length > 1) post<{ row: LedgerRow; event: number }>('/api/commitments', read).then(onMade, onRefused);
          if (e.key === 'Escape') onLeave();
        }}
      />
      <span className="read" aria-live="polite">
        {line.trim() ? (
          <>
            <b>{read.text || 'what?'}</b> {names || 'nobody yet'}, {read.due ? shortDay(read.due, today) : 'no date'}
          </>
        ) : (
          'who, what, by when; Enter keeps it'
        )}
      </span>
    </span>
  );
}
