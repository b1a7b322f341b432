import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { agendaOf } from '../src/server/meetings/agenda.ts';
import { changeRoom, roomOf, roomStamp } from '../src/server/meetings/live/room.ts';
import { type Workspace, workspaceOf } from '../src/server/people/workspace.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { medianOf } from './serving.ts';
import { BENCH_TODAY, makeWorkspace } from './workspace.ts';

type Row = [string, string, string, string];

/** People in the meeting besides the one who writes, and lines an hour of it has. */
const [OTHERS, LINES] = [10, 600];

async function inWorkspace<T>(commitments: number, run: (ws: Workspace, meeting: number) => Promise<T>): Promise<T> {
  const file = await makeWorkspace({ meetings: 60, commitments, people: 40 });
  const db = await openDatabase(file);
  try {
    const ws = (await workspaceOf(db, 'ines', BENCH_TODAY)).with({ project: 'p' });
    const { id } = await db.insertInto('meetings').values({ project_id: 'p', series_id: 's0', title: 'Series 0', date: BENCH_TODAY, time: '10:00', minutes: 60, number: 61, place: '', sifted_at: null, next: null, author_id: null, slot: '2026-03-12' }).returning('id').executeTakeFirstOrThrow();
    return await run(ws, id);
  } finally {
    await db.destroy();
    rmSync(dirname(file), { recursive: true, force: true });
  }
}

/** An agenda of four hundred open commitments against one of forty, and a line until ten others have it against keeping it alone. */
export async function liveBench(): Promise<Row[]> {
  const agenda = (commitments: number) => inWorkspace(commitments, async (ws, meeting) => ({ open: (await agendaOf(ws, meeting)).review.reduce((n, g) => n + g.rows.length, 0), ms: await medianOf(() => agendaOf(ws, meeting), 7, 2) }));
  const [many, few] = [await agenda(4500), await agenda(450)];
  const { line, alone } = await inWorkspace(450, async (ws, meeting) => {
    let now = Date.parse(`${BENCH_TODAY}T10:00:00Z`);
    const write = () => {
      now += 6000;
      return changeRoom(ws, meeting, { do: 'line', id: randomUUID(), text: `! Person 3 Name3: order crane ${now} by Friday`, point: null }, new Date(now));
    };
    await changeRoom(ws, meeting, { do: 'begin', insist: true }, new Date(now));
    for (let n = 0; n < LINES; n++) await write();
    const times: number[] = [];
    for (let n = 0; n < 40; n++) {
      const began = performance.now();
      await write();
      for (let k = 0; k < OTHERS; k++) {
        await roomStamp(ws.db, meeting);
        await roomOf(ws, meeting);
      }
      times.push(performance.now() - began);
    }
    times.sort((a, b) => a - b);
    return { line: times[Math.floor(times.length * 0.95)]!, alone: await medianOf(write, 15, 3) };
  });
  const ms = (x: number) => `${Math.round(x)} ms`;
  return [
    [`Agenda of a series with ${many.open} open commitments`, ms(many.ms), `with ${few.open}: ${ms(few.ms)}`, (many.ms / few.ms).toFixed(1)],
    [`A line until ${OTHERS} others have it, 95th percentile, an hour into the meeting`, ms(line), `kept, for its writer alone: ${ms(alone)}`, (line / alone).toFixed(1)],
  ];
}
