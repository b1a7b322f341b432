import { shortDay } from '../../core/language/days.ts';
import type { WeaveRow } from '../../core/ledger/weave.ts';

/** A row of the picture: its thread, how far down it is drawn, and who holds it where a group begins. */
export interface SheetRow {
  row: Pick<WeaveRow, 'ref' | 'text' | 'due' | 'open' | 'ended' | 'handedTo'>;
  /** where it went, for a row that was handed over */
  went: string | null;
  y: number;
}

export interface Sheet {
  title: string;
  today: string;
  /** the drawing of the threads, as markup, with its size */
  drawing: { markup: string; width: number; height: number };
  /** room above the first thread */
  head: number;
  rows: readonly SheetRow[];
  holders: readonly { name: string; y: number }[];
}

const [HOLDER, REF, TEXT, DUE, EDGE, TOP] = [16, 156, 204, 548, 640, 40];

const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);
/** About as many letters as there is room for: 6.2 units a letter at this size. */
const fitted = (text: string, room: number) => {
  const letters = Math.floor(room / 6.2);
  return text.length > letters ? `${text.slice(0, letters - 1).trimEnd()}…` : text;
};

/** The whole Weave as one SVG file that stands without the page: holders, references, words and due dates left of the threads. */
export function weaveSheet({ title, today, drawing, head, rows, holders }: Sheet): string {
  const width = EDGE + drawing.width + 16;
  const height = TOP + drawing.height + 16;
  const at = (y: number) => TOP + head + y + 4;
  const text = (x: number, y: number, words: string, more = '') => `<text x="${x}" y="${y}"${more}>${escaped(words)}</text>`;
  const names = rows.map(({ row, y, went }) => {
    const faint = row.open ? '' : ' fill="var(--moss)"';
    const due = went ? '' : row.open ? (row.due ? `due ${shortDay(row.due, today)}` : 'no date') : (row.ended ?? '');
    return `<g><title>${escaped(row.text)}</title>${text(REF, at(y), row.ref, ` font-weight="600"${faint}`)}${text(TEXT, at(y), fitted(went ?? row.text, DUE - TEXT - 12), faint)}${text(DUE, at(y), due, row.open && row.due && row.due < today ? ' fill="var(--brick)"' : ' fill="var(--moss)"')}</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="Instrument Sans Variable, Helvetica, Arial, sans-serif" font-size="12" fill="var(--ink)">
<rect width="${width}" height="${height}" fill="var(--leaf)"/>
${text(HOLDER, 26, title, ' font-size="16" font-weight="600"')}${text(width - 16, 26, shortDay(today), ' text-anchor="end" fill="var(--moss)"')}
${holders.map((h) => `${text(HOLDER, at(h.y) + 14, fitted(h.name, REF - HOLDER - 8), ' font-weight="600"')}<path d="M${HOLDER} ${TOP + head + h.y}H${EDGE}" stroke="var(--rule)"/>`).join('\n')}
${names.join('\n')}
<svg x="${EDGE}" y="${TOP}" width="${drawing.width}" height="${drawing.height}" viewBox="0 0 ${drawing.width} ${drawing.height}" font-size="12">${drawing.markup}</svg>
</svg>
`;
}
