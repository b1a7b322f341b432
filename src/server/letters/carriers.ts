import type { Db } from '../store/database.ts';
import { webhookPoster } from './chat.ts';
import { outgoing } from './mail-settings.ts';
import { noMailer, smtpMailer } from './mailer.ts';
import type { Carriers } from './queue.ts';

let kept: { settings: string; carriers: Carriers } | null = null;

/** What letters go out with. A connection is shared until the settings become others. */
export async function theCarriers(db: Db): Promise<Carriers> {
  const now = await outgoing(db);
  const settings = JSON.stringify(now);
  if (kept?.settings !== settings) kept = { settings, carriers: { mail: now ? smtpMailer(now) : noMailer, chat: webhookPoster() } };
  return kept.carriers;
}
