import { z } from 'zod';
import type { Language } from '../../core/letters/kinds.ts';
import { type AskedItem, readReply } from '../../core/letters/replies/read-reply.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import { type Reply, repliesOf } from './replies.ts';

/** What a person does with a mail that belongs to no letter, or with an address that mail does not reach. */
export const StrayChangeSchema = z.discriminatedUnion('do', [
  /** it is from this person of the project, or from nobody known */
  z.object({ do: z.literal('from'), person: z.string().max(140).nullable() }),
  /** it speaks of these commitments: it is read as an answer about them */
  z.object({
    do: z.literal('about'),
    refs: z
      .array(z.string().regex(/^C-\d{1,9}$/, 'is not a reference like C-12'))
      .min(1)
      .max(20),
  }),
  z.object({ do: z.literal('put away') }),
  z.object({ do: z.literal('bring back') }),
  /** the bounced letter goes to another address of its reader, which is kept */
  z.object({ do: z.literal('correct'), mail: z.email('is not a mail address').max(200) }),
]);
export type StrayChange = z.infer<typeof StrayChangeSchema>;

/** Mail that belongs to no letter and to no project, newest first: it is shown once, beside the project's own. */
export async function straysOf(ws: Workspace, project: string): Promise<Reply[]> {
  return repliesOf(ws, project, { strays: true, limit: 30 });
}

/**
 * Settles a mail that belongs to no letter. It becomes the project's, so that it is found there afterwards.
 * @throws Refusal where it was settled otherwise already, or names what the project does not have
 */
export async function settleStray(ws: Workspace, project: string, id: number, change: Exclude<StrayChange, { do: 'correct' }>): Promise<Reply> {
  mustSee(ws, project, 'project');
  await ws.transaction(async (ws) => {
    const row = await ws.db.selectFrom('replies').select(['nature', 'project_id', 'words', 'person_id', 'from_address', 'received_at']).where('id', '=', id).executeTakeFirst();
    if (!row || (row.project_id !== null && row.project_id !== project)) throw new Refusal('not-found', 'There is no such mail here.');
    if (change.do === 'bring back') {
      if (row.nature !== 'put away') throw new Refusal('conflict', 'This mail was not put away.');
      await ws.db.updateTable('replies').set({ nature: 'unmatched', note: 'belongs to no letter of ours' }).where('id', '=', id).execute();
      return;
    }
    if (row.nature !== 'unmatched') throw new Refusal('conflict', 'This mail was settled already.', 'Load the page again.');
    const people = await peopleOf(ws, project);
    if (change.do === 'put away') {
      await ws.db
        .updateTable('replies')
        .set({ nature: 'put away', project_id: project, note: `put away by ${ws.asker.name}` })
        .where('id', '=', id)
        .execute();
      return;
    }
    if (change.do === 'from') {
      if (change.person !== null && !people.some((p) => p.id === change.person)) throw new Refusal('not-found', 'Nobody of this project is called that.');
      await ws.db.updateTable('replies').set({ person_id: change.person, project_id: project }).where('id', '=', id).execute();
      return;
    }
    const commitments = await ws.db
      .selectFrom('commitments')
      .select(['id', 'number', 'text', 'due'])
      .where('project_id', '=', project)
      .where(
        'number',
        'in',
        change.refs.map((r) => Number(r.slice(2))),
      )
      .execute();
    if (commitments.length < change.refs.length) throw new Refusal('not-found', `There is no ${change.refs.find((r) => !commitments.some((c) => `C-${c.number}` === r))} in this project.`);
    const items: AskedItem[] = commitments.map((c, k) => ({ n: k + 1, commitment: c.id, ref: `C-${c.number}`, text: c.text, due: c.due }));
    const writer = people.find((p) => p.id === row.person_id);
    const language = writer ? ((await ws.db.selectFrom('people').select('language').where('id', '=', writer.id).executeTakeFirstOrThrow()).language as Language) : 'en';
    const read = readReply({ text: row.words, writer: { id: writer?.id ?? '', name: writer?.name ?? row.from_address }, on: ws.today, next: null, language, items, asks: false, people });
    // a person said what it is about; what is read from it still waits for a look
    const answers = read.filter((a) => a.commitment !== null);
    for (const item of items) if (!answers.some((a) => a.commitment === item.commitment)) answers.push({ commitment: item.commitment, kind: 'remark', due: null, owner: null, words: row.words.slice(0, 400), sure: false, reason: 'says something else' });
    await ws.db
      .updateTable('replies')
      .set({ nature: 'answer', project_id: project, verified: 0, note: `matched by ${ws.asker.name}` })
      .where('id', '=', id)
      .execute();
    for (const a of answers)
      await ws.db
        .insertInto('answers')
        .values({ reply_id: id, commitment_id: a.commitment, data: CODECS.answer.write({ ...a, sure: false }) })
        .execute();
  });
  return (await repliesOf(ws, project, { id, strays: 'too' }))[0]!;
}

/**
 * Corrects an address that mail did not reach, and sends the letter that came back to the new one.
 * @returns the letter that is to go again
 */
export async function correctAddress(ws: Workspace, project: string, id: number, mail: string): Promise<{ letter: number }> {
  mustSee(ws, project, 'project');
  return ws.transaction(async (ws) => {
    const row = await ws.db.selectFrom('replies as r').innerJoin('letter_recipients as lr', 'lr.id', 'r.recipient_id').select(['r.project_id', 'r.nature', 'lr.id as recipient', 'lr.letter_id', 'lr.person_id', 'lr.mail']).where('r.id', '=', id).executeTakeFirst();
    if (!row || row.project_id !== project || row.nature !== 'bounce') throw new Refusal('not-found', 'There is no such report here.');
    const address = mail.toLowerCase();
    if (address === row.mail.toLowerCase()) throw new Refusal('bad-input', `${mail} is the address that failed.`, 'Type another one.');
    const taken = await ws.db
      .selectFrom('people')
      .select('name')
      .where('mail', '=', address)
      .where('id', '!=', row.person_id ?? '')
      .executeTakeFirst();
    if (taken) throw new Refusal('conflict', `${taken.name} has that address already.`, 'Type another one.');
    if (row.person_id) await ws.db.updateTable('people').set({ mail: address, bounced: null }).where('id', '=', row.person_id).execute();
    await ws.db.updateTable('letter_recipients').set({ mail: address, state: 'waiting', error: null, sent_at: null, message_id: null, next_try: null }).where('id', '=', row.recipient).execute();
    await ws.db.updateTable('letters').set({ state: 'part sent' }).where('id', '=', row.letter_id).execute();
    await ws.db
      .updateTable('replies')
      .set({ note: `corrected to ${address}` })
      .where('id', '=', id)
      .execute();
    return { letter: row.letter_id };
  });
}
