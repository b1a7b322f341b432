export interface Span {
  from: number;
  to: number;
}

/** Abbreviations a full stop belongs to, so that no sentence ends there. */
const SHORT = /(?:^|[\s(])(?:Mr|Mrs|Ms|Dr|Prof|St|No|Nos|vs|etc|approx|incl|e\.g|i\.e|cf|pp?|Fig|[A-Z])\.$/;

/**
 * Sentences of a text as spans, in order, covering every word of it.
 * A sentence ends at `.`, `!`, `?` or `…` (with closing quotes or brackets) before white space and something that can
 * begin one. Text without any stop is one sentence; a sentence never has more than `longest` characters.
 */
export function sentencesOf(text: string, longest = 2000): Span[] {
  const spans: Span[] = [];
  let from = 0;
  const stop = /(?<![.!?…])[.!?…]+["'”’)\]]*(?=\s+["'“‘([]?[\p{Lu}\p{N}\p{Emoji_Presentation}@-]|\s*$)/gu;
  const push = (to: number) => {
    let a = from;
    while (a < to && /\s/.test(text[a]!)) a++;
    let b = to;
    while (b > a && /\s/.test(text[b - 1]!)) b--;
    while (b - a > longest) {
      const space = text.lastIndexOf(' ', a + longest);
      const cut = space > a ? space : a + longest;
      spans.push({ from: a, to: cut });
      a = space > a ? cut + 1 : cut;
    }
    if (b > a) spans.push({ from: a, to: b });
    from = to;
  };
  for (let m = stop.exec(text); m; m = stop.exec(text)) {
    const end = m.index + m[0].length;
    if (m[0].startsWith('.') && SHORT.test(text.slice(Math.max(0, m.index - 12), m.index + 1))) continue;
    push(end);
  }
  push(text.length);
  return spans;
}
