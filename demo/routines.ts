import { addDays, weekday } from '../src/core/dates/calendar.ts';
import { momentAt } from '../src/core/dates/moments.ts';
import { readyMade } from '../src/core/routines/ready-made.ts';
import type { Routine } from '../src/core/routines/routine.ts';
import type { Carriers } from '../src/server/letters/queue.ts';
import type { Workspace } from '../src/server/people/workspace.ts';
import { beat } from '../src/server/routines/engine.ts';
import { changeRoutine } from '../src/server/routines/routines.ts';

interface DemoRoutine {
  /** a ready-made one, and what Ines changed of it */
  name: string;
  but?: Partial<Routine>;
  /** so many days before the demo’s last day she switched it on */
  ago: number;
}

/** What Ines has Ottik do. The third tells a chat channel that was not there yet when it was first wanted. */
const ROUTINES: readonly DemoRoutine[] = [
  { name: 'Friday look at what is late', ago: 19 },
  { name: 'Set up the next one', ago: 12 },
  { name: 'Tell the chat what slips', but: { when: { on: 'late', days: 5 }, pauses: 5 }, ago: 2 },
  { name: 'Minutes and round-up out', but: { series: 'works' }, ago: 1 },
];

const FRIDAY = 5;

/**
 * Has routines run as they would have, day by day, up to and without the day `ago` days back.
 * @returns the day to go on from
 */
export async function routinesUpTo(ws: Workspace, last: string, ago: number, from: string, carriers: Carriers): Promise<string> {
  const end = addDays(last, -ago);
  for (let day = from; day < end; day = addDays(day, 1)) {
    const there = ws.with({ today: day });
    for (const r of ROUTINES.filter((r) => addDays(last, -r.ago) === day)) {
      const ready = readyMade(ws.asker.person, day).find((m) => m.name === r.name)!;
      await changeRoutine(there, { do: 'keep', id: null, revision: 0, routine: { ...ready, ...r.but }, on: true }, momentAt(day, '08:30', ws.asker.zone));
    }
    if (weekday(day) === FRIDAY || day >= addDays(last, -2)) await beat(ws.db, carriers, momentAt(day, '10:02', ws.asker.zone));
  }
  return end > from ? end : from;
}

/** The first day any of them was switched on. */
export const routinesFrom = (last: string): string => addDays(last, -Math.max(...ROUTINES.map((r) => r.ago)));
