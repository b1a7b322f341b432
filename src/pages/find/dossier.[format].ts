import type { APIRoute } from 'astro';
import { dossierFile } from '../../server/find/dossier.ts';
import { FORMATS, type MinutesFormat } from '../../server/meetings/minutes/minutes.ts';
import { workspace } from '../../server/people/session.ts';
import { Refusal } from '../../server/refusal.ts';
import { refusalReply } from '../../server/web/requests.ts';

/** Everything on record about a subject, dated and quoted, to take away: `dossier.docx?about=the plinth`. */
export const GET: APIRoute = async (context) => {
  try {
    const format = context.params.format ?? '';
    if (!Object.hasOwn(FORMATS, format)) throw new Refusal('not-found', `A dossier comes as ${Object.keys(FORMATS).join(', ')}, not as ${format}.`);
    const { name, type, bytes } = await dossierFile(await workspace(context), context.url.searchParams.get('about') ?? '', format as MinutesFormat);
    return new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' } });
  } catch (error) {
    return refusalReply(error);
  }
};
