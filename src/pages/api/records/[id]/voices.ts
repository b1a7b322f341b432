import { endpoint } from '../../../../server/http.ts';
import { changeVoices, VoiceSchema } from '../../../../server/voices.ts';

export const POST = endpoint(VoiceSchema, async ({ asker, db, body, id }) => {
  await changeVoices(asker, db, id, body);
  return { ok: true };
});
