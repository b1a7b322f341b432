import type { IsoDate } from '../dates/calendar.ts';
import { speakingShares } from '../gist/speaking.ts';
import { timeOn } from '../gist/subject.ts';
import { topicsOf } from '../gist/topics.ts';
import type { Talk } from '../gist/turns.ts';
import { contentStems, wordsOf } from '../language/words.ts';

/** One meeting of a series with what was said in it. */
export interface TalkOf {
  meeting: number;
  on: IsoDate;
  talk: Talk;
}

/** Somebody or something over the meetings of a series. */
export interface Across {
  name: string;
  /** seconds in each meeting, in their order; null where they did not speak at all */
  seconds: (number | null)[];
  total: number;
}

export interface TalkMeasures {
  meetings: { id: number; on: IsoDate; estimated: boolean }[];
  /** who spoke for how long, the most first */
  speakers: Across[];
  /** what was spoken of for how long, the most first */
  subjects: Across[];
}

/** Most speakers and subjects that are told apart. */
const [SPEAKERS, SUBJECTS] = [10, 6];

/** Who spoke how long and what was spoken of, across the meetings of a series. Subjects are words that name topics of two meetings or more. */
export function talkMeasures(talks: readonly TalkOf[]): TalkMeasures {
  const speakers = new Map<string, (number | null)[]>();
  const named = new Map<string, { word: string; meetings: Set<number> }>();
  for (const [i, t] of talks.entries()) {
    for (const s of speakingShares(t.talk)) {
      const row =
        speakers.get(s.voice) ??
        speakers
          .set(
            s.voice,
            Array.from({ length: talks.length }, () => null),
          )
          .get(s.voice)!;
      row[i] = s.seconds;
    }
    for (const topic of topicsOf(t.talk))
      for (const word of wordsOf(topic.title)) {
        const [stem] = contentStems([word]);
        if (stem === undefined) continue;
        const known = named.get(stem) ?? named.set(stem, { word, meetings: new Set() }).get(stem)!;
        known.meetings.add(i);
      }
  }
  const across = (name: string, seconds: (number | null)[]): Across => ({ name, seconds, total: seconds.reduce<number>((sum, s) => sum + (s ?? 0), 0) });
  const most = (rows: Across[], n: number) => rows.sort((a, b) => b.total - a.total || (a.name < b.name ? -1 : 1)).slice(0, n);
  const subjects = [...named.values()]
    .filter((n) => n.meetings.size > 1 || talks.length === 1)
    .map((n) =>
      across(
        n.word,
        talks.map((t) => timeOn(t.talk, n.word).seconds || null),
      ),
    );
  return {
    meetings: talks.map((t) => ({ id: t.meeting, on: t.on, estimated: t.talk.times === 'estimated' })),
    speakers: most(
      [...speakers].map(([name, seconds]) => across(name, seconds)),
      SPEAKERS,
    ),
    subjects: most(subjects, SUBJECTS),
  };
}
