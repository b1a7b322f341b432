import { type KeyboardEvent, useId, useMemo, useState } from 'react';
import { fold } from '../../core/language/fold.ts';

/** Something that can be chosen by typing. */
export interface Option<V> {
  value: V;
  /** what is shown and typed */
  label: string;
  /** shown beside it, and typed too */
  note?: string;
}

/** Options shown at once. */
const SHOWN = 9;

/** Options in which every typed word begins a word, those that begin with the first one before the others. */
export function matching<V>(options: readonly Option<V>[], typed: string): Option<V>[] {
  const wanted = fold(typed).split(/\s+/).filter(Boolean);
  const words = (o: Option<V>) => fold(`${o.label} ${o.note ?? ''}`).split(/[^\p{L}\p{N}-]+/u);
  const fits = options.filter((o) => wanted.every((w) => words(o).some((x) => x.startsWith(w) || x.replace('-', '').startsWith(w))));
  const first = wanted[0];
  return first === undefined ? fits : [...fits.filter((o) => fold(o.label).startsWith(first)), ...fits.filter((o) => !fold(o.label).startsWith(first))];
}

interface Props<V> {
  label: string;
  placeholder: string;
  options: readonly Option<V>[];
  onPick(value: V): void;
  onLeave(): void;
}

/** A choice by typing some of its letters: nothing is chosen before Enter or a click, and every letter stays in the field. */
export function ComboField<V>({ label, placeholder, options, onPick, onLeave }: Props<V>) {
  const list = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const found = useMemo(() => matching(options, typed), [options, typed]);
  const shown = found.slice(0, SHOWN);
  const key = (e: KeyboardEvent) => {
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault();
      setAt((n) => Math.max(0, Math.min(shown.length - 1, n + (e.key === 'ArrowDown' ? 1 : -1))));
    }
    if (e.key === 'Enter') {
      e.preventDefault();
      const option = shown[at];
      if (option) onPick(option.value);
    }
    if (e.key === 'Escape') {
      e.preventDefault();
      onLeave();
    }
  };
  return (
    <span className="typed combo">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to choose in it
        autoFocus
        role="combobox"
        aria-label={label}
        aria-expanded={shown.length > 0}
        aria-controls={list}
        value={typed}
        placeholder={placeholder}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onKeyDown={key}
      />
      {shown.length === 0 && <span className="read bad">Nothing here is called that.</span>}
      <ul className="choices" id={list} role="listbox">
        {shown.map((o, i) => (
          <li key={`${o.label} ${o.note ?? ''}`} role="option" aria-selected={i === at} tabIndex={-1} onMouseDown={(e) => e.preventDefault()} onClick={() => onPick(o.value)}>
            <b>{o.label}</b> {o.note && <span>{o.note}</span>}
          </li>
        ))}
        {found.length > SHOWN && <li className="more">{found.length - SHOWN} more; type on</li>}
      </ul>
    </span>
  );
}
