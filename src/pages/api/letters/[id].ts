import { z } from 'zod';
import { endpoint } from '../../../server/http.ts';
import { editLetter, LetterEditSchema, letterAs, letterById, roundUpFor, sendLetter } from '../../../server/letters.ts';
import { mailSettings, smtpMailer } from '../../../server/mailer.ts';

const Body = z.discriminatedUnion('do', [
  LetterEditSchema.extend({ do: z.literal('save') }),
  z.object({ do: z.literal('preview'), subject: z.string().max(300), body: z.string().max(50_000), name: z.string().max(120), mail: z.string().max(200) }),
  z.object({ do: z.literal('compose') }),
  z.object({ do: z.literal('send') }),
]);

export const POST = endpoint(Body, async ({ asker, db, body, id }) => {
  if (body.do === 'save') return editLetter(asker, db, id, body);
  if (body.do === 'send') return sendLetter(asker, db, id, smtpMailer(mailSettings()));
  const letter = await letterById(asker, db, id);
  if (body.do === 'compose') return roundUpFor(asker, db, letter.meeting, true);
  return letterAs(body, { name: body.name, mail: body.mail });
});
