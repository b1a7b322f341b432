import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app?.stop());

const status = (page: Page) => page.locator('.foot [role=status]').innerText();
const openNote = (page: Page) => page.locator('.note.is-open');

describe('the first crossing, by keyboard', () => {
  it('goes from the Day sheet to the record that waits, and sifts it', async () => {
    const page = await app.page('/');
    expect(await page.locator('h1').innerText()).toBe('Thursday 5 March');
    await page.keyboard.press('l');
    await page.waitForURL(/\/meetings\/\d+\/(sift|follow-up)/);
    await app.open(page, '/');
    await page.getByRole('link', { name: 'Sift it' }).first().click();
    await page.waitForURL(/\/sift$/);
    await openNote(page).waitFor();
    const total = await page.locator('.note').count();
    expect(total).toBeGreaterThan(5);

    const first = await openNote(page).getAttribute('data-for');
    await page.keyboard.press('j');
    expect(await openNote(page).getAttribute('data-for')).not.toBe(first);
    await page.keyboard.press('k');
    expect(await openNote(page).getAttribute('data-for')).toBe(first);

    await page.keyboard.press('p');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.startsWith('Passed'));
    await page.keyboard.press('z');
    await page.waitForFunction((id) => document.querySelector('.note.is-open')?.getAttribute('data-for') === id, first);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });

  it('edits words, owner and date of an action, takes it, and finds it in the Ledger and its trail', async () => {
    const page = await app.page('/');
    await page.getByRole('link', { name: 'Sift it' }).first().click();
    await openNote(page).waitFor();
    for (let i = 0; i < 30 && (await openNote(page).locator('header b').innerText()) !== 'Action'; i++) await page.keyboard.press('j');
    await page.keyboard.press('e');
    await page.keyboard.type('Sign the receiver’s form');
    await page.keyboard.press('Enter');
    await page.keyboard.press('o');
    await page.keyboard.type('Wim');
    await page.locator('.choices li').first().waitFor();
    await page.keyboard.press('Enter');
    await page.keyboard.press('d');
    await page.keyboard.type('next tue');
    await page.locator('.read b', { hasText: 'Tue 10 Mar' }).waitFor();
    await page.keyboard.press('Enter');
    expect(await openNote(page).innerText()).toContain('Wim Daal');
    await page.keyboard.press('t');
    await page.waitForFunction(() => /C-\d+ taken/.test(document.querySelector('.foot [role=status]')?.textContent ?? ''));
    const ref = /C-\d+/.exec(await status(page))![0];
    expect(await status(page)).toContain('Wim Daal, Tue 10 Mar');

    await app.open(page, '/ledger');
    const line = page.locator('tr', { hasText: ref }).first();
    expect(await line.innerText()).toContain('Sign the receiver’s form');
    expect(await line.innerText()).toContain('Wim Daal');
    await line.getByRole('link', { name: ref }).click();
    await page.waitForURL(new RegExp(`/ledger/${ref}$`));
    expect(await page.locator('.happened').count()).toBe(1);
    await page.locator('.happened .words a').first().click();
    await page.waitForURL(/\/sift\?record=\d+#s\d+$/);
    await page.locator('.led-here').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });

  it('takes an update, and the commitment is done in the Ledger', async () => {
    const page = await app.page('/');
    await page.getByRole('link', { name: 'Sift it' }).first().click();
    await openNote(page).waitFor();
    for (let i = 0; i < 30 && (await openNote(page).locator('header b').innerText()) !== 'Update'; i++) await page.keyboard.press('j');
    const ref = /C-\d+/.exec(await openNote(page).innerText())![0];
    await openNote(page).getByRole('button', { name: 'done', exact: true }).click();
    await page.keyboard.press('t');
    await page.waitForFunction((r) => document.querySelector('.foot [role=status]')?.textContent?.includes(`${r} taken`), ref);
    await app.open(page, `/ledger?state=ended&text=${ref}`);
    expect(await page.locator('tr', { hasText: ref }).first().innerText()).toContain('done');
    await app.open(page, `/ledger/${ref}`);
    expect(await page.locator('.happened').last().innerText()).toMatch(/^.*Done/s);
    await page.context().close();
  });

  it('marks by hand what was missed', async () => {
    const page = await app.page('/');
    await page.getByRole('link', { name: 'Sift it' }).first().click();
    await openNote(page).waitFor();
    const before = await page.locator('.note').count();
    await page.evaluate(() => {
      const words = document.querySelector('[data-seg="0"]')!;
      const range = document.createRange();
      const text = words.firstChild!.nodeType === 3 ? words.firstChild! : words.firstChild!.firstChild!;
      range.setStart(text, 0);
      range.setEnd(text, 12);
      getSelection()!.removeAllRanges();
      getSelection()!.addRange(range);
    });
    await page.keyboard.press('g');
    await page.waitForFunction((n) => document.querySelectorAll('.note').length === n + 1, before);
    expect(await openNote(page).locator('header b').innerText()).toBe('Decision');
    await page.context().close();
  });
});

describe('the Ledger', () => {
  it('moves, hands over and ends by keyboard in the row, and takes it back', async () => {
    const page = await app.page('/ledger');
    const at = page.locator('tr.at').first();
    const ref = await at.locator('.ref').innerText();
    const row = page.locator('tr', { has: page.getByRole('link', { name: ref, exact: true }) }).first();
    const due = await row.locator('.c-due .day').innerText();
    await page.keyboard.press('m');
    await page.keyboard.type('in two weeks');
    await page.locator('.read b', { hasText: 'Thu 19 Mar' }).waitFor();
    await page.keyboard.press('Enter');
    await page.waitForFunction((r) => document.querySelector('.foot [role=status]')?.textContent?.includes(`${r} moved to Thu 19 Mar`), ref);
    await page.keyboard.press('z');
    await page.waitForFunction((r) => document.querySelector('.foot [role=status]')?.textContent?.includes(`${r} as it was`), ref);
    expect(await row.locator('.c-due .day').innerText()).toBe(due);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('filters by the sentence and by words, and keeps the filter in the address', async () => {
    const page = await app.page('/ledger');
    const all = await page.locator('tbody tr').count();
    await page.getByLabel('Owner').selectOption({ label: 'Sam Okafor' });
    const his = await page.locator('tbody tr').count();
    expect(his).toBeGreaterThan(0);
    expect(his).toBeLessThan(all);
    expect(page.url()).toContain('owner=sam');
    await page.keyboard.press('Escape');
    await page.getByLabel('Words in them').fill('nothing like this');
    expect(await page.getByText('Nothing fits').isVisible()).toBe(true);
    const csv = Buffer.from(await (await fetch(`${app.url}/ledger.csv`)).arrayBuffer()).toString('utf8');
    expect(csv).toMatch(/^\uFEFFref,what,owner,due/);
    await page.context().close();
  });
});

describe('letters', () => {
  it('go out after a look, and stand in each mailbox as page and plain text', async () => {
    const page = await app.page('/post');
    await page
      .getByRole('button', { name: /Yard walk/ })
      .first()
      .click();
    await page.getByRole('link', { name: /Write it|Open it/ }).click();
    await page.waitForURL(/follow-up/);
    // looking drafted nothing: it is asked for
    const draft = page.getByRole('button', { name: /^Draft the round-up/ });
    await draft.or(page.locator('iframe')).first().waitFor();
    if (await draft.count()) await draft.click();
    // the preview comes once the page listens
    await page.locator('iframe').waitFor();
    await page.getByLabel('The letter’s words').fill('Dear {{ recipient.first }},\n\nDecided\n- D-9  The crane stays.\n\nInes');
    await page.getByRole('button', { name: /^Send/ }).click();
    await page.getByText('Sent', { exact: true }).waitFor();
    const box = await app.page('/');
    await box.goto(`${app.mailboxes}/?mailbox=bram.osei%40pellyard.example`);
    await box.locator('.list a').first().click();
    await box.getByRole('link', { name: 'Plain text' }).click();
    expect(await box.locator('pre').innerText()).toContain('Dear Bram,');
    await box.getByRole('link', { name: 'As a page' }).click();
    expect(await box.frameLocator('iframe').locator('body').innerText()).toContain('The crane stays.');
    await box.context().close();
    await page.context().close();
  });
  it('with a variable nobody knows are not sent, and say so', async () => {
    const page = await app.page('/post');
    await page
      .getByRole('button', { name: /all invited.*works call/i })
      .first()
      .click();
    await page.getByRole('link', { name: /Write it|Open it/ }).click();
    await page.waitForURL(/follow-up/);
    const draft = page.getByRole('button', { name: /^Draft the round-up/ });
    await draft.or(page.locator('iframe')).first().waitFor();
    if (await draft.count()) {
      await draft.click();
      await page.locator('iframe').waitFor();
    }
    if (await page.getByRole('button', { name: /^Send/ }).count()) {
      await page.getByLabel('The letter’s words').fill('Dear {{ recipient.frist }}');
      await page.getByRole('alert').waitFor();
      expect(await page.getByRole('alert').innerText()).toContain('cannot be filled');
    }
    await page.context().close();
  });
});

describe('bringing a record in', () => {
  it('pasted: is read, its meeting guessed, kept and sifted', async () => {
    const page = await app.page('/bring-in');
    await page.getByLabel('Text of the record').fill('# Works call, 4 March 2026\n\n- Bram to send the crane papers by Friday\n- Wim: I will ring the digger people on Monday\n- Who pays for the crane? Nobody knows');
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByText('Belongs to').waitFor();
    await page.getByLabel('Meeting', { exact: true }).selectOption('new');
    await page.getByLabel('Title').fill('Crane talk');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /Keep and sift/ }).click();
    await page.waitForURL(/\/meetings\/\d+\/sift/);
    await page.locator('.note').first().waitFor();
    expect(await page.locator('h1').innerText()).toBe('Crane talk');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it.each([
    ['an empty file', 'empty.txt', '', 'empty'],
    ['captions without a cue', 'a.vtt', 'WEBVTT\n\nnothing', 'no cue'],
    ['a picture', 'a.txt', '\u0000\u0001\u0002\u0003\u0000\u0001\u0002\u0003\u0000\u0001\u0002\u0003', 'not a text file'],
  ])('%s is refused in place, and the page goes on', async (_, name, text, words) => {
    const page = await app.page('/bring-in');
    await page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    await page.getByRole('alert').waitFor();
    expect(await page.getByRole('alert').innerText()).toContain(words);
    expect(await page.getByRole('button', { name: /Choose files/ }).isVisible()).toBe(true);
    await page.context().close();
  });
  it('with a script in it shows words and runs nothing', async () => {
    const page = await app.page('/bring-in');
    await page.getByLabel('Text of the record').fill('Ines: <img src=x onerror="window.hit=1"><script>window.hit=1</script> I will send it by Friday.\nBram: ok\nInes: good');
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByText('Belongs to').waitFor();
    expect(await page.evaluate(() => (window as unknown as { hit?: number }).hit)).toBeUndefined();
    expect(await page.locator('.rec').innerText()).toContain('<script>');
    await page.context().close();
  });
  it('on a day before the project began is told so before anything is kept', async () => {
    const page = await app.page('/bring-in');
    await page.getByLabel('Text of the record').fill('Ines: hello there\nBram: hi\nInes: so');
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByText('Belongs to').waitFor();
    await page.getByLabel('Meeting', { exact: true }).selectOption('new');
    await page.getByLabel('Title').fill('Old');
    await page.getByLabel('Date of the meeting').fill('1 March 2024');
    expect(await page.locator('.beside').innerText()).toContain('before the project began');
    expect(await page.getByRole('button', { name: /Keep and sift/ }).isDisabled()).toBe(true);
    await page.context().close();
  });
});

describe('what is asked wrongly', () => {
  it('says what is not there', async () => {
    for (const path of ['/ledger/C-9999', '/ledger/nonsense', '/meetings/9999/sift', '/meetings/x/follow-up']) {
      const answer = await fetch(app.url + path);
      expect(answer.status).toBe(404);
      expect(await answer.text()).toContain('Go to the day');
    }
  });
  it('turns away another site’s request', async () => {
    const answer = await fetch(`${app.url}/api/commitments/1`, { method: 'POST', headers: { 'content-type': 'application/json', origin: 'http://evil.example' }, body: '{"do":"done"}' });
    expect(await answer.text()).toContain('another site');
    expect(answer.status).toBeGreaterThanOrEqual(400);
  });
});
