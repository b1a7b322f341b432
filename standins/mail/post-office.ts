import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type ParsedMail, simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/** One message in a mailbox, as it arrived. */
export interface Stored {
  id: string;
  /** envelope recipient, lower case */
  mailbox: string;
  received: string;
  mail: ParsedMail;
  source: string;
}

/** How the server behaves, so that every trouble with mail can be tried. */
export const MOODS = {
  takes: 'takes every letter',
  slow: 'takes letters, after three seconds each',
  busy: 'says it is busy (451), to be asked again later',
  refuses: 'refuses letters for good (550)',
  drops: 'hangs up in the middle of a letter',
  hangs: 'does not answer any more',
} as const;
export type Mood = keyof typeof MOODS;
export const isMood = (text: string): text is Mood => Object.hasOwn(MOODS, text);

const refusal = (message: string, responseCode: number) => Object.assign(new Error(message), { responseCode });

/**
 * A mail server that takes every message and keeps it in a folder, one `.eml` file each. A message that comes a second
 * time for the same mailbox (by its Message-ID) is taken and not kept again, as mail stores do. Addresses with the
 * local part `bounce` are refused, so that a refusal can be tried.
 */
export class PostOffice {
  private readonly stored: Stored[] = [];
  private readonly known = new Set<string>();
  private count = 0;
  /** messages that came a second time */
  suppressed = 0;
  mood: Mood = 'takes';
  /** people with a mailbox, also an empty one: address to name */
  readonly people = new Map<string, string>();

  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  /** Reads what an earlier run kept. */
  async load(): Promise<void> {
    for (const name of readdirSync(this.folder)
      .filter((f) => f.endsWith('.eml'))
      .sort()) {
      const source = readFileSync(join(this.folder, name), 'utf8');
      const m = /^(\d+)-(\d+)-(.+)\.eml$/.exec(name);
      if (!m) continue;
      this.count = Math.max(this.count, Number(m[1]));
      const mail = await simpleParser(source);
      this.stored.push({ id: m[1]!, received: new Date(Number(m[2])).toISOString(), mailbox: decodeURIComponent(m[3]!), mail, source });
      this.known.add(`${decodeURIComponent(m[3]!)} ${mail.messageId ?? m[1]}`);
    }
    this.loadPeople();
  }

  private loadPeople(): void {
    try {
      for (const [mail, name] of Object.entries(JSON.parse(readFileSync(join(this.folder, 'people.json'), 'utf8')) as Record<string, string>)) this.people.set(mail.toLowerCase(), name);
    } catch {
      // without the list only mailboxes that have got something are there
    }
  }

  /** Gives people a mailbox before anything has come for them. */
  keepPeople(people: readonly { name: string; mail: string }[]): void {
    writeFileSync(join(this.folder, 'people.json'), JSON.stringify(Object.fromEntries(people.map((p) => [p.mail, p.name]))));
    this.loadPeople();
  }

  async take(address: string, source: Buffer): Promise<void> {
    const mailbox = address.toLowerCase();
    const mail = await simpleParser(source);
    const key = `${mailbox} ${mail.messageId ?? source.toString('base64').slice(0, 2000)}`;
    if (this.known.has(key)) {
      this.suppressed += 1;
      return;
    }
    this.known.add(key);
    this.count += 1;
    const id = String(this.count).padStart(6, '0');
    const now = Date.now();
    const name = `${id}-${now}-${encodeURIComponent(mailbox)}.eml`;
    writeFileSync(join(this.folder, `${name}.part`), source);
    renameSync(join(this.folder, `${name}.part`), join(this.folder, name));
    this.stored.push({ id, mailbox, received: new Date(now).toISOString(), mail, source: source.toString('utf8') });
  }

  mailboxes(): { mailbox: string; count: number; last: string }[] {
    const by = new Map<string, { mailbox: string; count: number; last: string }>();
    for (const s of this.stored) {
      const b = by.get(s.mailbox) ?? { mailbox: s.mailbox, count: 0, last: '' };
      b.count += 1;
      if (s.received > b.last) b.last = s.received;
      by.set(s.mailbox, b);
    }
    for (const mailbox of this.people.keys()) if (!by.has(mailbox)) by.set(mailbox, { mailbox, count: 0, last: '' });
    return [...by.values()].sort((a, b) => b.last.localeCompare(a.last) || a.mailbox.localeCompare(b.mailbox));
  }

  messages(mailbox?: string): Stored[] {
    return this.stored.filter((s) => !mailbox || s.mailbox === mailbox.toLowerCase()).reverse();
  }

  message(id: string): Stored | undefined {
    return this.stored.find((s) => s.id === id);
  }

  /** The SMTP side. Only this machine can reach it; messages over 5 MB are refused. */
  smtp(): SMTPServer {
    const server: SMTPServer = new SMTPServer({
      authOptional: true,
      disableReverseLookup: true,
      closeTimeout: 500,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: 5 * 1024 * 1024,
      banner: 'Ottik mail stand-in',
      onConnect: (_session, done) => {
        if (this.mood !== 'hangs') done();
      },
      onRcptTo: (address, _session, done) => {
        if (this.mood === 'busy') return done(refusal('4.3.2 try again later', 451));
        if (this.mood === 'refuses' || address.address.toLowerCase().startsWith('bounce')) return done(refusal('5.1.1 no such mailbox', 550));
        done();
      },
      onData: (stream, session, done) => {
        const parts: Buffer[] = [];
        if (this.mood === 'drops') {
          stream.once('data', () => {
            for (const c of server.connections as Set<{ id: string; close(): void }>) if (c.id === session.id) c.close();
          });
          return;
        }
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('error', done);
        stream.on('end', () => {
          const source = Buffer.concat(parts);
          const wait = this.mood === 'slow' ? new Promise((r) => setTimeout(r, 3000)) : Promise.resolve();
          wait
            .then(() => Promise.all(session.envelope.rcptTo.map((r) => this.take(r.address, source))))
            .then(
              () => done(),
              (error: Error) => done(error),
            );
        });
      },
    });
    return server;
  }
}
