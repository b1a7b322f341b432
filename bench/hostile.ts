/** A record or a mail made to keep its reader busy. */
export interface Hostile {
  name: string;
  file: string;
  bytes: Buffer;
  /** whether it comes in as mail */
  mail: boolean;
}

/** Text of about so many characters, made of one piece said again and again. */
const again = (piece: string, size: number) => piece.repeat(Math.max(1, Math.ceil(size / piece.length)));
const clock = (i: number) => `${String(Math.floor(i / 3600)).padStart(2, '0')}:${String(Math.floor(i / 60) % 60).padStart(2, '0')}:${String(i % 60).padStart(2, '0')}`;
const lines = (line: (i: number) => string, size: number) => {
  const out: string[] = [];
  for (let i = 0, n = 0; n < size; i++) {
    out.push(line(i));
    n += out[i]!.length + 1;
  }
  return out.join('\n');
};

/** Pieces that come in rows: signs, spaces, half-begun marks. */
const ROWS = [
  '.',
  '#',
  '# ',
  '|',
  '| ',
  '-',
  '- ',
  '>',
  '> ',
  '*',
  '_',
  '=',
  '`',
  '~',
  ' ',
  '\t',
  ',',
  ';',
  ':',
  '?',
  '!',
  '(',
  ')',
  '[',
  ']',
  '](',
  '<',
  '<v.',
  '<v a>',
  '&',
  '&amp',
  '&#',
  '@',
  'a@',
  '/',
  '\\',
  '"',
  '’',
  '…',
  '—',
  '1',
  '1.',
  '1 ',
  '12:00 ',
  '12:00:00.000 --> ',
  '[ ] ',
  '[x] ',
  'a',
  'a ',
  'A',
  'I will ',
  'can you ',
  'by Friday ',
  'on 5 March ',
  'in two weeks ',
  'not ',
  'and ',
  'C-1 ',
  '\u0301',
  '\u200d',
  '😀',
  '\ud83d',
  '\u0000',
  'ß',
  '中',
  '{{',
  '{%',
  '$&',
  '%s',
  "'; --",
];

/** Hostile records in all the ways a record is written. */
export function hostileRecords(size: number): Hostile[] {
  const out: Hostile[] = [];
  const add = (name: string, file: string, text: string) => out.push({ name, file, bytes: Buffer.from(text), mail: false });
  for (const piece of ROWS) {
    add(`a line of ${JSON.stringify(piece)}`, 'a.txt', `Ines: ${again(piece, size)}`);
    add(`marked down ${JSON.stringify(piece)}`, 'a.md', again(piece, size));
  }
  add(
    'lines of a name',
    'a.txt',
    lines((i) => `Ines: I will do ${i} by Friday.`, size),
  );
  add(
    'lines of times',
    'a.txt',
    lines((i) => `[${clock(i)}] Ines: ok`, size),
  );
  add(
    'headings',
    'a.md',
    lines((i) => `${'#'.repeat((i % 6) + 1)} Decisions`, size),
  );
  add(
    'boxes',
    'a.md',
    lines((i) => `- [ ] Bram: bolt ${i} by 5 March`, size),
  );
  add(
    'a deep list',
    'a.md',
    lines((i) => `${'  '.repeat(Math.min(i, 400))}- item`, size),
  );
  add('a wide table', 'a.md', `| ${again('a | ', size / 3)}\n| ${again('- | ', size / 3)}\n| ${again('b | ', size / 3)}`);
  add('a table of many lines', 'a.md', `| what | who | when |\n|---|---|---|\n${lines((i) => `| bolt ${i} | Bram | 5 March |`, size)}`);
  add('cues', 'a.vtt', `WEBVTT\n\n${lines((i) => `${clock(i)}.000 --> ${clock(i + 1)}.000\n<v Ines>and then I will\n`, size)}`);
  add(
    'cues without blank lines',
    'a.srt',
    lines((i) => `${i}\n${clock(i)},000 --> ${clock(i + 1)},000\nok`, size),
  );
  add('one cue', 'a.vtt', `WEBVTT\n\n00:00:00.000 --> 00:00:01.000\n${again('<v Ines>a ', size)}`);
  add('voices within voices', 'a.vtt', `WEBVTT\n\n00:00:00.000 --> 00:00:01.000\n${again('<v Ines>', size)}`);
  add('deep JSON', 'a.json', `${again('[', size / 2)}${again(']', size / 2)}`);
  add('wide JSON', 'a.json', `[${lines((i) => `{"speaker":"Ines","text":"ok","start":${i}},`, size)}{}]`);
  add('deep tags', 'a.html', `${again('<div>', size)}words`);
  add('tags that never close', 'a.html', again('<p><b><i>', size));
  add('a page of entities', 'a.html', `<p>${again('&lt;&#x41;', size)}</p>`);
  add('attributes', 'a.html', `<p ${again('a="b" ', size)}>words</p>`);
  add('a mail thread', 'a.eml', `From: Ines <i@x.example>\nSubject: It\nDate: Thu, 5 Mar 2026 10:00:00 +0000\n\n${lines((i) => `${'>'.repeat((i % 40) + 1)} On Thu, 5 Mar 2026, Bram wrote:`, size)}`);
  return out;
}

/** Hostile mails to the address that answers come to. */
export function hostileMails(size: number): Hostile[] {
  const head = 'From: Bram <b@x.example>\r\nTo: answers@ottik.example\r\nSubject: Re: it\r\nMessage-ID: <m1@x.example>\r\n';
  const out: Hostile[] = [];
  const add = (name: string, text: string) => out.push({ name: `mail: ${name}`, file: 'a.eml', bytes: Buffer.from(text.replace(/\r?\n/g, '\r\n')), mail: true });
  for (const piece of ['.', '> ', '>', '-', '_', 'a', '1 ', ' ', 'From: ', 'a@', '1 done ', 'by 5 March ', '<', '&', ': ', 'wrote: ', 'On ']) add(`words of ${JSON.stringify(piece)}`, `${head}\r\n${again(piece, size)}`);
  add('a sender of dots', `From: ${again('.', size / 2)}\r\n${lines((i) => `X${i}: a`, size / 2)}\r\n\r\nwords`);
  add('headers of dots and header-like lines', `${head}\r\nFrom: ${again('.', size / 2)}\n${lines(() => 'To: a', size / 2)}`);
  add('quoted lines by turns', `${head}\r\n${lines((i) => (i % 2 ? '> quoted' : '1 done'), size)}`);
  add('deep quotations', `${head}\r\n${lines((i) => `${'>'.repeat((i % 60) + 1)} a`, size)}`);
  add('quotation heads', `${head}\r\n${lines(() => 'On Thu, 5 Mar 2026 at 10:00, Bram Osei <b@x.example> wrote:', size)}`);
  add('numbered answers', `${head}\r\n${lines((i) => `${(i % 90) + 1} by 5 March, sorry`, size)}`);
  add('many headers', `${head}${lines((i) => `X-Header-${i}: ${'a'.repeat(40)}`, size)}\r\n\r\nwords`);
  add('a folded header', `${head}X-Long: a${again('\r\n a', size)}\r\n\r\nwords`);
  add('many references', `${head}References: ${again('<a@x.example> ', size)}\r\n\r\nwords`);
  add('many readers', `${head}Cc: ${again('a@x.example, ', size)}z@x.example\r\n\r\nwords`);
  add('a deep page', `${head}Content-Type: text/html\r\n\r\n${again('<div>', size)}words`);
  add('nested parts', `${head}Content-Type: multipart/mixed; boundary=b0\r\n\r\n${lines((i) => `--b${i}\nContent-Type: multipart/mixed; boundary=b${i + 1}\n`, size)}`);
  add('parts', `${head}Content-Type: multipart/mixed; boundary=b\r\n\r\n${lines(() => '--b\nContent-Type: text/plain\n\na', size)}\n--b--`);
  add('an encoded subject', `From: Bram <b@x.example>\r\nSubject: ${again('=?utf-8?q?a?= ', size)}\r\n\r\nwords`);
  return out;
}
