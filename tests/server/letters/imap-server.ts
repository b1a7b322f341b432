import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const DOVECOT = '/usr/sbin/dovecot';
const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

/** A real IMAP server, Debian’s Dovecot; why it cannot be had here, or null. */
export function imapServerMissing(): string | null {
  if (existsSync(DOVECOT)) return null;
  if (process.getuid?.() !== 0) return 'Dovecot is not installed, and only root may install it';
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  spawnSync('apt-get', ['update', '-q'], { stdio: 'ignore', env });
  const done = spawnSync('apt-get', ['install', '-y', '-q', '--no-install-recommends', 'dovecot-imapd'], { stdio: 'ignore', env });
  return existsSync(DOVECOT) ? null : `Debian’s package dovecot-imapd could not be installed (exit code ${done.status})`;
}

/** Dovecot on this machine alone, with one account and everything in a folder of its own. */
export class ImapServer {
  private constructor(
    readonly port: number,
    private readonly folder: string,
    private readonly owner: number,
    private server: ReturnType<typeof spawn>,
  ) {}

  static readonly USER = 'ottik';
  static readonly PASSWORD = 'drift-net 7';

  static async start(): Promise<ImapServer> {
    const folder = mkdtempSync(join(tmpdir(), 'ottik-imap-'));
    const owner = Number(spawnSync('id', ['-u', 'mail'], { encoding: 'utf8' }).stdout);
    for (const part of ['mail', 'run', 'mail/ottik', 'mail/ottik/Maildir', 'mail/ottik/Maildir/new', 'mail/ottik/Maildir/cur', 'mail/ottik/Maildir/tmp']) {
      mkdirSync(join(folder, part));
      chownSync(join(folder, part), part === 'run' ? 0 : owner, part === 'run' ? 0 : owner);
    }
    chmodSync(folder, 0o755);
    const port = await freePort();
    writeFileSync(join(folder, 'users'), `${ImapServer.USER}:{PLAIN}${ImapServer.PASSWORD}::::::\n`);
    writeFileSync(
      join(folder, 'dovecot.conf'),
      `protocols = imap
listen = 127.0.0.1
base_dir = ${folder}/run
log_path = ${folder}/log
ssl = no
disable_plaintext_auth = no
first_valid_uid = 1
mail_location = maildir:${folder}/mail/%u/Maildir
auth_failure_delay = 0
passdb {
  driver = passwd-file
  args = ${folder}/users
}
userdb {
  driver = static
  args = uid=${owner} gid=${owner} home=${folder}/mail/%u
}
service imap-login {
  inet_listener imap {
    port = ${port}
  }
  inet_listener imaps {
    port = 0
  }
}
`,
    );
    const server = new ImapServer(port, folder, owner, spawn(DOVECOT, ['-F', '-c', join(folder, 'dovecot.conf')], { stdio: 'ignore' }));
    await server.up();
    return server;
  }

  private async up(): Promise<void> {
    for (let i = 0; i < 100; i++) {
      const open = await new Promise<boolean>((done) => {
        const socket = connect(this.port, '127.0.0.1', () => done(true)).on('error', () => done(false));
        socket.unref();
        setTimeout(() => socket.destroy(), 500).unref();
      });
      if (open) return;
      await new Promise((r) => setTimeout(r, 50));
    }
    throw new Error(`Dovecot did not start: ${existsSync(join(this.folder, 'log')) ? readFileSync(join(this.folder, 'log'), 'utf8') : 'it left no word'}`);
  }

  /** Lays a mail into the mailbox, as a delivering server does. */
  deliver(mail: string, name: string): void {
    const box = join(this.folder, 'mail/ottik/Maildir');
    const file = `${Date.now()}.${name}.here`;
    writeFileSync(join(box, 'tmp', file), mail.replaceAll(/\r?\n/g, '\r\n'));
    chownSync(join(box, 'tmp', file), this.owner, this.owner);
    renameSync(join(box, 'tmp', file), join(box, 'new', file));
  }

  /** Files of the mailbox that carry the mark of a read mail. */
  marked(): string[] {
    return readdirSync(join(this.folder, 'mail/ottik/Maildir/cur')).filter((name) => /:2,.*S/.test(name));
  }

  /** Ends the server; everything in the mailbox stays. */
  async halt(): Promise<void> {
    const ended = new Promise((done) => this.server.once('exit', done));
    this.server.kill('SIGTERM');
    await ended;
  }
  async again(): Promise<void> {
    this.server = spawn(DOVECOT, ['-F', '-c', join(this.folder, 'dovecot.conf')], { stdio: 'ignore' });
    await this.up();
  }

  async stop(): Promise<void> {
    await this.halt();
    rmSync(this.folder, { recursive: true, force: true });
  }
}
