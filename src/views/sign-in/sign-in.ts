import { Refused } from '../parts/api.ts';

/** What better-auth refuses with, in our words. */
const WORDS: Record<string, [string, string | null]> = {
  INVALID_EMAIL_OR_PASSWORD: ['That address and that password do not belong together.', null],
  INVALID_PASSWORD: ['That is not your password.', null],
  PASSWORD_TOO_SHORT: ['A password has at least twelve characters.', 'A few words one after another are easy to remember.'],
  PASSWORD_TOO_LONG: ['A password has at most 128 characters.', null],
  INVALID_TOKEN: ['This link has been used, or has run out.', 'Ask for another one.'],
  INVALID_CODE: ['That is not the code of this moment.', 'Your authenticator shows another one every thirty seconds.'],
  INVALID_TWO_FACTOR_COOKIE: ['That took too long.', 'Enter your password once more.'],
  INVALID_BACKUP_CODE: ['That is none of the spare codes, or it has been used.', null],
};

/** Asks about signing in. @throws Refused with words to show */
export async function askAuth<T>(path: string, body: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/auth/${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  } catch {
    throw new Refused('Ottik cannot be reached.', 'Check that it is running.', null);
  }
  if (response.status === 429) throw new Refused('That was tried too often.', 'Wait a minute, then try again.', null);
  const value = (await response.json().catch(() => null)) as (T & { code?: string; message?: string }) | null;
  if (response.ok) return (value ?? {}) as T;
  const [message, advice] = WORDS[value?.code ?? ''] ?? [value?.message ?? 'The server did not answer as expected.', null];
  throw new Refused(message, advice, null);
}

export const signIn = (mail: string, password: string) => askAuth<{ twoFactorRedirect?: boolean }>('sign-in/email', { email: mail.trim(), password });
