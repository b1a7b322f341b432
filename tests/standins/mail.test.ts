import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { mailboxPages } from '../../standins/mail/pages.ts';
import { PostOffice } from '../../standins/mail/post-office.ts';

const source = (subject: string, html = '') => Buffer.from(`From: Ines Falk <ines@a.example>\r\nTo: Bram <bram@b.example>\r\nSubject: ${subject}\r\nMIME-Version: 1.0\r\nContent-Type: ${html ? 'text/html' : 'text/plain'}; charset=utf-8\r\n\r\n${html || 'Hello'}\r\n`);

describe('the mail stand-in', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'ottik-post-'));
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));
  it('keeps what it took over a restart', async () => {
    const office = new PostOffice(folder);
    await office.take('Bram@B.example', source('One'));
    await office.take('ruth@b.example', source('Two'));
    const again = new PostOffice(folder);
    await again.load();
    expect(
      again
        .mailboxes()
        .map((b) => b.mailbox)
        .sort(),
    ).toEqual(['bram@b.example', 'ruth@b.example']);
    expect(again.messages('bram@b.example')[0]!.mail.subject).toBe('One');
  });
  it('shows mailboxes, and letters in a frame that runs nothing', async () => {
    const office = new PostOffice(folder);
    const server = mailboxPages(office).listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    expect(await (await fetch(url)).text()).toContain('No letter has come yet');
    await office.take('bram@b.example', source('<b>Sharp</b>', '<script>alert(1)</script><p>Hi</p>'));
    const list = await (await fetch(url)).text();
    expect(list).toContain('&lt;b&gt;Sharp');
    const page = await fetch(`${url}/messages/000001`);
    expect(await page.text()).toContain('sandbox=""');
    expect(page.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect((await fetch(`${url}/messages/000009`)).status).toBe(404);
    expect(await (await fetch(`${url}/messages/000001.eml`)).text()).toContain('Subject: <b>Sharp</b>');
    server.close();
  });
});
