import { z } from 'zod';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { theCarriers } from '../../server/letters/carriers.ts';
import { mustBeFirstOfTheDay } from '../../server/letters/one-a-day.ts';
import { changePlan, PlanChangeSchema, previewPlanned, writePlanned } from '../../server/letters/plan.ts';
import { sendLetter } from '../../server/letters/queue.ts';
import { endpoint } from '../../server/web/requests.ts';

const Which = { to: z.string().max(140), day: IsoDateSchema };
const Body = z.union([PlanChangeSchema, z.object({ do: z.literal('preview'), ...Which }), z.object({ do: z.literal('send'), insist: z.boolean().optional(), ...Which })]);

export const POST = endpoint(Body, async ({ ws, body }) => {
  switch (body.do) {
    case 'preview':
      return previewPlanned(ws, ws.project, body.to, body.day);
    case 'write':
      return writePlanned(ws, ws.project, body.to, body.day);
    case 'send': {
      if (!body.insist) await mustBeFirstOfTheDay(ws.db, ws.project, [body.to], ws.today, null);
      const letter = await writePlanned(ws, ws.project, body.to, body.day);
      return sendLetter(ws, letter.id, await theCarriers(ws.db));
    }
    default:
      return changePlan(ws, ws.project, body);
  }
});
