import { createServer, type IncomingMessage, type Server } from 'node:http';

export interface Post {
  text: string;
  at: string;
}

/** A chat channel with an incoming webhook. The same post with the same idempotency key is shown once. */
export class Channel {
  readonly posts: Post[] = [];
  private readonly keys = new Set<string>();

  take(text: string, key: string | undefined): void {
    if (key && this.keys.has(key)) return;
    if (key) this.keys.add(key);
    this.posts.push({ text, at: new Date().toISOString() });
  }
}

const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

const STYLE = `:root{color-scheme:light dark}body{margin:0;font:15px/22px "Instrument Sans",system-ui,sans-serif;background:#EEF1EB;color:#15201B}header{padding:14px 24px;border-bottom:1px solid #15201B}header b{font-size:16px}header span{color:#54635B;margin-left:12px}ol{margin:0;padding:8px 24px;list-style:none;max-width:760px}li{padding:10px 0;border-bottom:1px solid #D3DAD3;white-space:pre-wrap;overflow-wrap:anywhere}small{display:block;color:#54635B}@media (prefers-color-scheme:dark){body{background:#121815;color:#E2E9E3}header{border-color:#7c8b82}li{border-color:#2E3933}small,header span{color:#9BABA1}}`;

/** `POST /hook` with `{ "text": … }` posts; every other page shows the channel. */
export function channelServer(channel: Channel): Server {
  return createServer(async (request, response) => {
    const send = (status: number, type: string, body: string) => {
      response.writeHead(status, { 'content-type': type, 'x-content-type-options': 'nosniff', 'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'" });
      response.end(body);
    };
    const path = new URL(request.url ?? '/', 'http://localhost').pathname;
    if (request.method === 'POST' && path === '/hook') {
      const text = textIn(await read(request));
      if (text === null) return send(400, 'text/plain', 'wanted: {"text": "…"}');
      channel.take(text, String(request.headers['idempotency-key'] ?? '') || undefined);
      return send(200, 'text/plain', 'ok');
    }
    if (path === '/posts.json') return send(200, 'application/json', JSON.stringify(channel.posts));
    const posts = [...channel.posts].reverse().map((p) => `<li>${escapeHtml(p.text)}<small>${p.at.slice(0, 16).replace('T', ' ')} UTC</small></li>`);
    send(
      200,
      'text/html; charset=utf-8',
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>Chat stand-in</title><style>${STYLE}</style></head><body><header><b>Chat stand-in</b><span>What is posted to the channel, the newest first.</span></header><ol>${posts.join('') || '<li>Nothing was posted yet.</li>'}</ol></body></html>`,
    );
  });
}

async function read(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const part of request) {
    text += String(part);
    if (text.length > 100_000) break;
  }
  return text;
}

function textIn(body: string): string | null {
  try {
    const sent: unknown = JSON.parse(body);
    const text = sent && typeof sent === 'object' && 'text' in sent ? sent.text : null;
    return typeof text === 'string' && text.trim() ? text : null;
  } catch {
    return null;
  }
}
