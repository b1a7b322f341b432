import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

const PASSWORD = 'slack water at noon';
let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

describe('signing in', () => {
  it('is asked for by choice, leads back to where one was going, and ends', async () => {
    const page = await app.page('/settings');
    await page.getByText('Nobody has to sign in on this machine').waitFor();
    await page.getByRole('button', { name: 'Set a password' }).click();
    await page.getByLabel('New password, at least twelve characters').fill(PASSWORD);
    await page.keyboard.press('Enter');
    await page.getByText('You have a password now.').waitFor();
    await page.getByRole('button', { name: 'Ask for it on this machine too' }).click();
    await page.waitForURL(/\/sign-in\?next=%2Fsettings/);
    // nothing of the workspace is to be had meanwhile
    const outside = (path: string) => page.evaluate(async (p) => (await fetch(p, { redirect: 'manual' })).status, path);
    expect([await outside('/api/ledger'), await outside('/api/settings'), await outside('/api/ledger-live')]).toEqual([401, 401, 401]);
    // a page that answers with another address is told of without its status
    expect([await outside('/ledger.csv'), await outside('/meetings/9/minutes.md')]).toEqual([0, 0]);
    await page.getByLabel('Your mail address').fill('ines.falk@marrowsound.example');
    await page.getByLabel('Your password').fill('something else');
    await page.keyboard.press('Enter');
    await page.getByText('do not belong together').waitFor();
    await page.getByLabel('Your password').fill(PASSWORD);
    await page.keyboard.press('Enter');
    await page.waitForURL(/\/settings$/);
    await page.getByText('Whoever opens Ottik signs in.').waitFor();
    const other = await app.page('/sign-in?next=//elsewhere.example/');
    await other.getByLabel('Your mail address').fill('ines.falk@marrowsound.example');
    await other.getByLabel('Your password').fill(PASSWORD);
    await other.keyboard.press('Enter');
    await other.waitForURL((url) => url.pathname === '/' && url.hostname === 'localhost');
    await page.getByRole('button', { name: 'Sign out everywhere else' }).click();
    await page.getByText('You are signed out everywhere else.').waitFor();
    await other.goto(`${app.url}/ledger`);
    await other.waitForURL(/\/sign-in/);
    await page.getByRole('button', { name: 'Do not ask on this machine' }).click();
    await page.getByText('Nobody has to sign in on this machine').waitFor();
    expect(page.wrong).toEqual([]);
    await other.context().close();
    await page.context().close();
  });
  it('is what an invitation leads to; its link works once', async () => {
    const page = await app.page('/people/bram');
    const access = page.getByLabel('Access');
    await access.getByText('does not sign in here').waitFor();
    await access.getByRole('button', { name: 'Invite to sign in' }).click();
    await page.getByText('a letter went to').waitFor();
    const letters = (await (await fetch(`${app.mailboxes}/messages.json`)).json()) as { subject: string; text?: string; id?: string }[];
    expect(letters.some((l) => l.subject === 'Ines Falk invites you to Ottik')).toBe(true);
    await page.context().close();
  });
});
