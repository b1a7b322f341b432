import { z } from 'zod';
import { letterFrame } from '../../core/letters/frame.ts';
import { isLanguage, type Language } from '../../core/letters/kinds.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import { type Letter, letterById } from './letters.ts';
import { newToken } from './links.ts';
import { senderOf } from './mail-settings.ts';
import { takeAnswer } from './replies.ts';
import { rulesOf } from './rules.ts';
import { fillTemplate } from './templates.ts';

export const WriteBackSchema = z.object({ do: z.literal('write back'), text: z.string().trim().min(1, 'needs words').max(20_000) });

/** The bare address of `Bram Osei <bram@firm.example>`, or null where there is none. */
const bareAddress = (from: string): string | null => z.email().safeParse((/<([^<>]+)>\s*$/.exec(from)?.[1] ?? from).trim().toLowerCase()).data ?? null;

/** What came back, with whom it is from and where an answer to it goes. */
async function cameBack(ws: Workspace, project: string, id: number) {
  mustSee(ws, project, 'project');
  const row = await ws.db
    .selectFrom('replies as r')
    .leftJoin('people as p', 'p.id', 'r.person_id')
    .leftJoin('letter_recipients as lr', 'lr.id', 'r.recipient_id')
    .leftJoin('letters as l', 'l.id', 'lr.letter_id')
    .select(['r.id', 'r.project_id', 'r.nature', 'r.how', 'r.subject', 'r.from_address', 'r.message_key', 'p.id as person', 'p.name', 'p.mail', 'p.language', 'l.subject as letter_subject'])
    .where('r.id', '=', id)
    .executeTakeFirst();
  if (!row || (row.project_id !== null && row.project_id !== project)) throw new Refusal('not-found', 'There is no such mail here.');
  if (row.nature === 'bounce' || row.nature === 'automatic') throw new Refusal('conflict', 'A program wrote this; nobody would read an answer to it.');
  const mail = row.how === 'mail' ? bareAddress(row.from_address) : row.mail;
  if (!mail) throw new Refusal('bad-input', `No mail address is known for ${row.name ?? row.from_address}.`, 'Add one under People.');
  return { ...row, mail, name: row.name ?? (row.from_address.split('<')[0]!.replaceAll('"', '').trim() || mail) };
}

/** Greeting and signature for an answer to something that came back, in its writer's language and the project's tone. */
export async function beginWritingBack(ws: Workspace, project: string, id: number): Promise<{ text: string }> {
  const to = await cameBack(ws, project, id);
  const language: Language = isLanguage(to.language ?? '') ? (to.language as Language) : 'en';
  const { tone } = await rulesOf(ws.db, project);
  return { text: fillTemplate(letterFrame(language), { tone, recipient: { name: to.name, first: to.name.includes('@') ? to.name : to.name.split(/\s+/)[0] }, sender: { name: ws.asker.name } }) };
}

/**
 * Answers something that came back: a letter in the thread of that mail, about the commitments it speaks of. A question that
 * was read from it is taken, so that question and answer stand on the trail. Mail that belonged to no letter becomes the
 * project's by being answered.
 * @returns the letter, ready to go
 * @throws Refusal where a program wrote it, or no address is known
 */
export async function writeBack(ws: Workspace, project: string, id: number, text: string): Promise<Letter> {
  const sender = await senderOf(ws, project);
  const letter = await ws.transaction(async (ws) => {
    const to = await cameBack(ws, project, id);
    const answers = await ws.db.selectFrom('answers').select(['id', 'data', 'verdict', 'commitment_id']).where('reply_id', '=', id).where('verdict', '!=', 'replaced').orderBy('id').execute();
    for (const a of answers) if (a.verdict === 'open' && CODECS.answer.read(a.data).kind === 'question') await takeAnswer(ws, a.id, {});
    const subject = (to.how === 'mail' && to.subject) || to.letter_subject || to.subject || 'your mail';
    const { id: letter } = await ws.db
      .insertInto('letters')
      .values({
        project_id: project,
        meeting_id: null,
        kind: 'answer',
        reply_id: id,
        subject: `Re: ${subject.replace(/^(?:(?:re|aw|wg|fwd?|rép|res|rv)\s*:\s*)+/iu, '')}`.slice(0, 300),
        body: `${text}\n`,
        short: text.slice(0, 2000),
        ...(to.language ? { language: to.language } : {}),
        state: 'draft',
        created_at: new Date().toISOString(),
        planned_on: ws.today,
        sent_at: null,
        by_person: ws.asker.person,
        from_name: sender.name,
        from_mail: sender.address,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await ws.db.insertInto('letter_recipients').values({ letter_id: letter, person_id: to.person, mail: to.mail, state: 'waiting', error: null, message_id: null, sent_at: null, token: newToken() }).execute();
    const about = [...new Set(answers.flatMap((a) => a.commitment_id ?? []))];
    for (const [k, commitment] of about.entries())
      await ws.db
        .insertInto('letter_items')
        .values({ letter_id: letter, n: k + 1, key: `answer:${id}:${commitment}`, kind: 'answer', commitment_id: commitment })
        .execute();
    if (to.nature === 'unmatched')
      await ws.db
        .updateTable('replies')
        .set({ nature: 'answer', project_id: project, note: `answered by ${ws.asker.name}` })
        .where('id', '=', id)
        .execute();
    return letter;
  });
  return letterById(ws, letter);
}
