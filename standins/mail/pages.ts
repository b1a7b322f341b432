import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { isMood, MOODS, type PostOffice, type Stored } from './post-office.ts';
import type { QuoteStyle, Replies } from './replies.ts';

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
.acts{display:grid;gap:12px;margin-top:20px;border-top:1px solid var(--rule);padding-top:16px}.acts form{display:flex;gap:8px;flex-wrap:wrap;align-items:center}.acts textarea{width:100%;min-height:84px}textarea,input,select,button{font:inherit;color:inherit;background:var(--leaf);border:1px solid var(--rule);border-radius:2px;padding:4px 8px}button{background:var(--bottle);color:var(--leaf);border-color:var(--bottle);cursor:pointer}.said{border-left:4px solid var(--bottle);padding:4px 12px;margin:0 0 16px}header form{margin-left:auto;display:flex;gap:8px;align-items:center}
:focus-visible{outline:2px solid var(--bottle);outline-offset:2px}@media (max-width:760px){main{grid-template-columns:1fr}nav{border-right:0;border-bottom:1px solid var(--rule)}}
`;

function page(title: string, body: string, office?: PostOffice): string {
  const mood = office
    ? `<form method="post" action="/mood"><label>The server <select name="mood">${Object.entries(MOODS)
        .map(([name, words]) => `<option value="${name}"${name === office.mood ? ' selected' : ''}>${words}</option>`)
        .join('')}</select></label><button>Set</button></form>`
    : '';
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(title)} - mail stand-in</title><style>${STYLE}</style></head><body><header><b>Mail stand-in</b><span>Takes every letter and delivers none. What each recipient got can be read and answered here.</span>${mood}</header>${body}</body></html>`;
}

const HEADERS = { 'x-content-type-options': 'nosniff', 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-src 'self'; img-src data:; form-action 'self'" };

/** Mailboxes to be read and answered in a browser. Letters are shown in a frame that runs no script and loads nothing. */
export function mailboxPages(office: PostOffice, replies: Replies | null = null): Server {
  return createServer((request: IncomingMessage, response: ServerResponse) => {
    const url = new URL(request.url ?? '/', 'http://localhost');
    const send = (status: number, type: string, body: string) => {
      response.writeHead(status, { 'content-type': type, ...HEADERS });
      response.end(body);
    };
    const html = (body: string, status = 200) => send(status, 'text/html; charset=utf-8', body);
    const missing = () => html(page('Not here', '<main><section>There is no such message.</section></main>'), 404);
    if (request.method === 'POST') {
      void act(office, replies, request, url).then(
        (to) => {
          response.writeHead(303, { location: to });
          response.end();
        },
        (error: Error) => html(page('Not done', `<main><section><p class="said">${escapeHtml(error.message)}</p></section></main>`), 422),
      );
      return;
    }
    if (url.pathname === '/messages.json') return send(200, 'application/json', JSON.stringify(office.messages(url.searchParams.get('mailbox') ?? undefined).map(summary)));
    if (url.pathname === '/counts.json') return send(200, 'application/json', JSON.stringify({ kept: office.messages().length, suppressed: office.suppressed }));
    const raw = /^\/messages\/(\d+)\.(eml|html)$/.exec(url.pathname);
    if (raw) {
      const found = office.message(raw[1]!);
      if (!found) return missing();
      return raw[2] === 'eml' ? send(200, 'message/rfc822', found.source) : html(found.mail.html || '<p>This message has no HTML part.</p>');
    }
    const one = /^\/messages\/(\d+)$/.exec(url.pathname);
    if (one) {
      const found = office.message(one[1]!);
      return found ? html(page(found.mail.subject ?? 'No subject', frame(office, found.mailbox, message(found, url.searchParams.get('part') ?? 'html', replies ? (url.searchParams.get('said') ?? '') : null)), office)) : missing();
    }
    const box = url.searchParams.get('mailbox') ?? office.mailboxes()[0]?.mailbox ?? null;
    return html(page(box ?? 'Mailboxes', frame(office, box, box ? list(office.messages(box)) : '<p>No letter has come yet. Send one from a meeting’s Follow up step.</p>'), office));
  });
}

/** What a form asks for; gives the page to show next. Only this machine's own pages may ask. */
async function act(office: PostOffice, replies: Replies | null, request: IncomingMessage, url: URL): Promise<string> {
  const origin = request.headers.origin;
  if (origin && new URL(origin).host !== request.headers.host) throw new Error('This came from another site.');
  const fields = await form(request);
  if (url.pathname === '/mood') {
    const mood = fields.get('mood') ?? '';
    if (!isMood(mood)) throw new Error('The server cannot behave like that.');
    office.mood = mood;
    return '/';
  }
  const m = /^\/messages\/(\d+)\/(reply|forward|away|bounce)$/.exec(url.pathname);
  const found = m ? office.message(m[1]!) : undefined;
  if (!m || !found || !replies) throw new Error('There is no such message.');
  const words = fields.get('words') ?? '';
  const quote = (fields.get('quote') ?? 'below') as QuoteStyle;
  if (m[2] === 'reply') await replies.reply(found, words, quote === 'above' || quote === 'none' ? quote : 'below');
  if (m[2] === 'forward') await replies.forward(found, (fields.get('to') ?? '').trim(), words);
  if (m[2] === 'away') await replies.away(found, fields.get('until') || 'Monday');
  if (m[2] === 'bounce') await replies.bounce(found, fields.get('status') === '5.2.2' ? '5.2.2' : '5.1.1', fields.get('status') === '5.2.2' ? 'mailbox full' : 'no such user');
  return `/messages/${found.id}?said=${encodeURIComponent({ reply: 'Your answer is on its way.', forward: 'It was forwarded.', away: 'An absence notice was sent.', bounce: 'A report of failure was sent.' }[m[2] as 'reply'])}`;
}

async function form(request: IncomingMessage): Promise<URLSearchParams> {
  let text = '';
  for await (const part of request) {
    text += String(part);
    if (text.length > 200_000) throw new Error('That is too long.');
  }
  return new URLSearchParams(text);
}

const summary = (s: Stored) => ({ id: s.id, mailbox: s.mailbox, subject: s.mail.subject ?? '', received: s.received });

function frame(office: PostOffice, current: string | null, body: string): string {
  const boxes = office.mailboxes().map((b) => `<a href="/?mailbox=${encodeURIComponent(b.mailbox)}"${b.mailbox === current ? ' aria-current="page"' : ''}>${escapeHtml(office.people.get(b.mailbox) ?? b.mailbox)}<small>${b.count} ${b.count === 1 ? 'letter' : 'letters'}</small></a>`);
  return `<main><nav aria-label="Mailboxes">${boxes.join('') || '<a>No mailbox yet</a>'}</nav><section>${body}</section></main>`;
}

function list(messages: Stored[]): string {
  return `<div class="list">${messages.map((s) => `<a href="/messages/${s.id}">${escapeHtml(s.mail.subject ?? 'No subject')}<small>${escapeHtml(s.mail.from?.text ?? '')}, ${escapeHtml(s.received.slice(0, 16).replace('T', ' '))}</small></a>`).join('')}</div>`;
}

function message(s: Stored, part: string, said: string | null): string {
  const to = Array.isArray(s.mail.to) ? s.mail.to.map((t) => t.text).join(', ') : (s.mail.to?.text ?? '');
  const tab = (name: string, words: string) => `<a href="/messages/${s.id}?part=${name}"${part === name ? ' aria-current="page"' : ''}>${words}</a>`;
  const body = part === 'text' ? `<pre>${escapeHtml(s.mail.text ?? '')}</pre>` : part === 'source' ? `<pre>${escapeHtml(s.source.slice(0, 200_000))}</pre>` : `<iframe sandbox="" title="The letter" src="/messages/${s.id}.html"></iframe>`;
  return `<dl><dt>Subject</dt><dd><b>${escapeHtml(s.mail.subject ?? '')}</b></dd><dt>From</dt><dd>${escapeHtml(s.mail.from?.text ?? '')}</dd><dt>To</dt><dd>${escapeHtml(to)}</dd><dt>Received</dt><dd>${escapeHtml(s.received.slice(0, 19).replace('T', ' '))} UTC</dd></dl><div class="tabs">${tab('html', 'As a page')}${tab('text', 'Plain text')}${tab('source', 'Source')}<a href="/messages/${s.id}.eml" download>Save as eml</a></div>${said ? `<p class="said">${escapeHtml(said)}</p>` : ''}${body}${said === null ? '' : acts(s)}`;
}

/** What the reader can do with a letter. */
function acts(s: Stored): string {
  const to = (what: string, inside: string) => `<form method="post" action="/messages/${s.id}/${what}">${inside}</form>`;
  return `<div class="acts">
    ${to('reply', '<textarea name="words" aria-label="Your answer" placeholder="1 done, 2 can I have until 14 May, 3 is with Jonas now" required></textarea><label>the letter quoted <select name="quote"><option value="below">below</option><option value="above">above</option><option value="none">not at all</option></select></label><button>Answer</button>')}
    ${to('forward', '<input name="to" type="email" required placeholder="to whom" aria-label="Forward to"><input name="words" placeholder="a word with it" aria-label="A word with it"><button>Forward</button>')}
    ${to('away', '<label>away until <input name="until" value="Monday"></label><button>Send an absence notice</button>')}
    ${to('bounce', '<label>could not be delivered: <select name="status"><option value="5.1.1">no such user</option><option value="5.2.2">mailbox full</option></select></label><button>Send the report</button>')}
  </div>`;
}
