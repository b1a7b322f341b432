import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PostOffice } from '../../standins/mail/post-office.ts';
import { Application } from './application.ts';

let app: Application;
let office: PostOffice;
let folder: string;
let port: number;
let close: () => Promise<void>;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'ottik-settings-'));
  office = new PostOffice(folder);
  office.keepPeople([{ name: 'Ines Falk', mail: 'ines.falk@harbour.example' }]);
  const smtp = office.smtp();
  port = await new Promise<number>((done) => smtp.listen(0, '127.0.0.1', () => done((smtp.server.address() as { port: number }).port)));
  close = () => new Promise<void>((done) => smtp.close(() => done()));
  app = await Application.start();
});
afterAll(async () => {
  await app.stop();
  await close();
  rmSync(folder, { recursive: true, force: true });
});

describe('the settings', () => {
  it('name a mail server, try it with a letter, and keep what works; the password is not shown again', async () => {
    const page = await app.page('/settings');
    await page.keyboard.press('o');
    await page.getByLabel('Server').fill('127.0.0.1');
    await page.getByLabel('Protection').selectOption('none');
    await page.getByLabel('Port').fill('1');
    await page.getByRole('button', { name: 'Try it' }).click();
    await page.getByText('cannot be reached').waitFor();
    await page.getByLabel('Port').fill(String(port));
    await page.getByRole('button', { name: 'Try it' }).click();
    await page.getByText('It works: a test letter is on its way').waitFor();
    await page.getByRole('button', { name: 'Add a sender' }).click();
    await page.getByLabel('Name letters go out under').fill('Quiet Crossing');
    await page.getByLabel('Address', { exact: true }).fill('crossing@harbour.example');
    await page.getByLabel('Address', { exact: true }).press('Enter');
    await page.getByText(`Letters go out by 127.0.0.1:${port}, not protected.`).first().waitFor();
    await page.getByLabel('Quiet Crossing writes from').selectOption('crossing@harbour.example');
    await page.getByText('writes from crossing@harbour.example from now on').waitFor();
    await page.reload();
    expect(await page.getByLabel('Quiet Crossing writes from').inputValue()).toBe('crossing@harbour.example');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('say of a mailbox what is wrong with it, and leave what was typed', async () => {
    const page = await app.page('/settings');
    await page.keyboard.press('i');
    await page.getByLabel('Server').fill('127.0.0.1');
    await page.getByLabel('Port').fill('1');
    await page.getByRole('button', { name: 'Try it' }).click();
    await page.getByText('The mail server at 127.0.0.1:1 cannot be reached.').waitFor();
    expect(await page.getByLabel('Server').inputValue()).toBe('127.0.0.1');
    await page.keyboard.press('Escape');
    await page.getByText('are handed to Ottik by the mail server').waitFor();
    await page.context().close();
  });
  it('make a backup by a key, and say where it is', async () => {
    const page = await app.page('/settings');
    await page.keyboard.press('b');
    await page.getByText('A backup was made and checked.').waitFor();
    const said = await page.getByLabel('Backups').textContent();
    const where = /made each night in (\S+),|go to (\S+)\./.exec(said!)!;
    expect(readdirSync(where[1] ?? where[2]!).some((name) => name.endsWith('.db'))).toBe(true);
    await page.context().close();
  });
});
