import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
const before = process.env.OTTIK_CLOSE_READER;
beforeAll(async () => {
  process.env.OTTIK_CLOSE_READER = 'on';
  app = await Application.start();
});
afterAll(async () => {
  if (before === undefined) delete process.env.OTTIK_CLOSE_READER;
  else process.env.OTTIK_CLOSE_READER = before;
  await app?.stop();
});

describe('the close reader behind the Sift screen', () => {
  it('shows the first finds at once and refines them where they stand', async () => {
    const page = await app.page('/meetings/10/sift');
    const open = page.locator('.note.is-open');
    await open.waitFor();
    const first = await page.locator('.note').count();
    expect(first).toBeGreaterThan(5);
    await page.keyboard.press('e');
    await page.keyboard.type('Held in the hand');
    await page.keyboard.press('Enter');
    const id = await open.getAttribute('data-for');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent?.startsWith('Read closely'), undefined, { timeout: 90_000 });
    expect(await open.getAttribute('data-for')).toBe(id);
    expect(await open.innerText()).toContain('Held in the hand');
    expect(page.wrong).toEqual([]);
    await page.reload({ waitUntil: 'networkidle' });
    await open.waitFor();
    expect(await page.locator('.foot .m').count()).toBe(0);
    await page.context().close();
  });
});
