/** Lower case without accents, the same length as the text that went in, so that positions can be compared. */
export function fold(text: string): string {
  let out = '';
  for (const ch of text) {
    const plain = FOLDED.get(ch) ?? (ch.codePointAt(0)! < 128 ? ch.toLowerCase() : ch.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase());
    out += plain.length === ch.length ? plain : ch.length === 1 ? plain.charAt(0) || ch : ch;
  }
  return out;
}

const FOLDED = new Map([
  ['ł', 'l'],
  ['Ł', 'l'],
  ['ø', 'o'],
  ['Ø', 'o'],
  ['đ', 'd'],
  ['Đ', 'd'],
  ['ß', 's'],
  ['’', "'"],
  ['‘', "'"],
  ['“', '"'],
  ['”', '"'],
]);
