import { z } from 'zod';
import { mailBriefing } from '../../../../server/letters/briefing-mail.ts';
import { theCarriers } from '../../../../server/web/background.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(z.object({ do: z.literal('mail') }), ({ ws, id }) => mailBriefing(ws, id, theCarriers().mail));
