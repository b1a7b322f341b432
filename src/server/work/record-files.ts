import { simpleParser } from 'mailparser';
import mammoth from 'mammoth';
import yauzl from 'yauzl';
import { senderDay } from '../../core/dates/moments.ts';
import { decodeRecord, LARGEST_RECORD } from '../../core/record/decode.ts';
import { linesOfHtml, readHtml } from '../../core/record/hypertext.ts';
import { readMail } from '../../core/record/mail.ts';
import { type MeetingRecord, RecordError, type RecordFormat } from '../../core/record/model.ts';
import { guessFormat, normaliseText, readRecord, withVoices } from '../../core/record/read.ts';

/** Most that a Word file may unpack to, in bytes; the words of a day are a small part of it. */
const LARGEST_UNPACKED = 120 * 1024 * 1024;
const MOST_PARTS = 4_000;

export interface RecordFile {
  record: MeetingRecord;
  encoding: string;
}

/**
 * Reads a record of any kind that is brought in: text formats, Word, mail.
 *
 * @param format what it is known to be, or null to tell it by name and look
 * @param as     for plain text: the layout it is said to have
 * @throws RecordError that says what is wrong with the file and what to do
 */
export async function readRecordFile(bytes: Uint8Array, fileName: string | null, format: RecordFormat | null = null, as: string | null = null): Promise<RecordFile> {
  if (bytes.length > LARGEST_RECORD) decodeRecord(bytes);
  const kind = format ?? guessKind(bytes, fileName);
  if (kind === 'docx') return { record: withVoices(readHtml(await htmlOfWord(bytes), 'docx')), encoding: 'docx' };
  if (kind === 'eml') return { record: withVoices(await mailRecord(bytes)), encoding: 'eml' };
  const { text, encoding } = decodeRecord(bytes);
  const body = normaliseText(text);
  return { record: readRecord(body, kind ?? (as === null ? guessFormat(body, fileName) : 'txt'), as), encoding };
}

const starts = (bytes: Uint8Array, ...head: number[]) => head.every((b, i) => bytes[i] === b);

/** Word and mail by their first bytes and names; null for text, which is told by its words. */
function guessKind(bytes: Uint8Array, fileName: string | null): RecordFormat | null {
  if (starts(bytes, 0xd0, 0xcf, 0x11, 0xe0)) throw new RecordError('This Word file is locked with a password, or of the old kind (.doc).', 'Open it, take the password off, and save it as .docx.');
  if (starts(bytes, 0x50, 0x4b, 0x03, 0x04)) return 'docx';
  if (starts(bytes, 0x25, 0x50, 0x44, 0x46)) throw new RecordError('This is a PDF, which keeps the look of words and not their order.', 'Bring in the file it was made from, or paste its text.');
  if (/\.docx$/i.test(fileName ?? '')) throw new RecordError('This file is named .docx and is none.', 'Choose the file again; it may be broken.');
  return /\.eml$/i.test(fileName ?? '') ? 'eml' : null;
}

async function htmlOfWord(bytes: Uint8Array): Promise<string> {
  await mustUnpack(bytes);
  try {
    const { value } = await mammoth.convertToHtml({ buffer: Buffer.from(bytes) }, { ignoreEmptyParagraphs: true, convertImage: mammoth.images.imgElement(async () => ({ src: '' })) });
    if (value.trim() === '') throw new RecordError('This Word file has no words in it.', 'Choose the file again, or paste its text.');
    return value;
  } catch (error) {
    if (error instanceof RecordError) throw error;
    throw new RecordError('This Word file is broken and cannot be read.', 'Open it and save it once more, or paste its text.');
  }
}

/** Unpacks a file into nowhere and counts, so that one that swells without end is refused before it is read. */
function mustUnpack(bytes: Uint8Array): Promise<void> {
  const broken = () => new RecordError('This file is packed like a Word file, and cannot be unpacked.', 'Open it and save it once more, or paste its text.');
  return new Promise((resolve, reject) => {
    yauzl.fromBuffer(Buffer.from(bytes), { lazyEntries: true }, (opening, zip) => {
      if (opening || !zip) return reject(broken());
      let unpacked = 0;
      let parts = 0;
      let word = false;
      const stop = (error: RecordError) => {
        zip.close();
        reject(error);
      };
      zip.on('error', () => stop(broken()));
      zip.on('end', () => (word ? resolve() : reject(new RecordError('This packed file is not a Word file.', 'Unpack it and bring in the record inside.'))));
      zip.on('entry', (entry: yauzl.Entry) => {
        word ||= entry.fileName === 'word/document.xml';
        if (++parts > MOST_PARTS) return stop(tooLarge());
        if (entry.isEncrypted()) return stop(new RecordError('This Word file is locked with a password.', 'Take the password off and bring it in again.'));
        zip.openReadStream(entry, (unreadable, stream) => {
          if (unreadable || !stream) return stop(broken());
          stream.on('data', (chunk: Buffer) => {
            unpacked += chunk.length;
            if (unpacked > LARGEST_UNPACKED) {
              stream.destroy();
              stop(tooLarge());
            }
          });
          stream.on('error', () => stop(broken()));
          stream.on('end', () => zip.readEntry());
        });
      });
      zip.readEntry();
    });
  });
}

const tooLarge = () => new RecordError('This Word file unpacks to more than any record has.', 'Paste the text of the meeting alone.');

async function mailRecord(bytes: Uint8Array): Promise<MeetingRecord> {
  const mail = await simpleParser(Buffer.from(bytes), { skipImageLinks: true, skipTextLinks: true, maxHtmlLengthToParse: 4_000_000 });
  const text = mail.text?.trim() ? mail.text : mail.html ? linesOfHtml(mail.html) : '';
  if (text.trim() === '') throw new RecordError('This mail has no words in it.', 'If they are in an attachment, bring that in.');
  const from = mail.from?.value[0];
  const dated = mail.headerLines.findLast((h) => h.key === 'date')?.line;
  return readMail({ from: from?.name || from?.address || null, sent: senderDay(dated?.slice(dated.indexOf(':') + 1)) ?? mail.date?.toISOString() ?? null, subject: mail.subject ?? '', text: normaliseText(text) });
}
