import { Roster } from '../../language/people.ts';
import { contentStems, wordsOf } from '../../language/words.ts';
import { type Asking, type Part, shownIn } from '../../sift/model/question.ts';
import { locate } from '../../sift/model/quoting.ts';
import { type GistAnswer, GistAnswerSchema } from './question.ts';
import { holds } from './support.ts';

/** A sentence of a model, and the segments it rests on. */
export interface Supported {
  text: string;
  segments: number[];
}

/** What is left of what a model told of a record. */
export interface ModelGist {
  summary: Record<'brief' | 'usual' | 'everything', Supported[]>;
  topics: { name: string; from: number; to: number }[];
  ideas: (Supported & { sides: { side: 'for' | 'against'; segment: number; from: number; to: number }[] })[];
  risks: (Supported & { kind: 'risk' | 'blocker' })[];
  /** sentences that were left out, for want of support */
  dropped: number;
}

/**
 * What is left of a model's answer about a part once every sentence is held against its segments: they exist, most of its
 * words of matter and all of its numbers stand in them, whoever it names speaks or is named there, and the sentence of the
 * record that is nearest to it is not turned by a “not” that it lacks, nor it by one that is not there.
 * @returns null where it is no answer
 */
export function checkedGist(given: unknown, asking: Asking, part: Part): ModelGist | null {
  const read = GistAnswerSchema.partial().safeParse(given);
  if (!read.success || Object.keys(read.data).length === 0) return null;
  const answer: Partial<GistAnswer> = read.data;
  const at = new Map(part.segments.map((s) => [s.index, s]));
  const shown = new Map(shownIn(part, asking.names).map((s) => [s.segment, s]));
  const roster = new Roster(asking.input.people, new Set(asking.input.meeting.present));
  let dropped = 0;

  const supported = (given: { text: string; segments: number[] }): Supported | null => {
    const text = asking.names.back(given.text).replace(/\s+/g, ' ').trim();
    const segments = [...new Set(given.segments)].sort((a, b) => a - b);
    const said = segments.map((n) => at.get(n));
    if (
      text &&
      segments.length > 0 &&
      said.every((s) => s !== undefined) &&
      holds(
        text,
        said.map((s) => ({ voice: s.voice, text: s.text })),
        roster,
      )
    )
      return { text, segments };
    dropped++;
    return null;
  };
  const all = (some: readonly { text: string; segments: number[] }[] | undefined) => (some ?? []).flatMap((s) => supported(s) ?? []);

  return {
    summary: { brief: all(answer.brief), usual: all(answer.usual), everything: all(answer.everything) },
    topics: (answer.topics ?? []).flatMap(({ name, from, to }) => {
      const said = new Set(
        contentStems(
          wordsOf(
            part.segments
              .filter((s) => s.index >= from && s.index <= to)
              .map((s) => s.text)
              .join(' '),
          ),
        ),
      );
      const own = contentStems(wordsOf(asking.names.back(name)));
      if (at.has(from) && at.has(to) && from <= to && own.length > 0 && own.every((s) => said.has(s))) return [{ name: asking.names.back(name).trim(), from, to }];
      dropped++;
      return [];
    }),
    ideas: (answer.ideas ?? []).flatMap((idea) => {
      const held = supported(idea);
      if (!held) return [];
      const sides = idea.sides.flatMap(({ side, segment, words }) => {
        const there = shown.get(segment);
        const [span] = there ? (locate(words, [there]) ?? []) : [];
        if (span) return [{ side, segment, from: span.from, to: span.to }];
        dropped++;
        return [];
      });
      return sides.length ? [{ ...held, sides }] : [];
    }),
    risks: (answer.risks ?? []).flatMap((r) => {
      const held = supported(r);
      return held ? [{ ...held, kind: r.kind }] : [];
    }),
    dropped,
  };
}

/** The gists of a record's parts as one. */
export function togetherInOne(parts: readonly ModelGist[]): ModelGist {
  const of = <K extends 'brief' | 'usual' | 'everything'>(k: K) => parts.flatMap((p) => p.summary[k]);
  const seen = new Set<number>();
  return {
    summary: { brief: of('brief'), usual: of('usual'), everything: of('everything') },
    topics: parts.flatMap((p) => p.topics).filter((t) => !seen.has(t.from) && seen.add(t.from)),
    ideas: parts.flatMap((p) => p.ideas),
    risks: parts.flatMap((p) => p.risks),
    dropped: parts.reduce((n, p) => n + p.dropped, 0),
  };
}
