import type { Person } from '../language/people.ts';
import type { MeetingRecord } from '../record/model.ts';
import { type MoodPart, moodOf } from './mood.ts';
import { type Named, namedIn } from './named.ts';
import { type Overlap, overlaps, type Share, speakingShares } from './speaking.ts';
import { type Idea, ideasOf } from './stances.ts';
import { type SummaryLength, type SummaryLine, summaryOf, type Weighty } from './summary.ts';
import { type Topic, topicsOf } from './topics.ts';
import { type Trouble, troublesOf } from './troubles.ts';
import { type Talk, turnsOf } from './turns.ts';

/** What a record tells besides its finds. */
export interface Gist {
  /** seconds, and whether the record says so itself */
  length: number;
  times: Talk['times'];
  topics: Topic[];
  shares: Share[];
  overlaps: Overlap[];
  summary: Record<SummaryLength, SummaryLine[]>;
  ideas: Idea[];
  troubles: Trouble[];
  mood: MoodPart[];
  named: Named[];
}

/**
 * Everything at once, for a whole record or (see `soFar`) the part of one.
 * @param found places where Sift found something, so that the summary does not leave them out
 */
export function gistOf(record: MeetingRecord, people: readonly Person[], found: readonly Weighty[]): Gist {
  const talk = turnsOf(record);
  const topics = topicsOf(talk);
  return {
    length: talk.length,
    times: talk.times,
    topics,
    shares: speakingShares(talk),
    overlaps: overlaps(talk),
    summary: {
      brief: summaryOf(talk, topics, found, 'brief'),
      usual: summaryOf(talk, topics, found, 'usual'),
      everything: summaryOf(talk, topics, found, 'everything'),
    },
    ideas: ideasOf(talk),
    troubles: troublesOf(talk),
    mood: moodOf(talk, topics),
    named: namedIn(talk, people),
  };
}
