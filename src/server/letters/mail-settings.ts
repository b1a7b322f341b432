import { readFileSync } from 'node:fs';
import { z } from 'zod';
import { mustKeepHouse } from '../people/keeper.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { AnswersBox } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { sealed, unsealed } from '../store/secrets.ts';
import { keepSetting, setting } from '../store/settings.ts';
import type { MailSettings } from './mailer.ts';

const Address = z.email('That is not a mail address.').max(254);
const Host = z
  .string()
  .trim()
  .min(1, 'needs a name')
  .max(253)
  .regex(/^[\w.:[\]-]+$/u, 'That is not the name of a server: it looks like mail.example.org.');
const Server = z.object({ host: Host, port: z.number().int().min(1).max(65_535), security: z.enum(['tls', 'starttls', 'none']), user: z.string().trim().max(254).default('') });

/** A password as it comes from the page: null keeps the one there is, the empty string is none. */
const Password = z.string().max(1000).nullable().default(null);
const Sender = z.object({ name: z.string().trim().min(1, 'needs a name').max(120), address: Address });

/** How letters go out. `senders` are the names and addresses they may go from besides a person's own. */
export const OutgoingSchema = Server.extend({ password: Password, senders: z.array(Sender).max(20).default([]) });

/**
 * Where answers come in. `address` is the mailbox's own; `plus` says that it takes mail for `name+anything@` as well
 * (RFC 5233); `everything` that all of its folder is meant for Ottik, and not only what answers a letter.
 */
export const IncomingSchema = Server.extend({ password: Password, folder: z.string().trim().min(1).max(200).default('INBOX'), address: Address, plus: z.boolean().default(true), everything: z.boolean().default(false) });
export type Incoming = z.infer<typeof IncomingSchema>;

const secret = { secret: z.string().nullable() };
const OutgoingKept = OutgoingSchema.omit({ password: true }).extend(secret);
const IncomingKept = IncomingSchema.omit({ password: true }).extend(secret);
const [OUT, IN] = ['mail out', 'mail in'];

/** A new password sealed, or the one there was. Another account's password is not sent to a server that was typed in since. */
function secretFor(password: string | null, before: { host: string; user: string; secret: string | null } | null, now: { host: string; user: string }): string | null {
  if (password !== null) return password === '' ? null : sealed(password);
  if (before?.secret && (before.host !== now.host || before.user !== now.user)) throw new Refusal('bad-input', 'The server or the login is another one now.', 'Enter the password again.');
  return before?.secret ?? null;
}

export async function keepOutgoing(ws: Workspace, { password, ...given }: z.infer<typeof OutgoingSchema>): Promise<void> {
  await mustKeepHouse(ws);
  await keepSetting(ws.db, OUT, { ...given, secret: secretFor(password, await setting(ws.db, OUT, OutgoingKept), given) });
}

export async function keepIncoming(ws: Workspace, { password, ...given }: Incoming): Promise<void> {
  await mustKeepHouse(ws);
  await keepSetting(ws.db, IN, { ...given, secret: secretFor(password, await setting(ws.db, IN, IncomingKept), given) });
}

/** Takes the settings away: nothing is sent, or nothing read, from then on. */
export async function forgetMail(ws: Workspace, which: 'out' | 'in'): Promise<void> {
  await mustKeepHouse(ws);
  await keepSetting(ws.db, which === 'out' ? OUT : IN, null);
}

/** Chooses the address a project's letters go out from; null for that of whoever writes them. */
export async function keepSender(ws: Workspace, project: string, address: string | null): Promise<void> {
  await mustKeepHouse(ws);
  mustSee(ws, project, 'project');
  const kept = await setting(ws.db, OUT, OutgoingKept);
  if (address !== null && !kept?.senders.some((s) => s.address === address)) throw new Refusal('bad-input', `Letters cannot go out from “${address.slice(0, 80)}”.`, 'Add it to the senders first.');
  await ws.db.updateTable('projects').set({ sender: address }).where('id', '=', project).execute();
}

/** What the settings page shows; a password is never among it. */
export async function mailSettingsShown(db: Db) {
  const shown = <T extends { secret: string | null }>(kept: T | null) => {
    if (!kept) return null;
    const { secret: has, ...rest } = kept;
    return { ...rest, hasPassword: has !== null };
  };
  return { out: shown(await setting(db, OUT, OutgoingKept)), in: shown(await setting(db, IN, IncomingKept)), byEnvironment: fromEnvironment() !== null, door: process.env.OTTIK_ANSWERS ?? null };
}

/** The mail server letters go out by: the one of the settings, or the environment's; null while there is none. */
export async function outgoing(db: Db): Promise<MailSettings | null> {
  const kept = await setting(db, OUT, OutgoingKept);
  return kept ? { ...connection(kept), authority: authorityOfTheHouse() } : fromEnvironment();
}

/** The mailbox answers are read from, or null while there is none. */
export async function incoming(db: Db): Promise<(Omit<Incoming, 'password'> & MailSettings) | null> {
  const kept = await setting(db, IN, IncomingKept);
  return kept && { ...kept, ...connection(kept), user: kept.user, authority: authorityOfTheHouse() };
}

/** A connection as it stands in a form, before it is kept: with the password that is kept where none was typed. */
export async function connectionTyped(ws: Workspace, which: 'out' | 'in', typed: { host: string; port: number; security: 'tls' | 'starttls' | 'none'; user: string; password: string | null }): Promise<MailSettings> {
  await mustKeepHouse(ws);
  const before = which === 'out' ? await setting(ws.db, OUT, OutgoingKept) : await setting(ws.db, IN, IncomingKept);
  return { ...connection({ ...typed, secret: secretFor(typed.password, before, typed) }), authority: authorityOfTheHouse() };
}

function connection(kept: { host: string; port: number; security: 'tls' | 'starttls' | 'none'; user: string; secret: string | null }): MailSettings {
  return { host: kept.host, port: kept.port, security: kept.security, user: kept.user || undefined, password: kept.secret ? unsealed(kept.secret) : undefined };
}

const authorityOfTheHouse = () => (process.env.OTTIK_SMTP_CA ? readFileSync(process.env.OTTIK_SMTP_CA, 'utf8') : undefined);

/** The mail server that the environment names, where it names one. */
function fromEnvironment(env: NodeJS.ProcessEnv = process.env): MailSettings | null {
  if (!env.OTTIK_SMTP_HOST && !env.OTTIK_SMTP_PORT) return null;
  const security = env.OTTIK_SMTP_SECURITY;
  return {
    host: env.OTTIK_SMTP_HOST ?? '127.0.0.1',
    port: Number(env.OTTIK_SMTP_PORT ?? 25),
    patience: env.OTTIK_SMTP_PATIENCE ? Number(env.OTTIK_SMTP_PATIENCE) : undefined,
    security: security === 'tls' || security === 'starttls' ? security : 'none',
    user: env.OTTIK_SMTP_USER,
    password: env.OTTIK_SMTP_PASSWORD,
    authority: authorityOfTheHouse(),
  };
}

/** The mailbox letters are answered to: the one that is read, or the one whose mail is handed to Ottik; null while there is none. */
export async function answersBox(db: Db): Promise<AnswersBox | null> {
  const kept = await setting(db, IN, IncomingKept);
  if (kept) return { address: kept.address, plus: kept.plus };
  return process.env.OTTIK_ANSWERS ? { address: process.env.OTTIK_ANSWERS, plus: true } : null;
}

/** Name and address a project's letters go out from: those chosen for it, or whoever asks. */
export async function senderOf(ws: Workspace, project: string): Promise<{ name: string; address: string }> {
  const row = await ws.db.selectFrom('projects').select('sender').where('id', '=', project).executeTakeFirst();
  const kept = row?.sender ? await setting(ws.db, OUT, OutgoingKept) : null;
  const chosen = kept?.senders.find((s) => s.address === row?.sender);
  if (chosen) return chosen;
  if (!ws.asker.mail) throw new Refusal('bad-input', 'You have no mail address, so a letter could not be answered.', 'Add your address to your entry among the people.');
  return { name: ws.asker.name, address: ws.asker.mail };
}
