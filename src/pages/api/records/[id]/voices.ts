import { changeVoices, VoiceSchema } from '../../../../server/records/speakers.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(VoiceSchema, async ({ asker, db, body, id }) => {
  await changeVoices(asker, db, id, body);
  return { ok: true };
});
