import { type Correspondence, correspondence } from '../../core/letters/correspondence.ts';
import type { Db } from '../store/database.ts';

/** Kinds of letters that look for no answer. */
const NO_ANSWER: readonly string[] = ['round-up', 'thanks', 'invitation', 'escalation'];

/** Who of a project was written to, who answered, and who is silent. */
export async function correspondenceOf(db: Db, project: string, today: string): Promise<(Correspondence & { bounced: string | null })[]> {
  const sent = await db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select(['r.person_id', 'r.sent_at', 'l.kind']).where('l.project_id', '=', project).where('r.sent_at', 'is not', null).where('r.person_id', 'is not', null).execute();
  const heard = await db.selectFrom('replies').select(['person_id', 'received_at']).where('project_id', '=', project).where('nature', '=', 'answer').where('person_id', 'is not', null).execute();
  const bounced = new Map((await db.selectFrom('people').select(['id', 'bounced']).where('bounced', 'is not', null).execute()).map((p) => [p.id, p.bounced]));
  return correspondence(
    sent.map((s) => ({ to: s.person_id!, on: s.sent_at!.slice(0, 10), plain: NO_ANSWER.includes(s.kind) })),
    heard.map((h) => ({ from: h.person_id!, on: h.received_at.slice(0, 10) })),
    today,
  ).map((c) => ({ ...c, bounced: bounced.get(c.person) ?? null }));
}
