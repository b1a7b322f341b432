import { sql } from 'kysely';
import type { Line } from '../../core/ask/answer.ts';
import { checkedWording, WORDING_INSTRUCTIONS, WordingSchema, wordingMessage } from '../../core/ask/wording.ts';
import { maskedNames, plainNames } from '../../core/sift/model/masking.ts';
import { note } from '../people/audit.ts';
import { whole } from '../people/out-of-sight.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ask as askModel, hostOf } from '../sift/model-reader/client.ts';
import { modelSetup, STAND_IN } from '../sift/model-reader/setup.ts';
import { ServerTrouble } from '../store/guarded-fetch.ts';
import { ask, rosterOf } from './ask.ts';

/** An answer in the words of a model, as far as they hold up. */
export interface Worded {
  lines: Line[];
  /** sentences that were left out, for want of support */
  dropped: number;
  model: string;
  host: string;
  standIn: boolean;
}

/** The model that may word answers here: one is set up, and the project has its records read by it. */
export async function wordingModel(ws: Workspace): Promise<{ model: string; host: string } | null> {
  const setup = await modelSetup(ws.db);
  const project = setup && (await ws.db.selectFrom('projects').select('model_reader').where('id', '=', ws.project).executeTakeFirst());
  return setup && project?.model_reader === 1 ? { model: setup.server.model, host: hostOf(setup.server.address) } : null;
}

/** The record a source stands in, by where it leads; null for letters, jottings and the registers. */
const recordOf = (href: string): number | null => {
  const found = /[?&]record=(\d+)/.exec(href)?.[1];
  return found === undefined ? null : Number(found);
};

/**
 * Has the model reader word the answer to a question. Only words of records that it may read go out.
 * @throws Refusal where none is set up, the question has no answer, a record of it never leaves, or the model gave nothing that holds
 */
export async function worded(ws: Workspace, question: string): Promise<Worded> {
  const setup = await modelSetup(ws.db);
  const here = await wordingModel(ws);
  if (!setup || !here) throw new Refusal('conflict', 'No model reads this project’s records.', 'Switch the model reader on, at the foot of a record in Sift.');
  const asked = await ask(ws, question);
  if (asked === null || asked === 'unread' || asked.answer.lines.length === 0) throw new Refusal('conflict', 'This question has no answer to be worded.');
  const { answer } = asked;
  const readable = await readableRecords(
    ws,
    answer.sources.flatMap((s) => recordOf(s.href) ?? []),
  );
  const kept = answer.sources.findIndex((s) => recordOf(s.href) !== null && !readable.has(recordOf(s.href)!));
  if (kept >= 0) throw new Refusal('conflict', `Source ${kept + 1} stands in a record whose words never leave.`, 'Ottik’s own answer stays.');
  const roster = await rosterOf(ws);
  const voices = answer.sources.flatMap((s) => (s.who ? [s.who] : []));
  const names = setup.masked ? maskedNames(roster.people, voices) : plainNames();
  await note(whole(ws.db), ws.asker.person, ws.project || null, { did: 'sent', what: `a question and its answer to ${here.host}`, about: null }, new Date());
  const message = wordingMessage(question, answer, names, (n) => recordOf(answer.sources[n]!.href) !== null);
  let value: unknown;
  try {
    ({ value } = await askModel(setup.server, { system: WORDING_INSTRUCTIONS, message, schema: WordingSchema }));
  } catch (error) {
    if (error instanceof ServerTrouble) throw new Refusal('conflict', error.message, 'Ottik’s own answer stays.');
    throw error;
  }
  const checked = checkedWording(value, answer, names, roster);
  if (!checked) throw new Refusal('conflict', 'Nothing the model said holds up against its sources.', 'Ottik’s own answer stays.');
  return { ...checked, model: here.model, host: here.host, standIn: here.model === STAND_IN };
}

/** Those of some records that may be read by the model: their project says so, and they are not kept private. */
async function readableRecords(ws: Workspace, records: readonly number[]): Promise<Set<number>> {
  const rows = await ws.db
    .selectFrom('records as r')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .innerJoin('projects as p', 'p.id', 'm.project_id')
    .select('r.id')
    .where(sql<boolean>`r.id IN (SELECT value FROM json_each(${JSON.stringify(records)}))`)
    .where('r.private', '=', 0)
    .where('p.model_reader', '=', 1)
    .execute();
  return new Set(rows.map((r) => r.id));
}
