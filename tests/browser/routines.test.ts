import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

const lines = (page: Page) => page.locator('.routine h3').allInnerTexts();

describe('routines', () => {
  it('are begun from a ready-made one by keyboard, tried, kept, switched off and on, removed and put back', async () => {
    const page = await app.page('/routines');
    await page.keyboard.press('n');
    await page.getByRole('button', { name: /^Take what is sure/ }).focus();
    await page.keyboard.press('Enter');
    await page.getByLabel('How sure, in percent').fill('80');
    await page.getByRole('button', { name: 'Try on a past meeting' }).click();
    await page
      .getByText(/would have taken \d+ of \d+ finds|took|none of/)
      .first()
      .waitFor();
    await page.getByLabel('Name of the routine').focus();
    await page.keyboard.press('Enter');
    await page.locator('.foot', { hasText: '“Take what is sure” is on' }).waitFor();
    expect(await lines(page)).toContain('Take what is sure');
    expect(await page.locator('.routine.at .sentence').innerText()).toContain('at least 80 % sure');
    await page.keyboard.press('o');
    await page.locator('.routine.at.off').waitFor();
    await page.keyboard.press('z');
    await page.locator('.routine.at.on').waitFor();
    await page.keyboard.press('x');
    await page.locator('.foot', { hasText: 'is removed' }).waitFor();
    expect(await lines(page)).not.toContain('Take what is sure');
    await page.keyboard.press('z');
    await page.locator('.foot', { hasText: 'Taken back' }).waitFor();
    expect(await lines(page)).toContain('Take what is sure');
    await page.context().close();
  });
  it('are refused where they cannot work, before anything is sent', async () => {
    const page = await app.page('/routines');
    await page.keyboard.press('n');
    await page.getByRole('button', { name: /^Friday look at what is late/ }).click();
    await page.getByText(/^First on Fri /).waitFor();
    await page.getByLabel('When, in words or cron').fill('whenever');
    await page.getByText('“whenever” does not say when.').waitFor();
    expect(await page.getByRole('button', { name: /^Save and switch on/ }).isDisabled()).toBe(true);
    await page.keyboard.press('Escape');
    await page.locator('.writing').waitFor({ state: 'detached' });
    await page.context().close();
  });
  it('are offered on the pages of a meeting, and run when somebody says so', async () => {
    const page = await app.page('/meetings/10/sift');
    const bar = page.getByRole('region', { name: 'Routines' });
    await bar.getByRole('button', { name: 'Run it' }).click();
    await bar.getByText(/waits for/).waitFor();
    await page.goto(`${app.url}/routines`);
    await page.locator('.run.waiting', { hasText: 'Minutes and round-up out' }).first().waitFor();
    await page.context().close();
  });
  it('run from the quick entry when their name is typed; other words are jotted down', async () => {
    const page = await app.page('/meetings/6/gist');
    const field = page.locator('.quick input');
    await field.click();
    await page.keyboard.type('run set up', { delay: 30 });
    await page.getByText('runs Set up the next one on Weekly works call').waitFor();
    await page.keyboard.press('Enter');
    await page
      .getByText(/Set up the next one: .*already/)
      .first()
      .waitFor();
    await page.keyboard.type('run the pump test once more', { delay: 10 });
    await page.keyboard.press('Enter');
    await page.getByText('Jotted; it is among today’s jottings').first().waitFor();
    await page.context().close();
  });
});
