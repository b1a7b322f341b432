import type { APIRoute } from 'astro';
import { FORMATS, type MinutesFormat, minutesFile } from '../../../server/meetings/minutes/minutes.ts';
import { workspace } from '../../../server/people/session.ts';
import { Refusal } from '../../../server/refusal.ts';
import { refusalReply } from '../../../server/web/requests.ts';

/** Minutes to take away: `minutes.pdf?version=2`, and without a version the draft. */
export const GET: APIRoute = async (context) => {
  try {
    const format = context.params.format ?? '';
    if (!Object.hasOwn(FORMATS, format)) throw new Refusal('not-found', `Minutes come as ${Object.keys(FORMATS).join(', ')}, not as ${format}.`);
    const asked = context.url.searchParams.get('version');
    const version = asked === null ? null : Number(asked);
    const ws = await workspace(context);
    const { name, type, bytes } = await minutesFile(ws, Number(context.params.id), format as MinutesFormat, version);
    return new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' } });
  } catch (error) {
    return refusalReply(error);
  }
};
