import { z } from 'zod';
import { editLetter, LetterEditSchema, letterAs, letterById, withdrawLetter } from '../../../server/letters/letters.ts';
import { mustBeFirstOfTheDay } from '../../../server/letters/one-a-day.ts';
import { ComposeSchema, composeAnew, freshen } from '../../../server/letters/plan.ts';
import { sendLetter } from '../../../server/letters/queue.ts';
import { recomposeRoundUp } from '../../../server/letters/round-up.ts';
import { sendTest } from '../../../server/letters/test-letter.ts';
import { today } from '../../../server/store/clock.ts';
import { theCarriers } from '../../../server/web/background.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [
  LetterEditSchema.extend({ do: z.literal('save') }),
  z.object({ do: z.literal('preview'), subject: z.string().max(300), body: z.string().max(50_000), name: z.string().max(120), mail: z.string().max(200) }),
  ComposeSchema.extend({ do: z.literal('compose') }),
  z.object({ do: z.literal('send'), insist: z.boolean().optional() }),
  z.object({ do: z.literal('test') }),
  z.object({ do: z.literal('drop') }),
]);

export const POST = endpoint(Body, async ({ asker, db, body, id }) => {
  switch (body.do) {
    case 'save':
      return editLetter(asker, db, id, body);
    case 'send': {
      const letter = await letterById(asker, db, id);
      const people = letter.recipients.filter((r) => r.id !== 'chat' && r.state !== 'sent').map((r) => r.id);
      if (!body.insist && letter.kind !== 'round-up' && letter.kind !== 'answer') await mustBeFirstOfTheDay(db, letter.project, people, today(), id);
      await freshen(asker, db, id, today(), body.insist ?? false);
      return sendLetter(asker, db, id, theCarriers());
    }
    case 'test':
      return sendTest(asker, db, id, theCarriers().mail);
    case 'drop':
      await withdrawLetter(asker, db, id);
      return { dropped: id };
    case 'compose': {
      const letter = await letterById(asker, db, id);
      return letter.meeting === null ? composeAnew(asker, db, id, body, today()) : recomposeRoundUp(asker, db, id);
    }
    default:
      return letterAs({ ...body, kind: (await letterById(asker, db, id)).kind }, { name: body.name, mail: body.mail });
  }
});
