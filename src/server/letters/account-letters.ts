import { randomBytes } from 'node:crypto';
import { letterHtml } from '../../core/letters/html.ts';
import { ownerOf } from '../people/owner.ts';
import type { AccountLetter } from '../people/signing-in.ts';
import { ourDomain } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { theCarriers } from './carriers.ts';
import { MailError } from './mailer.ts';

/** Sends a letter about an account, from whoever set up this Ottik. */
export async function sendAccountLetter(db: Db, { to, subject, text }: AccountLetter): Promise<void> {
  const owner = await db
    .selectFrom('people')
    .select(['name', 'mail'])
    .where('id', '=', (await ownerOf(db)) ?? '')
    .executeTakeFirst();
  if (!owner?.mail) throw new MailError('Whoever set up this Ottik has no mail address.', true, false);
  const carriers = await theCarriers(db);
  await carriers.mail.send({ messageId: `<account.${randomBytes(9).toString('hex')}@${ourDomain()}>`, from: { name: owner.name, address: owner.mail }, to, replyTo: owner.mail, subject, text, html: letterHtml(text), headers: { 'Auto-Submitted': 'auto-generated' } });
}
