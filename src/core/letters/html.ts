const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** Words with their addresses made into links; everything else is escaped. */
const inline = (text: string) =>
  text
    .split(/(https?:\/\/[^\s<>"]+[^\s<>".,;:!?)])/)
    .map((part, i) => (i % 2 ? `<a href="${escapeHtml(part)}" style="color:#1D4D3C">${escapeHtml(part.length > 60 ? `${part.slice(0, 57)}…` : part)}</a>` : escapeHtml(part)))
    .join('');

/** `- C-12  words`, `- words`, `1. C-12  words`: an item, with what stands out before it. */
const ITEM = /^(?:- (?:([CDQ]-\d{1,9})\s{1,8})?|(\d{1,3})\. (?:([CDQ]-\d{1,9})\s{1,8})?)(.*)$/;

function itemHtml(line: string): string {
  const [, ref, n, numberedRef, words] = ITEM.exec(line)!;
  const lead = n ? `${n}.${numberedRef ? ` ${numberedRef}` : ''}` : ref;
  if (!lead) return `<li style="margin:0 0 6px">${inline(words!)}</li>`;
  const width = n ? 72 : 56;
  return `<li style="margin:0 0 6px;padding-left:${width}px;text-indent:-${width}px"><b style="display:inline-block;width:${width}px;text-indent:0">${escapeHtml(lead)}</b>${inline(words!)}</li>`;
}

/**
 * The HTML part of a letter, from its plain part: blank lines part paragraphs, `- ` or `1. ` begins an item, a short
 * line right above a list is its heading. Every word is escaped; there is no markup in a letter but what is made here.
 */
export function letterHtml(body: string): string {
  const out: string[] = [];
  for (const block of body
    .replace(/\r\n?/g, '\n')
    .trim()
    .split(/\n{2,}/)) {
    const lines = block.split('\n').map((l) => l.trim());
    let list: string[] = [];
    let words: string[] = [];
    const flush = () => {
      if (words.length) out.push(`<p style="margin:0 0 12px">${words.join('<br>')}</p>`);
      if (list.length) out.push(`<ul style="margin:0 0 16px;padding:0;list-style:none">${list.join('')}</ul>`);
      words = [];
      list = [];
    };
    lines.forEach((line, i) => {
      if (ITEM.test(line)) {
        if (words.length) flush();
        list.push(itemHtml(line));
      } else {
        if (list.length) flush();
        words.push(ITEM.test(lines[i + 1] ?? '') && line.length < 60 ? `<b>${escapeHtml(line)}</b>` : inline(line));
      }
    });
    flush();
  }
  return `<!doctype html><html><head><meta charset="utf-8"></head><body style="margin:0;padding:24px;background:#ffffff;color:#15201B;font:16px/24px Georgia,serif"><div style="max-width:560px">${out.join('\n')}</div></body></html>`;
}
