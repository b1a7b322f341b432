import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start({ empty: true });
});
afterAll(() => app?.stop());

/** Every address that a page file or an endpoint gives, with something that does not exist where it names something. */
function addresses(folder: string, at = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((f) => {
    if (f.isDirectory()) return addresses(join(folder, f.name), `${at}/${f.name}`);
    const name = f.name.replace(/\.(?:astro|ts)$/, '').replace(/^index$/, '');
    return [`${at}/${name}`.replace(/\/$/, '') || '/'];
  });
}
const named = (path: string) => path.replace('[format]', 'csv').replace(/\[[^\]]+\]/g, '1');
const PAGES = addresses(join(import.meta.dirname, '../../src/pages'))
  .map(named)
  .filter((p) => !p.endsWith('/begin'));

describe('an Ottik that holds nothing', () => {
  it('leads every page to the first one, and lets nothing else through', async () => {
    for (const path of PAGES) {
      const answer = await fetch(app.url + path, { redirect: 'manual' });
      if (path.startsWith('/api/')) expect([path, answer.status]).toEqual([path, 409]);
      else expect([path, answer.status, new URL(answer.headers.get('location') ?? '', app.url).pathname]).toEqual([path, 303, '/begin']);
    }
  });

  it('refuses what is no name, no address, no time zone, and keeps nothing of it', async () => {
    const first = { name: 'Mara Quill', mail: 'mara@quill.example', zone: 'Europe/Lisbon', country: 'PT', project: 'New slipway' };
    const begin = (body: unknown) => fetch(`${app.url}/api/begin`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    for (const wrong of [{ name: ' ' }, { mail: 'mara at quill' }, { zone: 'Europe/Nowhere' }, { country: 'Portugal' }, { project: '' }]) {
      const answer = await begin({ ...first, ...wrong });
      expect([wrong, answer.status]).toEqual([wrong, 422]);
    }
    expect((await fetch(app.url, { redirect: 'manual' })).status).toBe(303);
  });

  it('begins with three answers, once, and goes on to where somebody wants', async () => {
    const page = await app.page('/');
    expect(new URL(page.url()).pathname).toBe('/begin');
    await page.getByLabel('Your name').fill('Mara Quill');
    await page.getByLabel('Your mail address').fill('mara@quill.example');
    await page.getByLabel('Public holidays of').selectOption('PT');
    await page.getByLabel('What it is called').fill('New slipway');
    await page.getByLabel('Look around first').check();
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.waitForURL(`${app.url}/`);
    await page.getByText('Mara Quill').first().waitFor();
    expect(page.wrong).toEqual([]);
    expect((await fetch(`${app.url}/begin`, { redirect: 'manual' })).headers.get('location')).toBe('/');
    const again = await fetch(`${app.url}/api/begin`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: 'Somebody Else', mail: '', zone: 'UTC', country: '', project: 'Another' }) });
    expect(again.status).toBe(409);
    await page.context().close();
  });

  it('then answers every address, without an error anywhere', async () => {
    for (const path of PAGES) {
      const answer = await fetch(app.url + path, { signal: AbortSignal.timeout(3000) }).then(
        (r) => r.status,
        () => 200, // a stream goes on
      );
      expect([path, answer < 500]).toEqual([path, true]);
    }
    for (const path of PAGES.filter((p) => !p.startsWith('/api/') && !/\b1\b|\.csv|\.ics/.test(p))) {
      const page = await app.page(path);
      expect([path, page.wrong]).toEqual([path, []]);
      expect(await page.locator('h1, h2').first().textContent()).toBeTruthy();
      await page.context().close();
    }
  });

  it('takes people from a list, an entry in place, a record of last week, and a letter to somebody of it', async () => {
    const page = await app.page('/people');
    await page.keyboard.press('a');
    await page.getByRole('textbox', { name: /Add people/ }).fill('"Reis, Tomas" <tomas@quill.example>, welder, Quill Yard\nAda Lume\nnobody at all @');
    await page.getByText('Line 3').waitFor();
    await page.getByRole('button', { name: 'Add 2 people' }).click();
    await page.getByText('2 added').waitFor();
    await page.getByRole('link', { name: 'Ada Lume' }).click();
    await page.waitForFunction(() => document.documentElement.dataset.keys === 'on');
    await page.keyboard.press('e');
    await page.getByLabel('Mail address').fill('tomas@quill.example');
    await page.keyboard.press('Enter');
    await page.getByText('is the address of Tomas Reis').waitFor();
    await page.getByLabel('Mail address').fill('ada@quill.example');
    await page.keyboard.press('Enter');
    await page.getByText('Saved').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('no address').first().waitFor();
    await page.keyboard.press('e');
    await page.getByLabel('Mail address').fill('ada@quill.example');
    await page.keyboard.press('Enter');
    await page.locator('.details').getByText('ada@quill.example').waitFor();
    const keep = { project: 'new-slipway', meeting: null, series: null, title: 'Yard talk', date: '2026-02-26', author: null, voices: { Ada: { person: 'ada-lume', name: null } } };
    const form = new FormData();
    form.set('file', new Blob(['Ada: I will order the rails by next Friday.\nMara: Good, thank you.\n']), 'talk.txt');
    form.set('name', 'talk.txt');
    form.set('keep', JSON.stringify(keep));
    const kept = await fetch(`${app.url}/api/records`, { method: 'POST', body: form });
    expect(kept.status).toBe(200);
    const { meeting } = (await kept.json()) as { meeting: number };
    await app.open(page, `/meetings/${meeting}/sift`);
    await page.keyboard.press('t');
    await page.getByText('C-1').first().waitFor();
    await app.open(page, '/ledger/C-1');
    await page.getByText('Ada Lume').first().waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });

  it('begins a series in words, takes it back, and plans a meeting', async () => {
    const page = await app.page('/meetings');
    await page.keyboard.press('s');
    await page.getByLabel('Title of the series').fill('Yard call');
    await page.getByLabel('When').fill('every second tuesday');
    await page.getByText('a day and a time are wanted').waitFor();
    await page.getByLabel('When').fill('every second tuesday at 10.00');
    await page.getByText('every second Tuesday at 10:00, first on Tue 10 Mar').waitFor();
    await page.keyboard.press('Enter');
    await page.getByText('first on Tue 10 Mar').waitFor();
    await page.locator('.srow').getByText('Yard call').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('This project has no series yet').waitFor();
    await page.waitForFunction(() => document.documentElement.dataset.keys === 'on');
    await page.keyboard.press('p');
    await page.getByLabel('Title of the meeting').fill('Visit to the yard');
    await page.getByLabel('When').fill('next tuesday at 14:00');
    await page.keyboard.press('Enter');
    await page.locator('.row').getByText('Visit to the yard').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });

  it('begins another project and renames it', async () => {
    const page = await app.page('/project');
    await page.getByRole('button', { name: 'Begin another project' }).click();
    await page.getByLabel('Name of the new project').fill('new SLIPWAY');
    await page.keyboard.press('Enter');
    await page.getByText('There is a project').waitFor();
    await page.getByLabel('Name of the new project').fill('Harbour lights');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'Harbour lights' }).waitFor();
    await page.getByRole('button', { name: 'Rename the project' }).click();
    await page.getByLabel('Name of the project').fill('Harbour lamps');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'Harbour lamps' }).waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});
