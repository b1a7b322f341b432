import { z } from 'zod';
import { theCarriers } from '../../../server/letters/carriers.ts';
import { editLetter, LetterEditSchema, letterAs, letterById, withdrawLetter } from '../../../server/letters/letters.ts';
import { mustBeFirstOfTheDay } from '../../../server/letters/one-a-day.ts';
import { ComposeSchema, composeAnew, freshen } from '../../../server/letters/plan.ts';
import { sendLetter } from '../../../server/letters/queue.ts';
import { recomposeRoundUp } from '../../../server/letters/round-up.ts';
import { sendTest } from '../../../server/letters/test-letter.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [
  LetterEditSchema.extend({ do: z.literal('save') }),
  z.object({ do: z.literal('preview'), subject: z.string().max(300), body: z.string().max(50_000), name: z.string().max(120), mail: z.string().max(200) }),
  ComposeSchema.extend({ do: z.literal('compose') }),
  z.object({ do: z.literal('send'), insist: z.boolean().optional() }),
  z.object({ do: z.literal('test') }),
  z.object({ do: z.literal('drop') }),
]);

export const POST = endpoint(Body, async ({ ws, body, id }) => {
  switch (body.do) {
    case 'save':
      return editLetter(ws, id, body);
    case 'send': {
      const letter = await letterById(ws, id);
      const people = letter.recipients.filter((r) => r.id !== 'chat' && r.state !== 'sent').map((r) => r.id);
      if (!body.insist && letter.kind !== 'round-up' && letter.kind !== 'answer') await mustBeFirstOfTheDay(ws.db, letter.project, people, ws.today, id);
      await freshen(ws, id, body.insist ?? false);
      return sendLetter(ws, id, await theCarriers(ws.db));
    }
    case 'test':
      return sendTest(ws, id, (await theCarriers(ws.db)).mail);
    case 'drop':
      await withdrawLetter(ws, id);
      return { dropped: id };
    case 'compose': {
      const letter = await letterById(ws, id);
      return letter.meeting === null ? composeAnew(ws, id, body) : recomposeRoundUp(ws, id);
    }
    default:
      return letterAs({ ...body, kind: (await letterById(ws, id)).kind }, { name: body.name, mail: body.mail });
  }
});
