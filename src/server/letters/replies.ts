import { z } from 'zod';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { type CommitmentState, isOpen } from '../../core/ledger/state.ts';
import type { Answer, AnswerKind } from '../../core/letters/replies/read-reply.ts';
import { type NewEvent, recordEvent, undoEvent } from '../ledger/commitments.ts';
import { resolveOwners } from '../people/owners.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';

/** What was read from an answer, with the commitment as it stands now. */
export interface KeptAnswer extends Answer {
  id: number;
  ref: string | null;
  text: string;
  was: { due: string | null; owner: string[]; state: CommitmentState } | null;
  verdict: 'open' | 'taken' | 'passed' | 'replaced';
  byItself: boolean;
}

/** Something that came back. */
export interface Reply {
  id: number;
  letter: number | null;
  letterSubject: string;
  person: string | null;
  from: string;
  subject: string;
  words: string;
  receivedAt: string;
  how: 'mail' | 'page';
  nature: 'answer' | 'away' | 'automatic' | 'bounce' | 'unmatched' | 'put away';
  /** the address it came from, as its writer's program wrote it */
  address: string;
  verified: boolean;
  note: string | null;
  answers: KeptAnswer[];
  /** letters it was answered with, oldest first */
  answeredBy: { letter: number; on: string; text: string }[];
}

const ANSWER_KINDS = ['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress', 'confirmed', 'declined', 'question', 'remark'] as const satisfies readonly AnswerKind[];

/** What came back to a project, newest first. */
export async function repliesOf(ws: Workspace, project: string, where: { letter?: number; id?: number; limit?: number /** instead of the project's, or beside it: mail that belongs to no project */; strays?: boolean | 'too' } = {}): Promise<Reply[]> {
  mustSee(ws, project, 'project');
  let query = ws.db
    .selectFrom('replies as r')
    .leftJoin('letter_recipients as lr', 'lr.id', 'r.recipient_id')
    .leftJoin('letters as l', 'l.id', 'lr.letter_id')
    .leftJoin('people as p', 'p.id', 'r.person_id')
    .select(['r.id', 'r.from_address', 'r.subject', 'r.words', 'r.received_at', 'r.how', 'r.nature', 'r.verified', 'r.note', 'r.person_id', 'p.name', 'l.id as letter', 'l.subject as letter_subject'])
    .where((eb) => {
      const [own, stray] = [eb('r.project_id', '=', project), eb.and([eb('r.project_id', 'is', null), eb('r.nature', '=', 'unmatched')])];
      return where.strays === 'too' ? eb.or([own, stray]) : where.strays ? stray : own;
    });
  if (where.letter !== undefined) query = query.where('l.id', '=', where.letter);
  if (where.id !== undefined) query = query.where('r.id', '=', where.id);
  const rows = await query
    .orderBy('r.received_at', 'desc')
    .orderBy('r.id', 'desc')
    .limit(where.limit ?? 100)
    .execute();
  const ids = rows.map((r) => r.id);
  const answers = ids.length
    ? await ws.db
        .selectFrom('answers as a')
        .leftJoin('commitments as c', 'c.id', 'a.commitment_id')
        .select(['a.id', 'a.reply_id', 'a.data', 'a.verdict', 'a.by_itself', 'c.id as commitment', 'c.number', 'c.text', 'c.due', 'c.state'])
        .where('a.reply_id', 'in', ids)
        .where('a.verdict', '!=', 'replaced')
        .orderBy('a.id')
        .execute()
    : [];
  const commitments = [...new Set(answers.flatMap((a) => (a.commitment === null ? [] : [a.commitment])))];
  const owners = commitments.length ? await ws.db.selectFrom('commitment_owners').selectAll().where('commitment_id', 'in', commitments).execute() : [];
  const back = ids.length ? await ws.db.selectFrom('letters').select(['id', 'reply_id', 'body', 'created_at']).where('reply_id', 'in', ids).where('state', '!=', 'withdrawn').orderBy('id').execute() : [];
  return rows.map((r) => ({
    id: r.id,
    letter: r.letter,
    letterSubject: r.letter_subject ?? '',
    person: r.person_id,
    from: r.name ?? r.from_address,
    address: r.from_address,
    subject: r.subject,
    words: r.words,
    receivedAt: r.received_at,
    how: r.how,
    nature: r.nature,
    verified: r.verified === 1,
    note: r.note,
    answers: answers
      .filter((a) => a.reply_id === r.id)
      .map((a) => ({
        ...CODECS.answer.read(a.data),
        id: a.id,
        ref: a.number === null ? null : `C-${a.number}`,
        text: a.text ?? '',
        was: a.state === null ? null : { due: a.due, owner: owners.filter((o) => o.commitment_id === a.commitment).map((o) => o.person_id), state: a.state as CommitmentState },
        verdict: a.verdict,
        byItself: a.by_itself === 1,
      })),
    answeredBy: back.filter((l) => l.reply_id === r.id).map((l) => ({ letter: l.id, on: l.created_at.slice(0, 10), text: l.body.trim() })),
  }));
}

export const TakeAnswerSchema = z.object({
  kind: z.enum(ANSWER_KINDS).optional(),
  due: IsoDateSchema.nullable().optional(),
  owner: z.array(z.string().max(140)).max(12).optional(),
  /** the commitment it is about, where another one is meant */
  ref: z
    .string()
    .regex(/^C-\d{1,9}$/, 'is not a reference like C-12')
    .optional(),
});
export type TakeAnswer = z.infer<typeof TakeAnswerSchema>;

async function answerRow(ws: Workspace, id: number) {
  const row = await ws.db.selectFrom('answers as a').innerJoin('replies as r', 'r.id', 'a.reply_id').select(['a.id', 'a.data', 'a.verdict', 'a.event_id', 'a.reply_id', 'r.project_id', 'r.received_at', 'r.person_id']).where('a.id', '=', id).executeTakeFirst();
  mustSee(ws, row?.project_id ?? undefined, 'answer');
  return row!;
}

/** Takes what was read from an answer: it becomes an event of its commitment, as edited. */
export async function takeAnswer(ws: Workspace, id: number, edit: TakeAnswer, byItself = false): Promise<Reply> {
  const row = await answerRow(ws, id);
  if (row.verdict === 'taken') throw new Refusal('conflict', 'This was taken already.');
  await ws.transaction(async (ws) => {
    const read = CODECS.answer.read(row.data);
    const commitment = edit.ref
      ? (
          await ws.db
            .selectFrom('commitments')
            .select('id')
            .where('project_id', '=', row.project_id!)
            .where('number', '=', Number(edit.ref.slice(2)))
            .executeTakeFirst()
        )?.id
      : read.commitment;
    if (edit.ref && commitment === undefined) throw new Refusal('not-found', `There is no ${edit.ref} in this project.`);
    const owner = edit.owner ? await resolveOwners(ws, row.project_id!, edit.owner) : read.owner;
    const kind = edit.kind ?? read.kind;
    const due = edit.due !== undefined ? edit.due : read.due;
    const event = commitment == null ? null : await recordEvent(ws, commitment, await eventFor(ws.db, { kind, due, owner, words: read.words, commitment, reply: row.reply_id, today: ws.today }));
    await ws.db
      .updateTable('answers')
      .set({ verdict: 'taken', event_id: event, by_itself: byItself ? 1 : 0, commitment_id: commitment ?? null, data: CODECS.answer.write({ ...read, commitment: commitment ?? null, kind, due, owner }) })
      .where('id', '=', id)
      .execute();
  });
  return (await repliesOf(ws, row.project_id!, { id: row.reply_id }))[0]!;
}

async function eventFor(tx: Db, a: { kind: AnswerKind; due: string | null; owner: string[] | null; words: string; commitment: number; reply: number; today: string }): Promise<NewEvent> {
  const now = await tx.selectFrom('commitments').select(['state', 'number']).where('id', '=', a.commitment).executeTakeFirstOrThrow();
  const base = { on: a.today, meeting: null, evidence: [] };
  const data = { reply: a.reply, reason: a.words.slice(0, 2000) };
  if (a.kind === 'confirmed' || a.kind === 'question' || a.kind === 'remark') return { ...base, kind: 'answered', data };
  if (!isOpen(now.state as CommitmentState)) throw new Refusal('conflict', `C-${now.number} is ${now.state} already.`, 'Pass this, or reopen the commitment from its trail.');
  switch (a.kind) {
    case 'moved':
      if (!a.due) throw new Refusal('bad-input', 'A commitment is moved to a date, and none is given.', 'Type the new date.');
      return { ...base, kind: 'moved', data: { ...data, due: a.due } };
    case 'reassigned':
      if (!a.owner?.length) throw new Refusal('bad-input', 'It is not said who has it now.', 'Type the new owner.');
      return { ...base, kind: 'handed over', data: { ...data, owner: a.owner, ...(a.due ? { due: a.due } : {}) } };
    case 'declined':
      return { ...base, kind: 'handed over', data: { ...data, owner: a.owner ?? [] } };
    case 'progress':
      return { ...base, kind: 'restated', data };
    default:
      return { ...base, kind: a.kind, data };
  }
}

export async function passAnswer(ws: Workspace, id: number): Promise<Reply> {
  const row = await answerRow(ws, id);
  if (row.verdict === 'taken') throw new Refusal('conflict', 'This was taken already.', 'Undo it first.');
  await ws.db.updateTable('answers').set({ verdict: 'passed' }).where('id', '=', id).execute();
  return (await repliesOf(ws, row.project_id!, { id: row.reply_id }))[0]!;
}

/** Takes back a take or a pass. */
export async function reopenAnswer(ws: Workspace, id: number): Promise<Reply> {
  const row = await answerRow(ws, id);
  if (row.verdict === 'open') throw new Refusal('conflict', 'There is nothing to take back here.');
  await ws.transaction(async (ws) => {
    if (row.event_id) await undoEvent(ws, row.event_id, ws.today);
    await ws.db.updateTable('answers').set({ verdict: 'open', event_id: null, by_itself: 0 }).where('id', '=', id).execute();
  });
  return (await repliesOf(ws, row.project_id!, { id: row.reply_id }))[0]!;
}
