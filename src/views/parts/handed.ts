/** Where records that were dropped or pasted wait until the page that brings them in has opened, of any size. */
const CACHE = 'ottik';
const PLACE = '/handed-record';

/** A record on its way in: its bytes, and the name of its file where it had one. */
export interface Handed {
  file: Blob;
  name: string | null;
}

/** Has records waiting for the page that brings them in, and goes there. */
export async function handOver(records: readonly Handed[]): Promise<void> {
  const cache = await caches.open(CACHE);
  await Promise.all(records.map((r, i) => cache.put(`${PLACE}/${i}`, new Response(r.file, { headers: r.name ? { 'x-name': encodeURIComponent(r.name) } : {} }))));
  location.assign('/bring-in');
}

/** The records that wait, in their order; they wait no longer. */
export async function takeOver(): Promise<Handed[]> {
  const cache = await caches.open(CACHE);
  const out: Handed[] = [];
  for (let i = 0; ; i++) {
    const kept = await cache.match(`${PLACE}/${i}`);
    if (!kept) return out;
    await cache.delete(`${PLACE}/${i}`);
    const name = kept.headers.get('x-name');
    out.push({ file: await kept.blob(), name: name ? decodeURIComponent(name) : null });
  }
}

/** What gives a page its order, which its plain text has lost. */
const ORDERED = /<(?:table|ul|ol|h[1-6])\b/i;

/** What was pasted, as a record: with its lists, tables and headings where it came from a page that has them, else as text. */
export function pasted(data: Pick<DataTransfer, 'getData'> | null): Handed | null {
  const html = data?.getData('text/html') ?? '';
  if (ORDERED.test(html)) return { file: new Blob([html]), name: 'pasted.html' };
  const text = data?.getData('text/plain') ?? '';
  return text.trim() === '' ? null : { file: new Blob([text]), name: null };
}
