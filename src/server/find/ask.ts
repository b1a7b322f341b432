import type { Answer } from '../../core/ask/answer.ts';
import type { Source } from '../../core/ask/on-record.ts';
import { type Question, readQuestion } from '../../core/ask/question.ts';
import { answerTo } from '../../core/ask/reply.ts';
import { Roster } from '../../core/language/people.ts';
import { cutAtWord } from '../../core/language/trim.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';
import { CODECS } from '../store/codecs.ts';
import { spokenRecord } from '../store/segments.ts';
import { freshen } from './index.ts';
import { onRecord } from './on-record.ts';

/** A question with its answer, as it is shown. */
export interface Asked {
  question: Question;
  /** name of the person it asks of */
  who: string | null;
  answer: Answer;
  meant: { typed: string; taken: string }[];
}

/** Everybody whoever asks may know of, by every way they are spoken of. */
export async function rosterOf(ws: Workspace): Promise<Roster> {
  const rows = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name', 'p.aliases', 'p.role', 'p.mail']).distinct().where('m.project_id', 'in', visible(ws)).execute();
  return new Roster(rows.map((r) => ({ ...r, aliases: CODECS.aliases.read(r.aliases) })));
}

/**
 * Answers a plain question from what is on record.
 * @returns null for words that ask nothing; `unread` for a question that is not understood
 */
export async function ask(ws: Workspace, text: string): Promise<Asked | 'unread' | null> {
  const roster = await rosterOf(ws);
  const read = readQuestion(text, { today: ws.today, me: ws.asker.person, roster });
  if (read === null || read === 'unread') return read;
  await freshen(ws.db);
  const { record, question, meant } = await onRecord(ws, read);
  const answer = answerTo(question, record);
  return { question, who: question.who === null ? null : (record.names.get(question.who) ?? null), answer: { ...answer, sources: await quoted(ws, answer.sources) }, meant };
}

/** Longest quote of one source, in characters. */
const LONGEST = 420;

/** The words of the sources an answer rests on, which are read only now that it is known which they are. */
export async function quoted(ws: Workspace, sources: readonly Source[]): Promise<Source[]> {
  const people = await ws.db.selectFrom('people').select(['id', 'name']).execute();
  const authors = await authorsOf(
    ws,
    sources.flatMap((s) => (s.place ? [s.place.record] : [])),
  );
  return Promise.all(
    sources.map(async (s) => {
      if (!s.place) return { ...s, words: cut(s.words) };
      const segment = (await spokenRecord(ws.db, s.place.record, people)).segments[s.place.segment];
      if (!segment) return s;
      return { ...s, words: cut(segment.text.slice(s.place.from, s.place.to).trim() || segment.text), who: segment.voice ?? authors.get(s.place.record) ?? null, at: segment.start };
    }),
  );
}

/** Whoever wrote the notes of some records down: their lines are theirs where no other name stands. */
async function authorsOf(ws: Workspace, records: readonly number[]): Promise<Map<number, string>> {
  if (records.length === 0) return new Map();
  const rows = await ws.db
    .selectFrom('records as r')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .innerJoin('people as p', 'p.id', 'm.author_id')
    .select(['r.id', 'p.name'])
    .where('r.id', 'in', [...new Set(records)])
    .execute();
  return new Map(rows.map((r) => [r.id, r.name]));
}

const cut = (words: string) => (words.length <= LONGEST ? words : `${cutAtWord(words, LONGEST)} …`);
