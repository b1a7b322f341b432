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

/**
 * A mail server that takes every message and keeps it in a folder, one `.eml` file each. Addresses with the local part
 * `bounce` are refused, so that a refusal can be tried.
 */
export class PostOffice {
  private readonly stored: Stored[] = [];
  private count = 0;

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
      this.stored.push({ id: m[1]!, received: new Date(Number(m[2])).toISOString(), mailbox: decodeURIComponent(m[3]!), mail: await simpleParser(source), source });
    }
  }

  async take(mailbox: string, source: Buffer): Promise<void> {
    this.count += 1;
    const id = String(this.count).padStart(6, '0');
    const now = Date.now();
    const name = `${id}-${now}-${encodeURIComponent(mailbox.toLowerCase())}.eml`;
    writeFileSync(join(this.folder, `${name}.part`), source);
    renameSync(join(this.folder, `${name}.part`), join(this.folder, name));
    this.stored.push({ id, mailbox: mailbox.toLowerCase(), received: new Date(now).toISOString(), mail: await simpleParser(source), source: source.toString('utf8') });
  }

  mailboxes(): { mailbox: string; count: number; last: string }[] {
    const by = new Map<string, { mailbox: string; count: number; last: string }>();
    for (const s of this.stored) {
      const b = by.get(s.mailbox) ?? { mailbox: s.mailbox, count: 0, last: '' };
      b.count += 1;
      if (s.received > b.last) b.last = s.received;
      by.set(s.mailbox, b);
    }
    return [...by.values()].sort((a, b) => b.last.localeCompare(a.last));
  }

  messages(mailbox?: string): Stored[] {
    return this.stored.filter((s) => !mailbox || s.mailbox === mailbox.toLowerCase()).reverse();
  }

  message(id: string): Stored | undefined {
    return this.stored.find((s) => s.id === id);
  }

  /** The SMTP side. Only this machine can reach it; messages over 5 MB are refused. */
  smtp(): SMTPServer {
    return new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: 5 * 1024 * 1024,
      banner: 'Ottik mail stand-in',
      onRcptTo: (address, _session, done) => {
        if (address.address.toLowerCase().startsWith('bounce')) {
          const refused = new Error('5.1.1 no such mailbox') as Error & { responseCode: number };
          refused.responseCode = 550;
          done(refused);
        } else done();
      },
      onData: (stream, session, done) => {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('error', done);
        stream.on('end', () => {
          const source = Buffer.concat(parts);
          Promise.all(session.envelope.rcptTo.map((r) => this.take(r.address, source))).then(
            () => done(),
            (error: Error) => done(error),
          );
        });
      },
    });
  }
}
