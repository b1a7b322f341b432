import { AlignmentType, BorderStyle, convertInchesToTwip, Document, Footer, HeadingLevel, LevelFormat, Packer, PageNumber, Paragraph, Table, TableCell, TableRow, TextRun, WidthType } from 'docx';
import { itemFoot, type Minutes, type Run } from '../../../core/meetings/minutes.ts';
import { type Standing, standingLine } from '../../../core/meetings/minutes-text.ts';

const MOSS = '54635B';
const runsOf = (runs: readonly Run[]) => runs.map((r) => (r.text === '\n' ? new TextRun({ break: 1 }) : new TextRun({ text: r.text, bold: r.bold ?? false, italics: r.italic ?? false })));
const HAIRLINE = { style: BorderStyle.SINGLE, size: 2, color: 'D3DAD3' };
const NONE = { style: BorderStyle.NONE, size: 0, color: 'auto' };

function table(head: readonly string[], rows: readonly (readonly string[])[]): Table {
  const row = (cells: readonly string[], header: boolean) => new TableRow({ tableHeader: header, cantSplit: true, children: cells.map((c) => new TableCell({ children: [new Paragraph({ children: [new TextRun({ text: c, bold: header })] })] })) });
  return new Table({ width: { size: 100, type: WidthType.PERCENTAGE }, borders: { top: NONE, left: NONE, right: NONE, bottom: HAIRLINE, insideHorizontal: HAIRLINE, insideVertical: NONE }, rows: [row(head, true), ...rows.map((r) => row(r, false))] });
}

/** Minutes as a Word file: real headings and lists, table heads that repeat, page numbers. */
export async function minutesDocx(m: Minutes, standing: Standing): Promise<Uint8Array> {
  const grey = (text: string) => new Paragraph({ spacing: { after: 40 }, children: [new TextRun({ text, color: MOSS, size: 20 })] });
  const children: (Paragraph | Table)[] = [new Paragraph({ heading: HeadingLevel.TITLE, children: [new TextRun(m.title)] }), ...m.under.map(grey), grey(standingLine(standing))];
  let list = 0;
  for (const b of m.blocks) {
    if (b.kind === 'heading') children.push(new Paragraph({ heading: b.level === 2 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2, keepNext: true, children: [new TextRun(b.text)] }));
    else if (b.kind === 'text') children.push(new Paragraph({ spacing: { after: 120 }, children: runsOf(b.runs) }));
    else if (b.kind === 'list') {
      list++;
      for (const i of b.items) children.push(new Paragraph({ numbering: b.ordered ? { reference: 'ordered', level: 0, instance: list } : { reference: 'plain', level: 0 }, children: runsOf(i) }));
    } else if (b.kind === 'table') children.push(table(b.head, b.rows), new Paragraph({}));
    else
      for (const i of b.items) {
        const foot = itemFoot(b.of, i);
        children.push(new Paragraph({ spacing: { after: 60 }, keepLines: true, indent: { left: 900, hanging: 900 }, tabStops: [{ type: 'left', position: 900 }], children: [new TextRun({ text: `${i.ref}\t`, bold: true }), new TextRun(i.text), ...(foot ? [new TextRun({ text: ` (${foot})`, color: MOSS })] : [])] }));
      }
  }
  if (standing.changes.length) {
    children.push(new Paragraph({ heading: HeadingLevel.HEADING_1, children: [new TextRun('Changed since the version before')] }));
    for (const c of standing.changes) children.push(new Paragraph({ numbering: { reference: 'plain', level: 0 }, children: [new TextRun(c)] }));
  }
  const level = (format: (typeof LevelFormat)[keyof typeof LevelFormat], text: string) => ({ level: 0, format, text, alignment: AlignmentType.LEFT, style: { paragraph: { indent: { left: convertInchesToTwip(0.3), hanging: convertInchesToTwip(0.25) } } } });
  const file = new Document({
    title: m.title,
    creator: 'Ottik',
    styles: { default: { document: { run: { font: 'Georgia', size: 22 } }, title: { run: { size: 40, font: 'Georgia' } }, heading1: { run: { size: 26, bold: true }, paragraph: { spacing: { before: 280, after: 100 } } }, heading2: { run: { size: 23, bold: true }, paragraph: { spacing: { before: 160, after: 60 } } } } },
    numbering: {
      config: [
        { reference: 'plain', levels: [level(LevelFormat.BULLET, '•')] },
        { reference: 'ordered', levels: [level(LevelFormat.DECIMAL, '%1.')] },
      ],
    },
    sections: [
      {
        properties: { page: { size: { width: 11906, height: 16838 }, margin: { top: 1300, bottom: 1300, left: 1500, right: 1500 } } },
        footers: { default: new Footer({ children: [new Paragraph({ alignment: AlignmentType.RIGHT, children: [new TextRun({ size: 18, color: MOSS, children: [`${m.title}, ${standingLine(standing)}, page `, PageNumber.CURRENT, ' of ', PageNumber.TOTAL_PAGES] })] })] }) },
        children,
      },
    ],
  });
  return new Uint8Array(await Packer.toBuffer(file));
}
