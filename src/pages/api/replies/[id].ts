import { z } from 'zod';
import { sendLetter } from '../../../server/letters/queue.ts';
import { repliesOf } from '../../../server/letters/replies.ts';
import { correctAddress, StrayChangeSchema, settleStray } from '../../../server/letters/strays.ts';
import { beginWritingBack, WriteBackSchema, writeBack } from '../../../server/letters/write-back.ts';
import { currentProject } from '../../../server/people/session.ts';
import { today } from '../../../server/store/clock.ts';
import { theCarriers } from '../../../server/web/background.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

/** Greeting and signature for an answer to it. */
export const GET = answer(async ({ asker, db, id, context }) => beginWritingBack(asker, db, (await currentProject(context, asker, db)).current, id));

/** Settles mail that belongs to no letter, answers what came back, or sends a bounced letter to a corrected address. */
export const POST = endpoint(z.union([StrayChangeSchema, WriteBackSchema]), async ({ asker, db, body, id, context }) => {
  const { current } = await currentProject(context, asker, db);
  if (body.do === 'write back') {
    const letter = await writeBack(asker, db, current, id, body.text, today());
    const sent = await sendLetter(asker, db, letter.id, theCarriers());
    return { reply: (await repliesOf(asker, db, current, { id }))[0], letter: sent };
  }
  if (body.do !== 'correct') return { reply: await settleStray(asker, db, current, id, body, today()) };
  const { letter } = await correctAddress(asker, db, current, id, body.mail);
  const sent = await sendLetter(asker, db, letter, theCarriers());
  return { reply: (await repliesOf(asker, db, current, { id }))[0], letter: sent };
});
