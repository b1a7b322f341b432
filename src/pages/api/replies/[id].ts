import { z } from 'zod';
import { theCarriers } from '../../../server/letters/carriers.ts';
import { sendLetter } from '../../../server/letters/queue.ts';
import { repliesOf } from '../../../server/letters/replies.ts';
import { correctAddress, StrayChangeSchema, settleStray } from '../../../server/letters/strays.ts';
import { beginWritingBack, WriteBackSchema, writeBack } from '../../../server/letters/write-back.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

/** Greeting and signature for an answer to it. */
export const GET = answer(async ({ ws, id }) => beginWritingBack(ws, ws.project, id));

/** Settles mail that belongs to no letter, answers what came back, or sends a bounced letter to a corrected address. */
export const POST = endpoint(z.union([StrayChangeSchema, WriteBackSchema]), async ({ ws, body, id }) => {
  if (body.do === 'write back') {
    const letter = await writeBack(ws, ws.project, id, body.text);
    const sent = await sendLetter(ws, letter.id, await theCarriers(ws.db));
    return { reply: (await repliesOf(ws, ws.project, { id }))[0], letter: sent };
  }
  if (body.do !== 'correct') return { reply: await settleStray(ws, ws.project, id, body) };
  const { letter } = await correctAddress(ws, ws.project, id, body.mail);
  const sent = await sendLetter(ws, letter, await theCarriers(ws.db));
  return { reply: (await repliesOf(ws, ws.project, { id }))[0], letter: sent };
});
