import { theCarriers } from '../../../server/background.ts';
import { today } from '../../../server/clock.ts';
import { currentProject, endpoint } from '../../../server/http.ts';
import { sendLetter } from '../../../server/letters/queue.ts';
import { repliesOf } from '../../../server/letters/replies.ts';
import { correctAddress, StrayChangeSchema, settleStray } from '../../../server/letters/strays.ts';

/** Settles mail that belongs to no letter, or sends a bounced letter to a corrected address. */
export const POST = endpoint(StrayChangeSchema, async ({ asker, db, body, id, context }) => {
  const { current } = await currentProject(context, asker, db);
  if (body.do !== 'correct') return { reply: await settleStray(asker, db, current, id, body, today()) };
  const { letter } = await correctAddress(asker, db, current, id, body.mail);
  const sent = await sendLetter(asker, db, letter, theCarriers());
  return { reply: (await repliesOf(asker, db, current, { id }))[0], letter: sent };
});
