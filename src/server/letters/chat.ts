import { MailError } from './mailer.ts';

/** Sends the short form of a letter to a chat channel. */
export interface ChatPoster {
  post(url: string, text: string, id: string): Promise<void>;
}

/** Posts `{ "text": … }` to an incoming webhook over HTTP; the id lets the channel tell a repeated post. */
export function webhookPoster(patience = 8000): ChatPoster {
  return {
    async post(url, text, id) {
      let response: Response;
      try {
        response = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json', 'idempotency-key': id }, body: JSON.stringify({ text }), signal: AbortSignal.timeout(patience), redirect: 'error' });
      } catch {
        throw new MailError('The chat channel cannot be reached.', false, true);
      }
      if (!response.ok) throw new MailError(`The chat channel refused it: ${response.status} ${response.statusText}`.trim(), false, response.status >= 500 || response.status === 429);
    },
  };
}
