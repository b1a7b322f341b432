import { createHmac } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { changeProject } from '../../src/server/people/beginning.ts';
import { begin } from '../../src/server/people/first-run.ts';
import { accessOf, changeRole, invitationOf, invite, takeUpInvitation } from '../../src/server/people/invitations.ts';
import { whoAsks } from '../../src/server/people/session.ts';
import { changeSignIn, signInShown } from '../../src/server/people/sign-in-settings.ts';
import { authOf, mustSignIn, onThisMachineOnly, sendAccountLettersBy, setPassword, signedInAs } from '../../src/server/people/signing-in.ts';
import { stepInto } from '../../src/server/people/step-into.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { openDatabase } from '../../src/server/store/database.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
const PASSWORD = 'slack water at noon';
const NOW = new Date('2026-03-05T12:00:00Z');
let ws: Workspace;
let folder: string;
/** each test asks from an address of its own: how often one may try is counted by address */
let from = 0;
beforeEach(async () => {
  from++;
  folder = mkdtempSync(join(tmpdir(), 'ottik-accounts-'));
  vi.stubEnv('OTTIK_KEY_FILE', join(folder, 'ottik.key'));
  ws = await demoWorld();
});
afterEach(async () => {
  await ws.db.destroy();
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true, force: true });
});

/** Asks better-auth as a browser does. */
async function ask(path: string, body: unknown, cookie = '', address = `198.51.100.${from}`) {
  const request = new Request(`http://localhost:4324/api/auth/${path}`, { method: 'POST', headers: { 'content-type': 'application/json', origin: 'http://localhost:4324', cookie, 'x-ottik-address': address }, body: JSON.stringify(body) });
  const response = await (await authOf(ws.db)).handler(request);
  const cookies = response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0]!)
    .filter((c) => !c.endsWith('='));
  return { status: response.status, cookies, flags: response.headers.getSetCookie().join(' '), body: (await response.json().catch(() => ({}))) as Record<string, string> & { backupCodes?: string[] } };
}
const signIn = (email: string, password: string, address?: string) => ask('sign-in/email', { email, password }, '', address);
const as = async (cookies: string[]) => signedInAs(ws.db, new Headers({ cookie: cookies.join('; ') }));

/** The code of a moment (RFC 6238 with SHA-1, six digits unless more are asked for). */
function totp(secret: Buffer, seconds: number, digits = 6): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(seconds / 30)));
  const mac = createHmac('sha1', secret).update(counter).digest();
  const at = mac[19]! & 15;
  return String((mac.readUInt32BE(at) & 0x7f_ff_ff_ff) % 10 ** digits).padStart(digits, '0');
}
/** RFC 4648 base 32, as keys of authenticators are written. */
function fromBase32(text: string): Buffer {
  const bits = [...text.replace(/=+$/, '')].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join('');
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => Number.parseInt(b, 2)));
}

describe('signing in', () => {
  it('goes by address and password, in a cookie that scripts cannot read, and ends', async () => {
    await setPassword(ws.db, 'ines', PASSWORD);
    const { status, cookies, flags } = await signIn(ws.asker.mail!, PASSWORD);
    expect(status).toBe(200);
    expect(flags).toMatch(/HttpOnly/i);
    expect(flags).toMatch(/SameSite=Lax/i);
    expect(await as(cookies)).toBe('ines');
    expect(await as(['ottik.session_token=forged.signature'])).toBeNull();
    await ask('sign-out', {}, cookies.join('; '));
    expect(await as(cookies)).toBeNull();
  });
  it('says the same of a wrong password and of an address that is not known (OWASP ASVS 4.0.3, 2.2.x), and slows guessing down', async () => {
    await setPassword(ws.db, 'ines', PASSWORD);
    const wrong = await signIn(ws.asker.mail!, 'not the password');
    const unknown = await signIn('nobody@marrowsound.example', 'not the password');
    expect([wrong.status, wrong.body.code]).toEqual([401, 'INVALID_EMAIL_OR_PASSWORD']);
    expect([unknown.status, unknown.body]).toEqual([wrong.status, wrong.body]);
    const tries = [];
    for (let i = 0; i < 12; i++) tries.push((await signIn(ws.asker.mail!, `guess number ${i}`, '203.0.113.7')).status);
    expect(tries).toContain(429);
  });
  it('takes passwords from twelve to 128 characters, any of them (2.1.1, 2.1.2, 2.1.4), and another one ends where one was signed in', async () => {
    await expect(setPassword(ws.db, 'ines', 'eleven char')).rejects.toThrow('twelve');
    await expect(setPassword(ws.db, 'ines', 'x'.repeat(129))).rejects.toThrow('128');
    await setPassword(ws.db, 'ines', 'пароль 🌊 with spaces');
    const { cookies } = await signIn(ws.asker.mail!, 'пароль 🌊 with spaces');
    expect(await as(cookies)).toBe('ines');
    await setPassword(ws.db, 'ines', PASSWORD);
    expect(await as(cookies)).toBeNull();
    expect((await signIn(ws.asker.mail!, 'пароль 🌊 with spaces')).status).toBe(401);
    const kept = await ws.db.selectFrom('users').selectAll().execute();
    expect(JSON.stringify(kept)).not.toContain(PASSWORD);
  });
  it('can be made anew by a letter, whose link works once and ends where one was signed in (2.5.x)', async () => {
    await setPassword(ws.db, 'ines', PASSWORD);
    const letters: string[] = [];
    sendAccountLettersBy(async (_, letter) => void letters.push(letter.text));
    const { cookies } = await signIn(ws.asker.mail!, PASSWORD);
    const [known, unknown] = [await ask('request-password-reset', { email: ws.asker.mail }), await ask('request-password-reset', { email: 'nobody@marrowsound.example' })];
    expect(unknown).toEqual(known);
    expect(letters).toHaveLength(1);
    const token = /token=([\w-]+)/.exec(letters[0]!)![1]!;
    expect((await ask('reset-password', { token, newPassword: 'short' })).body.code).toBe('PASSWORD_TOO_SHORT');
    expect((await ask('reset-password', { token, newPassword: 'password12345' })).body).toMatchObject({ code: 'PASSWORD_EASILY_GUESSED', message: expect.stringContaining('found out elsewhere') });
    expect((await ask('reset-password', { token, newPassword: 'another tide table' })).status).toBe(200);
    expect((await ask('reset-password', { token, newPassword: 'a third tide table' })).status).toBe(400);
    expect(await as(cookies)).toBeNull();
    expect((await signIn(ws.asker.mail!, 'another tide table')).status).toBe(200);
  });
  it('asks for a second step where that is on: a code by RFC 6238, or a spare one, once', async () => {
    // RFC 6238, appendix B: the key “12345678901234567890” and SHA-1, eight digits
    const rfc: [number, string][] = [
      [59, '94287082'],
      [1_111_111_109, '07081804'],
      [1_111_111_111, '14050471'],
      [1_234_567_890, '89005924'],
      [2_000_000_000, '69279037'],
      [20_000_000_000, '65353130'],
    ];
    for (const [seconds, code] of rfc) expect(totp(Buffer.from('12345678901234567890'), seconds, 8)).toBe(code);
    await setPassword(ws.db, 'ines', PASSWORD);
    const { cookies } = await signIn(ws.asker.mail!, PASSWORD);
    const enabled = await ask('two-factor/enable', { password: PASSWORD }, cookies.join('; '));
    const secret = fromBase32(new URL(enabled.body.totpURI!).searchParams.get('secret')!);
    const now = () => totp(secret, Date.now() / 1000);
    const confirmed = await ask('two-factor/verify-totp', { code: now() }, cookies.join('; '));
    expect(confirmed.status).toBe(200);
    const half = await signIn(ws.asker.mail!, PASSWORD);
    expect(half.body.twoFactorRedirect).toBe(true);
    expect(await as(half.cookies)).toBeNull();
    expect((await ask('two-factor/verify-totp', { code: '000000' }, half.cookies.join('; '))).status).toBe(401);
    const whole = await ask('two-factor/verify-totp', { code: now() }, half.cookies.join('; '));
    expect(await as(whole.cookies)).toBe('ines');
    const spare = enabled.body.backupCodes![0]!;
    const again = await signIn(ws.asker.mail!, PASSWORD);
    expect(await as((await ask('two-factor/verify-backup-code', { code: spare }, again.cookies.join('; '))).cookies)).toBe('ines');
    const third = await signIn(ws.asker.mail!, PASSWORD);
    expect((await ask('two-factor/verify-backup-code', { code: spare }, third.cookies.join('; '))).status).toBe(401);
  });
});

describe('whether one has to sign in', () => {
  it.each([
    [undefined, true],
    ['127.0.0.1', true],
    ['localhost', true],
    ['::1', true],
    ['0.0.0.0', false],
    ['192.0.2.7', false],
    ['ottik.example', false],
  ])('a server at %s is on this machine alone: %s', (host, alone) => {
    expect(onThisMachineOnly(host === undefined ? {} : { HOST: host })).toBe(alone);
  });
  it('one that answers to another name is reached by others, wherever it listens', () => {
    expect(onThisMachineOnly({ HOST: '127.0.0.1', OTTIK_URL: 'https://ottik.harbour.example' })).toBe(false);
    expect(onThisMachineOnly({ HOST: '127.0.0.1', OTTIK_HOSTS: 'localhost, ottik.harbour.example' })).toBe(false);
    expect(onThisMachineOnly({ HOST: '127.0.0.1', OTTIK_URL: 'http://localhost:4324' })).toBe(true);
  });
  it('is always so where others can reach the server, and by choice where they cannot; never without a password', async () => {
    expect(await mustSignIn(ws.db)).toBe(false);
    await expect(changeSignIn(ws, { do: 'ask', ask: true })).rejects.toThrow('no password yet');
    await changeSignIn(ws, { do: 'first password', password: PASSWORD });
    await expect(changeSignIn(ws, { do: 'first password', password: 'another tide table' })).rejects.toThrow('already');
    await changeSignIn(ws, { do: 'ask', ask: true });
    expect(await signInShown(ws)).toEqual({ must: true, byChoice: true, mail: ws.asker.mail, twoFactor: false, demo: false });
    await changeSignIn(ws, { do: 'ask', ask: false });
    vi.stubEnv('HOST', '0.0.0.0');
    expect(await mustSignIn(ws.db)).toBe(true);
    vi.stubEnv('OTTIK_DEMO', '1');
    expect(await mustSignIn(ws.db)).toBe(true);
    await expect(stepInto(ws, 'bram')).rejects.toThrow('for the demo');
  });
  it('a first run that others can reach needs a password', async () => {
    const db = await openDatabase(':memory:');
    const first = { name: 'Mara Quill', mail: 'mara@quill.example', zone: 'Europe/Lisbon', country: 'PT', workingDays: '12345', project: 'New slipway' };
    vi.stubEnv('HOST', '0.0.0.0');
    await expect(begin(db, first, TODAY)).rejects.toThrow('needs a password');
    await expect(begin(db, { ...first, mail: null, password: PASSWORD }, TODAY)).rejects.toThrow('mail address');
    await begin(db, { ...first, password: PASSWORD }, TODAY);
    expect(await db.selectFrom('users').select(['email', 'personId']).execute()).toEqual([{ email: 'mara@quill.example', personId: 'mara-quill' }]);
    await db.destroy();
  });
});

describe('an invitation', () => {
  it('leads one person in, once, within its days; an earlier one ends', async () => {
    await ws.db.updateTable('people').set({ mail: 'bram.osei@marrowsound.example' }).where('id', '=', 'bram').execute();
    const first = await invite(ws, P, 'bram', 'member', NOW);
    const second = await invite(ws, P, 'bram', 'guest', NOW);
    await expect(invitationOf(ws.db, first.token!, NOW)).rejects.toThrow('has run out');
    await expect(invitationOf(ws.db, 'x'.repeat(32), NOW)).rejects.toThrow('leads nowhere');
    await expect(invitationOf(ws.db, second.token!, new Date('2026-03-12T12:00:01Z'))).rejects.toThrow('has run out');
    expect(await invitationOf(ws.db, second.token!, NOW)).toMatchObject({ name: 'Bram Osei', by: 'Ines Falk', role: 'guest' });
    expect(JSON.stringify(await ws.db.selectFrom('invitations').selectAll().execute())).not.toContain(second.token);
    await expect(takeUpInvitation(ws.db, second.token!, 'short', NOW)).rejects.toThrow('twelve');
    const tries = await Promise.allSettled([1, 2].map(() => takeUpInvitation(ws.db, second.token!, PASSWORD, NOW)));
    expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(1);
    expect(await as((await signIn('bram.osei@marrowsound.example', PASSWORD)).cookies)).toBe('bram');
    expect(await accessOf(ws, P, 'bram', NOW)).toMatchObject({ role: 'guest', sees: true, invitedUntil: null });
  });
  it('gives nobody the account of somebody who has one', async () => {
    await setPassword(ws.db, 'ines', PASSWORD);
    await ws.db.updateTable('people').set({ mail: 'bram.osei@marrowsound.example' }).where('id', '=', 'bram').execute();
    await setPassword(ws.db, 'bram', PASSWORD);
    expect((await invite(ws, P, 'bram', 'member', NOW)).token).toBeNull();
  });
  it('is a manager’s to give, and needs an address', async () => {
    const guest = ws.with({ asker: { ...ws.asker, roles: new Map([[P, 'member' as const]]) } });
    await expect(invite(guest, P, 'bram', 'member', NOW)).rejects.toThrow('Only a manager');
    await ws.db.updateTable('people').set({ mail: null }).where('id', '=', 'bram').execute();
    await expect(invite(ws, P, 'bram', 'member', NOW)).rejects.toThrow('no mail address');
  });
});

describe('a role', () => {
  const actAs = async (role: 'manager' | 'member' | 'guest', needs: 'read' | 'work' | 'manage') => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'bram').execute();
    await ws.db.updateTable('memberships').set({ sees: 1, access: role }).where('person_id', '=', 'bram').where('project_id', '=', P).execute();
    return (await workspaceOf(ws.db, 'bram', TODAY)).with({ project: P, needs });
  };
  it.each([
    ['manager', 'read', true],
    ['manager', 'work', true],
    ['manager', 'manage', true],
    ['member', 'read', true],
    ['member', 'work', true],
    ['member', 'manage', false],
    ['guest', 'read', true],
    ['guest', 'work', false],
    ['guest', 'manage', false],
  ] as const)('%s may %s: %s', async (role, needs, may) => {
    const own = await actAs(role, needs);
    const [c] = await ledgerRows(own.with({ needs: 'read' }), { project: P, state: 'open' });
    const tried = changeCommitment(own, c!.id, { do: 'move', due: '2026-04-01' });
    if (may) expect((await tried).row.due).toBe('2026-04-01');
    else await expect(tried).rejects.toMatchObject({ status: 403 });
  });
  it('of manager is needed to give a project another name, and is not the last one to go', async () => {
    const member = await actAs('member', 'work');
    await expect(changeProject(member, { do: 'rename', project: P, name: 'Loud Crossing' })).rejects.toThrow('Only a manager');
    await expect(changeRole(ws, P, 'ines', 'guest')).rejects.toThrow('stays a manager');
    await changeRole(ws, P, 'bram', 'manager');
    await changeRole(ws, P, 'bram', null);
    expect(await accessOf(ws, P, 'bram', NOW)).toMatchObject({ role: 'member', sees: false });
    await expect(workspaceOf(ws.db, 'bram').then((own) => ledgerRows(own, { project: P }))).resolves.toEqual([]);
  });
});

describe('who a request comes from', () => {
  it('is nobody where one has to be signed in and is not', async () => {
    vi.stubEnv('HOST', '0.0.0.0');
    const context = { cookies: { get: () => undefined }, request: new Request('http://localhost/') } as never;
    expect(await whoAsks(context, ws.db)).toBeNull();
    vi.stubEnv('HOST', '127.0.0.1');
    expect(await whoAsks(context, ws.db)).toBe('ines');
  });
});
