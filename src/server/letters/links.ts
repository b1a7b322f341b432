import { randomBytes } from 'node:crypto';
import { addDays } from '../../core/dates/calendar.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { isSignature, signature } from '../store/signing.ts';

/** How long a personal page stays open after its letter was written. */
export const LINK_DAYS = 45;

export const newToken = () => randomBytes(16).toString('hex');

/** What is signed: whose letter, until when, and how often its reader's links were made anew. */
const signedWords = (recipient: number | string, until: string, anew: number) => `answer ${recipient} ${until}${anew > 0 ? ` ${anew}` : ''}`;

async function timesAnew(db: Db, recipient: number): Promise<number> {
  const row = await db.selectFrom('letter_recipients as r').innerJoin('people as p', 'p.id', 'r.person_id').select('p.links').where('r.id', '=', recipient).executeTakeFirst();
  return row?.links ?? 0;
}

async function pathUntil(db: Db, recipient: number, until: string): Promise<string> {
  return `/answer/${recipient}.${until}.${await signature(db, signedWords(recipient, until, await timesAnew(db, recipient)))}`;
}

/** The path of a reader's own page: signed, and good until a day. */
export const answerPath = (db: Db, recipient: number, from: string): Promise<string> => pathUntil(db, recipient, addDays(from, LINK_DAYS));

/** The recipient a link was made for, or null for one that was changed, made up, made anew since, or has expired: all look the same. */
export async function readLink(db: Db, link: string, today: string): Promise<{ recipient: number; until: string } | null> {
  const m = /^(\d{1,12})\.(\d{4}-\d{2}-\d{2})\.([\w-]{32})$/.exec(link);
  if (!m) return null;
  const recipient = Number(m[1]);
  if (m[2]! < today || !(await isSignature(db, signedWords(recipient, m[2]!, await timesAnew(db, recipient)), m[3]!))) return null;
  return { recipient, until: m[2]! };
}

/**
 * Makes somebody's personal links anew: the pages their letters lead to and the address of their calendar. The former ones
 * lead nowhere from then on; letters that have not gone yet carry the new ones. For oneself, or for whoever runs the project.
 * @returns how many letters that have not gone were changed
 */
export async function renewLinks(ws: Workspace, project: string, person: string): Promise<{ letters: number }> {
  return ws.transaction(async (ws) => {
    mustSee(person === ws.asker.person ? ws : ws.with({ needs: 'manage' }), project, 'project');
    const member = await ws.db.selectFrom('memberships').select('person_id').where('project_id', '=', project).where('person_id', '=', person).executeTakeFirst();
    if (!member) throw new Refusal('not-found', 'There is no such person in this project.');
    await ws.db
      .updateTable('people')
      .set((eb) => ({ links: eb('links', '+', 1) }))
      .where('id', '=', person)
      .execute();
    const waiting = await ws.db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select(['r.id', 'l.id as letter', 'l.body', 'l.short']).where('r.person_id', '=', person).where('r.state', 'in', ['waiting', 'queued']).where('l.state', '!=', 'withdrawn').execute();
    let letters = 0;
    for (const r of waiting) {
      const old = new RegExp(`/answer/${r.id}\\.(\\d{4}-\\d{2}-\\d{2})\\.[\\w-]{32}`, 'g');
      const until = old.exec(r.body)?.[1] ?? new RegExp(old.source).exec(r.short)?.[1];
      if (!until) continue;
      const anew = await pathUntil(ws.db, r.id, until);
      await ws.db
        .updateTable('letters')
        .set({ body: r.body.replace(old, anew), short: r.short.replace(old, anew) })
        .where('id', '=', r.letter)
        .execute();
      letters++;
    }
    return { letters };
  });
}
