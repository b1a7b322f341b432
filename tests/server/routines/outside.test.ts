import { createHmac } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Webhook } from 'standardwebhooks';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Step } from '../../../src/core/routines/routine.ts';
import { workspaceOf } from '../../../src/server/people/workspace.ts';
import { dryRun } from '../../../src/server/routines/dry-run.ts';
import { layInto } from '../../../src/server/routines/exports/folder.ts';
import { webhookKey } from '../../../src/server/routines/exports/webhook.ts';
import { changeRoutine } from '../../../src/server/routines/routines.ts';
import { arrives, goes, type House, house, made, NOON, on, plus, routine, runs } from './house.ts';

// files share one process: what is switched off here is on again after it
const reader = process.env.OTTIK_CLOSE_READER;
beforeAll(() => {
  process.env.OTTIK_CLOSE_READER = 'off';
});
afterAll(() => {
  if (reader === undefined) delete process.env.OTTIK_CLOSE_READER;
  else process.env.OTTIK_CLOSE_READER = reader;
});
const text = (s: string) => new TextEncoder().encode(s);

let h: House;
let root: string;
beforeEach(async () => {
  h = await house();
  root = mkdtempSync(join(tmpdir(), 'ottik-exports-'));
  process.env.OTTIK_EXPORTS_DIR = root;
});
afterEach(() => {
  delete process.env.OTTIK_EXPORTS_DIR;
});

describe('a file in a folder', () => {
  it('is written whole, and never over another', () => {
    expect(layInto('minutes/2026', { name: 'works.md', bytes: text('one') })).toEqual({ name: 'works.md', there: false });
    expect(layInto('minutes/2026', { name: 'works.md', bytes: text('one') })).toEqual({ name: 'works.md', there: true });
    expect(layInto('minutes/2026', { name: 'works.md', bytes: text('two') })).toEqual({ name: 'works-2.md', there: false });
    expect(readFileSync(join(root, 'minutes/2026/works.md'), 'utf8')).toBe('one');
    expect(readdirSync(join(root, 'minutes/2026')).sort()).toEqual(['works-2.md', 'works.md']);
  });
  it('lies nowhere else, whatever it or its folder is called, and behind no link', () => {
    expect(layInto('a', { name: '../../etc/passwd', bytes: text('x') }).name).toBe('passwd');
    expect(() => layInto('../a', { name: 'x', bytes: text('x') })).toThrow('is no folder name');
    symlinkSync(tmpdir(), join(root, 'out'));
    expect(() => layInto('out', { name: 'x', bytes: text('x') })).toThrow('leads out of the folder');
  });
  it('that cannot be written is told with why', () => {
    writeFileSync(join(root, 'taken'), 'a file');
    expect(() => layInto('taken', { name: 'x', bytes: text('x') })).toThrow('Nothing can be written to');
  });
  it('comes of a routine when minutes are issued', async () => {
    await on(h, {
      ...made('File the minutes'),
      steps: [
        { do: 'file', what: 'minutes', format: 'md', folder: 'minutes' },
        { do: 'file', what: 'ledger', format: 'csv', folder: 'ledger' },
      ],
    });
    await on(h, routine({ on: 'record' }, [{ do: 'minutes', act: 'issue' }]));
    await arrives(h);
    await goes(h, plus(1));
    await goes(h, plus(2));
    const [name] = readdirSync(join(root, 'minutes'));
    expect(name).toMatch(/v1.*\.md$|1\.md$/);
    expect(readFileSync(join(root, 'minutes', name!), 'utf8')).toContain('Yard huddle 1');
    expect(readdirSync(join(root, 'ledger'))).toEqual(['ledger-quiet-crossing-2026-03-05.csv']);
  });
});

describe('a file sent to an address', () => {
  interface Came {
    headers: IncomingHttpHeaders;
    body: string;
  }
  let server: Server;
  let came: Came[];
  let answer: { status: number; headers?: Record<string, string> };
  let url: string;
  beforeEach(async () => {
    came = [];
    answer = { status: 204 };
    server = createServer(async (request, response) => {
      let body = '';
      for await (const part of request) body += String(part);
      came.push({ headers: request.headers, body });
      response.writeHead(answer.status, answer.headers);
      response.end();
    });
    await new Promise<void>((go) => server.listen(0, '127.0.0.1', go));
    url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/hook`;
  });
  afterEach(() => new Promise((go) => server.close(go)));
  const step = (): Step => ({ do: 'hook', what: 'minutes', format: 'md', url });

  // Source: the Standard Webhooks specification 1.0, "Signature scheme": HMAC-SHA256 over `msg_id.timestamp.payload`, in
  // base64 behind `v1,`; its key is what follows `whsec_`, in base64. Checked by hand and with its reference library.
  it('is signed, so that whoever gets it can tell that it is ours', async () => {
    await on(h, routine({ on: 'record' }, [step()]));
    await arrives(h);
    await goes(h, plus(1));
    const [{ headers, body }] = came as [Came];
    const signed = createHmac('sha256', Buffer.from(webhookKey().replace('whsec_', ''), 'base64'))
      .update(`${headers['webhook-id']}.${headers['webhook-timestamp']}.${body}`)
      .digest('base64');
    expect(headers['webhook-signature']).toBe(`v1,${signed}`);
    expect(new Webhook(webhookKey()).verify(body, headers as Record<string, string>)).toMatchObject({ type: 'minutes.sent', data: { project: 'quiet-crossing', file: { type: expect.stringContaining('text/markdown'), text: expect.stringContaining('Yard huddle 1') } } });
    expect(() => new Webhook(webhookKey()).verify(`${body} `, headers as Record<string, string>)).toThrow();
    expect((await runs(h))[0]!.steps[0]!.tries[0]!.said).toMatch(/^sent .*\.md to 127\.0\.0\.1:\d+$/);
  });
  it('has the same name at every try, and follows nobody elsewhere', async () => {
    await on(h, routine({ on: 'record' }, [step()]));
    await arrives(h);
    answer = { status: 503 };
    await goes(h, plus(1));
    answer = { status: 302, headers: { location: 'http://127.0.0.2:1/elsewhere' } };
    await goes(h, plus(3));
    expect(came.map((c) => c.headers['webhook-id'])).toEqual(['msg_1_0', 'msg_1_0']);
    expect((await runs(h))[0]).toMatchObject({ state: 'failed' });
    expect((await runs(h))[0]!.steps[0]!.tries.map((t) => t.said)).toEqual([expect.stringContaining('cannot take it now (503)'), expect.stringContaining('sends on to 127.0.0.2')]);
  });
  it('goes into one’s own network for whoever set up this Ottik alone', async () => {
    const id = await on(h, routine({ on: 'record' }, [step()]));
    await h.ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'bram').execute();
    await h.ws.db.updateTable('memberships').set({ sees: 1, access: 'manager' }).where('person_id', '=', 'bram').execute();
    const bram = (await workspaceOf(h.ws.db, 'bram', h.ws.today)).with({ project: h.ws.project, needs: 'manage' });
    await expect(changeRoutine(bram, { do: 'keep', id, revision: 1, routine: routine({ on: 'record' }, [step()]) }, NOON)).rejects.toThrow('An address that begins with http://');
    const https = url.replace('http:', 'https:');
    await changeRoutine(bram, { do: 'keep', id, revision: 1, routine: routine({ on: 'record' }, [{ ...step(), url: https } as Step]) }, NOON);
    await arrives(h);
    await goes(h, plus(1));
    expect((await runs(h))[0]!.steps[0]!.tries[0]!.said).toContain('stands in a network this Ottik may not speak to');
    expect(came).toEqual([]);
  });
});

describe('a routine tried on a past meeting', () => {
  const everything = async () => JSON.stringify(await Promise.all((['finds', 'letters', 'letter_recipients', 'minutes_versions', 'meetings', 'events', 'routine_runs', 'statements'] as const).map((t) => h.ws.db.selectFrom(t).selectAll().orderBy('id').execute())));
  it('says what it would have done, keeps nothing and sends nothing', async () => {
    const before = await everything();
    const steps: Step[] = [
      { do: 'sift' },
      { do: 'wait', until: 'settled' },
      { do: 'take', sure: 60 },
      { do: 'minutes', act: 'issue' },
      { do: 'round-up', act: 'send' },
      { do: 'file', what: 'minutes', format: 'pdf', folder: 'minutes' },
      { do: 'post', text: '{{ meeting.title }} is out' },
      { do: 'next', when: '' },
      { do: 'ask', question: 'What is late?', to: ['ines'] },
      { do: 'letters' },
    ];
    const { not, steps: tried } = await dryRun(h.ws, routine({ on: 'record' }, steps), 6, NOON);
    expect(not).toBeNull();
    expect(tried.map((s) => [s.failed, s.said])).toEqual([
      [false, expect.stringMatching(/^\d+ finds, 0 to settle$/)],
      [false, 'every find is settled'],
      [false, expect.stringMatching(/^would have taken \d+ of \d+ finds; you took \d+ of them/)],
      [false, 'version 1 issued'],
      [false, expect.stringMatching(/^on its way to \d+ people$/)],
      [false, expect.stringMatching(/^would write .*\.pdf$/)],
      [false, 'would post “Weekly works call is out”'],
      [false, expect.stringMatching(/^Weekly works call stands on .* already$/)],
      [false, 'would mail the answer to Ines Falk'],
      [false, expect.stringMatching(/^(?:drafted \d+ letters?|no letter is planned for the day)$/)],
    ]);
    expect(await everything()).toBe(before);
    expect([h.out.mails, h.out.posts, readdirSync(root)]).toEqual([[], [], []]);
  });
  it('stops where it would have failed, and says when it is not for that meeting', async () => {
    await h.ws.db.updateTable('projects').set({ chat_url: null }).where('id', '=', h.ws.project).execute();
    const { not, steps } = await dryRun(h.ws, routine({ on: 'record' }, [{ do: 'post', text: 'x' }, { do: 'sift' }], { series: 'steering' }), 6, NOON);
    expect(not).toBe('Weekly works call is not among the meetings this routine is for.');
    expect(steps).toEqual([{ words: 'post to the project’s chat: “x”', said: 'This project has no chat channel.', details: ['Add its address on the Letter rules page.'], failed: true }]);
  });
  it('takes an example where no meeting starts it', async () => {
    expect((await dryRun(h.ws, made('Say that an answer came'), null, NOON)).steps[0]!.said).toMatch(/^would post “.+ answered: /);
    expect((await dryRun(h.ws, made('Tell the chat what slips'), null, NOON)).steps[0]!.said).toMatch(/^would post “C-\d+ /);
    await expect(dryRun(h.ws, made('Take what is sure'), null, NOON)).rejects.toThrow('Choose a meeting');
  });
});
