import { readdirSync, readFileSync } from 'node:fs';
import { get } from 'node:http';
import { join, relative, sep } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app?.stop());

const SRC = join(import.meta.dirname, '../../src');
const files = (folder: string, end: string) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith(end));

/** Numbers that look like chance and are the same at each run (T. Hoare's and others' linear congruence, after Numerical Recipes). */
let state = Number(process.env.OTTIK_FUZZ_SEED ?? 20260305);
const chance = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
const one = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;

/** Endpoints and files that are asked for, as the pages of the source are laid out. */
const PATHS = ['api', 'calendar', 'answer', 'ledger'].flatMap((part) =>
  files(join(SRC, 'pages', part), '.ts').map(
    (f) =>
      `/${[part, ...f.split(sep)]
        .join('/')
        .replace(/\.ts$/, '')
        .replace(/\/index$/, '')}`,
  ),
);
const FIELDS = [...new Set(['server', 'pages/api'].flatMap((part) => files(join(SRC, part), '.ts').flatMap((f) => [...readFileSync(join(SRC, part, f), 'utf8').matchAll(/(\w+): z\./g)].map((m) => m[1]!))))];
const ACTS = [...new Set(['server', 'pages/api'].flatMap((part) => files(join(SRC, part), '.ts').flatMap((f) => [...readFileSync(join(SRC, part, f), 'utf8').matchAll(/z\.literal\('([^']+)'\)/g)].map((m) => m[1]!))))];
const WORDS = [
  '',
  ' ',
  '0',
  'C-1',
  'C-999999999',
  'D-1',
  'bram',
  'ines',
  'new:',
  'new:\ud83d',
  '\ud83d',
  '😀',
  '\u0000',
  '2026-03-05',
  '99999999',
  '2026-02-30',
  'yesterday',
  'works',
  'quiet-crossing',
  'nowhere',
  '../../etc/passwd',
  '{% render "package.json" %}',
  '{{ x }}',
  '<script>',
  '%',
  "'; DROP TABLE people; --",
  'a'.repeat(5000),
  '\r\nBcc: a@b.example',
  'a@b.example',
  '/',
  '\\',
];
const NUMBERS = [0, 1, -1, 2, 10, 1.5, 1e9, 1e300, Number.MAX_SAFE_INTEGER];

function value(depth: number): unknown {
  const kind = chance();
  if (kind < 0.4) return one(WORDS);
  if (kind < 0.6) return one(NUMBERS);
  if (kind < 0.7) return one([null, true, false]);
  if (depth > 2) return one(WORDS);
  if (kind < 0.85) return Array.from({ length: Math.floor(chance() * 4) }, () => value(depth + 1));
  return body(depth + 1);
}
function body(depth = 0): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  for (let n = Math.floor(chance() * 6); n >= 0; n--) out[one(FIELDS)] = value(depth);
  if (chance() < 0.7) out.do = one(ACTS);
  return out;
}
const IN_PATHS = ['1', '3', '10', '0', '-1', 'x', '1e9', '999999999999', 'bram', 'C-2', 'csv', 'json', '%00', '%F0%9F', '..%2f', 'a'.repeat(300), '😀'];

it('no request, whatever it asks for and however, gets an answer that the server did not mean to give', async () => {
  expect(PATHS.length).toBeGreaterThan(30);
  expect(FIELDS.length).toBeGreaterThan(60);
  const wrong: string[] = [];
  for (let n = 0; n < Number(process.env.OTTIK_FUZZ ?? 700); n++) {
    const path = one(PATHS).replace(/\[[^\]]+\]/g, () => encodeURI(one(IN_PATHS)).replaceAll('%25', '%'));
    const method = one(['POST', 'POST', 'POST', 'GET', 'HEAD', 'PUT', 'DELETE', 'PATCH']);
    const query = chance() < 0.3 ? `?${one(FIELDS)}=${encodeURIComponent(one(WORDS).replace(/\p{Surrogate}/gu, ''))}` : '';
    const sent = method === 'GET' || method === 'HEAD' ? undefined : chance() < 0.1 ? String(one(WORDS)) : JSON.stringify(body());
    // a stream of changes goes on for ever
    if (/live$/.test(path) && method === 'GET') continue;
    const response = await fetch(`${app.url}${path}${query}`, { method, ...(sent === undefined ? {} : { body: sent, headers: { 'content-type': 'application/json' } }) });
    if (response.status >= 500 && response.status !== 502) wrong.push(`${response.status} ${method} ${path}${query} ${sent?.slice(0, 300) ?? ''}`);
    await response.body?.cancel();
  }
  expect(wrong).toEqual([]);
  expect((await fetch(app.url)).status).toBe(200);
});

it('pages and files of other places are not given away', async () => {
  for (const path of ['/../package.json', '/..%2fpackage.json', '/_astro/../../package.json', '/%2e%2e/%2e%2e/etc/passwd', `/${relative(SRC, join(SRC, '../package.json'))}`]) {
    const answer = await fetch(app.url + path);
    expect(await answer.text()).not.toContain('"dependencies"');
  }
});

/** Asks for a path under a name of its own choosing, as a page does that has its name lead to this machine. */
const asked = (path: string, host: string) =>
  new Promise<{ status: number; headers: Record<string, unknown> }>((done, failed) => {
    get({ host: '127.0.0.1', port: new URL(app.url).port, path, headers: { host } }, (answer) => {
      answer.resume();
      done({ status: answer.statusCode ?? 0, headers: answer.headers });
    }).on('error', failed);
  });

it('a borrowed name gets no page, file or answer, and every answer has the headers of OWASP’s list', async () => {
  for (const path of ['/', '/ledger', '/ledger.csv', '/api/ledger', '/calendar/x', '/answer/x']) {
    expect((await asked(path, 'evil.example')).status, path).toBe(421);
    const own = await asked(path, 'localhost');
    expect(own.status, path).not.toBe(421);
    // OWASP Secure Headers Project, list of recommended headers, as far as they are not about contents that pages do not have
    expect(own.headers, path).toMatchObject({
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': expect.stringMatching(/^(?:same-origin|no-referrer)$/),
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-resource-policy': 'same-origin',
      'content-security-policy': expect.stringContaining("frame-ancestors 'none'"),
    });
  }
});
