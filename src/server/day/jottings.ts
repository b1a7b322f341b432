import { z } from 'zod';
import { shortDay } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import { enterCommitment, NewCommitmentSchema } from '../ledger/changes.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { AT_ONCE } from '../store/transactions.ts';

/** What a jotting can be about. */
export const AboutSchema = z.object({ kind: z.enum(['person', 'project', 'meeting', 'commitment']), id: z.string().max(140) });
export type About = z.infer<typeof AboutSchema>;

export interface Jotting {
  id: number;
  text: string;
  on: string;
  about: (About & { name: string; href: string }) | null;
  /** stays in sight on its person or project */
  standing: boolean;
  /** what became of it: a commitment's reference, or the meeting it was sifted into */
  became: string | null;
}

export const JotSchema = z.object({ text: z.string().trim().min(1, 'needs words').max(20_000), about: AboutSchema.nullable().optional(), standing: z.boolean().optional() });

/** Keeps a scrap of the day as it is. */
export async function jot(ws: Workspace, project: string, j: z.infer<typeof JotSchema>): Promise<Jotting> {
  mustSee(ws, project, 'project');
  if (j.about) await mustBe(ws, project, j.about);
  const id = await ws.transaction(async (ws) => {
    const now = new Date();
    const values = { project_id: project, text: j.text, on_day: ws.today, by_person: ws.asker.person, about_kind: j.about?.kind ?? null, about_id: j.about?.id ?? null, standing: j.standing ? 1 : 0 };
    // the same words twice at once are sent twice and meant once
    const last = await ws.db.selectFrom('jottings').selectAll().where('project_id', '=', project).where('by_person', '=', ws.asker.person).where('removed_at', 'is', null).orderBy('id', 'desc').limit(1).executeTakeFirst();
    if (last && Math.abs(now.getTime() - Date.parse(last.at)) < AT_ONCE && Object.entries(values).every(([k, v]) => last[k as keyof typeof last] === v)) return last.id;
    return (
      await ws.db
        .insertInto('jottings')
        .values({ ...values, at: now.toISOString() })
        .returning('id')
        .executeTakeFirstOrThrow()
    ).id;
  });
  return (await jottingsOf(ws, project, { id }))[0]!;
}

async function mustBe(ws: Workspace, project: string, about: About): Promise<void> {
  const found =
    about.kind === 'person'
      ? (await peopleOf(ws, project)).some((p) => p.id === about.id)
      : about.kind === 'project'
        ? about.id === project
        : about.kind === 'meeting'
          ? (await ws.db.selectFrom('meetings').select('project_id').where('id', '=', Number(about.id)).executeTakeFirst())?.project_id === project
          : (await ws.db
              .selectFrom('commitments')
              .select('project_id')
              .where('project_id', '=', project)
              .where('number', '=', Number(about.id.replace(/^C-/i, '')))
              .executeTakeFirst()) !== undefined;
  if (!found) throw new Refusal('not-found', `There is no such ${about.kind} here.`);
}

/** Jottings of whoever asks, newest first; by words, by what they are about. */
export async function jottingsOf(ws: Workspace, project: string, where: { id?: number; about?: About; words?: string; limit?: number } = {}): Promise<Jotting[]> {
  mustSee(ws, project, 'project');
  // what somebody jots down is theirs alone
  let query = ws.db.selectFrom('jottings').selectAll().where('project_id', '=', project).where('by_person', '=', ws.asker.person).where('removed_at', 'is', null);
  if (where.id !== undefined) query = query.where('id', '=', where.id);
  if (where.about) query = query.where('about_kind', '=', where.about.kind).where('about_id', '=', where.about.id);
  const rows = await query
    .orderBy('on_day', 'desc')
    .orderBy('id', 'desc')
    .limit(where.words ? 5000 : (where.limit ?? 300))
    .execute();
  const words = fold(where.words ?? '')
    .split(/\s+/)
    .filter(Boolean);
  const fits = rows.filter((r) => words.every((w) => fold(r.text).includes(w))).slice(0, where.limit ?? 300);
  const people = new Map((await peopleOf(ws, project)).map((p) => [p.id, p.name]));
  const meetings = new Map((await ws.db.selectFrom('meetings').select(['id', 'title', 'date']).where('project_id', '=', project).execute()).map((m) => [String(m.id), `${m.title}, ${shortDay(m.date)}`]));
  return fits.map((r) => {
    const about = r.about_kind && r.about_id ? { kind: r.about_kind, id: r.about_id } : null;
    return { id: r.id, text: r.text, on: r.on_day, about: about ? { ...about, ...named(about, people, meetings) } : null, standing: r.standing === 1, became: r.became };
  });
}

function named(about: About, people: ReadonlyMap<string, string>, meetings: ReadonlyMap<string, string>): { name: string; href: string } {
  if (about.kind === 'person') return { name: people.get(about.id) ?? about.id, href: `/people/${about.id}` };
  if (about.kind === 'meeting') return { name: meetings.get(about.id) ?? 'a meeting', href: `/meetings/${about.id}/gist` };
  if (about.kind === 'commitment') return { name: about.id, href: `/ledger/${about.id}` };
  return { name: 'the project', href: '/project' };
}

export const JottingChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('attach'), about: AboutSchema.nullable(), standing: z.boolean() }),
  z.object({ do: z.literal('edit'), text: z.string().trim().min(1, 'needs words').max(20_000) }),
  z.object({ do: z.literal('remove') }),
  z.object({ do: z.literal('put back') }),
  NewCommitmentSchema.extend({ do: z.literal('commit') }),
]);

/** Attaches a jotting, edits it, takes it off the list or puts it back, or makes a commitment of it. */
export async function changeJotting(ws: Workspace, id: number, change: z.infer<typeof JottingChangeSchema>): Promise<Jotting | { removed: number }> {
  const row = await ws.db.selectFrom('jottings').selectAll().where('id', '=', id).executeTakeFirst();
  mustSee(ws, row?.by_person === ws.asker.person ? row.project_id : undefined, 'jotting');
  const project = row!.project_id;
  const set = (values: Partial<{ text: string; about_kind: About['kind'] | null; about_id: string | null; standing: number; became: string | null; removed_at: string | null }>, tx = ws.db) => tx.updateTable('jottings').set(values).where('id', '=', id).execute();
  switch (change.do) {
    case 'attach':
      if (change.about) await mustBe(ws, project, change.about);
      await set({ about_kind: change.about?.kind ?? null, about_id: change.about?.id ?? null, standing: change.standing ? 1 : 0 });
      break;
    case 'edit':
      await set({ text: change.text });
      break;
    case 'remove':
      await set({ removed_at: new Date().toISOString() });
      return { removed: id };
    case 'put back':
      await set({ removed_at: null });
      break;
    default:
      if (row!.became) throw new Refusal('conflict', `This became ${row!.became} already.`);
      await ws.transaction(async (ws) => {
        const { row: made } = await enterCommitment(ws.with({ needs: 'work' }), project, change);
        await set({ became: made.ref }, ws.db);
      });
  }
  return (await jottingsOf(ws, project, { id }))[0]!;
}
