import { useState } from 'react';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';

interface Props {
  title: string;
  minutes: number;
  /** null where none is asked for */
  note: string | null;
  onKeep(to: { title: string; minutes: number; note: string }): void;
  onLeave(): void;
}

/** A point of an agenda being written: what, how long, and what to read before. */
export function PointFields({ title, minutes, note, onKeep, onLeave }: Props) {
  const [now, setNow] = useState({ title, minutes: String(minutes), note: note ?? '' });
  return (
    <form
      className="point-fields"
      onSubmit={(e) => {
        e.preventDefault();
        onKeep({ title: now.title, minutes: Math.max(1, Math.min(600, Number(now.minutes) || minutes)), note: now.note });
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onLeave();
      }}
    >
      <label>
        Point
        {/* biome-ignore lint/a11y/noAutofocus: the fields open because a key was pressed */}
        <input autoFocus required minLength={2} maxLength={200} value={now.title} onChange={(e) => setNow({ ...now, title: e.target.value })} />
      </label>
      <label className="short">
        Minutes
        <input inputMode="numeric" value={now.minutes} onChange={(e) => setNow({ ...now, minutes: e.target.value.replace(/\D/g, '').slice(0, 3) })} />
      </label>
      {note !== null && (
        <label className="wide">
          Note, or an address to read before
          <input maxLength={2000} value={now.note} onChange={(e) => setNow({ ...now, note: e.target.value })} />
        </label>
      )}
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
