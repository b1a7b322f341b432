import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { itemFoot, type Minutes, type Run } from '../../../core/meetings/minutes.ts';
import { type Standing, standingLine } from '../../../core/meetings/minutes-text.ts';

const require = createRequire(join(process.cwd(), 'package.json'));
/** The part of pdfmake's server interface that is used; its types tell the browser's. */
interface PdfMaker {
  setFonts(fonts: Record<string, Record<string, string>>): void;
  setUrlAccessPolicy(allowed: (url: string) => boolean): void;
  setLocalAccessPolicy(allowed: (path: string) => boolean): void;
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

let maker: PdfMaker | null = null;

function pdfMaker(): PdfMaker {
  if (maker) return maker;
  const files = dirname(require.resolve('@fontsource/literata/package.json'));
  const faces = (subset: string) => {
    const face = (name: string) => join(files, 'files', `literata-${subset}-${name}.woff`);
    return { normal: face('400-normal'), bold: face('600-normal'), italics: face('400-italic'), bolditalics: face('600-italic') };
  };
  const fonts = Object.fromEntries(SUBSETS.map(([name]) => [name, faces(name)]));
  const known = new Set(Object.values(fonts).flatMap((f) => Object.values(f)));
  maker = require('pdfmake') as PdfMaker;
  maker.setFonts(fonts);
  maker.setUrlAccessPolicy(() => false);
  maker.setLocalAccessPolicy((path) => known.has(path));
  return maker;
}

/** The font comes in files by script; letters that none of them has are printed with the first. */
const SUBSETS: readonly [name: string, letters: RegExp | null][] = [
  ['latin', null],
  ['latin-ext', /[\u0100-\u02ba\u02bd-\u02c5\u02c7-\u02cc\u1e00-\u1e9f\u1ef2-\u1eff\u20a0-\u20ab\u20ad-\u20c0\u2c60-\u2c7f\ua720-\ua7ff]/],
  ['cyrillic', /[\u0400-\u045f\u0490\u0491\u04b0\u04b1\u2116]/],
  ['greek', /[\u0370-\u03ff]/],
];

/** A text cut where its letters need another file of the font. */
function faced(text: string): { text: string; font: string }[] {
  const out: { text: string; font: string }[] = [];
  for (const ch of text) {
    const font = SUBSETS.find(([, letters]) => letters?.test(ch))?.[0] ?? 'latin';
    const last = out[out.length - 1];
    if (last?.font === font) last.text += ch;
    else out.push({ text: ch, font });
  }
  return out;
}

const MOSS = '#54635B';
const runsOf = (runs: readonly Run[]) => runs.flatMap((r) => faced(r.text).map((f) => ({ ...f, bold: r.bold ?? false, italics: r.italic ?? false })));

/** Minutes made for print: A4, page numbers, table heads repeated on every page, fonts embedded. */
export async function minutesPdf(m: Minutes, standing: Standing): Promise<Uint8Array> {
  const content: Content[] = [{ text: faced(m.title), fontSize: 20, margin: [0, 0, 0, 4] }, ...[...m.under, standingLine(standing)].map((text) => ({ text: faced(text), color: MOSS, fontSize: 9 }))];
  for (const b of m.blocks) {
    if (b.kind === 'heading') content.push({ text: faced(b.text), bold: true, fontSize: b.level === 2 ? 12.5 : 11, margin: [0, b.level === 2 ? 14 : 8, 0, 4], headlineLevel: b.level });
    else if (b.kind === 'text') content.push({ text: runsOf(b.runs), margin: [0, 0, 0, 6] });
    else if (b.kind === 'list') content.push(b.ordered ? { ol: b.items.map((i) => ({ text: runsOf(i) })), margin: [0, 0, 0, 6] } : { ul: b.items.map((i) => ({ text: runsOf(i) })), margin: [0, 0, 0, 6] });
    else if (b.kind === 'table') {
      content.push({
        margin: [0, 2, 0, 8],
        fontSize: 9.5,
        layout: { hLineWidth: (i) => (i === 0 ? 0 : 0.5), vLineWidth: () => 0, hLineColor: () => '#D3DAD3', paddingLeft: () => 0, paddingRight: () => 10 },
        table: { headerRows: 1, dontBreakRows: true, widths: b.head.map((_, i) => (i === b.wide ? '*' : 'auto')), body: [b.head.map((text) => ({ text, bold: true })), ...b.rows.map((r) => r.map((text) => ({ text: faced(text) })))] },
      });
    } else
      content.push({
        layout: { hLineWidth: () => 0, vLineWidth: () => 0, paddingLeft: () => 0, paddingTop: () => 1.5, paddingBottom: () => 1.5 },
        table: {
          dontBreakRows: true,
          widths: [44, '*'],
          body: b.items.map((i) => {
            const foot = itemFoot(b.of, i);
            return [{ text: i.ref, bold: true }, { text: [...faced(i.text), ...(foot ? faced(` (${foot})`).map((f) => ({ ...f, color: MOSS })) : [])] }];
          }),
        },
      });
  }
  if (standing.changes.length) content.push({ text: 'Changed since the version before', bold: true, fontSize: 12.5, margin: [0, 14, 0, 4] }, { ul: standing.changes.map((c) => ({ text: faced(c) })) });
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [64, 60, 64, 64],
    info: { title: m.title, creator: 'Ottik' },
    defaultStyle: { font: 'latin', fontSize: 10.5, lineHeight: 1.25 },
    content,
    footer: (page, pages) => ({ text: faced(`${m.title}, ${standingLine(standing)}, page ${page} of ${pages}`), fontSize: 8, color: MOSS, alignment: 'right', margin: [64, 20, 64, 0] }),
    // a heading alone at the foot of a page goes over to the next
    pageBreakBefore: (node, nodes) => node.headlineLevel !== undefined && nodes.getFollowingNodesOnPage().length === 0,
  };
  return new Uint8Array(await pdfMaker().createPdf(definition).getBuffer());
}
