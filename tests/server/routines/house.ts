import { readyMade } from '../../../src/core/routines/ready-made.ts';
import type { Routine, Step, When } from '../../../src/core/routines/routine.ts';
import { MailError, type Message } from '../../../src/server/letters/mailer.ts';
import type { Carriers } from '../../../src/server/letters/queue.ts';
import type { Workspace } from '../../../src/server/people/workspace.ts';
import { keepRecord } from '../../../src/server/records/bringing-in.ts';
import { beat } from '../../../src/server/routines/engine.ts';
import { changeRoutine } from '../../../src/server/routines/routines.ts';
import { runsOf } from '../../../src/server/routines/runs.ts';
import { bytes, demoWorld, TODAY } from '../world.ts';

/** Noon of the demo's day. */
export const NOON = new Date(`${TODAY}T12:00:00Z`);

export const plus = (minutes: number, from: Date = NOON) => new Date(from.getTime() + minutes * 60_000);

/** Carriers that keep what goes out, and fail as often as they are told to. */
export class Kept implements Carriers {
  readonly mails: Message[] = [];
  readonly posts: { text: string; id: string }[] = [];
  /** so many posts fail before one goes */
  fail = 0;
  temporary = true;
  readonly mail = { send: async (m: Message) => void this.mails.push(m) };
  readonly chat = {
    post: async (_: string, text: string, id: string) => {
      if (this.fail-- > 0) throw new MailError('The chat channel cannot be reached.', false, this.temporary);
      this.posts.push({ text, id });
    },
  };
}

export interface House {
  ws: Workspace;
  out: Kept;
}

/** The demo with a chat channel. */
export async function house(): Promise<House> {
  const ws = await demoWorld();
  await ws.db.updateTable('projects').set({ chat_url: 'http://chat.example/hook' }).where('id', '=', ws.project).execute();
  return { ws, out: new Kept() };
}

export const routine = (when: When, steps: Step[], rest: Partial<Routine> = {}): Routine => ({ name: `When ${when.on}`, when, series: null, kind: 'any', how: 'by itself', steps, pauses: 3, ...rest });

/** Keeps a routine and switches it on. */
export const on = async ({ ws }: House, r: Routine, at: Date = NOON) => (await changeRoutine(ws, { do: 'keep', id: null, revision: 0, routine: r, on: true }, at)).id;

export const made = (name: string) => readyMade('ines', TODAY).find((r) => r.name === name)!;

export const goes = ({ ws, out }: House, at: Date) => beat(ws.db, out, at);

export const runs = ({ ws }: House) => runsOf(ws);

const LINES = ['Ines Falk: Good morning. Short one today.', 'Bram Oduya: I will send the cable list to Ines by Friday.', 'Ines Falk: We decided to keep the blue paint.', 'Bram Oduya: Fine by me.'];

/** Brings in a record of the yard, the day's own. */
export const arrives = ({ ws }: House, n = 1, series: string | null = null) =>
  keepRecord(ws, { project: ws.project, fileName: `yard-${n}.txt`, meeting: null, series, title: `Yard huddle ${n}`, date: TODAY, author: null, voices: { 'Ines Falk': { person: 'ines', name: null }, 'Bram Oduya': { person: 'bram', name: null } } }, bytes(`${LINES.join('\n')}\nInes Falk: Number ${n}.\n`));
