import { useMemo, useState } from 'react';
import { fold } from '../../core/language/fold.ts';
import type { Choice } from '../../server/people.ts';

interface Props {
  value: readonly string[];
  people: readonly Choice[];
  onKeep(owner: string[], names: string[]): void;
  onLeave(): void;
}

/** Owner by a few letters of a name; several with a comma; a name nobody has yet becomes a new person. */
export function OwnerField({ value, people, onKeep, onLeave }: Props) {
  const [text, setText] = useState(value.map((id) => people.find((p) => p.id === id)?.name ?? id).join(', '));
  const [at, setAt] = useState(0);
  const [touched, setTouched] = useState(false);
  const parts = text.split(',');
  const last = (parts[parts.length - 1] ?? '').trim();
  const found = useMemo(() => {
    const wanted = fold(last);
    if (!wanted || !touched) return [];
    const starts = (p: Choice) =>
      fold(p.name)
        .split(/\s+/)
        .some((w) => w.startsWith(wanted)) || fold(p.name).startsWith(wanted);
    return people.filter(starts).slice(0, 7);
  }, [last, people, touched]);
  const exact = people.some((p) => fold(p.name) === fold(last));
  const options: { id: string; name: string; note: string }[] = found.map((p) => ({ id: p.id, name: p.name, note: p.role || p.organisation }));
  if (touched && last.length > 2 && !exact) options.push({ id: `new:${last}`, name: last, note: 'new person' });
  const pick = (option: { name: string }) => {
    setText([...parts.slice(0, -1).map((p) => p.trim()), option.name].join(', '));
    setTouched(false);
  };
  const keep = (final: string) => {
    const names = final
      .split(',')
      .map((n) => n.trim())
      .filter(Boolean);
    onKeep(
      names.map((n) => people.find((p) => fold(p.name) === fold(n))?.id ?? `new:${n}`),
      names,
    );
  };
  return (
    <span className="typed">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        role="combobox"
        aria-label="Owner"
        aria-expanded={options.length > 0}
        aria-controls="owner-choices"
        value={text}
        placeholder="nobody yet"
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
          setTouched(true);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setAt((n) => Math.max(0, Math.min(options.length - 1, n + (e.key === 'ArrowDown' ? 1 : -1))));
          }
          if (e.key === 'Enter' || (e.key === 'Tab' && options[at])) {
            e.preventDefault();
            const option = options[at];
            if (option) {
              const final = [...parts.slice(0, -1).map((p) => p.trim()), option.name].join(', ');
              if (e.key === 'Tab') pick(option);
              else keep(final);
            } else keep(text);
          }
          if (e.key === 'Escape') {
            e.preventDefault();
            onLeave();
          }
        }}
      />
      {options.length > 0 && (
        <ul className="choices" id="owner-choices" role="listbox">
          {options.map((o, i) => (
            <li key={o.id} role="option" aria-selected={i === at} tabIndex={-1} onMouseDown={(e) => e.preventDefault()} onClick={() => keep([...parts.slice(0, -1).map((p) => p.trim()), o.name].join(', '))}>
              {o.name} <span>{o.note}</span>
            </li>
          ))}
        </ul>
      )}
    </span>
  );
}
