import { sql } from 'kysely';
import { z } from 'zod';
import type { Find } from '../../core/sift/find.ts';
import { CORRECTED, type Habit, learn, type Settled, traitsOf } from '../../core/sift/learned.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';

/** Learned from the last so many settled finds of a project: habits change. */
const LOOK_BACK = 400;

/** What the settled finds of a project teach, since it was last told to forget. */
export async function habitsOf(db: Db, project: string): Promise<Habit[]> {
  const reset = await db.selectFrom('learned_resets').select(['after_change', 'after_judgement']).where('project_id', '=', project).orderBy('id', 'desc').limit(1).executeTakeFirst();
  const rows = await db
    .selectFrom('finds as f')
    .innerJoin('meetings as m', 'm.id', 'f.meeting_id')
    .innerJoin('find_changes as c', 'c.find_id', 'f.id')
    .leftJoin('find_judgements as j', (on) => on.onRef('j.find_id', '=', 'f.id').on('j.id', '>', reset?.after_judgement ?? 0))
    .select(['f.id', 'f.data', 'f.verdict', 'c.before', 'c.at', 'j.right'])
    .where('m.project_id', '=', project)
    .where('f.verdict', '!=', 'open')
    .where('f.reader', '!=', 'hand')
    .where('c.verdict', 'in', ['taken', 'passed'])
    .where('c.id', '>', reset?.after_change ?? 0)
    .orderBy('c.id', 'desc')
    .limit(LOOK_BACK * 2)
    .execute();
  // a find that was called right or wrong teaches that, also while it is open
  const called = await db
    .selectFrom('find_judgements as j')
    .innerJoin('finds as f', 'f.id', 'j.find_id')
    .innerJoin('meetings as m', 'm.id', 'f.meeting_id')
    .select(['f.id', 'f.data', 'j.right'])
    .where('m.project_id', '=', project)
    .where('f.verdict', '=', 'open')
    .where('f.reader', '!=', 'hand')
    .where('j.id', '>', reset?.after_judgement ?? 0)
    .orderBy('j.id', 'desc')
    .limit(LOOK_BACK)
    .execute();
  const settled = new Map<number, Settled>();
  for (const c of called) {
    const find = CODECS.find.read(c.data);
    if (find.evidence.length > 0) settled.set(c.id, { traits: traitsOf(find), confidence: find.confidence, right: c.right });
  }
  for (const r of rows) {
    if (settled.has(r.id) || settled.size >= LOOK_BACK) continue;
    const now = CODECS.find.read(r.data);
    const before = r.before ? CODECS.find.read(r.before) : now;
    // a find whose words are gone has nothing to teach any more
    if (now.evidence.length === 0) continue;
    settled.set(r.id, { traits: traitsOf(before), confidence: before.confidence, right: r.right ?? (r.verdict === 'taken' ? 1 - CORRECTED * corrections(before, now) : 0) });
  }
  return learn([...settled.values()]);
}

function corrections(before: Find, now: Find): number {
  return Number(before.text !== now.text) + Number(before.owner.join() !== now.owner.join()) + Number(before.due !== now.due);
}

/** What was learned in a project, to be looked at. */
export async function learnedPage(ws: Workspace, project: string): Promise<{ habits: Habit[]; forgotAt: string | null }> {
  mustSee(ws, project, 'project');
  const last = await ws.db.selectFrom('learned_resets').select('at').where('project_id', '=', project).orderBy('id', 'desc').limit(1).executeTakeFirst();
  return { habits: await habitsOf(ws.db, project), forgotAt: last?.at ?? null };
}

export const ForgetSchema = z.object({ do: z.literal('forget'), project: z.string() });

/** Forgets what was learned so far; finds to come are weighed as Sift alone would. */
export async function forgetLearned(ws: Workspace, project: string): Promise<void> {
  mustSee(ws, project, 'project');
  const last = (table: 'find_changes' | 'find_judgements') => sql<number>`COALESCE((SELECT MAX(id) FROM ${sql.table(table)}), 0)`;
  await ws.db
    .insertInto('learned_resets')
    .values({ project_id: project, at: new Date().toISOString(), by_person: ws.asker.person, after_change: last('find_changes'), after_judgement: last('find_judgements') })
    .execute();
}
