import { useId, useMemo, useState } from 'react';
import { listOf } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import { readOwners } from '../../core/language/owners.ts';
import type { Choice } from '../../server/people/people.ts';

interface Props {
  value: readonly string[];
  people: readonly Choice[];
  /** ids of people, and `new:Name` for those somebody has just confirmed as new; and their names */
  onKeep(owner: string[], names: string[]): void;
  onLeave(): void;
}

const LAST_PART = /(?:^|[,;/&+]|(?<![\p{L}\p{N}])and(?![\p{L}\p{N}]))\s*([^,;/&+]*)$/iu;

/**
 * Owner by name, first letters, initials or role, *me* and *nobody*; several with a comma or *and*. Somebody nobody knows
 * yet becomes a person only when Enter is pressed once more.
 */
export function OwnerField({ value, people, onKeep, onLeave }: Props) {
  const list = useId();
  const [text, setText] = useState(value.map((id) => people.find((p) => p.id === id)?.name ?? id.replace(/^new:/, '')).join(', '));
  /** the choice that was moved to, or null while the words typed count */
  const [at, setAt] = useState<number | null>(null);
  const [touched, setTouched] = useState(false);
  const [asked, setAsked] = useState(false);
  const me = people.find((p) => p.me)?.id ?? '';
  const part = LAST_PART.exec(text);
  const last = (part?.[1] ?? '').trim();
  const before = part ? text.slice(0, text.length - part[1]!.length) : '';
  const options = useMemo(() => {
    const wanted = fold(last);
    if (!wanted || !touched) return [];
    const starts = (p: Choice) =>
      fold(p.name).startsWith(wanted) ||
      [p.name, ...p.aliases].some((n) =>
        fold(n)
          .split(/[\s-]+/)
          .some((w) => w.startsWith(wanted)),
      );
    return people.filter(starts).slice(0, 7);
  }, [last, people, touched]);
  const read = useMemo(() => readOwners(text, people, me), [text, people, me]);
  const keep = (typed: string, confirmed: boolean) => {
    const owners = readOwners(typed, people, me);
    setText(typed);
    setAt(null);
    if (owners.refused.length || (owners.unknown.length && !confirmed)) return setAsked(true);
    const known = owners.known.map((id) => ({ id, name: people.find((p) => p.id === id)?.name ?? id }));
    const all = [...known, ...owners.unknown.map((name) => ({ id: `new:${name}`, name }))];
    onKeep(
      all.map((o) => o.id),
      all.map((o) => o.name),
    );
  };
  const choose = (option: Choice) => `${before}${before && !/\s$/.test(before) ? ' ' : ''}${option.name}`;
  const enter = () => {
    const option = at === null ? undefined : options[at];
    if (option) return keep(choose(option), false);
    if (!touched)
      return onKeep(
        [...value],
        [...value].map((id) => people.find((p) => p.id === id)?.name ?? id),
      );
    const settled = read.refused.length === 0 && read.unknown.length === 0;
    if (!settled && options[0] && !asked) return keep(choose(options[0]), false);
    keep(text, asked);
  };
  const wrong = asked ? (read.refused[0]?.why ?? null) : null;
  return (
    <span className="typed">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        role="combobox"
        aria-label="Owner"
        aria-expanded={options.length > 0}
        aria-controls={list}
        aria-invalid={wrong !== null}
        value={text}
        placeholder="a name, me, nobody"
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          setText(e.target.value);
          setAt(null);
          setAsked(false);
          setTouched(true);
        }}
        onKeyDown={(e) => {
          if (options.length && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
            e.preventDefault();
            setAt((n) => Math.max(0, Math.min(options.length - 1, n === null ? (e.key === 'ArrowDown' ? 0 : options.length - 1) : n + (e.key === 'ArrowDown' ? 1 : -1))));
          }
          if (e.key === 'Enter') {
            e.preventDefault();
            enter();
          }
          if (e.key === 'Tab' && touched && options.length) {
            e.preventDefault();
            setText(choose(options[at ?? 0]!));
            setTouched(false);
            setAt(null);
          }
          if (e.key === 'Escape') {
            e.preventDefault();
            onLeave();
          }
        }}
      />
      {asked && (
        <span className="read bad" role="alert">
          {wrong ?? (
            <>
              Nobody here is called {listOf(read.unknown.map((n) => `“${n}”`))}.{' '}
              <button type="button" className="may line" onClick={() => keep(text, true)}>
                Add as {read.unknown.length > 1 ? 'new people' : 'a new person'} <kbd>Enter</kbd>
              </button>
            </>
          )}
        </span>
      )}
      {options.length > 0 && (
        <ul className="choices" id={list} role="listbox">
          {options.map((o, i) => (
            <li key={o.id} role="option" aria-selected={i === at || (at === null && i === 0 && read.refused.length + read.unknown.length > 0)} tabIndex={-1} onMouseDown={(e) => e.preventDefault()} onClick={() => keep(choose(o), false)}>
              {o.name} <span>{o.role || o.organisation}</span>
            </li>
          ))}
        </ul>
      )}
    </span>
  );
}
