import type { APIContext } from 'astro';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';

import { demoWorld } from './world.ts';

vi.mock('../../src/server/store/database.ts', async (original) => {
  const real = await original<typeof import('../../src/server/store/database.ts')>();
  let world: ReturnType<typeof demoWorld> | null = null;
  return {
    ...real,
    database: async () => {
      world ??= demoWorld();
      return (await world).db;
    },
  };
});

// files share what they have loaded: what takes its database from elsewhere is loaded once more, for this file alone
vi.resetModules();
const { projectsOf } = await import('../../src/server/people/projects.ts');
const { lookedAt } = await import('../../src/server/people/session.ts');
const { Refusal } = await import('../../src/server/refusal.ts');
const { log } = await import('../../src/server/store/log.ts');
const { endpoint, mustComeFromHere, openEndpoint, recordForm, refusalReply } = await import('../../src/server/web/requests.ts');

const at = 'http://localhost:4324/api/anything';
const context = (init: RequestInit & { host?: string } = {}, params: Record<string, string> = {}) => {
  const { host = 'localhost:4324', ...rest } = init;
  const headers = new Headers(rest.headers);
  if (host) headers.set('host', host);
  const request = new Request(at, { method: 'POST', ...rest });
  // a browser sets these itself, and Request leaves them out
  Object.defineProperty(request, 'headers', { value: headers });
  return { request, params, cookies: { get: () => undefined } } as unknown as APIContext;
};
const json = (body: unknown, headers: Record<string, string> = {}) => ({ body: JSON.stringify(body), headers: { 'content-type': 'application/json', ...headers } });
const told = async (r: Response) => ({ status: r.status, ...((await r.json()) as { error?: { message: string; advice: string | null } }) });

describe('a change is taken from this machine’s own pages only', () => {
  it.each<[string, RequestInit & { host?: string }]>([
    ['one of them', { headers: { origin: 'http://localhost:4324' } }],
    ['a program here, which sends no origin', {}],
    ['the machine by its number', { host: '127.0.0.1:4324', headers: { origin: 'http://127.0.0.1:4324' } }],
  ])('from %s', (_, init) => {
    expect(() => mustComeFromHere(context(init))).not.toThrow();
  });
  it.each<[string, RequestInit & { host?: string }]>([
    ['another site', { headers: { origin: 'https://elsewhere.example' } }],
    ['another port of this machine', { headers: { origin: 'http://localhost:9000' } }],
    ['a page without an origin of its own', { headers: { origin: 'null' } }],
    ['a name that was pointed at this machine', { host: 'elsewhere.example', headers: { origin: 'http://elsewhere.example' } }],
    ['a name that begins like it', { host: 'localhost.elsewhere.example' }],
    ['nobody knows which name', { host: '' }],
  ])('not from %s', (_, init) => {
    expect(() => mustComeFromHere(context(init))).toThrow(Refusal);
  });
});

describe('an endpoint', () => {
  const echo = endpoint(z.object({ n: z.number().int() }), async ({ body, id, ws }) => ({ n: body.n, id, who: ws.asker.person }));
  const call = async (init: RequestInit & { host?: string }, params = {}) => (await echo(context(init, params))) as Response;
  beforeEach(() => {
    delete process.env.OTTIK_PERSON;
  });
  it('answers with what was asked for, to whom the application is started for', async () => {
    const r = await call(json({ n: 4 }), { id: '12' });
    expect([r.status, await r.json(), r.headers.get('cache-control')]).toEqual([200, { n: 4, id: 12, who: 'ines' }, 'no-store']);
  });
  it('says which field is wrong', async () => {
    expect(await told(await call(json({ n: 'four' })))).toMatchObject({ status: 422, error: { message: expect.stringMatching(/^n .*number/) } });
  });
  it.each([
    ['words that are no JSON', { body: '{"n": ', headers: { 'content-type': 'application/json' } }, 'The request is not valid JSON.'],
    ['a form', { body: 'n=4', headers: { 'content-type': 'application/x-www-form-urlencoded' } }, 'Send JSON.'],
    ['another site', json({ n: 4 }, { origin: 'https://elsewhere.example' }), 'This request came from another site.'],
  ])('refuses %s', async (_, init, message) => {
    expect(await told(await call(init))).toMatchObject({ status: 422, error: { message } });
  });
  it('for people without an account looks at no account', async () => {
    process.env.OTTIK_PERSON = 'nobody';
    const open = openEndpoint(z.object({}), async ({ db }) => ({ people: (await db.selectFrom('people').select('id').execute()).length > 3 }));
    expect(await ((await open(context(json({})))) as Response).json()).toEqual({ people: true });
    expect(await told(await call(json({ n: 4 })))).toMatchObject({ status: 404, error: { message: 'There is no such account.' } });
  });
  afterEach(() => {
    delete process.env.OTTIK_PERSON;
  });
});

describe('what went wrong', () => {
  it.each([
    [new Refusal('not-found', 'There is no such meeting.'), 404],
    [new Refusal('bad-input', 'That is no date.', 'Write 2026-03-12.'), 422],
    [new Refusal('conflict', 'Somebody changed it.'), 409],
    [new Refusal('unreachable', 'The mailbox does not answer.'), 502],
  ])('is told with what to do: %s', async (refusal, status) => {
    expect(await told(refusalReply(refusal))).toEqual({ status, error: { message: refusal.message, advice: refusal.advice, line: null } });
  });
  it('inside stays inside: the log has it, and the answer tells no more than that', async () => {
    const written = vi.spyOn(log, 'error').mockImplementation(() => {});
    const fault = Object.assign(new Error('SQLITE_BUSY: /srv/ottik/data.db'), { stack: 'at /srv/ottik' });
    const said = await told(refusalReply(fault));
    expect(written).toHaveBeenCalledWith(fault);
    written.mockRestore();
    expect(said.status).toBe(500);
    expect(JSON.stringify(said)).not.toMatch(/SQLITE|srv/);
  });
});

describe('a file that is sent', () => {
  const form = (fill: (f: FormData) => void) => {
    const f = new FormData();
    fill(f);
    return f;
  };
  const sent = (body: FormData | string) => {
    const c = context({ body });
    // the boundary is in the header that the request made for its body
    c.request.headers.set('content-type', new Request(at, { method: 'POST', body }).headers.get('content-type') ?? '');
    const request = new Request(at, { method: 'POST', body });
    Object.defineProperty(c.request, 'formData', { value: () => request.formData() });
    return c;
  };
  it('comes with its bytes, and a name no longer than a name', async () => {
    const { bytes, fileName } = await recordForm(
      sent(
        form((f) => {
          f.set('file', new Blob(['Ines: hello']));
          f.set('name', 'x'.repeat(900));
        }),
      ),
    );
    expect(new TextDecoder().decode(bytes)).toBe('Ines: hello');
    expect(fileName).toHaveLength(300);
  });
  it.each([
    ['a form without one', form((f) => f.set('name', 'a'))],
    ['words in its place', form((f) => f.set('file', 'Ines: hello'))],
    ['no form at all', 'Ines: hello'],
  ])('is missed in %s', async (_, body) => {
    await expect(recordForm(sent(body))).rejects.toThrow('There is no file in this request.');
  });
});

describe('the project that is looked at', () => {
  it('is the one of the cookie where whoever asks may see it, and else the first', async () => {
    const ws = await demoWorld();
    const looked = (value: string | undefined) => lookedAt(ws, value);
    const all = await projectsOf(ws);
    expect((await looked(undefined)).project).toBe(all[0]!.id);
    expect((await looked(all.at(-1)!.id)).project).toBe(all.at(-1)!.id);
    expect((await looked('not-theirs')).project).toBe(all[0]!.id);
    await ws.db.destroy();
  });
});
