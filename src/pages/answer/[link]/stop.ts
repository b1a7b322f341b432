import type { APIRoute } from 'astro';
import { stopDigests } from '../../../server/letters/answer-page.ts';
import { Refusal } from '../../../server/refusal.ts';
import { today } from '../../../server/store/clock.ts';
import { database } from '../../../server/store/database.ts';

const words = (text: string, status: number) => new Response(text, { status, headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' } });

/** One click in a mail program (RFC 8058): a POST with this one field, from anywhere, with no login. */
export const POST: APIRoute = async ({ request, params }) => {
  const sent = await request.text();
  if (!/(?:^|&)List-Unsubscribe=One-Click(?:&|$)/.test(sent.slice(0, 500)) && !/name="List-Unsubscribe"\s+One-Click/.test(sent.slice(0, 2000))) return words('Nothing was changed.', 400);
  try {
    await stopDigests(await database(), params.link ?? '', today());
  } catch (error) {
    if (error instanceof Refusal) return words(error.message, error.status);
    throw error;
  }
  return words('No more digests come from here.', 200);
};

/** A visit changes nothing: programs that look at links must not end anything. */
export const GET: APIRoute = ({ params, redirect }) => redirect(`/answer/${encodeURIComponent(params.link ?? '')}#letters`);
