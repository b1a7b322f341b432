import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start({
    env: { OTTIK_DEMO: '1' },
    prepare: async (db) => {
      await db.updateTable('people').set({ account: 1 }).where('id', 'in', ['hanne', 'sam']).execute();
      await db.updateTable('memberships').set({ sees: 1 }).where('person_id', 'in', ['hanne', 'sam']).execute();
    },
  });
});
afterAll(() => app.stop());

const LIVE = '/meetings/13/live';
const write = async (page: Page, line: string) => {
  await page.getByLabel('Write a line').fill(line);
  await page.keyboard.press('Enter');
};
const as = async (person: string) => {
  const page = await app.page('/');
  await page.context().addCookies([{ name: 'person', value: person, url: app.url }]);
  await page.goto(app.url + LIVE);
  await page.waitForFunction(() => document.documentElement.dataset.keys === 'on');
  return page;
};

describe('a meeting held by three people in three browsers', () => {
  it('goes from the agenda to the read-back: each sees what the others write, and who wrote it', async () => {
    const ines = await app.page(LIVE);
    await ines.waitForFunction(() => document.documentElement.dataset.keys === 'on');
    await ines.keyboard.press('b');
    await ines.getByText('This meeting is planned for').waitFor();
    await ines.keyboard.press('g');
    await ines.getByLabel('Write a line').waitFor();
    const [hanne, sam] = [await as('hanne'), await as('sam')];
    // everybody listens
    await Promise.all([ines, hanne, sam].map((p) => p.waitForTimeout(2200)));
    const began = Date.now();
    await write(ines, '! Sam: draw the berth by Monday');
    await hanne.locator('.notes li', { hasText: 'Draw the berth' }).first().waitFor();
    expect(Date.now() - began).toBeLessThan(5000);
    await Promise.all([write(hanne, '= the berth stays where it is'), write(sam, '? who pays for the crane')]);
    for (const page of [ines, hanne, sam]) {
      await page.locator('.notes li', { hasText: 'The berth stays where it is' }).first().waitFor();
      await page.locator('.notes li', { hasText: 'Who pays for the crane' }).first().waitFor();
      expect(await page.locator('.notes li .by').allInnerTexts()).toEqual(expect.arrayContaining(['IF', 'HV', 'SO']));
    }
    // without the server for a while nothing is lost
    await sam.context().setOffline(true);
    await write(sam, '! Hanne: ask the board tomorrow');
    await sam.getByText('kept here until Ottik can be reached').waitFor();
    await sam.context().setOffline(false);
    await ines.locator('.notes li', { hasText: 'Ask the board' }).first().waitFor();
    // what is open is walked through, and everybody sees it
    await ines.locator('h1').click();
    await ines.keyboard.press('d');
    await ines.locator('.foot', { hasText: 'done' }).waitFor();
    await hanne.getByText('1 of before spoken of').waitFor();
    await ines.keyboard.press('.');
    await ines.keyboard.press('r');
    for (let n = 0; n < 4; n++) {
      const confirm = ines.getByRole('button', { name: 'Confirm', exact: true });
      const left = await confirm.count();
      if (left === 0) break;
      await confirm.first().click();
      await ines.waitForFunction((was) => [...document.querySelectorAll('.confirm')].filter((b) => b.textContent === 'Confirm').length < was, left);
    }
    await ines.locator('h1').click();
    await ines.keyboard.press('e');
    await ines.locator('.foot', { hasText: 'The meeting has ended' }).waitFor();
    await hanne.getByRole('link', { name: 'Go on to Sift' }).waitFor();
    await ines.getByRole('link', { name: 'Go on to Sift' }).click();
    await ines.getByText('Draw the berth').first().waitFor();
    for (const page of [ines, hanne, sam]) await page.context().close();
  });
  it('keeps its agenda by keyboard on Prepare', async () => {
    const page = await app.page('/meetings/11/prepare');
    await page.getByRole('button', { name: 'Add a point' }).click();
    await page.getByLabel('Point').fill('Crane hire');
    await page.keyboard.press('Enter');
    const point = page.locator('.agenda > li', { hasText: 'Crane hire' });
    await point.waitFor();
    await point.focus();
    await page.keyboard.press('Alt+ArrowUp');
    await page.getByText('“Crane hire” moved').waitFor();
    await page.locator('.agenda > li', { hasText: 'Crane hire' }).focus();
    await page.keyboard.press('Delete');
    await page.getByText('“Crane hire” taken out').waitFor();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await point.waitFor();
    await page.context().close();
  });
});
