import type { APIRoute } from 'astro';
import { FORMATS, type MinutesFormat, minutesFile } from '../../../server/meetings/minutes/minutes.ts';
import { session } from '../../../server/people/session.ts';
import { Refusal } from '../../../server/refusal.ts';
import { refusalReply } from '../../../server/web/requests.ts';

/** Minutes to take away: `minutes.pdf?version=2`, and without a version the draft. */
export const GET: APIRoute = async ({ params, url }) => {
  try {
    const format = params.format ?? '';
    if (!Object.hasOwn(FORMATS, format)) throw new Refusal('not-found', `Minutes come as ${Object.keys(FORMATS).join(', ')}, not as ${format}.`);
    const asked = url.searchParams.get('version');
    const version = asked === null ? null : Number(asked);
    const { db, asker } = await session();
    const { name, type, bytes } = await minutesFile(asker, db, Number(params.id), format as MinutesFormat, version);
    return new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' } });
  } catch (error) {
    return refusalReply(error);
  }
};
