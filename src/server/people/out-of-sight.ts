import { AliasNode, FromNode, IdentifierNode, type KyselyPlugin, type OperationNode, OperationNodeTransformer, type PluginTransformQueryArgs, type PluginTransformResultArgs, type QueryId, type QueryResult, RawNode, type SelectQueryNode, TableNode, type UnknownRow } from 'kysely';
import type { Db } from '../store/database.ts';
import { worksHere } from './asker.ts';
import type { Workspace } from './workspace.ts';

/** What somebody does not see of the projects they see. */
interface Hidden {
  person: string;
  meetings: readonly number[];
  /** projects in which they are a guest: there they see what they were at, and what they hold themselves */
  asGuest: readonly string[];
}

/**
 * The rows of a table that may be seen, as a condition on it. Everything that comes from a meeting goes with it, but for
 * what somebody holds themselves: a promise is never kept from whoever made it.
 */
function conditions({ person, meetings, asGuest }: Hidden): Readonly<Record<string, string>> {
  const text = (s: string) => `'${s.replaceAll("'", "''")}'`;
  const gone = `(${meetings.join(', ')})`;
  const byMeeting = `meeting_id NOT IN ${gone}`;
  const orNone = `(meeting_id IS NULL OR ${byMeeting})`;
  const guests = asGuest.length ? ` AND (meeting_id IS NOT NULL OR project_id NOT IN (${asGuest.map(text).join(', ')}))` : '';
  const commitments = `((${orNone}${guests}) OR id IN (SELECT commitment_id FROM commitment_owners WHERE person_id = ${text(person)}))`;
  const unseen = `SELECT id FROM commitments WHERE NOT ${commitments}`;
  const byRecord = `record_id NOT IN (SELECT id FROM records WHERE meeting_id IN ${gone})`;
  const letters = `${orNone} AND (sitting_id IS NULL OR sitting_id NOT IN ${gone}) AND id NOT IN (SELECT letter_id FROM letter_items WHERE commitment_id IN (${unseen}))`;
  const replies = `(recipient_id IS NULL OR recipient_id IN (SELECT r.id FROM letter_recipients r WHERE r.letter_id IN (SELECT id FROM letters WHERE ${letters})))`;
  const runs = `${orNone} AND (commitment_id IS NULL OR commitment_id NOT IN (${unseen})) AND (reply_id IS NULL OR reply_id IN (SELECT id FROM replies WHERE ${replies}))`;
  return {
    meetings: `id NOT IN ${gone}`,
    attendance: byMeeting,
    records: byMeeting,
    finds: byMeeting,
    own_finds: byRecord,
    model_answers: byRecord,
    model_gists: byRecord,
    model_readings: byRecord,
    statements: byMeeting,
    minutes_drafts: byMeeting,
    minutes_versions: byMeeting,
    shares: byMeeting,
    agenda_points: byMeeting,
    agenda_changes: byMeeting,
    live_marks: byMeeting,
    live_lines: byMeeting,
    votes: byMeeting,
    vote_marks: `vote_id NOT IN (SELECT id FROM votes WHERE meeting_id IN ${gone})`,
    commitments,
    events: `${orNone} AND commitment_id NOT IN (${unseen})`,
    letters,
    letter_items: `(commitment_id IS NULL OR commitment_id NOT IN (${unseen}))`,
    letter_recipients: `letter_id IN (SELECT id FROM letters WHERE ${letters})`,
    replies,
    answers: `(commitment_id IS NULL OR commitment_id NOT IN (${unseen}))`,
    routine_runs: runs,
    routine_steps: `run_id IN (SELECT id FROM routine_runs WHERE ${runs})`,
    passages: `CASE kind WHEN 'commitment' THEN source NOT IN (${unseen}) WHEN 'letter' THEN source IN (SELECT id FROM letters WHERE ${letters}) WHEN 'answer' THEN source IN (SELECT id FROM replies WHERE ${replies}) ELSE ${orNone} END`,
  };
}

/** In every query that reads, a table stands for those of its rows that may be seen. */
class OutOfSight extends OperationNodeTransformer implements KyselyPlugin {
  readonly #where: Readonly<Record<string, string>>;
  constructor(hidden: Hidden) {
    super();
    this.#where = conditions(hidden);
  }
  transformQuery({ node, queryId }: PluginTransformQueryArgs) {
    return this.transformNode(node, queryId);
  }
  async transformResult({ result }: PluginTransformResultArgs): Promise<QueryResult<UnknownRow>> {
    return result;
  }
  protected override transformSelectQuery(node: SelectQueryNode, queryId?: QueryId): SelectQueryNode {
    const seen = super.transformSelectQuery(node, queryId);
    return {
      ...seen,
      ...(seen.from ? { from: FromNode.create(seen.from.froms.map((f) => this.#seenOf(f))) } : {}),
      ...(seen.joins ? { joins: seen.joins.map((j) => ({ ...j, table: this.#seenOf(j.table) })) } : {}),
    };
  }
  #seenOf(node: OperationNode): OperationNode {
    if (AliasNode.is(node)) return TableNode.is(node.node) ? AliasNode.create(this.#rows(node.node), node.alias) : node;
    if (!TableNode.is(node)) return node;
    const rows = this.#rows(node);
    return rows === node ? node : AliasNode.create(rows, IdentifierNode.create(node.table.identifier.name));
  }
  #rows(table: TableNode): OperationNode {
    const name = table.table.identifier.name;
    const where = this.#where[name];
    return where === undefined ? table : RawNode.createWithSql(`(SELECT * FROM "${name}" WHERE ${where})`);
  }
}

/**
 * The meetings somebody does not see: those for attendees alone, and as a guest all, that they were not at or asked to; but for those
 * that are for everybody who works here, where they do.
 */
export async function hiddenMeetings(ws: Workspace): Promise<number[]> {
  const guests = guestIn(ws);
  const rows = await ws.db
    .selectFrom('meetings as m')
    .select('m.id')
    .where('m.project_id', 'in', [...ws.asker.projects, ''])
    .where((eb) => eb.or([eb('m.visibility', '=', 'attendees'), eb('m.project_id', 'in', [...guests, ''])]))
    .$if(worksHere(ws.asker.roles), (q) => q.where('m.visibility', '!=', 'workspace'))
    .where(({ not, exists, selectFrom }) => not(exists(selectFrom('attendance as a').select('a.meeting_id').whereRef('a.meeting_id', '=', 'm.id').where('a.person_id', '=', ws.asker.person))))
    // while nobody is named for a meeting, those of its series are asked to it
    .where(({ not, exists, selectFrom }) =>
      not(
        exists(
          selectFrom('series_people as s')
            .select('s.series_id')
            .whereRef('s.series_id', '=', 'm.series_id')
            .where('s.person_id', '=', ws.asker.person)
            .where('m.project_id', 'not in', [...guests, ''])
            .where(({ not, exists, selectFrom }) => not(exists(selectFrom('attendance as o').select('o.meeting_id').whereRef('o.meeting_id', '=', 'm.id')))),
        ),
      ),
    )
    .execute();
  return rows.map((r) => r.id);
}

const guestIn = (ws: Workspace) => [...ws.asker.roles].filter(([, role]) => role === 'guest').map(([project]) => project);

/**
 * The workspace as whoever asks may see it: what is out of their sight is in none of its queries. What Ottik does by
 * itself goes by the whole database.
 */
export async function inSight(ws: Workspace): Promise<Workspace> {
  const meetings = await hiddenMeetings(ws);
  const asGuest = guestIn(ws);
  if (meetings.length === 0 && asGuest.length === 0) return ws;
  return ws.with({ db: ws.db.withPlugin(new OutOfSight({ person: ws.asker.person, meetings, asGuest })) });
}

/** The whole database: for numbers that must not be given twice, whoever sees them. */
export const whole = (db: Db): Db => db.withoutPlugins() as Db;
