import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
}, 120_000);
afterAll(() => app?.stop());

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
type Messages = { id: string; mailbox: string; subject: string }[];
const messages = async (mailbox: string) => (await (await fetch(`${app.mailboxes}/messages.json?mailbox=${encodeURIComponent(mailbox)}`)).json()) as Messages;
const eml = async (id: string) => (await (await fetch(`${app.mailboxes}/messages/${id}.eml`)).text()).replace(/=\r?\n/g, '').replace(/=3D/g, '=');

describe('letters that go out and come back, by keyboard', () => {
  it('an answer is taken, a letter goes, its reader answers, and the answer is there', async () => {
    const page = await app.page('/post');
    const foot = page.locator('.foot [role=status]');
    // the first thing that waits is Sam’s answer: the berths are done
    await page.locator('.read-of.open').waitFor();
    expect(await page.locator('.post-head h2').innerText()).toBe('Sam Okafor');
    await page.keyboard.press('t');
    await foot.getByText('Taken').waitFor();
    await page.keyboard.press('z');
    await foot.getByText('Taken back').waitFor();
    await page.keyboard.press('t');
    await foot.getByText('Taken', { exact: true }).waitFor();

    await page
      .getByRole('button', { name: /^Dele Marchetti/ })
      .first()
      .click();
    await page.getByText('Dear Dele,').waitFor();
    await page.keyboard.press('h');
    await foot.getByText('Held').waitFor();
    await page.keyboard.press('z');
    await foot.getByText('Put back').waitFor();
    await page
      .getByRole('button', { name: /^Dele Marchetti/ })
      .first()
      .click();
    await page.getByText('Dear Dele,').waitFor();
    const before = (await messages('dele@keldagrid.example')).length;
    await page.keyboard.press('g');
    await foot.getByText('Gone').waitFor();
    const [got] = await messages('dele@keldagrid.example');
    expect((await messages('dele@keldagrid.example')).length).toBe(before + 1);

    // Dele answers in his mailbox, over SMTP
    const box = await app.page('/');
    await box.goto(`${app.mailboxes}/messages/${got!.id}`);
    await box.getByLabel('Your answer').fill('1 is with Jonas now\n2 by 20 March');
    await box.getByRole('button', { name: 'Answer', exact: true }).click();
    await box.getByText('Your answer is on its way.').waitFor();
    await box.context().close();

    await app.open(page, '/post');
    await page
      .getByRole('button', { name: /^Dele Marchetti.*1 is with Jonas/ })
      .first()
      .click();
    await page.locator('.read-of.open', { hasText: 'Jonas Pike' }).waitFor();
    await page.keyboard.press('t');
    await foot.getByText('Taken', { exact: true }).waitFor();
    await page.keyboard.press('d');
    await page.keyboard.type('18 march');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: /Wed 18 Mar/ }).waitFor();
    await page.getByRole('button', { name: /^Take/ }).click();
    await page.waitForFunction(() => document.querySelectorAll('.read-of.taken').length === 2);
    await app.open(page, '/ledger?state=all');
    expect(await page.locator('tr', { has: page.getByRole('link', { name: 'C-3', exact: true }) }).innerText()).toContain('Jonas Pike');
    expect(await page.locator('tr', { has: page.getByRole('link', { name: 'C-2', exact: true }) }).innerText()).toContain('Wed 18 Mar');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('what is changed in an answer’s slip is what T takes, as the button does', async () => {
    const page = await app.page('/post');
    await page
      .getByRole('button', { name: /^Yusuf Aydin/ })
      .first()
      .click();
    const slip = page.locator('.read-of.open[aria-current=true]');
    await slip.waitFor();
    const ref = await slip.locator('.what a').innerText();
    await page.keyboard.press('e');
    await page.keyboard.type('handed');
    await page.keyboard.press('Enter');
    await page.getByRole('combobox', { name: 'Owner' }).waitFor();
    await page.keyboard.type('kit');
    await page.keyboard.press('Enter');
    await slip.getByText('Kit Ferrand').waitFor();
    await page.keyboard.press('t');
    await page.locator('.foot [role=status]').getByText('Taken', { exact: true }).waitFor();
    const owner = async () => ((await (await fetch(`${app.url}/ledger.json`)).json()) as { commitments: { ref: string; owner: string[] }[] }).commitments.find((c) => c.ref === ref)!.owner;
    expect(await owner()).toEqual(['Kit Ferrand']);
    await page.keyboard.press('z');
    await page.locator('.foot [role=status]').getByText('Taken back').waitFor();
    expect(await owner()).not.toEqual(['Kit Ferrand']);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('a reader’s own page works on a telephone, without an account, and passes axe-core', async () => {
    const page = await app.page('/post');
    await page
      .getByRole('button', { name: /^Bram Osei/ })
      .first()
      .click();
    await page.getByText('Dear Bram,').waitFor();
    await page.keyboard.press('g');
    await page.locator('.foot [role=status]').getByText('Gone').waitFor();
    await page.context().close();
    const [got] = await messages('bram.osei@pellyard.example');
    const link = /(\/answer\/[\w.-]+)/.exec(await eml(got!.id))![1]!;
    const own = await app.page(link, { viewport: { width: 390, height: 844 } });
    expect(await own.locator('h1').innerText()).toMatch(/things? of yours/);
    expect(await own.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(391);
    await own.evaluate(axeSource);
    const faults = await own.evaluate(async () => (await (window as unknown as { axe: { run(o: object): Promise<{ violations: { id: string }[] }> } }).axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })).violations.map((v) => v.id));
    expect(faults).toEqual([]);
    await own.getByRole('button', { name: 'Done' }).first().click();
    await own.locator('.through').first().waitFor();
    await own.getByRole('button', { name: 'New date' }).first().click();
    await own.locator('.typed-in input').fill('next tuesday');
    await own.locator('.read-day', { hasText: 'Tue 10 Mar' }).waitFor();
    await own.getByRole('button', { name: /^Tell Ines/ }).click();
    await own.getByText('new date: Tue 10 Mar').waitFor();
    expect(own.wrong).toEqual([]);
    // a changed link shows nothing
    expect((await fetch(`${app.url}${link.slice(0, -1)}${link.endsWith('A') ? 'B' : 'A'}`)).status).toBe(404);
    // a visit to the address that ends letters changes nothing; the click of a mail program does
    expect((await fetch(`${app.url}${link}/stop`, { redirect: 'manual' })).status).toBe(302);
    expect((await fetch(`${app.url}${link}/stop`, { method: 'POST', headers: { 'content-type': 'application/x-www-form-urlencoded' }, body: 'List-Unsubscribe=One-Click' })).status).toBe(200);
    await app.open(own, `${link}`);
    expect(await own.getByLabel(/Letters to you/).inputValue()).toBe('no digest');
    await own.context().close();
  });
  it('rules are sentences that can be changed, and the plan follows', async () => {
    const page = await app.page('/post/rules');
    await page.getByLabel('Digest').check();
    await page.locator('.foot [role=status]').getByText('Kept').waitFor();
    await page.getByLabel('Days after').fill('2');
    await page.keyboard.press('Enter');
    await page.reload({ waitUntil: 'networkidle' });
    expect(await page.getByLabel('Digest').isChecked()).toBe(true);
    expect(await page.getByLabel('Days after').inputValue()).toBe('2');
    await app.open(page, '/post');
    expect(await page.locator('.plan').textContent()).toContain('digest');
    await page.context().close();
  });
  it('a wording with an unknown variable is told of at once and cannot be kept', async () => {
    const page = await app.page('/post/wording');
    await page.getByLabel('Letter', { exact: true }).fill('Dear {{ recipient.frist }}');
    await page.getByRole('alert').getByText('{{ recipient.frist }}').waitFor();
    expect(await page.getByRole('button', { name: /^Keep/ }).isDisabled()).toBe(true);
    await page.getByLabel('Letter', { exact: true }).fill('Ahoy {{ recipient.first }}\n\n{{ lines }}');
    await page.locator('pre', { hasText: 'Ahoy' }).waitFor();
    await page.getByRole('button', { name: /^Keep/ }).click();
    await page.getByText('own wording of the project').waitFor();
    await page.context().close();
  });
});

describe('until done, by keyboard', () => {
  it('the Ledger: a typed query, marks, many at once with undo, a new line, a saved view', async () => {
    const page = await app.page('/ledger');
    const foot = page.locator('.foot [role=status]');
    await page.keyboard.press('f');
    await page.keyboard.type('owner:ruth');
    await page.keyboard.press('Escape');
    const hers = await page.locator('tbody tr').count();
    expect(hers).toBeGreaterThan(1);
    await page.keyboard.press('a');
    await page.getByText(`${hers} marked`).waitFor();
    await page.keyboard.press('b');
    await foot.getByText(`${hers} in the backlog`).waitFor();
    expect(await page.getByText('Nothing fits').isVisible()).toBe(true);
    await page.keyboard.press('z');
    await foot.getByText(`${hers} as they were`).waitFor();
    expect(await page.locator('tbody tr').count()).toBe(hers);
    await page.keyboard.press('y');
    await page.keyboard.type('hers');
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: 'hers', exact: true }).waitFor();
    await page.keyboard.press('n');
    await page.keyboard.type('Ruth to order the second pump by 20 March');
    await page.locator('.read', { hasText: 'Order the second pump' }).waitFor();
    await page.keyboard.press('Enter');
    await foot.getByText(/C-\d+ entered/).waitFor();
    expect(await page.locator('tbody tr').count()).toBe(hers + 1);
    await page.getByLabel('Words in them').fill('colour:red');
    await page.getByText('“colour:” is no filter').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('a jotting from any page becomes a commitment', async () => {
    const page = await app.page('/meetings');
    await page.keyboard.press('/');
    await page.keyboard.type('Kit to test the second pump by 19 March');
    await page.keyboard.press('Enter');
    await page.locator('.quick [role=status]').getByText('Jotted').waitFor({ state: 'attached' });
    await app.open(page, '/jottings');
    await page.keyboard.press('c');
    await page.locator('.read', { hasText: 'Kit Ferrand, Thu 19 Mar' }).waitFor();
    await page.keyboard.press('Enter');
    await page
      .getByText(/became/)
      .first()
      .waitFor();
    await page.context().close();
  });
  it('the evening is closed in one key a line', async () => {
    const page = await app.page('/close-out');
    const rest = await page.locator('.choice').count();
    expect(rest).toBeGreaterThan(3);
    await page.keyboard.press('t');
    await page.keyboard.press('b');
    for (let k = 2; k < rest; k++) await page.keyboard.press('l');
    await page.getByText('all chosen').waitFor();
    await page.keyboard.press('f');
    await page.keyboard.type('Ring Hanne');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    await page.locator('.foot [role=status]').getByText('The day is closed').waitFor();
    expect(await page.locator('pre').innerText()).toContain('First thing tomorrow\n- Ring Hanne');
    await page.context().close();
  });
  it('a question is answered in the parking lot; a person has notes', async () => {
    const page = await app.page('/questions');
    await page.keyboard.press('a');
    await page.keyboard.type('Yes, says Kit');
    await page.keyboard.press('Enter');
    await page.locator('.foot [role=status]').getByText('answered').waitFor();
    await app.open(page, '/people/bram');
    await page.keyboard.press('n');
    await page.keyboard.type('Never before nine.');
    await page.keyboard.press('Enter');
    await page.getByText('Never before nine.').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('a list is brought in after a look', async () => {
    const page = await app.page('/ledger/import');
    await page.locator('input[type=file]').setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from('what,owner,due\nPaint the casing,Bram Osei,2026-04-01\nBroken,,never ever\n') });
    await page.getByText('1 new').waitFor();
    expect(await page.locator('.refused').innerText()).toContain('Line 3');
    await page.keyboard.press('i');
    await page.locator('.notice', { hasText: '1 brought in' }).waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});
