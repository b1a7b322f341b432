import { z } from 'zod';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { mustBeFirstOfTheDay } from '../../server/letters/one-a-day.ts';
import { changePlan, PlanChangeSchema, previewPlanned, writePlanned } from '../../server/letters/plan.ts';
import { sendLetter } from '../../server/letters/queue.ts';
import { currentProject } from '../../server/people/session.ts';
import { today } from '../../server/store/clock.ts';
import { theCarriers } from '../../server/web/background.ts';
import { endpoint } from '../../server/web/requests.ts';

const Which = { to: z.string().max(140), day: IsoDateSchema };
const Body = z.union([PlanChangeSchema, z.object({ do: z.literal('preview'), ...Which }), z.object({ do: z.literal('send'), insist: z.boolean().optional(), ...Which })]);

export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  switch (body.do) {
    case 'preview':
      return previewPlanned(asker, db, current, body.to, body.day, today());
    case 'write':
      return writePlanned(asker, db, current, body.to, body.day, today());
    case 'send': {
      if (!body.insist) await mustBeFirstOfTheDay(db, current, [body.to], today(), null);
      const letter = await writePlanned(asker, db, current, body.to, body.day, today());
      return sendLetter(asker, db, letter.id, theCarriers());
    }
    default:
      return changePlan(asker, db, current, body, today());
  }
});
