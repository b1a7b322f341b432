import { deflateRawSync } from 'node:zlib';
import { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow } from 'docx';
import { describe, expect, it } from 'vitest';
import { RecordError } from '../../src/core/record/model.ts';
import { readRecordFile } from '../../src/server/work/record-files.ts';
import { bytes } from './world.ts';

const word = async (children: (Paragraph | Table)[]) => new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children }] })));
const refused = async (file: Uint8Array, name: string | null) => {
  try {
    await readRecordFile(file, name);
  } catch (error) {
    expect(error).toBeInstanceOf(RecordError);
    return `${(error as RecordError).message} ${(error as RecordError).advice}`;
  }
  return 'was read';
};

/** A packed file of one part, made by hand (APPNOTE 6.3.10, sections 4.3.7, 4.3.12 and 4.3.16). */
function packed(name: string, content: Uint8Array, flags = 0): Uint8Array {
  const data = deflateRawSync(content);
  const n = Buffer.from(name);
  const local = Buffer.alloc(30);
  local.writeUInt32LE(0x04034b50, 0);
  local.writeUInt16LE(flags, 6);
  local.writeUInt16LE(8, 8);
  local.writeUInt32LE(data.length, 18);
  local.writeUInt32LE(content.length, 22);
  local.writeUInt16LE(n.length, 26);
  const central = Buffer.alloc(46);
  central.writeUInt32LE(0x02014b50, 0);
  central.writeUInt16LE(flags, 8);
  central.writeUInt16LE(8, 10);
  central.writeUInt32LE(data.length, 20);
  central.writeUInt32LE(content.length, 24);
  central.writeUInt16LE(n.length, 28);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(46 + n.length, 12);
  end.writeUInt32LE(30 + n.length + data.length, 16);
  return new Uint8Array(Buffer.concat([local, n, data, central, n, end]));
}

describe('Word', () => {
  it('notes keep headings, lists and rows', async () => {
    const row = (...cells: string[]) => new TableRow({ children: cells.map((c) => new TableCell({ children: [new Paragraph(c)] })) });
    const { record } = await readRecordFile(await word([new Paragraph({ text: 'Actions', heading: HeadingLevel.HEADING_1 }), new Paragraph({ text: 'Bram sends the weights by Friday', bullet: { level: 0 } }), new Table({ rows: [row('Who', 'What'), row('Jonas', 'the trunk')] })]), 'notes.docx');
    expect(record.format).toBe('docx');
    expect(record.segments[0]).toMatchObject({ role: 'heading', text: 'Actions' });
    expect(record.segments[1]).toMatchObject({ text: 'Bram sends the weights by Friday', section: 'Actions' });
    expect(record.segments.some((s) => s.item?.cells?.join() === 'Jonas,the trunk')).toBe(true);
  });
  it('transcripts keep their speakers', async () => {
    const { record } = await readRecordFile(await word(['Ines: the weights?', 'Bram: signed.', 'Ines: good'].map((t) => new Paragraph(t))), null);
    expect(record.voices).toEqual(['Ines', 'Bram']);
  });
  it('is read again from its bytes the same way', async () => {
    const file = await word([new Paragraph('Ines: a'), new Paragraph('Bram: b'), new Paragraph('Ines: c')]);
    expect((await readRecordFile(file, null, 'docx')).record).toEqual((await readRecordFile(file, 'x.docx')).record);
  });
  it.each([
    ['locked or old', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]), 'x.docx', 'locked with a password'],
    ['locked inside', packed('word/document.xml', bytes('x'), 1), 'x.docx', 'locked with a password'],
    ['no packed file', bytes('hello'), 'x.docx', 'named .docx and is none'],
    ['broken', new Uint8Array([0x50, 0x4b, 0x03, 0x04, 1, 2, 3]), 'x.docx', 'cannot be unpacked'],
    ['packed, but not Word', packed('notes.txt', bytes('hello')), 'x.docx', 'not a Word file'],
    ['Word by name alone', packed('word/document.xml', bytes('no xml')), 'x.docx', 'broken'],
    ['swelling without end', packed('word/document.xml', new Uint8Array(130 * 1024 * 1024)), 'x.docx', 'unpacks to more'],
    ['a PDF', bytes('%PDF-1.7'), 'x.pdf', 'This is a PDF'],
  ])('%s is refused with what to do', async (_, file, name, words) => {
    expect(await refused(file, name)).toContain(words);
  });
  it('without words is refused', async () => {
    expect(await refused(await word([new Paragraph('')]), 'x.docx')).toContain('no words');
  });
});

describe('mail files', () => {
  /** Shapes of RFC 5322 appendix A.1.1 and A.2, RFC 2045 sections 6.7 and 6.8, RFC 2047 section 8. */
  it('are read with headers, codings and parts as the standards have them', async () => {
    const { record } = await readRecordFile(bytes('From: John Doe <jdoe@machine.example>\r\nTo: Mary Smith <mary@example.net>\r\nSubject: Saying Hello\r\nDate: Fri, 21 Nov 1997 09:55:06 -0600\r\nMessage-ID: <1234@local.machine.example>\r\n\r\nThis is a message just to say hello.\r\nSo, "Hello".\r\n'), 'hello.eml');
    expect(record.segments.map((s) => s.text)).toEqual(['Subject: Saying Hello', 'Date: 1997-11-21', 'This is a message just to say hello. So, "Hello".']);
    expect(record.voices).toEqual(['John Doe']);
  });
  it('in other character sets and codings', async () => {
    const { record } = await readRecordFile(
      bytes(
        'From: =?ISO-8859-1?Q?Keld_J=F8rn_Simonsen?= <keld@dkuug.example>\r\nSubject: =?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?=\r\n =?ISO-8859-2?B?dSB1bmRlcnN0YW5kIHRoZSBleGFtcGxlLg==?=\r\nContent-Type: text/plain; charset=iso-8859-1\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\nDie Gew=E4chte sind unterschrieben.\r\n',
      ),
      'x.eml',
    );
    expect(record.segments[0]!.text).toBe('Subject: If you can read this you understand the example.');
    expect(record.voices).toEqual(['Keld Jørn Simonsen']);
    expect(record.segments.at(-1)!.text).toBe('Die Gewächte sind unterschrieben.');
  });
  it('of HTML alone, and of nested parts', async () => {
    const nested =
      'From: a@x.example\r\nSubject: s\r\nContent-Type: multipart/mixed; boundary=o\r\n\r\n--o\r\nContent-Type: multipart/alternative; boundary=i\r\n\r\n--i\r\nContent-Type: text/html; charset=utf-8\r\n\r\n<p>Bram sends the <b>weights</b>.</p><script>x</script>\r\n--i--\r\n--o\r\nContent-Type: image/png\r\nContent-Transfer-Encoding: base64\r\n\r\niVBORw0KGgo=\r\n--o--\r\n';
    expect((await readRecordFile(bytes(nested), 'x.eml')).record.segments.at(-1)!.text).toBe('Bram sends the weights.');
  });
  it('without words are refused', async () => {
    expect(await refused(bytes('From: a@x.example\r\nSubject: s\r\n\r\n'), 'x.eml')).toContain('no words');
  });
});

describe('a file of any size', () => {
  it('is refused before it is read when it is larger than a record can be', async () => {
    expect(await refused(new Uint8Array(21 * 1024 * 1024), 'x.docx')).toContain('21.0 MB');
  });
});
