import { changeVoices, VoiceSchema } from '../../../../server/records/speakers.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(VoiceSchema, async ({ ws, body, id }) => {
  await changeVoices(ws, id, body);
  return { ok: true };
});
