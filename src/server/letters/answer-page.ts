import { z } from 'zod';
import { readTypedDate } from '../../core/dates/read.ts';
import { Roster } from '../../core/language/people.ts';
import { type CommitmentState, isOpen } from '../../core/ledger/state.ts';
import type { Language } from '../../core/letters/kinds.ts';
import type { Answer } from '../../core/letters/replies/read-reply.ts';
import type { LetterWish } from '../../core/letters/rules.ts';
import { peopleOf } from '../people/people.ts';
import { workspaceOf } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { AT_ONCE, inTransaction } from '../store/transactions.ts';
import { takeTheSure } from './inbound.ts';
import { readLink } from './links.ts';
import { managerOf } from './plan.ts';
import { keepLetterWish, lettersWanted } from './rules.ts';

/** What somebody without an account sees: what is with them, and nothing else. */
export interface AnswerPage {
  reader: { id: string; name: string; letters: string; language: Language };
  asks: string;
  project: string;
  until: string;
  items: AnswerItem[];
}

export interface AnswerItem {
  commitment: number;
  ref: string;
  text: string;
  due: string | null;
  state: CommitmentState;
  madeOn: string;
  from: string;
  /** in the letter the page was opened from, or only held by the same person */
  asked: boolean;
  awaiting: boolean;
  /** what was told here already */
  told: { kind: Answer['kind']; due: string | null; owner: string[] | null; words: string; settled: boolean } | null;
}

interface Door {
  recipient: number;
  letter: number;
  project: string;
  person: string;
  until: string;
}

/** Opens the page a link leads to. A link that was changed, made up or has expired leads nowhere, and says no more than that. */
async function open(db: Db, link: string, today: string): Promise<Door> {
  const found = await readLink(db, link, today);
  const row = found ? await db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select(['r.id', 'r.letter_id', 'r.person_id', 'l.project_id', 'l.state']).where('r.id', '=', found.recipient).executeTakeFirst() : undefined;
  if (!found || !row?.person_id || row.state === 'withdrawn') throw new Refusal('not-found', 'This page is not open.', 'The link in your letter may have run out, or is not complete. An answer to the letter itself always arrives.');
  return { recipient: row.id, letter: row.letter_id, project: row.project_id, person: row.person_id, until: found.until };
}

export async function answerPage(db: Db, link: string, today: string): Promise<AnswerPage> {
  const door = await open(db, link, today);
  const reader = await db.selectFrom('people').select(['id', 'name', 'language']).where('id', '=', door.person).executeTakeFirstOrThrow();
  const project = await db.selectFrom('projects').select('name').where('id', '=', door.project).executeTakeFirstOrThrow();
  const manager = await db
    .selectFrom('people')
    .select('name')
    .where('id', '=', await managerOf(db, door.project))
    .executeTakeFirst();
  const asked = new Set((await db.selectFrom('letter_items').select('commitment_id').where('letter_id', '=', door.letter).where('kind', '!=', 'escalation').where('n', 'is not', null).execute()).map((i) => i.commitment_id));
  const rows = await db
    .selectFrom('commitments as c')
    .innerJoin('commitment_owners as o', 'o.commitment_id', 'c.id')
    .leftJoin('meetings as m', 'm.id', 'c.meeting_id')
    .select(['c.id', 'c.number', 'c.text', 'c.due', 'c.state', 'c.made_on', 'c.awaiting', 'm.title'])
    .where('c.project_id', '=', door.project)
    .where('o.person_id', '=', door.person)
    .where('c.state', 'in', ['open', 'blocked', 'done'])
    .orderBy('c.due')
    .orderBy('c.number')
    .execute();
  const told = await db.selectFrom('answers as a').innerJoin('replies as r', 'r.id', 'a.reply_id').select(['a.commitment_id', 'a.data', 'a.verdict']).where('r.recipient_id', '=', door.recipient).where('r.how', '=', 'page').where('a.verdict', 'in', ['open', 'taken']).orderBy('a.id').execute();
  const items = rows
    .filter((r) => isOpen(r.state as CommitmentState) || asked.has(r.id))
    .map((r): AnswerItem => {
      const own = told.filter((t) => t.commitment_id === r.id).at(-1);
      const data = own ? CODECS.answer.read(own.data) : null;
      return {
        commitment: r.id,
        ref: `C-${r.number}`,
        text: r.text,
        due: r.due,
        state: r.state as CommitmentState,
        madeOn: r.made_on,
        from: r.title ?? '',
        asked: asked.has(r.id),
        awaiting: r.awaiting === 1,
        told: data ? { kind: data.kind, due: data.due, owner: data.owner, words: data.words, settled: own!.verdict === 'taken' } : null,
      };
    })
    .sort((a, b) => Number(b.asked) - Number(a.asked));
  return { reader: { ...reader, letters: (await lettersWanted(db, door.project))(door.person), language: reader.language as Language }, asks: manager?.name ?? '', project: project.name, until: door.until, items };
}

export const TellSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('done'), commitment: z.number().int() }),
  z.object({ do: z.literal('confirm'), commitment: z.number().int() }),
  z.object({ do: z.literal('still on it'), commitment: z.number().int() }),
  z.object({ do: z.literal('move'), commitment: z.number().int(), date: z.string().max(80), reason: z.string().trim().max(500) }),
  z.object({ do: z.literal('hand over'), commitment: z.number().int(), to: z.string().trim().min(2, 'needs a name').max(120), reason: z.string().trim().max(500) }),
  z.object({ do: z.literal('say'), commitment: z.number().int(), words: z.string().trim().min(1, 'needs words').max(2000) }),
  z.object({ do: z.literal('take back'), commitment: z.number().int() }),
]);
export type Tell = z.infer<typeof TellSchema>;

/** Keeps what somebody told on their own page. Until it is taken they may tell something else instead. */
export async function tell(db: Db, link: string, told: Tell, today: string): Promise<AnswerPage> {
  const door = await open(db, link, today);
  const page = await answerPage(db, link, today);
  const item = page.items.find((i) => i.commitment === told.commitment);
  if (!item) throw new Refusal('not-found', 'This is not with you any more.', 'Load the page again to see what is.');
  if (!isOpen(item.state) && told.do !== 'say') throw new Refusal('conflict', `${item.ref} is ${item.state} already.`);
  const answer = told.do === 'take back' ? null : await answerOf(db, door, told, today);
  const reply = await inTransaction(db, async (tx) => {
    const before = await tx.selectFrom('answers as a').innerJoin('replies as r', 'r.id', 'a.reply_id').select(['a.id', 'a.verdict', 'a.data', 'r.received_at']).where('r.recipient_id', '=', door.recipient).where('r.how', '=', 'page').where('a.commitment_id', '=', told.commitment).execute();
    // told twice at once it is told once
    const last = before.at(-1);
    if (answer && last && last.verdict !== 'replaced' && Math.abs(Date.now() - Date.parse(last.received_at)) < AT_ONCE && sameAnswer(CODECS.answer.read(last.data), answer)) return null;
    const waiting = before.filter((b) => b.verdict === 'open').map((b) => b.id);
    if (waiting.length) await tx.updateTable('answers').set({ verdict: 'replaced' }).where('id', 'in', waiting).execute();
    if (!answer) return null;
    const { id } = await tx
      .insertInto('replies')
      .values({
        project_id: door.project,
        recipient_id: door.recipient,
        person_id: door.person,
        from_address: page.reader.name,
        subject: `${item.ref}  ${item.text}`.slice(0, 300),
        words: answer.words,
        raw: null,
        message_key: `page ${door.recipient} ${told.commitment} ${before.length}`,
        received_at: new Date().toISOString(),
        how: 'page',
        nature: 'answer',
        verified: 1,
        note: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .insertInto('answers')
      .values({ reply_id: id, commitment_id: told.commitment, data: CODECS.answer.write(answer) })
      .execute();
    return id;
  });
  if (reply !== null) await takeTheSure(await workspaceOf(db, await managerOf(db, door.project), today), reply, door.project, today);
  return answerPage(db, link, today);
}

const sameAnswer = (a: Answer, b: Answer) => a.kind === b.kind && a.due === b.due && a.words === b.words && JSON.stringify(a.owner) === JSON.stringify(b.owner);

async function answerOf(db: Db, door: Door, told: Exclude<Tell, { do: 'take back' }>, today: string): Promise<Answer> {
  const base = { commitment: told.commitment, due: null, owner: null, sure: true, reason: 'told on their own page' };
  switch (told.do) {
    case 'done':
      return { ...base, kind: 'done', words: 'Done.' };
    case 'confirm':
      return { ...base, kind: 'confirmed', words: 'Yes, it is mine.' };
    case 'still on it':
      return { ...base, kind: 'progress', words: 'Still on it.' };
    case 'say':
      return { ...base, kind: told.words.includes('?') ? 'question' : 'remark', words: told.words, sure: false };
    case 'move': {
      const due = /^\d{4}-\d{2}-\d{2}$/.test(told.date) ? told.date : readTypedDate(told.date, { date: today, next: null });
      if (!due || due < today) throw new Refusal('bad-input', due ? 'That day has passed.' : `“${told.date.slice(0, 60)}” is not a day.`, 'A day can be written as 14 May, next Friday, or 2026-05-14.');
      return { ...base, kind: 'moved', due, words: told.reason || `By ${due}.` };
    }
    default: {
      const people = await peopleOf(await workspaceOf(db, await managerOf(db, door.project), today), door.project);
      const known = new Roster(people).voice(told.to);
      return { ...base, kind: 'reassigned', owner: [known ?? `new:${told.to}`], sure: known !== null && known !== door.person, words: told.reason || `${told.to} has it.` };
    }
  }
}

/** Which letters of the project somebody wants, by the choice on their page; those of other projects stay as they are. */
export async function wishLetters(db: Db, link: string, what: LetterWish, today: string): Promise<void> {
  const door = await open(db, link, today);
  await keepLetterWish(db, door.project, door.person, what);
}

/** One click in a mail program (RFC 8058) on a digest: no more digests, and the other letters as before. */
export async function stopDigests(db: Db, link: string, today: string): Promise<void> {
  const door = await open(db, link, today);
  const letters = (await lettersWanted(db, door.project))(door.person);
  const what: LetterWish = letters === 'digest' || letters === 'none' ? 'none' : 'no digest';
  await keepLetterWish(db, door.project, door.person, what);
}
