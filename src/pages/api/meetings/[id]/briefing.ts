import { z } from 'zod';
import { mailBriefing } from '../../../../server/letters/briefing-mail.ts';
import { today } from '../../../../server/store/clock.ts';
import { theCarriers } from '../../../../server/web/background.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(z.object({ do: z.literal('mail') }), ({ asker, db, id }) => mailBriefing(asker, db, id, today(), theCarriers().mail));
