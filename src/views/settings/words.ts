import { clockAt } from '../../core/dates/moments.ts';
import { shortDay } from '../../core/language/days.ts';
import type { Settings } from '../../server/pages/settings.ts';

/** How a connection is protected, by the terms of the trade. */
export const SECURITY = { tls: 'TLS from the start', starttls: 'STARTTLS', none: 'none' } as const;
const protectedBy = (s: keyof typeof SECURITY) => (s === 'none' ? 'not protected' : `protected by ${s === 'tls' ? 'TLS' : 'STARTTLS'}`);

/** Who has to sign in, and how whoever asks does, as sentences. */
export function signInInWords({ signIn }: Pick<Settings, 'signIn'>): string {
  if (signIn.demo) return 'In the demo nobody signs in; you can step into any of its people.';
  const own = signIn.mail === null ? 'You have no password.' : `You sign in as ${signIn.mail}${signIn.twoFactor ? ', with a code of your authenticator as a second step' : ''}.`;
  return signIn.must ? `Whoever opens Ottik signs in. ${own}` : `Nobody has to sign in on this machine, and nobody can come from another one. ${own}`;
}

/** Where letters go out, as a sentence. */
export function outInWords({ out, byEnvironment }: Pick<Settings, 'out' | 'byEnvironment'>): string {
  if (out) return `Letters go out by ${out.host}:${out.port}, ${protectedBy(out.security)}${out.user ? `, as ${out.user}` : ''}.`;
  if (byEnvironment) return 'Letters go out by the mail server that Ottik was started with.';
  return 'No mail server is set up: letters can be written, and wait until there is one.';
}

/** Where answers come in, and how that stands, as sentences. */
export function inInWords({ in: box, door, mailbox, you }: Pick<Settings, 'in' | 'door' | 'mailbox' | 'you'>): { now: string; bad: string | null } {
  if (!box && door) return { now: `Answers to ${door} are handed to Ottik by the mail server.`, bad: null };
  if (!box) return { now: 'No mailbox is read: answers go to whoever wrote the letter.', bad: null };
  const time = (at: string) => clockAt(new Date(at), you.zone).time;
  const where = `Answers to ${box.address} are read from ${box.folder} on ${box.host}:${box.port}, ${protectedBy(box.security)}.`;
  const only = box.everything ? 'All that comes into that folder is taken in.' : 'Only what answers a letter is taken in; other mail is not looked into.';
  const taken = mailbox.taken ? ` ${mailbox.taken} taken in since Ottik began.` : '';
  const large = mailbox.tooLarge ? ` ${mailbox.tooLarge} left in the mailbox because of ${mailbox.tooLarge === 1 ? 'its' : 'their'} size.` : '';
  if (mailbox.is === 'broken') return { now: `${where} ${only}`, bad: `${mailbox.wrong ?? 'It cannot be read just now.'}${mailbox.nextTry ? ` The next try is at ${time(mailbox.nextTry)}.` : ''}` };
  const stands = mailbox.is === 'watching' ? `Watched since ${time(mailbox.since)}.` : 'The connection is being made.';
  return { now: `${where} ${only} ${stands}${taken}${large}`, bad: null };
}

/** When the last backup was made, and where it is; or what went wrong. */
export function backupInWords({ backup, you }: Pick<Settings, 'backup' | 'you'>): { now: string; bad: string | null } {
  const when = backup.nightly ? `One is made each night in ${backup.path}, and the last ${backup.keep} are kept.` : `None is made by itself; those that are made go to ${backup.path}.`;
  const { last } = backup;
  if (!last) return { now: `No backup has been made yet. ${when}`, bad: null };
  const made = clockAt(new Date(last.at), you.zone);
  if (last.wrong) return { now: when, bad: `The last one, of ${shortDay(made.day)}, failed: ${last.wrong}` };
  return { now: `The last one is of ${shortDay(made.day)}, ${made.time}: ${last.commitments} commitments, checked. ${when}`, bad: null };
}
