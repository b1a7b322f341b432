import { setTimeout as pause } from 'node:timers/promises';
import { rootCertificates } from 'node:tls';
import { type FetchMessageObject, ImapFlow } from 'imapflow';
import { z } from 'zod';
import { Refusal } from '../refusal.ts';
import { tokenOf } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { log } from '../store/log.ts';
import { keepSetting, setting } from '../store/settings.ts';
import { MAIL_LIMIT, receiveMail } from './inbound.ts';
import { incoming } from './mail-settings.ts';
import type { MailSettings } from './mailer.ts';

type Box = NonNullable<Awaited<ReturnType<typeof incoming>>>;

/** How far a mailbox has been read: the last mail, by the number that IMAP promises to keep (RFC 9051, 2.3.1.1). */
const SeenSchema = z.object({ box: z.string(), validity: z.string(), uid: z.number(), at: z.string() });
const SEEN = 'mail in seen';

/** How the mailbox stands, for the settings page. */
export interface MailboxState {
  is: 'off' | 'connecting' | 'watching' | 'broken';
  since: Date;
  /** what is wrong, in words */
  wrong: string | null;
  nextTry: Date | null;
  /** mails taken in, and left where they are because they are too large, since Ottik began */
  taken: number;
  tooLarge: number;
}

const state: MailboxState = { is: 'off', since: new Date(), wrong: null, nextTry: null, taken: 0, tooLarge: 0 };
export const mailboxState = (): Readonly<MailboxState> => state;
const stands = (is: MailboxState['is'], wrong: string | null = null, nextTry: Date | null = null) => Object.assign(state, { is, wrong, nextTry, since: new Date() });

/** Pauses between tries, in milliseconds: each longer than the one before, up to ten minutes. */
export const PAUSES = [5_000, 15_000, 60_000, 180_000, 600_000];
/** A mail is looked for at least this often where the server does not tell of it. */
const LOOK_EVERY = 120_000;
/** So many mails' headers are asked for at once. */
const BATCH = 200;
/** Headers that tell whether a mail answers a letter. */
const HEADERS = ['delivered-to', 'x-original-to', 'in-reply-to', 'references', 'content-type'];

function connect(box: MailSettings, patience = 20_000): ImapFlow {
  const client = new ImapFlow({
    host: box.host,
    port: box.port,
    secure: box.security === 'tls',
    doSTARTTLS: box.security === 'starttls',
    ...(box.user ? { auth: { user: box.user, pass: box.password ?? '' } } : {}),
    ...(box.authority ? { tls: { ca: [...rootCertificates, box.authority] } } : {}),
    logger: false,
    connectionTimeout: patience,
    greetingTimeout: patience,
    socketTimeout: 5 * 60_000,
    maxIdleTime: LOOK_EVERY,
  });
  // an error without a listener would end the server
  client.on('error', () => undefined);
  return client;
}

/** What went wrong with a mailbox, in words that tell a wrong password from a server that is not there. */
export function inWords(error: unknown, box: { host: string; port: number; folder: string }): string {
  const e = error as Error & { code?: string; authenticationFailed?: boolean; responseText?: string; mailboxMissing?: boolean };
  const where = `${box.host}:${box.port}`;
  if (e.authenticationFailed) return `The mail server at ${where} does not accept the login${e.responseText ? `: ${e.responseText.slice(0, 120)}` : ''}.`;
  if (e.mailboxMissing) return `The mailbox has no folder “${box.folder}”.`;
  if (/certificate|self.signed|altnames/i.test(`${e.code} ${e.message}`)) return `The certificate of the mail server at ${where} is not one to be trusted: ${e.message.slice(0, 160)}.`;
  if (/STARTTLS/i.test(e.message)) return `The mail server at ${where} does not offer a protected connection.`;
  if (/ETIMEDOUT|TIMEOUT|timed? ?out/i.test(`${e.code} ${e.message}`)) return `The mail server at ${where} does not answer.`;
  if (/ECONNREFUSED|ENOTFOUND|EHOSTUNREACH|ENETUNREACH|EAI_AGAIN/.test(String(e.code))) return `The mail server at ${where} cannot be reached.`;
  if (e.responseText) return `The mail server at ${where} refused: ${e.responseText.slice(0, 160)}.`;
  return `The connection to the mail server at ${where} broke off.`;
}

/**
 * Looks whether a mailbox can be read, and tells what is there. Nothing in it is changed.
 * @throws Refusal in words
 */
export async function tryMailbox(box: MailSettings & { folder: string }): Promise<{ mails: number }> {
  const client = connect(box, 10_000);
  try {
    await client.connect();
    try {
      const { exists } = await client.mailboxOpen(box.folder, { readOnly: true });
      return { mails: exists };
    } catch (error) {
      const folders = (await client.list().catch(() => [])).map((f) => f.path).slice(0, 12);
      throw new Refusal('bad-input', inWords(error, box), folders.length ? `It has ${folders.join(', ')}.` : null);
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal('unreachable', inWords(error, box));
  } finally {
    client.close();
  }
}

/**
 * Watches the mailbox of the settings until `signal` ends it: reads what came while nobody watched, then waits for
 * more. A connection that breaks is made again after a pause, each time a longer one.
 */
export async function watchMailbox(db: Db, signal: AbortSignal, pauses: readonly number[] = PAUSES): Promise<void> {
  let tries = 0;
  while (!signal.aborted) {
    const box = await incoming(db).catch((error: unknown) => error as Error);
    if (box === null || box instanceof Error) {
      stands(box ? 'broken' : 'off', box?.message ?? null);
      await rest(pauses[0]!, signal);
      continue;
    }
    stands('connecting');
    try {
      await watch(db, box, signal, () => {
        tries = 0;
      });
    } catch (error) {
      const wait = pauses[Math.min(tries++, pauses.length - 1)]!;
      stands('broken', inWords(error, box), new Date(Date.now() + wait));
      log.warn(error, 'the mailbox cannot be read');
      await rest(wait, signal);
    }
  }
  stands('off');
}

let wake: (() => void) | null = null;

/** The settings have changed: a pause ends, and a connection by the old ones is given up. */
export const mailboxChanged = (): void => wake?.();

/** Waits, until it is time, the settings change or all is to end. */
async function rest(ms: number, signal: AbortSignal): Promise<void> {
  const early = new AbortController();
  wake = () => early.abort();
  await pause(ms, undefined, { signal: AbortSignal.any([signal, early.signal]), ref: false }).catch(() => undefined);
}

async function watch(db: Db, box: Box, signal: AbortSignal, works: () => void): Promise<void> {
  const client = connect(box);
  const end = new Promise<void>((done) => {
    wake = done;
    signal.addEventListener('abort', () => done(), { once: true });
  });
  const broken = new Promise<never>((_, fail) => client.once('close', () => fail(new Error('the connection was closed'))));
  broken.catch(() => undefined);
  try {
    await client.connect();
    // EXAMINE: nothing that is read is marked as read
    await client.mailboxOpen(box.folder, { readOnly: true });
    for (let ended = false; !ended; ) {
      const told = new Promise<void>((done) => client.once('exists', () => done()));
      await Promise.race([readNew(db, client, box, signal), broken]);
      stands('watching');
      works();
      // at once, and not after a while of silence; the next command ends it
      client.idle().catch(() => undefined);
      const later = new AbortController();
      const another = pause(LOOK_EVERY, undefined, { signal: later.signal, ref: false }).catch(() => undefined);
      ended = await Promise.race([end.then(() => true), told.then(() => false), another.then(() => false), broken]);
      later.abort();
    }
  } finally {
    client.close();
  }
}

/** Takes in what is new. How far it came is kept after each mail, so that what breaks off goes on where it was. */
async function readNew(db: Db, client: ImapFlow, box: Box, signal: AbortSignal): Promise<void> {
  if (!client.mailbox) throw new Error('no folder is open');
  const name = `${box.user}@${box.host}:${box.port}/${box.folder}`;
  const validity = String(client.mailbox.uidValidity);
  const keep = (uid: number) => keepSetting(db, SEEN, { box: name, validity, uid, at: new Date().toISOString() });
  const seen = await setting(db, SEEN, SeenSchema);
  // what lay in a mailbox before it was entered here is none of Ottik's business
  if (seen?.box !== name) return keep(client.mailbox.uidNext - 1);
  // the server numbers its mails anew: what came since is told by its date, and what was had before by its Message-ID
  const anew = seen.validity !== validity;
  const found = await client.search(anew ? { since: new Date(Date.parse(seen.at) - 86_400_000) } : { uid: `${seen.uid + 1}:*` }, { uid: true });
  // `n:*` names the last mail even where it comes before n
  const uids = (found || []).filter((uid) => anew || uid > seen.uid).sort((a, b) => a - b);
  for (let i = 0; i < uids.length; i += BATCH) {
    const mails = await client.fetchAll(uids.slice(i, i + BATCH), { uid: true, size: true, envelope: true, headers: HEADERS }, { uid: true });
    for (const mail of mails.sort((a, b) => a.uid - b.uid)) {
      if (signal.aborted) return;
      await takeIn(db, client, box, mail);
      await keep(mail.uid);
    }
  }
  if (anew && uids.length === 0) await keep(client.mailbox.uidNext - 1);
}

async function takeIn(db: Db, client: ImapFlow, box: Box, mail: FetchMessageObject): Promise<void> {
  const headers = mail.headers?.toString('utf8') ?? '';
  const to = [...(mail.envelope?.to ?? []), ...(mail.envelope?.cc ?? [])].flatMap((a) => a.address ?? []);
  if (!box.everything && !isReport(headers) && !(await isForUs(db, [...to, headers], headers))) return;
  if ((mail.size ?? 0) > MAIL_LIMIT) {
    state.tooLarge++;
    log.warn(`a mail of ${mail.size} bytes was left in the mailbox`);
    return;
  }
  const { source } = (await client.fetchOne(mail.uid, { source: true }, { uid: true })) || {};
  if (!source) return;
  // a report of failure names its letter inside itself (RFC 3464); others' reports are none of ours
  if (isReport(headers) && !box.everything && !(await isForUs(db, to, source.toString('latin1')))) return;
  if ((await receiveMail(db, source, to)).what === 'kept') state.taken++;
}

/** Whether a mail answers a letter: it came to a letter's own address, or refers to its Message-ID. */
async function isForUs(db: Db, addresses: readonly string[], headers: string): Promise<boolean> {
  const tokens = addresses.flatMap((a) => tokenOf(a) ?? []);
  if (tokens.length && (await db.selectFrom('letter_recipients').select('id').where('token', 'in', tokens).executeTakeFirst())) return true;
  const ids = [...headers.matchAll(/<[^<>\s]{3,250}>/g)].map((m) => m[0]).slice(0, 100);
  return ids.length > 0 && (await db.selectFrom('letter_recipients').select('id').where('message_id', 'in', ids).executeTakeFirst()) !== undefined;
}

const isReport = (headers: string) => /multipart\/report/i.test(headers);
