import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { type Message, type Prepared, type PreparedGist, prepared, preparedGist } from './prepared.ts';

/** How the stand-in behaves: well, or as servers and models do that have a bad day. */
export const MODES = ['well', 'slow', 'silent', 'busy', 'refusing', 'no schemas', 'cut', 'malformed', 'wrong', 'endless', 'repeating', 'elsewhere', 'talkative'] as const;
export type Mode = (typeof MODES)[number];

const MODEL = 'stand-in';

/**
 * A stand-in for a model server: it speaks the chat-completions protocol and knows prepared answers and nothing else.
 * From memory of the protocol's open description: `POST /v1/chat/completions` with `model`, `messages`, `stream`,
 * `response_format`; answered whole, or as server-sent events that end with `[DONE]`; `GET /v1/models`.
 */
export class ModelStandIn {
  mode: Mode = 'well';
  /** milliseconds between two pieces of an answer */
  pause = 4;
  /** how many more requests are told that it is busy, in that mode */
  busyFor = Number.POSITIVE_INFINITY;
  /** everything that was asked, for tests */
  readonly asked: { body: { model: string; messages: { role: string; content: string }[]; response_format?: unknown; stream?: boolean }; key: string | null }[] = [];

  constructor(
    private readonly answers: readonly Prepared[],
    private readonly gists: readonly PreparedGist[] = [],
  ) {}

  server(): Server {
    return createServer((request, response) => void this.answer(request, response).catch(() => response.destroy()));
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const path = new URL(request.url ?? '/', 'http://localhost').pathname;
    const json = (status: number, body: unknown, headers: Record<string, string> = {}) => {
      response.writeHead(status, { 'content-type': 'application/json', ...headers });
      response.end(JSON.stringify(body));
    };
    if (path === '/v1/models') return json(200, { object: 'list', data: [{ id: MODEL, object: 'model', owned_by: 'ottik' }] });
    if (path === '/mode' && request.method === 'POST') {
      const wanted = (await read(request)).trim();
      if (!(MODES as readonly string[]).includes(wanted)) return json(400, { error: { message: `one of ${MODES.join(', ')}` } });
      this.mode = wanted as Mode;
      return json(200, { mode: this.mode });
    }
    if (path === '/' && request.method === 'GET') {
      response.writeHead(200, { 'content-type': 'text/plain; charset=utf-8' });
      return void response.end(
        `A stand-in for a model server. It knows prepared answers for the demo's records and says of anything else that it found nothing.\n\nIt works ${this.mode === 'well' ? 'well' : `as one that is ${this.mode}`}. Another way: curl -d busy http://${request.headers.host ?? 'localhost'}/mode (one of ${MODES.join(', ')})\n`,
      );
    }
    if (path !== '/v1/chat/completions' || request.method !== 'POST') return json(404, { error: { message: 'nothing of this kind here' } });
    const body = JSON.parse(await read(request)) as ModelStandIn['asked'][number]['body'];
    this.asked.push({ body, key: request.headers.authorization?.replace(/^Bearer /, '') ?? null });
    switch (this.mode) {
      case 'silent':
        return;
      case 'busy':
        if (this.busyFor-- > 0) return json(429, { error: { message: 'busy' } }, { 'retry-after-ms': '20', 'retry-after': '0' });
        break;
      case 'refusing':
        return json(401, { error: { message: 'no such key' } });
      case 'no schemas':
        if (body.response_format !== undefined) return json(400, { error: { message: 'response_format is not known here' } });
        break;
      case 'elsewhere':
        response.writeHead(307, { location: 'http://elsewhere.example/v1/chat/completions' });
        return void response.end();
    }
    if (body.model !== MODEL) return json(404, { error: { message: 'no such model' } });
    await this.say(response, this.words(body.messages[0]?.content ?? '', body.messages.at(-1)?.content ?? ''), body.stream === true);
  }

  /** The words of the answer, right or wrong as the mode wants it. */
  private words(system: string, content: string): string {
    if (system.includes('You word an answer')) return this.wording(JSON.parse(content) as { lines: { n: number; text: string }[] });
    const message = JSON.parse(content) as Message;
    const asksForGist = system.includes('brief, usual, everything');
    const answer = asksForGist ? preparedGist(this.gists, message) : prepared(this.answers, message);
    const text = JSON.stringify(answer);
    switch (this.mode) {
      case 'cut':
        return text.slice(0, Math.floor(text.length * 0.6));
      case 'malformed':
        return 'Gern! Hier ist, was ich gefunden habe: Aufgaben, Entscheidungen und Fragen.';
      case 'talkative':
        return `Here is what I found.\n\`\`\`json\n${JSON.stringify(answer, null, 2)}\n\`\`\`\nLet me know if you need anything else.`;
      case 'wrong':
        return JSON.stringify(wrong(message));
      default:
        return text;
    }
  }

  /** It has nothing of its own to say: the first lines in their order, and what it makes up where it is to be wrong. */
  private wording({ lines }: { lines: { n: number; text: string }[] }): string {
    const told = lines.slice(0, 6).map((l) => ({ text: l.text, lines: [l.n] }));
    if (this.mode === 'malformed') return 'Gern! Alles ist gut.';
    const madeUp = [
      { text: 'The whole matter was burnt on the 31st of June by Zebedee Quill.', lines: [0] },
      { text: 'It stands nowhere.', lines: [9999] },
    ];
    return JSON.stringify({ sentences: this.mode === 'wrong' ? madeUp : told });
  }

  private async say(response: ServerResponse, text: string, stream: boolean): Promise<void> {
    const finish = this.mode === 'cut' ? 'length' : 'stop';
    if (!stream) {
      response.writeHead(200, { 'content-type': 'application/json' });
      return void response.end(JSON.stringify({ id: 'answer', object: 'chat.completion', created: 0, model: MODEL, choices: [{ index: 0, message: { role: 'assistant', content: text }, finish_reason: finish }], usage: { prompt_tokens: 0, completion_tokens: 0, total_tokens: 0 } }));
    }
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    const send = (delta: object, reason: string | null) => response.write(`data: ${JSON.stringify({ id: 'answer', object: 'chat.completion.chunk', created: 0, model: MODEL, choices: [{ index: 0, delta, finish_reason: reason }] })}\n\n`);
    send({ role: 'assistant', content: '' }, null);
    const size = 120;
    for (const piece of this.pieces(text, size)) {
      if (response.destroyed || response.writableEnded) return;
      send({ content: piece }, null);
      await new Promise((done) => setTimeout(done, this.mode === 'slow' ? 400 : this.pause));
    }
    // a server that falls over sends nothing more, and not that it has ended either
    if (this.mode === 'cut') return void response.destroy();
    send({}, finish);
    response.end('data: [DONE]\n\n');
  }

  private *pieces(text: string, size: number): Generator<string> {
    if (this.mode === 'endless') for (let k = 0; ; k++) yield Array.from({ length: 30_000 }, (_, i) => k * 30_000 + i).join(' ');
    if (this.mode === 'repeating') for (;;) yield ' and the pump has to be looked at once more, said the yard,';
    for (let at = 0; at < text.length; at += size) yield text.slice(at, at + size);
  }
}

/** What a model makes up: segments out of range, words nobody said, people who do not exist, dates nobody named. */
function wrong({ segments, open }: Message) {
  const [first] = segments;
  const real = { segments: [first?.n ?? 0], words: first?.said ?? '' };
  return {
    actions: [
      { title: 'Burn the ledger', segments: [first?.n ?? 0], words: 'burn the whole ledger tonight', owner: [], ownerWords: null, dateWords: null },
      { title: 'Do something', segments: [99_999], words: real.words, owner: [], ownerWords: null, dateWords: null },
      { title: 'Something nobody spoke of at all', ...real, owner: ['Zebedee Quill'], ownerWords: null, dateWords: 'on the thirty-first of June' },
    ],
    decisions: [{ title: 'Everything is free', segments: [], words: '' }],
    questions: [{ title: 17, segments: 'all', words: null }],
    updates: [{ commitment: `O${open.length + 40}`, kind: 'done', ...real, owner: [], ownerWords: null, dateWords: null }],
  };
}

async function read(request: IncomingMessage): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of request) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}
