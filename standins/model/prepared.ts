/** One find of a careful reader, told by the words it rests on: which segments these are is looked up in what is asked. */
export interface Prepared {
  kind: 'action' | 'decision' | 'question' | 'update';
  title?: string;
  /** the first one states it; without that in a part there is no find in it */
  quotes: readonly string[];
  owner?: readonly string[];
  ownerWords?: string | null;
  dateWords?: string | null;
  /** words of the open commitment that an update is about */
  of?: string;
  news?: string;
}

/** The message Ottik asks with, as far as the stand-in reads it. */
export interface Message {
  open: { id: string; text: string }[];
  segments: { n: number; who: string | null; said: string }[];
}

/** Words of a quotation that must stand in a segment for it to be the one, where names went out under others. */
const ENOUGH = 0.75;
const words = (text: string) => new Set(text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []);
const share = (a: Set<string>, b: Set<string>) => [...a].filter((w) => b.has(w)).length / Math.max(1, a.size);

/** Letters and digits alone, so that marks and case make no difference. */
const letters = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** Looks a quotation up in what is asked, also over two segments; where names went out under others, the segment that has most of its words. */
function finder({ segments }: Message) {
  const said = segments.map((s) => letters(s.said));
  return (quote: string): { segments: number[]; words: string } | null => {
    const wanted = letters(quote);
    const one = said.findIndex((s) => s.includes(wanted));
    if (one >= 0) return { segments: [segments[one]!.n], words: quote };
    const two = said.findIndex((s, k) => (s + (said[k + 1] ?? '')).includes(wanted));
    if (two >= 0) return { segments: segments.slice(two, two + 2).map((s) => s.n), words: quote };
    const best = [...segments].sort((a, b) => share(words(quote), words(b.said)) - share(words(quote), words(a.said)))[0];
    return best && share(words(quote), words(best.said)) >= ENOUGH ? { segments: [best.n], words: best.said } : null;
  };
}

/** What a careful reader answers to a message, of what was prepared; nothing where nothing was. */
export function prepared(all: readonly Prepared[], message: Message) {
  const answer = { actions: [] as object[], decisions: [] as object[], questions: [] as object[], updates: [] as object[] };
  const { open, segments } = message;
  const find = finder(message);
  for (const p of all) {
    const [stated, ...rest] = p.quotes.map(find);
    if (!stated) continue;
    const at = [...new Set([stated, ...rest].flatMap((q) => q?.segments ?? []))].sort((a, b) => a - b);
    const said = { segments: at, words: stated.words };
    const owned = { owner: p.owner ?? [], ownerWords: p.ownerWords ?? null };
    const dateWords = p.dateWords && segments.some((s) => at.includes(s.n) && letters(s.said).includes(letters(p.dateWords!))) ? p.dateWords : null;
    if (p.kind === 'update') {
      const [one] = [...open].sort((a, b) => share(words(p.of ?? ''), words(b.text)) - share(words(p.of ?? ''), words(a.text)));
      if (one && share(words(p.of ?? ''), words(one.text)) >= ENOUGH) answer.updates.push({ commitment: one.id, kind: p.news, ...said, ...owned, dateWords });
    } else if (p.kind === 'action') answer.actions.push({ title: p.title, ...said, ...owned, dateWords });
    else answer[`${p.kind}s`].push({ title: p.title, ...said });
  }
  return answer;
}

/** A sentence and the words of the record it rests on. */
interface Told {
  text: string;
  quotes: readonly string[];
}

/** What a careful reader tells of a record besides its finds. */
export interface PreparedGist {
  brief: readonly Told[];
  usual: readonly Told[];
  topics: readonly { name: string; from: string; to: string }[];
  ideas: readonly (Told & { sides: readonly { side: 'for' | 'against'; quote: string }[] })[];
  risks: readonly (Told & { kind: 'risk' | 'blocker' })[];
}

/** What is told of a message's record, where something was prepared for it. */
export function preparedGist(all: readonly PreparedGist[], message: Message) {
  const find = finder(message);
  const told = (some: readonly Told[]) =>
    some.flatMap(({ text, quotes }) => {
      const segments = quotes.flatMap((q) => find(q)?.segments ?? []);
      return segments.length ? [{ text, segments }] : [];
    });
  const one = all.find((g) => told(g.brief).length > 0);
  if (!one) return { brief: [], usual: [], everything: [], topics: [], ideas: [], risks: [] };
  return {
    brief: told(one.brief),
    usual: told(one.usual),
    everything: told(one.usual),
    topics: one.topics.flatMap(({ name, from, to }) => {
      const [a, b] = [find(from), find(to)];
      return a && b ? [{ name, from: a.segments[0], to: b.segments[0] }] : [];
    }),
    ideas: one.ideas.flatMap((i) => told([i]).map((t) => ({ ...t, sides: i.sides.flatMap(({ side, quote }) => (find(quote) ? [{ side, segment: find(quote)!.segments[0], words: quote }] : [])) }))),
    risks: one.risks.flatMap((r) => told([r]).map((t) => ({ ...t, kind: r.kind }))),
  };
}
