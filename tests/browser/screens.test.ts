import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Application } from './application.ts';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app?.stop());

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** Every screen, as the demo fills it. Nothing is changed in any of them. */
const SCREENS = [
  '/',
  '/meetings',
  '/ledger',
  '/post',
  '/bring-in',
  '/ledger/C-2',
  '/meetings/10/sift',
  '/meetings/10/gist',
  '/meetings/9/minutes',
  '/weave?series=works',
  '/meetings/1/follow-up',
  '/post/rules',
  '/post/wording',
  '/people',
  '/people/bram',
  '/project',
  '/decisions',
  '/settings',
  '/readers',
  '/audit',
  '/questions',
  '/jottings',
  '/find',
  '/measures',
  '/routines',
  '/meetings/11/live',
  '/find?q=what did Dele promise about the plinth?',
  '/find?q=dry corner',
  '/close-out',
  '/ledger/import',
  '/ledger?projects=all',
  '/ledger/print?by=owner',
  '/learned',
  '/meetings/11/prepare',
  '/meetings/series/works',
];

/** What axe-core finds wrong with the page as it is shown. */
const faults = (page: Page) =>
  page.evaluate(async () => {
    const axe = (window as unknown as { axe: { run(o: object): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> } }).axe;
    return (await axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })).violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => n.html.slice(0, 140))
          .join(' | ')}`,
    );
  });

/** Buttons and links of the page that show a key, in sight and not those of the bottom line, which is the list of keys itself. */
const WITH_KEY = ':is(button, a):has(kbd):not(:is(.foot, dialog, form, .spine) *):visible';

/** What became of a page by one act: what it asked the server to do, where it went, what it shows and what is being typed into. */
interface Outcome {
  asked: string[];
  shows: string;
  field: string | null;
}

/** What a page asks of itself while it is looked at, and what changes nothing: previews, and the small threads of lines in sight. */
const ASKS = /^\{"(?:do":"preview"|lives")/;

/** Carries one act out on the page as it was opened, and lets nothing of it reach the server but questions. */
async function outcomeOf(page: Page, path: string, act: () => Promise<unknown>): Promise<Outcome> {
  await app.open(page, path);
  const asked: string[] = [];
  await page.context().route('**/*', (route) => {
    const request = route.request();
    if (request.isNavigationRequest()) asked.push(`goes to ${request.url().replace(app.url, '').replace(app.mailboxes, 'the mailboxes')}`);
    else if (request.method() !== 'GET' && !ASKS.test(request.postData() ?? '')) asked.push(`${request.method()} ${new URL(request.url()).pathname} ${request.postData() ?? ''}`);
    else return route.continue();
    // an answer without content leaves the page where it is
    return request.isNavigationRequest() ? route.fulfill({ status: 204 }) : route.fulfill({ status: 409, contentType: 'application/json', body: '{"error":{"message":"not now","advice":null,"line":null}}' });
  });
  await act();
  await page.waitForTimeout(180);
  const { shows, field } = await page.evaluate(() => {
    const at = document.activeElement;
    return { shows: (document.querySelector('main') ?? document.body).innerText.replace(/\s+/g, ' '), field: at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement ? at.ariaLabel || at.id || at.placeholder : null };
  });
  // what the page would still ask for, late on a slow machine, goes with it and reaches no server
  await page.goto('about:blank');
  await page.context().unroute('**/*');
  for (const other of page.context().pages()) if (other !== page) await other.close();
  return { asked, shows, field };
}

describe.each(SCREENS)('%s', (path) => {
  it('has no accessibility fault axe-core can find, by day and by night, and fits a telephone', async () => {
    const page = await app.page(path);
    await page.evaluate(axeSource);
    expect(await faults(page)).toEqual([]);
    await page.emulateMedia({ colorScheme: 'dark' });
    expect(await faults(page)).toEqual([]);
    await page.setViewportSize({ width: 390, height: 844 });
    // a page that lays itself out by its width does so a moment after
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth), { timeout: 5000 }).toBeLessThanOrEqual(391);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('does by each key that it shows what the button beside it does', async () => {
    const page = await app.page(path);
    const keys = await page.locator(WITH_KEY).evaluateAll((all) => all.map((b) => ({ key: b.querySelector('kbd')!.textContent!.trim(), off: b instanceof HTMLButtonElement && b.disabled })));
    for (const [i, { key, off }] of keys.entries()) {
      if (off) continue;
      const byKey = await outcomeOf(page, path, () => page.keyboard.press({ Esc: 'Escape', Space: ' ' }[key] ?? (key.length === 1 ? key.toLowerCase() : key)));
      const byButton = await outcomeOf(page, path, () => page.locator(WITH_KEY).nth(i).click());
      expect(byKey, `${key} beside its button`).toEqual(byButton);
    }
    await page.context().close();
  });
});
