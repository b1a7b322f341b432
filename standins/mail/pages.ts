import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { PostOffice, Stored } from './post-office.ts';

const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

const STYLE = `
:root{color-scheme:light dark;--ink:#15201B;--leaf:#fff;--lichen:#EEF1EB;--rule:#D3DAD3;--moss:#54635B;--bottle:#1D4D3C}
@media (prefers-color-scheme:dark){:root{--ink:#E2E9E3;--leaf:#19211D;--lichen:#121815;--rule:#2E3933;--moss:#9BABA1;--bottle:#86CBAC}}
*{box-sizing:border-box}body{margin:0;background:var(--lichen);color:var(--ink);font:14px/20px "Instrument Sans",system-ui,sans-serif;font-variant-numeric:tabular-nums}
a{color:var(--bottle)}header{padding:14px 24px;border-bottom:1px solid var(--ink);display:flex;gap:16px;align-items:baseline;flex-wrap:wrap}header b{font-size:16px}header span{color:var(--moss)}
main{display:grid;grid-template-columns:300px 1fr;min-height:calc(100vh - 52px)}nav{border-right:1px solid var(--rule);padding:12px 0}
nav a,.list a{display:block;padding:8px 24px;color:inherit;text-decoration:none}nav a[aria-current]{background:var(--leaf);font-weight:600;box-shadow:inset 4px 0 var(--bottle)}nav small,.list small{color:var(--moss);display:block}
section{background:var(--leaf);padding:20px 28px;min-width:0}.list{margin:-20px -28px 0}.list a{border-bottom:1px solid var(--rule);padding:10px 28px}
dl{display:grid;grid-template-columns:80px 1fr;gap:2px 12px;margin:0 0 16px}dt{color:var(--moss)}dd{margin:0;overflow-wrap:anywhere}
.tabs{display:flex;gap:16px;border-bottom:1px solid var(--rule);margin-bottom:16px}.tabs a{padding:6px 0;text-decoration:none;color:var(--moss)}.tabs a[aria-current]{color:var(--ink);font-weight:600;box-shadow:0 2px var(--bottle)}
iframe{width:100%;height:62vh;border:1px solid var(--rule);background:#fff}pre{white-space:pre-wrap;overflow-wrap:anywhere;font:14px/22px ui-monospace,monospace;margin:0}
:focus-visible{outline:2px solid var(--bottle);outline-offset:2px}@media (max-width:760px){main{grid-template-columns:1fr}nav{border-right:0;border-bottom:1px solid var(--rule)}}
`;

function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(title)} - mail stand-in</title><style>${STYLE}</style></head><body><header><b>Mail stand-in</b><span>Takes every letter and delivers none. What each recipient got can be read here.</span></header>${body}</body></html>`;
}

/** Mailboxes to be read in a browser. Letters are shown in a frame that runs no script and loads nothing. */
export function mailboxPages(office: PostOffice): Server {
  return createServer((request: IncomingMessage, response: ServerResponse) => {
    const url = new URL(request.url ?? '/', 'http://localhost');
    const send = (status: number, type: string, body: string) => {
      response.writeHead(status, { 'content-type': type, 'x-content-type-options': 'nosniff', 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-src 'self'; img-src data:" });
      response.end(body);
    };
    const html = (body: string, status = 200) => send(status, 'text/html; charset=utf-8', body);
    if (url.pathname === '/messages.json') return send(200, 'application/json', JSON.stringify(office.messages(url.searchParams.get('mailbox') ?? undefined).map(summary)));
    const raw = /^\/messages\/(\d+)\.(eml|html)$/.exec(url.pathname);
    if (raw) {
      const found = office.message(raw[1]!);
      if (!found) return html(page('Not here', '<main><section>There is no such message.</section></main>'), 404);
      return raw[2] === 'eml' ? send(200, 'message/rfc822', found.source) : html(found.mail.html || '<p>This message has no HTML part.</p>');
    }
    const one = /^\/messages\/(\d+)$/.exec(url.pathname);
    if (one) {
      const found = office.message(one[1]!);
      return found ? html(page(found.mail.subject ?? 'No subject', frame(office, found.mailbox, message(found, url.searchParams.get('part') ?? 'html')))) : html(page('Not here', '<main><section>There is no such message.</section></main>'), 404);
    }
    const box = url.searchParams.get('mailbox') ?? office.mailboxes()[0]?.mailbox ?? null;
    return html(page(box ?? 'Mailboxes', frame(office, box, box ? list(office.messages(box)) : '<p>No letter has come yet. Send one from a meeting’s Follow up step.</p>')));
  });
}

const summary = (s: Stored) => ({ id: s.id, mailbox: s.mailbox, subject: s.mail.subject ?? '', received: s.received });

function frame(office: PostOffice, current: string | null, body: string): string {
  const boxes = office.mailboxes().map((b) => `<a href="/?mailbox=${encodeURIComponent(b.mailbox)}"${b.mailbox === current ? ' aria-current="page"' : ''}>${escapeHtml(b.mailbox)}<small>${b.count} ${b.count === 1 ? 'letter' : 'letters'}</small></a>`);
  return `<main><nav aria-label="Mailboxes">${boxes.join('') || '<a>No mailbox yet</a>'}</nav><section>${body}</section></main>`;
}

function list(messages: Stored[]): string {
  return `<div class="list">${messages.map((s) => `<a href="/messages/${s.id}">${escapeHtml(s.mail.subject ?? 'No subject')}<small>${escapeHtml(s.mail.from?.text ?? '')}, ${escapeHtml(s.received.slice(0, 16).replace('T', ' '))}</small></a>`).join('')}</div>`;
}

function message(s: Stored, part: string): string {
  const to = Array.isArray(s.mail.to) ? s.mail.to.map((t) => t.text).join(', ') : (s.mail.to?.text ?? '');
  const tab = (name: string, words: string) => `<a href="/messages/${s.id}?part=${name}"${part === name ? ' aria-current="page"' : ''}>${words}</a>`;
  const body = part === 'text' ? `<pre>${escapeHtml(s.mail.text ?? '')}</pre>` : part === 'source' ? `<pre>${escapeHtml(s.source.slice(0, 200_000))}</pre>` : `<iframe sandbox="" title="The letter" src="/messages/${s.id}.html"></iframe>`;
  return `<dl><dt>Subject</dt><dd><b>${escapeHtml(s.mail.subject ?? '')}</b></dd><dt>From</dt><dd>${escapeHtml(s.mail.from?.text ?? '')}</dd><dt>To</dt><dd>${escapeHtml(to)}</dd><dt>Received</dt><dd>${escapeHtml(s.received.slice(0, 19).replace('T', ' '))} UTC</dd></dl><div class="tabs">${tab('html', 'As a page')}${tab('text', 'Plain text')}${tab('source', 'Source')}<a href="/messages/${s.id}.eml" download>Save as eml</a></div>${body}`;
}
