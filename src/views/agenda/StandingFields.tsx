import { useState } from 'react';
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

const USUAL = 5;

/** Lines such as `Round the table, 10 min`; a line without minutes gets the usual ones. */
export function readStanding(text: string): { title: string; minutes: number }[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line.length > 1)
    .slice(0, 30)
    .map((line) => {
      const minutes = /[\s,]\(?(\d{1,3})\)?(?: ?min(?:utes?)?)?$/i.exec(line);
      const n = minutes ? Number(minutes[1]) : 0;
      const title = minutes && n > 0 ? line.slice(0, minutes.index).replace(/,$/, '').trim() : line;
      return { title: title.length > 1 ? title : line, minutes: n > 0 && n <= 600 ? n : USUAL };
    });
}
