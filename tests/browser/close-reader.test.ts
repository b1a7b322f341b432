import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
const before = process.env.OTTIK_CLOSE_READER;
beforeAll(() => {
  process.env.OTTIK_CLOSE_READER = 'on';
});
afterAll(() => {
  if (before === undefined) delete process.env.OTTIK_CLOSE_READER;
  else process.env.OTTIK_CLOSE_READER = before;
});
beforeEach(async () => {
  app = await Application.start();
});
afterEach(async () => {
  await app?.stop();
});

describe('the close reader behind the Sift screen', () => {
  it.each([
    ['the answer to how far it is', 0],
    ['word of a change, ahead of that answer', 3000],
  ])(
    'refines the first finds where they stand, told by %s',
    async (_, answerHeld) => {
      const page = await app.page('/');
      await page.route('**/api/records/*/reading', async (route) => {
        if (answerHeld) await new Promise((r) => setTimeout(r, answerHeld));
        await route.continue();
      });
      await page.goto(`${app.url}/meetings/10/sift`);
      const open = page.locator('.note.is-open');
      await open.waitFor();
      const first = await page.locator('.note').count();
      expect(first).toBeGreaterThan(5);
      await page.keyboard.press('e');
      await page.keyboard.type('Held in the hand');
      await page.keyboard.press('Enter');
      const id = await open.getAttribute('data-for');
      await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.startsWith('Read closely'), undefined, { timeout: 90_000 });
      expect(await page.locator('.foot [role=status]').innerText()).toMatch(/\d (new|put better|dropped)/);
      expect(await open.getAttribute('data-for')).toBe(id);
      expect(await open.innerText()).toContain('Held in the hand');
      const finds = await page.locator('.note').count();
      expect(await page.locator('.spine .sifted').innerText()).toBe(`${finds} of ${finds} finds left`);
      expect(page.wrong).toEqual([]);
      await page.reload({ waitUntil: 'networkidle' });
      await open.waitFor();
      expect(await page.locator('.foot .m').count()).toBe(0);
      await page.context().close();
    },
    120_000,
  );
});
