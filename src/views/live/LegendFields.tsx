import { useState } from 'react';
import { type Legend, LegendSchema, LINE_KINDS } from '../../core/meetings/live/capture.ts';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';

interface Props {
  legend: Legend;
  onKeep(legend: Legend): void;
  onLeave(): void;
}

/** The signs somebody writes in front of their lines. Lines that stand already keep what they were. */
export function LegendFields({ legend, onKeep, onLeave }: Props) {
  const [now, setNow] = useState(legend);
  const ready = LegendSchema.safeParse(now).success;
  return (
    <form
      className="legend-fields"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onKeep(now);
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onLeave();
      }}
    >
      {LINE_KINDS.map((kind, n) => (
        <label key={kind}>
          {/* biome-ignore lint/a11y/noAutofocus: the fields open because a button was pressed */}
          <input autoFocus={n === 0} required maxLength={4} value={now[kind]} onChange={(e) => setNow({ ...now, [kind]: e.target.value.trim() })} /> {kind}
        </label>
      ))}
      {!ready && <span className="late n13">Each needs a sign of its own.</span>}
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
