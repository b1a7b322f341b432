import { z } from 'zod';
import { shortDay } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import { enterCommitment, NewCommitmentSchema } from '../ledger/changes.ts';
import { type Asker, mustSee } from '../people/asker.ts';
import { peopleOf } from '../people/people.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { AT_ONCE, inTransaction } from '../store/transactions.ts';

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
export async function jot(asker: Asker, db: Db, project: string, j: z.infer<typeof JotSchema>, today: string): Promise<Jotting> {
  mustSee(asker, project, 'project');
  if (j.about) await mustBe(asker, db, project, j.about);
  const id = await inTransaction(db, async (tx) => {
    const now = new Date();
    const values = { project_id: project, text: j.text, on_day: today, by_person: asker.person, about_kind: j.about?.kind ?? null, about_id: j.about?.id ?? null, standing: j.standing ? 1 : 0 };
    // the same words twice at once are sent twice and meant once
    const last = await tx.selectFrom('jottings').selectAll().where('project_id', '=', project).where('by_person', '=', asker.person).where('removed_at', 'is', null).orderBy('id', 'desc').limit(1).executeTakeFirst();
    if (last && Math.abs(now.getTime() - Date.parse(last.at)) < AT_ONCE && Object.entries(values).every(([k, v]) => last[k as keyof typeof last] === v)) return last.id;
    return (
      await tx
        .insertInto('jottings')
        .values({ ...values, at: now.toISOString() })
        .returning('id')
        .executeTakeFirstOrThrow()
    ).id;
  });
  return (await jottingsOf(asker, db, project, { id }))[0]!;
}

async function mustBe(asker: Asker, db: Db, project: string, about: About): Promise<void> {
  const found =
    about.kind === 'person'
      ? (await peopleOf(asker, db, project)).some((p) => p.id === about.id)
      : about.kind === 'project'
        ? about.id === project
        : about.kind === 'meeting'
          ? (await db.selectFrom('meetings').select('project_id').where('id', '=', Number(about.id)).executeTakeFirst())?.project_id === project
          : (await db
              .selectFrom('commitments')
              .select('project_id')
              .where('project_id', '=', project)
              .where('number', '=', Number(about.id.replace(/^C-/i, '')))
              .executeTakeFirst()) !== undefined;
  if (!found) throw new Refusal('not-found', `There is no such ${about.kind} here.`);
}

/** Jottings of whoever asks, newest first; by words, by what they are about. */
export async function jottingsOf(asker: Asker, db: Db, project: string, where: { id?: number; about?: About; words?: string; limit?: number } = {}): Promise<Jotting[]> {
  mustSee(asker, project, 'project');
  // what somebody jots down is theirs alone
  let query = db.selectFrom('jottings').selectAll().where('project_id', '=', project).where('by_person', '=', asker.person).where('removed_at', 'is', null);
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
  const people = new Map((await peopleOf(asker, db, project)).map((p) => [p.id, p.name]));
  const meetings = new Map((await db.selectFrom('meetings').select(['id', 'title', 'date']).where('project_id', '=', project).execute()).map((m) => [String(m.id), `${m.title}, ${shortDay(m.date)}`]));
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
export async function changeJotting(asker: Asker, db: Db, id: number, change: z.infer<typeof JottingChangeSchema>, today: string): Promise<Jotting | { removed: number }> {
  const row = await db.selectFrom('jottings').selectAll().where('id', '=', id).executeTakeFirst();
  mustSee(asker, row?.by_person === asker.person ? row.project_id : undefined, 'jotting');
  const project = row!.project_id;
  const set = (values: Partial<{ text: string; about_kind: About['kind'] | null; about_id: string | null; standing: number; became: string | null; removed_at: string | null }>, tx = db) => tx.updateTable('jottings').set(values).where('id', '=', id).execute();
  switch (change.do) {
    case 'attach':
      if (change.about) await mustBe(asker, db, project, change.about);
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
      await inTransaction(db, async (tx) => {
        const { row: made } = await enterCommitment(asker, tx, project, change, today);
        await set({ became: made.ref }, tx);
      });
  }
  return (await jottingsOf(asker, db, project, { id }))[0]!;
}
