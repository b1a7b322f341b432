import { z } from 'zod';
import { mailBriefing } from '../../../../server/letters/briefing-mail.ts';
import { theCarriers } from '../../../../server/letters/carriers.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(z.object({ do: z.literal('mail') }), async ({ ws, id }) => mailBriefing(ws, id, (await theCarriers(ws.db)).mail), 'read');
