import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { silence } from '../silence.ts';
import { Application } from './application.ts';

let app: Application;
const folder = mkdtempSync(join(tmpdir(), 'ottik-files-'));
beforeAll(async () => {
  app = await Application.start();
});
afterAll(async () => {
  await app?.stop();
  rmSync(folder, { recursive: true, force: true });
});
const file = (name: string, content: string | Buffer) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const status = (page: Page) => page.locator('.foot [role=status]').innerText();
const says = (page: Page, words: string) => page.waitForFunction((w) => document.querySelector('.foot [role=status]')?.textContent?.includes(w), words);

describe('the Sift desk', () => {
  it('shows at once what somebody else does, and refuses to go over it', async () => {
    const [mine, theirs] = [await app.page('/meetings/10/sift'), await app.page('/meetings/10/sift')];
    await mine.locator('.note.is-open').waitFor();
    const id = await mine.locator('.note.is-open').getAttribute('data-for');
    await theirs.waitForTimeout(2500);
    await mine.keyboard.press('p');
    await says(mine, 'Passed');
    await theirs.locator(`.note.is-passed[data-for="${id}"]`).waitFor();
    await says(theirs, 'Changed elsewhere');
    await mine.keyboard.press('z');
    await theirs.locator(`.note.is-passed[data-for="${id}"]`).waitFor({ state: 'detached' });
    for (const p of [mine, theirs]) {
      expect(p.wrong).toEqual([]);
      await p.context().close();
    }
  });
  it('undoes several steps, does them again, and is told what is right', async () => {
    const page = await app.page('/meetings/10/sift');
    await page.locator('.note.is-open').waitFor();
    const left = () => page.locator('.note:not(.is-taken):not(.is-passed)').count();
    const before = await left();
    await page.keyboard.press('p');
    await says(page, 'Passed');
    await page.waitForFunction((n) => document.querySelectorAll('.note:not(.is-taken):not(.is-passed)').length === n, before - 1);
    await page.keyboard.press('p');
    await page.waitForFunction((n) => document.querySelectorAll('.note:not(.is-taken):not(.is-passed)').length === n, before - 2);
    await page.waitForTimeout(300);
    await page.keyboard.press('z');
    await page.waitForFunction((n) => document.querySelectorAll('.note:not(.is-taken):not(.is-passed)').length === n, before - 1);
    await page.keyboard.press('z');
    await page.waitForFunction((n) => document.querySelectorAll('.note:not(.is-taken):not(.is-passed)').length === n, before);
    await page.keyboard.press('y');
    await says(page, 'Done again');
    await page.keyboard.press('z');
    await says(page, 'Undone');
    await page.keyboard.press('-');
    await says(page, 'Wrong');
    expect(await page.locator('.called button[aria-pressed=true]').innerText()).toBe('wrong');
    await page.keyboard.press('-');
    await says(page, 'Not judged');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('splits the selected words off, and puts them back', async () => {
    const page = await app.page('/meetings/10/sift');
    const open = page.locator('.note.is-open');
    await open.waitFor();
    for (let i = 0; i < 30 && (await open.locator('header b').innerText()) !== 'Action'; i++) await page.keyboard.press('j');
    const notes = await page.locator('.note').count();
    await page.keyboard.press('s');
    await says(page, 'Nothing is selected');
    await page.evaluate(() => {
      const words = document.querySelector('[data-seg]')!;
      const range = document.createRange();
      range.selectNodeContents(words);
      getSelection()!.removeAllRanges();
      getSelection()!.addRange(range);
    });
    await page.keyboard.press('s');
    await says(page, 'Split');
    expect(await page.locator('.note').count()).toBe(notes + 1);
    await page.keyboard.press('z');
    await says(page, 'Undone');
    await page.waitForFunction((n) => document.querySelectorAll('.note').length === n, notes);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('plays the recording from a line, and marks the line', async () => {
    const page = await app.page('/meetings/10/sift');
    await page.locator('input[aria-label=Recording]').setInputFiles(file('notes.mp3', 'no sound at all'));
    await says(page, 'notes.mp3 is no recording');
    await page.locator('input[aria-label=Recording]').setInputFiles(file('call.wav', silence(120)));
    await page.locator('.player').waitFor();
    await page.locator('.turn .who a').nth(3).click();
    await page.locator('.turn.is-played').first().waitFor();
    await page.getByRole('button', { name: 'Speed 2.5' }).click();
    expect(await page.evaluate(() => document.querySelector('audio')!.playbackRate)).toBe(2.5);
    await page.getByRole('button', { name: 'Take it away' }).click();
    await page.locator('.player').waitFor({ state: 'detached' });
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('a record of many hours', () => {
  it('is scrolled from end to end without a jump, and a key goes to the next find', async () => {
    const lines = Array.from({ length: 1400 }, (_, i) => (i % 100 === 50 ? `Bram: I will check pontoon ${i} for rust by Friday.` : `${i % 2 ? 'Ines' : 'Ruth'}: This is line ${i} of a very long day.`));
    const page = await app.page('/bring-in');
    await page.locator('input[type=file]').setInputFiles(file('long-2026-03-03.txt', lines.join('\n')));
    await page.getByLabel('Meeting', { exact: true }).selectOption('new');
    await page.getByRole('button', { name: /Keep and sift/ }).click();
    await page.waitForURL(/\/sift/);
    await page.locator('.note.is-open').waitFor();
    expect(await page.locator('.turn').count()).toBeLessThan(700);
    const top = () => page.evaluate(() => Number([...document.querySelectorAll<HTMLElement>('.turn [data-seg]')].find((x) => x.getBoundingClientRect().bottom > 60)?.dataset.seg));
    let before = await top();
    for (let n = 0; n < 200 && before < 1350; n++) {
      await page.evaluate(async () => {
        scrollBy(0, 700);
        await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
      });
      const now = await top();
      expect(now).toBeGreaterThanOrEqual(before);
      expect(now - before).toBeLessThan(40);
      if (now === before) break;
      before = now;
    }
    expect(before).toBeGreaterThan(1350);
    const open = await page.locator('.note.is-open').count();
    expect(open).toBe(0);
    await page.keyboard.press('j');
    await page.locator('.note.is-open').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('bringing several records in', () => {
  it('reads them one after the other, with a layout put right, and leaves out what is none', async () => {
    const page = await app.page('/bring-in');
    const files = [
      file('works-walk-2026-03-03.txt', 'QUAY WALK\n09:02 | Speaker 2 | I will send the winch papers by Friday.\n09:03 | Ines | Good.\n09:04 | Speaker 2 | And I will paint the rail on Monday.'),
      file('broken.docx', 'this is no Word file'),
      file('second-2026-03-02.txt', 'Ines: Morning.\nBram: I will order the fenders by Monday.\nInes: Thanks, Bram.'),
    ];
    await page.locator('input[type=file]').setInputFiles(files);
    await page.getByText('works-walk-2026-03-03.txt, 1 of 3').waitFor();
    await page.locator('select[aria-label="Layout of a line"]').selectOption('own');
    await page.getByLabel('A line with NAME').fill('TIME | NAME | WORDS');
    await page.keyboard.press('Enter');
    await page.getByLabel('Who is Speaker 2').selectOption('bram');
    await page.getByRole('button', { name: /Keep and sift/ }).click();
    await page
      .getByText('broken.docx and is none')
      .or(page.getByText(/named .docx and is none/))
      .waitFor();
    await page.getByRole('button', { name: 'Leave it out and go on' }).click();
    await page.getByText('second-2026-03-02.txt, 3 of 3').waitFor();
    await page.getByRole('button', { name: /Keep and sift/ }).click();
    await page.locator('.rows li').nth(2).waitFor();
    const lines = await page.locator('.rows li').allInnerTexts();
    expect(lines.map((l) => /kept and sifted/.test(l))).toEqual([true, false, true]);
    await page.locator('.rows a').first().click();
    await page.waitForURL(/\/sift/);
    expect(await page.locator('.turn .who').nth(1).innerText()).toMatch(/Bram Osei|Ines/);
    expect(await page.locator('.note').count()).toBeGreaterThan(0);

    // who speaks, put right at the record: finds follow
    await page.getByRole('button', { name: 'Bram Osei', exact: true }).first().click();
    await page.getByRole('button', { name: 'only this' }).click();
    await page.getByLabel('Owner').last().fill('Ruth Adair');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => [...document.querySelectorAll('.turn .who')].some((w) => w.textContent?.includes('Ruth Adair')));
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('a meeting is closed when nothing of it is loose', async () => {
    const page = await app.page('/bring-in');
    await page.locator('textarea').fill('Ines: Morning.\nInes: Somebody has to order the new ropes for the slipway.\nBram: Yes, somebody has to.\nInes: It has to be done.');
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByLabel('Meeting', { exact: true }).selectOption('new');
    await page.getByLabel('Title').fill('Slipway');
    await page.getByLabel('Date of the meeting').fill('2026-03-04');
    await page.getByRole('button', { name: /Keep and sift/ }).click();
    await page.waitForURL(/\/sift/);
    await page.waitForLoadState('load');
    await page.evaluate(() => {
      const range = document.createRange();
      range.selectNodeContents(document.querySelectorAll('[data-seg]')[1]!);
      getSelection()!.addRange(range);
    });
    await page.waitForTimeout(500);
    await page.keyboard.press('h');
    await page.locator('.note').first().waitFor();
    for (let i = 0; i < 6 && (await page.locator('.note.is-open').count()); i++) {
      await page.keyboard.press('t');
      await page.waitForTimeout(400);
    }
    const panel = page.getByLabel('Close the meeting');
    await panel.getByText('loose').waitFor();
    expect(await panel.getByRole('button', { name: 'Close the meeting' }).isDisabled()).toBe(true);
    for (let n = await panel.locator('li').count(); n > 0; n = await panel.locator('li').count()) {
      const row = panel.locator('li').first();
      if (await row.getByRole('button', { name: 'no owner' }).count()) {
        await row.getByRole('button', { name: 'no owner' }).click();
        await page.getByLabel('Owner').last().fill('Bram Osei');
        await page.keyboard.press('Enter');
        await row.getByRole('button', { name: 'Bram Osei' }).waitFor();
      }
      await row.getByRole('button', { name: 'No date' }).click();
      await page.waitForFunction((k) => document.querySelectorAll('.through li').length < k, n);
    }
    await panel.getByRole('button', { name: 'Close the meeting' }).click();
    await panel.getByText('This meeting is closed.').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('the Ledger', () => {
  it('has the columns that are chosen, in their order, also after a reload', async () => {
    const page = await app.page('/ledger');
    const heads = () => page.locator('.reg thead th').allInnerTexts();
    await page.keyboard.press('c');
    await page.locator('.columns label', { hasText: 'Last said' }).click();
    await page.locator('.columns label', { hasText: 'Carried' }).click();
    await page.getByRole('button', { name: 'Last said further left' }).click();
    await page.getByRole('button', { name: 'Done', exact: true }).click();
    const chosen = await heads();
    expect(chosen.slice(-2)).toEqual(['Last said', 'From']);
    expect(chosen).not.toContain('Carried');
    await page.reload({ waitUntil: 'networkidle' });
    expect(await heads()).toEqual(chosen);
    await page.keyboard.press('y');
    await page.keyboard.type('lately said');
    await page.keyboard.press('Enter');
    const link = await page.getByRole('link', { name: 'lately said' }).getAttribute('href');
    await page.context().close();
    // a link carries the columns to a machine on which none were chosen
    const elsewhere = await app.page(link!);
    expect(await elsewhere.locator('.reg thead th').allInnerTexts()).toEqual(chosen);
    // and onto paper
    await elsewhere.keyboard.press('i');
    await elsewhere.waitForURL(/\/ledger\/print\?/);
    expect(await elsewhere.locator('.printed table').first().locator('thead th').allInnerTexts()).toEqual(['Ref', ...chosen.slice(1)]);
    expect(await elsewhere.locator('.printed tbody tr').first().locator('svg').count()).toBe(1);
    await elsewhere.context().close();
  });
  it('merges marked lines into the current one, splits a line, and takes both back', async () => {
    const page = await app.page('/ledger');
    const rows = () => page.locator('.reg tbody tr[data-row]').count();
    const before = await rows();
    await page.keyboard.press('v');
    await page.keyboard.press('g');
    await says(page, 'Merged into');
    await page.waitForFunction((n) => document.querySelectorAll('.reg tbody tr[data-row]').length === n, before - 1);
    await page.getByLabel('State').selectOption('ended');
    await page.locator('.grp', { hasText: 'Merged' }).waitFor();
    await page.getByLabel('State').selectOption('open');
    await page.keyboard.press('z');
    await says(page, 'As it was');
    await page.waitForFunction((n) => document.querySelectorAll('.reg tbody tr[data-row]').length === n, before);
    await page.keyboard.press('p');
    await page.getByLabel('Its parts').fill('Draw it; send it to the board');
    await page.keyboard.press('Enter');
    await says(page, 'split into 2');
    await page.waitForFunction((n) => document.querySelectorAll('.reg tbody tr[data-row]').length === n, before + 1);
    await page.keyboard.press('z');
    await page.waitForFunction((n) => document.querySelectorAll('.reg tbody tr[data-row]').length === n, before);
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('shows all projects, each line led to its own trail', async () => {
    const page = await app.page('/ledger?projects=all');
    expect(await page.locator('.grp').allInnerTexts()).toEqual(expect.arrayContaining([expect.stringContaining('Quiet Crossing')]));
    await page.locator('.reg .ref').first().click();
    await page.waitForURL(/project=/);
    expect(await page.locator('h1').innerText()).not.toBe('');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('what comes before and after a meeting', () => {
  it('threads of the Weave are marked and moved together, and moved back', async () => {
    const page = await app.page('/weave?series=works&by=owner&ended=no');
    await page.keyboard.press('j');
    await page.keyboard.press('v');
    await page.keyboard.press('j');
    await page.keyboard.press('v');
    await page.getByText('2 threads marked').waitFor();
    await page.keyboard.press('m');
    await page.getByLabel('Due date').fill('2026-04-02');
    await page.keyboard.press('Enter');
    await says(page, '2 moved to');
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.waitForLoadState('load');
    await page.waitForFunction(() => !document.querySelector('.foot [role=status]')?.textContent?.includes('moved to'));
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('an answer is taken on the Day sheet and taken back there', async () => {
    const page = await app.page('/');
    const first = page.locator('.ba').first();
    await first.getByRole('button', { name: 'Take' }).click();
    await first.getByText('Taken').waitFor();
    await first.getByRole('button', { name: 'Undo' }).click();
    await first.getByRole('button', { name: 'Take' }).waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('the briefing is a step of the meeting, and comes by mail to whoever asks', async () => {
    const page = await app.page('/meetings/10/sift');
    await page.getByRole('link', { name: /Prepare/ }).click();
    await page.waitForURL(/prepare/);
    await page.locator('.briefing li').first().waitFor();
    await page.waitForTimeout(600);
    await page.keyboard.press('m');
    await says(page, 'Mailed');
    const mails = (await (await fetch(`${app.mailboxes}/messages.json?mailbox=${encodeURIComponent('ines.falk@marrowsound.example')}`)).json()) as { subject: string }[];
    expect(mails.some((m) => m.subject.startsWith('Before '))).toBe(true);
    expect(await status(page)).toContain('ines.falk@marrowsound.example');
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});

describe('a date typed into a field', () => {
  /** What is bundled for the browser must read what the sources read: names of classes change on the way. */
  it.each([
    ['2026-04-02', 'Thu 2 Apr'],
    ['2/4/2026', 'Thu 2 Apr'],
    ['2 apr', 'Thu 2 Apr'],
    ['friday', 'Fri 6 Mar'],
    ['end of the month', 'Tue 31 Mar'],
  ])('%s', async (typed, read) => {
    const page = await app.page('/ledger');
    await page.keyboard.press('m');
    await page.getByLabel('Due date').fill(typed);
    await page.waitForFunction((w) => document.querySelector('.typed .read')?.textContent?.startsWith(w), read);
    await page.context().close();
  });
});
