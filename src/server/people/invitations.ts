import { createHash, randomBytes } from 'node:crypto';
import { z } from 'zod';
import { ROLES, type Role } from '../../core/people/rights.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { inTransaction } from '../store/transactions.ts';
import { ownerOf } from './owner.ts';
import { mustBeHardToGuess } from './passwords.ts';
import { hasPassword, setPassword } from './signing-in.ts';
import { mustSee, type Workspace } from './workspace.ts';

export const RoleSchema = z.enum(ROLES);

/** Days an invitation can be taken up. */
export const INVITATION_DAYS = 7;

/** What is kept of a link: whoever reads the database cannot follow it. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/**
 * Invites somebody to sign in, and says what they will be in a project. An earlier invitation of the same person ends.
 * @returns the token of the link, which is told this once; null for somebody who signs in here already: they see the
 * project at once, and no link could give another person their account
 */
export async function invite(ws: Workspace, project: string, person: string, role: Role, now: Date): Promise<{ token: string | null; name: string; mail: string }> {
  mustSee(ws.with({ needs: 'manage' }), project, 'project');
  const row = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.name', 'p.mail']).where('p.id', '=', person).where('m.project_id', '=', project).executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'There is no such person in this project.');
  if (!row.mail) throw new Refusal('bad-input', `${row.name} has no mail address.`, 'Whoever signs in does so by their mail address; add it to their entry.');
  if (await hasPassword(ws.db, person)) {
    await ws.db.updateTable('memberships').set({ sees: 1, access: role }).where('project_id', '=', project).where('person_id', '=', person).execute();
    return { token: null, name: row.name, mail: row.mail };
  }
  const token = randomBytes(24).toString('base64url');
  const expires = new Date(now.getTime() + INVITATION_DAYS * 86_400_000).toISOString();
  await ws.transaction(async (ws) => {
    await ws.db.updateTable('invitations').set({ expires_at: now.toISOString() }).where('person_id', '=', person).where('used_at', 'is', null).where('expires_at', '>', now.toISOString()).execute();
    await ws.db
      .insertInto('invitations')
      .values({ token_hash: hashOf(token), person_id: person, project_id: project, role, by_person: ws.asker.person, at: now.toISOString(), expires_at: expires })
      .execute();
  });
  return { token, name: row.name, mail: row.mail };
}

/** Whom a link invites, to what, and by whom. */
export async function invitationOf(db: Db, token: string, now: Date) {
  const row = await db
    .selectFrom('invitations as i')
    .innerJoin('people as p', 'p.id', 'i.person_id')
    .innerJoin('people as by', 'by.id', 'i.by_person')
    .innerJoin('projects as r', 'r.id', 'i.project_id')
    .select(['i.id', 'i.person_id', 'i.project_id', 'i.role', 'i.expires_at', 'i.used_at', 'p.name', 'p.mail', 'by.name as by', 'r.name as project'])
    .where('i.token_hash', '=', hashOf(token))
    .executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'This link leads nowhere.', 'Check that it is whole, or ask for another invitation.');
  if (row.used_at) throw new Refusal('conflict', 'This invitation has been taken up.', 'Sign in with the password you set.');
  if (row.expires_at <= now.toISOString()) throw new Refusal('conflict', 'This invitation has run out.', `Ask ${row.by} for another one.`);
  return row;
}

/** Takes an invitation up: its person gets an account with a password, and sees the project from then on. */
export async function takeUpInvitation(db: Db, token: string, password: string, now: Date): Promise<{ mail: string }> {
  await mustBeHardToGuess(password);
  const person = await inTransaction(db, async (tx) => {
    const row = await invitationOf(tx, token, now);
    // asked for twice at once, it is taken up once
    await tx.updateTable('invitations').set({ used_at: now.toISOString() }).where('id', '=', row.id).execute();
    await tx.updateTable('people').set({ account: 1 }).where('id', '=', row.person_id).execute();
    await tx.updateTable('memberships').set({ sees: 1, access: row.role }).where('person_id', '=', row.person_id).where('project_id', '=', row.project_id).execute();
    return row;
  });
  try {
    await setPassword(db, person.person_id, password);
  } catch (error) {
    // without a password there is no account: the link goes on working
    await db.updateTable('invitations').set({ used_at: null }).where('id', '=', person.id).execute();
    throw error;
  }
  return { mail: person.mail! };
}

/**
 * Says what somebody is in a project; null ends that they see it.
 * @throws Refusal where nobody would be left who may manage it
 */
export async function changeRole(ws: Workspace, project: string, person: string, role: Role | null): Promise<void> {
  mustSee(ws.with({ needs: 'manage' }), project, 'project');
  await ws.transaction(async (ws) => {
    const members = await ws.db.selectFrom('memberships').select(['person_id', 'access', 'sees']).where('project_id', '=', project).execute();
    const now = members.find((m) => m.person_id === person);
    if (!now) throw new Refusal('not-found', 'There is no such person in this project.');
    const owner = await ownerOf(ws.db);
    if (person === owner && role !== 'manager') throw new Refusal('conflict', 'Whoever set up this Ottik stays a manager of every project.');
    const left = members.filter((m) => m.sees && (m.access === 'manager' || m.person_id === owner) && m.person_id !== person);
    if (now.access === 'manager' && role !== 'manager' && left.length === 0) throw new Refusal('conflict', 'Nobody would be left who may manage this project.', 'Make somebody else its manager first.');
    await ws.db
      .updateTable('memberships')
      .set(role === null ? { sees: 0, access: 'member' as const } : { access: role })
      .where('project_id', '=', project)
      .where('person_id', '=', person)
      .execute();
  });
}

/** How somebody stands to a project: their role, whether they can sign in, and whether an invitation waits. */
export async function accessOf(ws: Workspace, project: string, person: string, now: Date) {
  const m = await ws.db.selectFrom('memberships').select(['access', 'sees']).where('project_id', '=', project).where('person_id', '=', person).executeTakeFirst();
  const waits = await ws.db.selectFrom('invitations').select('expires_at').where('person_id', '=', person).where('used_at', 'is', null).where('expires_at', '>', now.toISOString()).orderBy('id', 'desc').executeTakeFirst();
  return { role: m?.access ?? 'member', sees: m?.sees === 1, owner: (await ownerOf(ws.db)) === person, invitedUntil: waits?.expires_at ?? null, mayManage: ws.asker.roles.get(project) === 'manager' };
}
export type Access = Awaited<ReturnType<typeof accessOf>>;
