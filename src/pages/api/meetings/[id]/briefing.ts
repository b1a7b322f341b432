import { z } from 'zod';
import { theCarriers } from '../../../../server/background.ts';
import { today } from '../../../../server/clock.ts';
import { endpoint } from '../../../../server/http.ts';
import { mailBriefing } from '../../../../server/letters/briefing-mail.ts';

export const POST = endpoint(z.object({ do: z.literal('mail') }), ({ asker, db, id }) => mailBriefing(asker, db, id, today(), theCarriers().mail));
