import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, type BrowserContextOptions, chromium, type Page } from 'playwright-core';
import { loadDemo } from '../../demo/load.ts';
import { PEOPLE } from '../../demo/people.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';
import { keepSetting } from '../../src/server/store/settings.ts';
import { PostOffice } from '../../standins/mail/post-office.ts';

export const TODAY = '2026-03-05';
const root = join(import.meta.dirname, '../..');

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

/** The built application with the demo in a database of its own, the mail stand-in, and a browser. */
export class Application {
  private constructor(
    readonly url: string,
    readonly mailboxes: string,
    private readonly browser: Browser,
    private readonly parts: ChildProcess[],
    private readonly folder: string,
  ) {}

  /**
   * @param empty nothing is loaded: as Ottik is before its first run
   * @param env settings of the server that differ
   * @param prepare what is done to the database before the server starts
   */
  static async start({ empty = false, env: more = {} as Record<string, string>, prepare = async (_db: Db) => undefined as unknown } = {}): Promise<Application> {
    const folder = mkdtempSync(join(tmpdir(), 'ottik-browser-'));
    const file = join(folder, 'ottik.db');
    if (!empty) {
      const db = await openDatabase(file);
      const office = new PostOffice(join(folder, 'mail'));
      office.keepPeople(PEOPLE.flatMap((p) => (p.mail ? [{ name: p.name, mail: p.mail }] : [])));
      await loadDemo(db, TODAY, office);
      await prepare(db);
      await keepSetting(db, 'backup', { folder: null, keep: 3, nightly: false });
      await db.destroy();
    }
    const [port, smtp, mailbox, answers] = [await freePort(), await freePort(), await freePort(), await freePort()];
    const env = {
      ...process.env,
      PORT: String(port),
      HOST: '127.0.0.1',
      OTTIK_DB: file,
      OTTIK_TODAY: TODAY,
      OTTIK_SMTP_PORT: String(smtp),
      OTTIK_ANSWERS: 'answers@ottik.example',
      OTTIK_ANSWERS_PORT: String(answers),
      OTTIK_ANSWERS_DIR: join(folder, 'answers'),
      OTTIK_MAILBOX_PORT: String(mailbox),
      OTTIK_MAILBOX_DIR: join(folder, 'mail'),
      NODE_ENV: 'production',
      OTTIK_CLOSE_READER: process.env.OTTIK_CLOSE_READER ?? 'off',
      ...more,
    };
    const parts = [spawn(process.execPath, ['dist/server/entry.mjs'], { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] }), spawn(process.execPath, ['--import', 'tsx', 'standins/mail/main.ts'], { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] })];
    const url = `http://localhost:${port}`;
    await answering(empty ? `${url}/begin` : `${url}/ledger.csv`);
    await answering(`http://localhost:${mailbox}/messages.json`);
    const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });
    return new Application(url, `http://localhost:${mailbox}`, browser, parts, folder);
  }

  /** A page that fails its test when something goes wrong in it. */
  async page(path: string, options: BrowserContextOptions = {}): Promise<Page & { wrong: string[] }> {
    const context = await this.browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', ...options });
    const page = (await context.newPage()) as Page & { wrong: string[] };
    page.wrong = [];
    page.on('pageerror', (e) => page.wrong.push(e.message));
    page.on('console', (m) => m.type() === 'error' && !/status of 4\d\d|status of 502/.test(m.text()) && page.wrong.push(m.text()));
    page.setDefaultTimeout(25_000);
    await this.open(page, path);
    return page;
  }

  /** Goes to a path, and comes back once all that moves in the page has woken. */
  async open(page: Page, path: string): Promise<void> {
    await page.goto(this.url + path);
    await page.waitForFunction(() => !document.querySelector('astro-island[ssr]') && (document.documentElement.dataset.keys === 'on' || !document.querySelector('.foot')));
  }

  async stop(): Promise<void> {
    await this.browser.close();
    for (const p of this.parts) p.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

async function answering(url: string): Promise<void> {
  for (let i = 0; i < 150; i++) {
    const up = await fetch(url).then(
      (r) => r.ok,
      () => false,
    );
    if (up) return;
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`${url} did not answer in 15 seconds`);
}
