import { Webhook } from 'standardwebhooks';
import { ownerOf } from '../../people/owner.ts';
import type { Workspace } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import { guardedFetch, ServerTrouble } from '../../store/guarded-fetch.ts';
import { keyFor } from '../../store/secrets.ts';

/** Milliseconds whoever receives may take. */
const PATIENCE = 15_000;

/** The key receivers check signatures with, as the standard writes one. */
export const webhookKey = (): string => `whsec_${Buffer.from(keyFor('webhooks'), 'base64url').toString('base64')}`;

/** A message for a webhook; `id` stays the same at every try. */
export interface HookMessage {
  id: string;
  type: string;
  at: Date;
  data: unknown;
}

/**
 * Sends a message to a webhook, signed as the Standard Webhooks specification has it (version 1, HMAC-SHA256). Only whoever
 * set up this Ottik may send into its own network; nothing follows a redirection elsewhere.
 * @throws ServerTrouble where nobody answers, Refusal where the receiver says no
 */
export async function sendSigned(ws: Workspace, url: string, { id, type, at, data }: HookMessage): Promise<void> {
  const address = new URL(url);
  const ownNetwork = (await ownerOf(ws.db)) === ws.asker.person;
  const body = JSON.stringify({ type, timestamp: at.toISOString(), data });
  const sentAt = new Date();
  const name = `msg_${id.replace(/[^\w-]/g, '_')}`;
  const answer = await guardedFetch({ address, ownNetwork, patience: PATIENCE })(address, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'webhook-id': name, 'webhook-timestamp': String(Math.floor(sentAt.getTime() / 1000)), 'webhook-signature': new Webhook(webhookKey()).sign(name, sentAt, body) },
    body,
  });
  await answer.body?.cancel();
  if (answer.ok) return;
  if (answer.status >= 500 || answer.status === 429) throw new ServerTrouble('busy', `${address.host} cannot take it now (${answer.status}).`);
  throw new Refusal('conflict', `${address.host} refused it: ${answer.status} ${answer.statusText}`.trim(), 'Check the address with whoever runs the program that receives it.');
}
