import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app?.stop());

describe('minutes', () => {
  it('are written, changed where they stand, issued, and taken away', async () => {
    const page = await app.page('/meetings/9/minutes');
    await page.locator('.writing .part').first().waitFor();
    await page.keyboard.press('e');
    await page.keyboard.type('We walked the whole yard.');
    await page.getByText('kept', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Topics' }).click();
    await page.locator('[data-part=topics] table').waitFor();

    await page.getByRole('button', { name: 'Owner of C-24' }).click();
    await page.keyboard.type('Ruth');
    await page.locator('.choices li').first().waitFor();
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.includes('C-24 changed'));
    expect(await page.getByRole('button', { name: 'Owner of C-24' }).innerText()).toBe('Ruth Adair');

    await page.getByRole('button', { name: /Issue version 1/ }).click();
    await page.getByRole('link', { name: 'Version 1', exact: true }).waitFor();
    const [file] = await Promise.all([page.waitForEvent('download'), page.locator('.away tr').first().getByRole('link', { name: 'Word' }).click()]);
    expect(file.suggestedFilename()).toMatch(/-v1\.docx$/);
    await page.getByRole('link', { name: 'Version 1', exact: true }).click();
    await page.getByText('it does not change any more').waitFor();
    expect(await page.locator('.issued').innerText()).toContain('We walked the whole yard.');
    expect(await page.locator('.issued').innerText()).toContain('Ruth Adair');

    await app.open(page, '/ledger/C-24');
    expect(await page.locator('.sub').innerText()).toContain('Ruth Adair');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('show what a change since the last version would say', async () => {
    const page = await app.page('/meetings/9/minutes');
    await page.locator('.writing .part').first().waitFor();
    await page.locator('[data-part=decisions]').hover();
    await page.getByRole('button', { name: 'Take Decided out' }).click();
    await page.locator('.pending li').first().waitFor();
    expect(await page.locator('.pending').innerText()).toContain('D-8 left out');
    expect(await page.getByRole('button', { name: /Issue version 2/ }).isEnabled()).toBe(true);
    await page.context().close();
  });
});

describe('the gist of a record', () => {
  it('tells the time spent on a subject, and its first minutes alone', async () => {
    const page = await app.page('/meetings/10/gist');
    const topics = await page.locator('.topics li').count();
    await page.getByPlaceholder('a subject').fill('permit');
    await page.keyboard.press('Enter');
    await page.getByLabel('The subject asked about').waitFor();
    expect(await page.getByLabel('The subject asked about').innerText()).toContain('permit');
    await page.getByLabel('So far, up to').selectOption('60');
    await page.getByRole('button', { name: 'Show' }).click();
    await page.waitForURL(/until=60/);
    expect(await page.locator('.topics li').count()).toBeLessThan(topics);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('finds that are something else', () => {
  it('are turned, merged, put back and filtered by key', async () => {
    const page = await app.page('/meetings/10/sift');
    const open = page.locator('.note.is-open');
    await open.waitFor();
    const heading = () => open.locator('header b').innerText();
    for (let i = 0; i < 30 && (await heading()) !== 'Action'; i++) await page.keyboard.press('j');
    const id = await open.getAttribute('data-for');
    await page.keyboard.press('c');
    await page.waitForFunction(() => document.querySelector('.note.is-open header b')?.textContent === 'Decision');
    await page.keyboard.press('z');
    await page.waitForFunction(() => document.querySelector('.note.is-open header b')?.textContent === 'Action');

    await page.keyboard.press('m');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.startsWith('Merge'));
    await page.keyboard.press('j');
    const other = await open.getAttribute('data-for');
    expect(other).not.toBe(id);
    await page.keyboard.press('m');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.startsWith('Merged'));
    expect(await page.locator(`.note[data-for="${other}"]`).getAttribute('class')).toContain('is-passed');
    await page.keyboard.press('z');
    await page.waitForFunction((o) => !document.querySelector(`.note[data-for="${o}"]`)?.classList.contains('is-passed'), other);

    const all = await page.locator('.note').count();
    await page.keyboard.press('4');
    await page.waitForFunction((n) => document.querySelectorAll('.note').length < n, all);
    await page.keyboard.press('4');

    await page.keyboard.press('w');
    // no letter typed into the field reaches the page, and nothing is chosen before Enter
    const judged = await page.locator('.called [aria-pressed=true]').count();
    await page.keyboard.type('c-');
    expect(await page.getByRole('combobox', { name: 'News of which commitment' }).inputValue()).toBe('c-');
    expect(await page.locator('.called [aria-pressed=true]').count()).toBe(judged);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => /Update|settled|already/.test(`${document.querySelector('.note.is-open header b')?.textContent} ${document.querySelector('.foot [role=status]')?.textContent}`));
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('the Weave', () => {
  it('is walked by key: threads, knots, their words, the table, the trail', async () => {
    const page = await app.page('/weave?series=works');
    await page.locator('svg.weave').waitFor();
    await page.keyboard.press('j');
    const words = page.locator('.knot-words');
    await words.waitFor();
    const last = await words.innerText();
    await page.keyboard.press('ArrowLeft');
    await page.waitForFunction((before) => document.querySelector('.knot-words')?.textContent !== before, last);
    expect(await words.locator('.said').innerText()).not.toBe('');
    await page.keyboard.press('b');
    await page.locator('.weave-table tr').nth(5).waitFor();
    await page.keyboard.press('b');
    const [svg] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as SVG' }).click()]);
    expect(svg.suggestedFilename()).toBe('weave.svg');
    await page.keyboard.press('t');
    await page.waitForURL(/\/ledger\/C-\d+/);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});
