import { z } from 'zod';
import { addDays } from '../../core/dates/calendar.ts';
import { onWorkingDay, workingWeek } from '../../core/dates/working-days.ts';
import { type Choice, closeOutSummary } from '../../core/ledger/close-out.ts';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { isDue } from '../../core/ledger/predicates.ts';
import { changeCommitment } from '../ledger/changes.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';

const ChoiceSchema = z.discriminatedUnion('what', [z.object({ what: z.literal('tomorrow') }), z.object({ what: z.literal('backlog') }), z.object({ what: z.literal('leave') }), z.object({ what: z.literal('until'), day: IsoDateSchema })]);
export const CloseOutSchema = z.object({ choices: z.array(z.object({ id: z.number().int(), choice: ChoiceSchema })).max(500), firstThing: z.string().trim().max(300) });

export interface CloseOutProps {
  today: string;
  /** the next working day */
  tomorrow: string;
  done: { id: number; ref: string; text: string; owner: string }[];
  rest: { id: number; ref: string; text: string; owner: string; due: string | null; mine: boolean; endedOn: null }[];
  firstThing: string;
  closed: { summary: string; at: string } | null;
}

/** What the evening asks about: what was done today, and what was due by today or is one's own and due tomorrow. */
export async function closeOutPage(ws: Workspace, project: string): Promise<CloseOutProps> {
  const tomorrow = onWorkingDay(addDays(ws.today, 1), 1, workingWeek());
  const rows = [...(await ledgerRows(ws, { project, state: 'open', dueBy: ws.today, lives: false })), ...(await ledgerRows(ws, { project, state: 'ended', endedFrom: ws.today, lives: false }))];
  const owner = (r: (typeof rows)[number]) => r.owner.map((o) => o.name).join(' and ');
  const kept = await ws.db.selectFrom('close_outs').selectAll().where('project_id', '=', project).where('person_id', '=', ws.asker.person).where('day', '=', ws.today).executeTakeFirst();
  return {
    today: ws.today,
    tomorrow,
    done: rows.filter((r) => r.endedOn === ws.today && r.state === 'done').map((r) => ({ id: r.id, ref: r.ref, text: r.text, owner: owner(r) })),
    rest: rows
      .filter((r) => isDue(r, ws.today))
      .map((r) => ({ id: r.id, ref: r.ref, text: r.text, owner: owner(r), due: r.due, mine: r.owner.some((o) => o.id === ws.asker.person), endedOn: null }))
      .sort((a, b) => Number(b.mine) - Number(a.mine) || (a.due! < b.due! ? -1 : 1)),
    firstThing: kept?.first_thing ?? '',
    closed: kept ? { summary: kept.summary, at: kept.at } : null,
  };
}

/** Carries the choices out, all or none, keeps tomorrow's first thing, and gives the day's summary as text. */
export async function closeTheDay(ws: Workspace, project: string, { choices, firstThing }: z.infer<typeof CloseOutSchema>): Promise<{ summary: string; changed: number }> {
  mustSee(ws, project, 'project');
  const page = await closeOutPage(ws, project);
  const known = new Map(page.rest.map((r) => [r.id, r]));
  const chosen: { ref: string; text: string; owner: string; choice: Choice }[] = [];
  let changed = 0;
  const summary = await ws.transaction(async (ws) => {
    for (const { id, choice } of choices) {
      const item = known.get(id);
      if (!item) throw new Refusal('conflict', 'Something here was settled meanwhile.', 'Load the page again; nothing was changed yet.');
      chosen.push({ ref: item.ref, text: item.text, owner: item.owner, choice });
      if (choice.what === 'leave') continue;
      await changeCommitment(ws, id, { do: 'put off', until: choice.what === 'backlog' ? null : choice.what === 'tomorrow' ? page.tomorrow : choice.day });
      changed++;
    }
    const text = closeOutSummary({ day: ws.today, done: page.done, rest: chosen, firstThing });
    const values = { first_thing: firstThing, summary: text, at: new Date().toISOString() };
    await ws.db
      .insertInto('close_outs')
      .values({ project_id: project, person_id: ws.asker.person, day: ws.today, ...values })
      .onConflict((c) => c.columns(['project_id', 'person_id', 'day']).doUpdateSet(values))
      .execute();
    return text;
  });
  return { summary, changed };
}

/** What was pinned for today on an earlier evening. */
export async function firstThing(ws: Workspace, project: string): Promise<string | null> {
  const row = await ws.db.selectFrom('close_outs').select(['first_thing', 'day']).where('project_id', '=', project).where('person_id', '=', ws.asker.person).where('day', '<', ws.today).orderBy('day', 'desc').limit(1).executeTakeFirst();
  return row && row.day >= addDays(ws.today, -5) && row.first_thing ? row.first_thing : null;
}
