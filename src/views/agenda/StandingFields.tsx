import { useState } from 'react';
import { readStanding } from '../../core/meetings/agenda.ts';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';

interface Props {
  points: readonly { title: string; minutes: number }[];
  onKeep(points: { title: string; minutes: number }[]): void;
  onLeave(): void;
}

/** What stands on every agenda of a series: one line each, minutes behind it. */
export function StandingFields({ points, onKeep, onLeave }: Props) {
  const [text, setText] = useState(points.map((p) => `${p.title}, ${p.minutes}`).join('\n'));
  return (
    <form
      className="point-fields"
      onSubmit={(e) => {
        e.preventDefault();
        onKeep(readStanding(text));
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onLeave();
      }}
    >
      <label className="wide">
        Every time: one point a line, with its minutes
        {/* biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed */}
        <textarea autoFocus rows={4} maxLength={4000} value={text} placeholder={'Round the table, 10\nSafety, 5'} onChange={(e) => setText(e.target.value)} />
      </label>
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
