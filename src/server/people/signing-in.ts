import { z } from 'zod';
import { Refusal } from '../refusal.ts';
import { publicAddress } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { keyFor } from '../store/secrets.ts';
import { keepSetting, setting } from '../store/settings.ts';
import { mustBeHardToGuess, PasswordSchema } from './passwords.ts';

/** Days a session lasts without being used, and days until somebody signs in again in any case. */
const SESSION_DAYS = 14;
const RESET_HOURS = 2;
const DAY = 86_400;

const isLoopback = (name: string): boolean => /^(?:127\.|localhost$|\[?::1\]?$)/.test(name);

/**
 * Whether this server can be reached from this machine only. One that answers to another name (`OTTIK_URL`, `OTTIK_HOSTS`)
 * is reached through a proxy, whatever address it listens on.
 */
export function onThisMachineOnly(env: { HOST?: string; OTTIK_URL?: string; OTTIK_HOSTS?: string } = process.env): boolean {
  const names = [env.HOST, env.OTTIK_URL && new URL(env.OTTIK_URL).hostname, ...(env.OTTIK_HOSTS ?? '').split(',').map((name) => name.trim())];
  return names.every((name) => !name || isLoopback(name));
}

/** In the demo anybody can be any of its made-up people; nowhere else. */
export const isDemo = (): boolean => process.env.OTTIK_DEMO === '1' && onThisMachineOnly();

/** Whether whoever asks has to sign in: always where others can reach this server, and on one's own machine by choice. */
export async function mustSignIn(db: Db): Promise<boolean> {
  if (isDemo()) return false;
  return !onThisMachineOnly() || (await setting(db, 'sign in', z.boolean())) === true;
}

/** Says whether to ask for the password on this machine too. */
export async function askForPassword(db: Db, person: string, ask: boolean): Promise<void> {
  if (ask && !(await hasPassword(db, person))) throw new Refusal('conflict', 'You have no password yet.', 'Set one first: nobody could come in otherwise.');
  await keepSetting(db, 'sign in', ask ? true : null);
}

export const hasPassword = async (db: Db, person: string): Promise<boolean> => (await db.selectFrom('users').select('id').where('personId', '=', person).executeTakeFirst()) !== undefined;

/** A letter about an account: what it says, and to whom. */
export interface AccountLetter {
  to: { name: string; address: string };
  subject: string;
  text: string;
}
let post: (db: Db, letter: AccountLetter) => Promise<void> = async () => {
  throw new Error('there is no way to send letters about accounts');
};
/** Names the way by which letters about accounts go; mail belongs to a floor above this one. */
export const sendAccountLettersBy = (way: typeof post): void => {
  post = way;
};

async function makeAuth(db: Db) {
  const [{ betterAuth }, { twoFactor }, { APIError, createAuthMiddleware }] = await Promise.all([import('better-auth'), import('better-auth/plugins/two-factor'), import('better-auth/api')]);
  const url = publicAddress();
  return betterAuth({
    appName: 'Ottik',
    database: { db, type: 'sqlite' },
    basePath: '/api/auth',
    baseURL: url,
    secret: keyFor('sign in'),
    telemetry: { enabled: false },
    logger: { disabled: true },
    trustedOrigins: (request) => (request ? [new URL(request.url).origin] : []),
    // accounts are made by invitation and by the first run
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: 12,
      maxPasswordLength: 128,
      resetPasswordTokenExpiresIn: RESET_HOURS * 3600,
      revokeSessionsOnPasswordReset: true,
      sendResetPassword: async ({ user, token }) => {
        const text = `Somebody, probably you, asked for a new password for Ottik.\n\nSet it here within two hours:\n${url}/sign-in?token=${token}\n\nIf it was not you, do nothing: your password stays as it is.`;
        // whoever asks is not told whether there is such an address, nor whether the letter went (ASVS 4.0.3, 2.5.x)
        await post(db, { to: { name: user.name, address: user.email }, subject: 'A new password for Ottik', text }).catch(() => undefined);
      },
    },
    hooks: {
      before: createAuthMiddleware(async ({ path, body }) => {
        if (path !== '/reset-password' && path !== '/change-password') return;
        const wanted: unknown = body?.newPassword;
        if (typeof wanted !== 'string' || !PasswordSchema.safeParse(wanted).success) return;
        await mustBeHardToGuess(wanted).catch((error: unknown) => {
          if (error instanceof Refusal) throw new APIError('BAD_REQUEST', { code: 'PASSWORD_EASILY_GUESSED', message: `${error.message} ${error.advice}` });
          throw error;
        });
      }),
    },
    session: { modelName: 'sessions', expiresIn: SESSION_DAYS * DAY, updateAge: DAY, cookieCache: { enabled: false } },
    user: { modelName: 'users', additionalFields: { personId: { type: 'string', required: true, input: false } } },
    account: { modelName: 'credentials' },
    verification: { modelName: 'verifications' },
    plugins: [twoFactor({ issuer: 'Ottik' })],
    rateLimit: { enabled: true, window: 60, max: 100, customRules: { '/sign-in/email': { window: 60, max: 8 }, '/two-factor/verify-totp': { window: 60, max: 8 }, '/request-password-reset': { window: 300, max: 5 } } },
    advanced: {
      cookiePrefix: 'ottik',
      useSecureCookies: url.startsWith('https:'),
      defaultCookieAttributes: { sameSite: 'lax', httpOnly: true },
      // set by this server from the connection, whatever was sent under that name
      ipAddress: { ipAddressHeaders: ['x-ottik-address'] },
    },
  });
}
type Auth = Awaited<ReturnType<typeof makeAuth>>;
const made = new WeakMap<object, Promise<Auth>>();

/** What signs people in; made when it is first needed. */
export function authOf(db: Db): Promise<Auth> {
  const known = made.get(db);
  if (known) return known;
  const auth = makeAuth(db);
  made.set(db, auth);
  return auth;
}

/** The person a request is signed in as, or null. */
export async function signedInAs(db: Db, headers: Headers): Promise<string | null> {
  if (!headers.get('cookie')?.includes('ottik.session_token')) return null;
  const session = await (await authOf(db)).api.getSession({ headers });
  return session?.user.personId ?? null;
}

/** Gives somebody a password: their first one, or another in its place, which ends where they are signed in. */
export async function setPassword(db: Db, person: string, password: string): Promise<void> {
  const words = PasswordSchema.parse(password);
  const row = await db.selectFrom('people').select(['name', 'mail']).where('id', '=', person).executeTakeFirst();
  if (!row?.mail) throw new Refusal('bad-input', `${row?.name ?? 'This person'} has no mail address.`, 'Whoever signs in does so by their mail address.');
  await mustBeHardToGuess(words, [row.name, row.mail]);
  const { internalAdapter, password: hashing } = await (await authOf(db)).$context;
  const hash = await hashing.hash(words);
  const known = await db.selectFrom('users').select(['id', 'email']).where('personId', '=', person).executeTakeFirst();
  if (known) {
    if (known.email !== row.mail.toLowerCase()) await internalAdapter.updateUser(known.id, { email: row.mail.toLowerCase() });
    await internalAdapter.updatePassword(known.id, hash);
    await internalAdapter.deleteUserSessions(known.id);
    return;
  }
  const user = await internalAdapter.createUser({ email: row.mail.toLowerCase(), name: row.name, emailVerified: true, personId: person }, { method: 'admin' });
  await internalAdapter.linkAccount({ userId: user.id, providerId: 'credential', accountId: user.id, password: hash });
}
