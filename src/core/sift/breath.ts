import { breathsOf, isCaptions } from '../record/breath.ts';
import type { Reading, ReadUnit } from './reading.ts';

/** The units one sentence runs over, with their text as one. */
export interface Breath {
  units: ReadUnit[];
  text: string;
  /** where each unit's text begins in it */
  starts: number[];
}

const known = new WeakMap<Reading, Map<ReadUnit, Breath>>();

/** The run of units that a unit's sentences go on in; in records other than captions, the unit alone. */
export function breathOf(reading: Reading, unit: ReadUnit): Breath {
  let all = known.get(reading);
  if (!all) {
    all = new Map();
    const { units, input } = reading;
    const whole = (u: ReadUnit) => u.from === 0 && u.to >= u.source.text.length;
    const runs = isCaptions(input.record) ? breathsOf(units.map((u) => ({ u, voice: u.source.voice, text: whole(u) ? u.text : `${u.text}.`, start: u.source.start, end: u.source.end }))).map((run) => run.map((r) => r.u)) : units.map((u) => [u]);
    for (const run of runs) {
      const starts: number[] = [];
      let text = '';
      for (const u of run) {
        if (text) text += ' ';
        starts.push(text.length);
        text += u.text;
      }
      for (const u of run) all.set(u, { units: run, text, starts });
    }
    known.set(reading, all);
  }
  return all.get(unit) ?? { units: [unit], text: unit.text, starts: [0] };
}
