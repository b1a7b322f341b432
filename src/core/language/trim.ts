/**
 * Marks and white space off the ends of a text, in one pass. An expression such as `[.\s]+$` looks from every mark in the text
 * whether the end follows, which takes a long row of marks the square of its length.
 */

const isOne = (c: string, marks: string) => marks.includes(c) || c.trim() === '';

/** Without white space and the given marks at the end. */
export function trimEnd(text: string, marks: string): string {
  let end = text.length;
  while (end > 0 && isOne(text[end - 1]!, marks)) end--;
  return text.slice(0, end);
}

/** The beginning of a text up to the last word that ends within so many characters. */
export function cutAtWord(text: string, most: number): string {
  if (text.length <= most) return text;
  const end = text.lastIndexOf(' ', most);
  return text.slice(0, end > 0 ? end : most);
}

/** Without white space and the given marks at both ends. */
export function trimMarks(text: string, marks: string): string {
  const ended = trimEnd(text, marks);
  let from = 0;
  while (from < ended.length && isOne(ended[from]!, marks)) from++;
  return ended.slice(from);
}
