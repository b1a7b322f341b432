import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { USUAL_LEGEND } from '../../../core/meetings/live/capture.ts';
import { isSpread, outcomeOf } from '../../../core/meetings/live/vote.ts';
import type { Workspace } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import { CODECS } from '../../store/codecs.ts';

/** A vote as somebody in the meeting sees it. */
export interface RoomVote {
  id: number;
  question: string;
  ideas: { text: string; votes: number }[];
  /** votes everybody has */
  each: number;
  /** how whoever looks has spread theirs */
  mine: number[];
  voters: number;
  closed: boolean;
}

const Idea = z.string().trim().min(1, 'needs words').max(200);

export const VoteChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('vote'), question: z.string().trim().min(2, 'needs words').max(300), ideas: z.array(Idea).min(2, 'needs at least two ideas').max(20), each: z.number().int().min(1).max(20) }),
  z.object({ do: z.literal('spread'), vote: z.number().int(), marks: z.array(z.number().int()).max(20) }),
  z.object({ do: z.literal('close vote'), vote: z.number().int() }),
]);
export type VoteChange = z.infer<typeof VoteChangeSchema>;

export async function votesOf(ws: Workspace, meeting: number): Promise<RoomVote[]> {
  const rows = await ws.db.selectFrom('votes').selectAll().where('meeting_id', '=', meeting).orderBy('id').execute();
  if (rows.length === 0) return [];
  const marks = (
    await ws.db
      .selectFrom('vote_marks')
      .selectAll()
      .where(
        'vote_id',
        'in',
        rows.map((r) => r.id),
      )
      .execute()
  ).map((m) => ({ ...m, marks: CODECS.numbers.read(m.marks) }));
  return rows.map((r) => {
    const own = marks.filter((m) => m.vote_id === r.id);
    const ideas = CODECS.lines.read(r.ideas);
    return {
      id: r.id,
      question: r.question,
      ideas: ideas.map((text, n) => ({ text, votes: own.reduce((sum, m) => sum + (m.marks[n] ?? 0), 0) })),
      each: r.each,
      mine: own.find((m) => m.person_id === ws.asker.person)?.marks ?? ideas.map(() => 0),
      voters: own.filter((m) => m.marks.some((n) => n > 0)).length,
      closed: r.closed_at !== null,
    };
  });
}

/** Begins a vote, spreads one's own votes, or closes it: what came of it becomes a line of the meeting. Gives that line, where there is one. */
export async function changeVote(ws: Workspace, meeting: number, change: VoteChange, now: Date): Promise<{ id: string; text: string } | null> {
  if (change.do === 'vote') {
    if (new Set(change.ideas.map((i) => i.toLowerCase())).size !== change.ideas.length) throw new Refusal('bad-input', 'Two of the ideas are the same.');
    if ((await votesOf(ws, meeting)).some((v) => !v.closed)) throw new Refusal('conflict', 'A vote is under way.', 'Close it first.');
    await ws.db
      .insertInto('votes')
      .values({ meeting_id: meeting, question: change.question, ideas: CODECS.lines.write(change.ideas), each: change.each, at: now.toISOString(), by_person: ws.asker.person })
      .execute();
    return null;
  }
  const vote = (await votesOf(ws, meeting)).find((v) => v.id === change.vote);
  if (!vote) throw new Refusal('not-found', 'There is no such vote.');
  if (vote.closed) throw new Refusal('conflict', 'This vote is closed.', 'What came of it stands among the lines.');
  if (change.do === 'spread') {
    if (!isSpread(change.marks, vote.ideas.length, vote.each)) throw new Refusal('bad-input', `Everybody has ${vote.each} ${vote.each === 1 ? 'vote' : 'votes'}.`);
    const marks = CODECS.numbers.write(change.marks);
    await ws.db
      .insertInto('vote_marks')
      .values({ vote_id: vote.id, person_id: ws.asker.person, marks })
      .onConflict((c) => c.columns(['vote_id', 'person_id']).doUpdateSet({ marks }))
      .execute();
    await ws.db
      .updateTable('votes')
      .set((eb) => ({ revision: eb('revision', '+', 1) }))
      .where('id', '=', vote.id)
      .execute();
    return null;
  }
  const { kind, words } = outcomeOf(
    vote.question,
    vote.ideas.map((i) => i.text),
    vote.ideas.map((i) => i.votes),
    vote.voters,
  );
  await ws.db
    .updateTable('votes')
    .set((eb) => ({ closed_at: now.toISOString(), revision: eb('revision', '+', 1) }))
    .where('id', '=', vote.id)
    .execute();
  return { id: randomUUID(), text: `${USUAL_LEGEND[kind]} ${words}` };
}
