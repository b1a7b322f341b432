import { sql } from 'kysely';
import type { CommitmentOnRecord, Happened, OnRecord, PassageOnRecord, Source, StatementOnRecord, TalkOnRecord } from '../../core/ask/on-record.ts';
import { type Question, stemsOf } from '../../core/ask/question.ts';
import { addDays } from '../../core/dates/calendar.ts';
import type { FindQuery, Term } from '../../core/find/query.ts';
import { turnsOf } from '../../core/gist/turns.ts';
import { wordsOf } from '../../core/language/words.ts';
import type { LedgerEvent, Place } from '../../core/ledger/events.ts';
import { standingEvents } from '../../core/ledger/events.ts';
import { eventsByCommitment } from '../ledger/commitments.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';
import { CODECS } from '../store/codecs.ts';
import { DOUBTED, SUPERSEDED } from '../store/schema.ts';
import { spokenRecord } from '../store/segments.ts';
import { asMeant, type Candidate, candidatesOf, type Narrowed, narrowed } from './candidates.ts';

/** Most passages, commitments and records that are looked at for one question. */
const [PASSAGES, COMMITMENTS, RECORDS] = [240, 3000, 40];

const query = (words: readonly string[]): FindQuery => ({ all: words.map((word): Term[] => [{ is: 'word', word, prefix: false }]), none: [], filters: { who: null, in: null, project: null, kind: null, when: null }, wrong: [] });

/** What there is to answer a question from, among all that whoever asks may see. */
export async function onRecord(ws: Workspace, q: Question): Promise<{ record: OnRecord; question: Question; meant: { typed: string; taken: string }[] }> {
  const words = q.about ? [...new Set(wordsOf(q.about).map((w) => w.replace(/'s$/, '')))].filter((w) => stemsOf(w).length > 0) : [];
  const asked = query(words);
  const narrow = await narrowed(ws, asked);
  // an answer goes by the word that was meant: it takes one slip of the hand, and no more
  const meant = words.length ? await asMeant(ws, asked, narrow, 1) : [];
  const question = { ...q, about: meant.reduce((text, m) => text.replace(new RegExp(m.typed, 'i'), m.taken), q.about) };
  const best = async (of: FindQuery) => (await candidatesOf(ws, of, await narrowed(ws, of), true)).sort((a, b) => b.score - a.score).slice(0, PASSAGES);
  // the registers are asked by themselves: among all that was said, an older line of theirs would not be looked at
  const registers = (['commitment', 'decision', 'question'] as const).map((kind) => best({ ...asked, filters: { ...asked.filters, kind } }));
  const found = words.length ? [...(await Promise.all(registers)).flat(), ...(await best(asked)).filter((c) => c.kind !== 'commitment' && c.kind !== 'decision' && c.kind !== 'question')] : [];
  const kinds = (kind: Candidate['kind']) => found.filter((c) => c.kind === kind).map((c) => c.source);
  const names = new Map((await ws.db.selectFrom('people').select(['id', 'name']).execute()).map((p) => [p.id, p.name]));
  const meetings = await meetingNames(ws);
  const record: OnRecord = {
    today: ws.today,
    me: ws.asker.person,
    names,
    commitments: await commitments(ws, question, kinds('commitment'), names, meetings),
    statements: await statements(ws, question, [...kinds('decision'), ...kinds('question')], meetings),
    passages: await passages(ws, found, names, meetings),
    talks: q.asks === 'spoken' || q.asks === 'sides' ? await talks(ws, newestFirst(found), meetings) : [],
    weight: await weights(ws, question, narrow),
  };
  return { record, question, meant };
}

type Meetings = ReadonlyMap<number, { title: string; date: string }>;

async function meetingNames(ws: Workspace): Promise<Meetings> {
  const rows = await ws.db.selectFrom('meetings').select(['id', 'title', 'number', 'date']).where('project_id', 'in', visible(ws)).execute();
  return new Map(rows.map((m) => [m.id, { title: m.number === null ? m.title : `${m.title} no. ${m.number}`, date: m.date }]));
}

/** References are given by each project: one of another than the present one says which. */
async function projectNames(ws: Workspace): Promise<(project: string) => string> {
  const rows = await ws.db.selectFrom('projects').select(['id', 'name']).where('id', 'in', visible(ws)).execute();
  return (project) => (project === ws.project || rows.length === 1 ? '' : ` of ${rows.find((r) => r.id === project)?.name ?? project}`);
}

/** The rarer a word is in what whoever asks may see, the more it tells (K. Spärck Jones, 1972). */
async function weights(ws: Workspace, q: Question, narrow: Narrowed): Promise<(stem: string) => number> {
  const known = new Map<string, number>();
  const { n } = await ws.db.selectFrom('passages').select(ws.db.fn.max('id').as('n')).executeTakeFirstOrThrow();
  const all = Number(n ?? 0);
  for (const word of new Set(wordsOf(q.about))) {
    const [stem] = stemsOf(word);
    if (stem !== undefined) known.set(stem, Math.log(1 + all / (1 + (await candidatesOf(ws, query([word]), narrow)).length)));
  }
  const unknown = Math.log(2 + all);
  return (stem) => known.get(stem) ?? unknown;
}

const among = (ids: readonly number[]) => JSON.stringify(ids);

async function commitments(ws: Workspace, q: Question, found: readonly number[], names: ReadonlyMap<string, string>, meetings: Meetings): Promise<CommitmentOnRecord[]> {
  const rows = await chosen(ws, q, found);
  const ids = rows.map((r) => r.id);
  const these = sql<boolean>`commitment_id IN (SELECT value FROM json_each(${among(ids)}))`;
  const owners = await ws.db.selectFrom('commitment_owners').selectAll().where(these).execute();
  const events = await eventsByCommitment(ws.db, ids);
  const beside = new Map(
    (
      await ws.db
        .selectFrom('passages')
        .select(['source', 'beside'])
        .where('kind', '=', 'commitment')
        .where(sql<boolean>`source IN (SELECT value FROM json_each(${among(ids)}))`)
        .execute()
    ).map((p) => [p.source, p.beside]),
  );
  const waiting = await waitingUpdates(ws, ids, meetings);
  const answered = await answersOf(ws, ids, names);
  const elsewhere = await projectNames(ws);
  return rows.map((c) => {
    const href = `/ledger/C-${c.number}?project=${encodeURIComponent(c.project_id)}`;
    return {
      ref: `C-${c.number}${elsewhere(c.project_id)}`,
      href,
      text: c.text,
      words: beside.get(c.id) ?? '',
      owner: owners.filter((o) => o.commitment_id === c.id).map((o) => ({ id: o.person_id, name: names.get(o.person_id) ?? o.person_id })),
      due: c.due,
      state: c.state as CommitmentOnRecord['state'],
      madeOn: c.made_on,
      endedOn: c.ended_on,
      moved: c.moved,
      putOff: c.put_off,
      undated: c.undated === 1,
      history: standingEvents(events.get(c.id) ?? []).map((e): Happened => ({ kind: e.kind, on: e.on, due: e.data.due, owner: e.data.owner, reason: e.data.reason ?? null, source: answered.get(e.id) ?? sourceOf(e, href, names, meetings) })),
      waiting: waiting.get(c.id) ?? [],
    };
  });
}

/** Which commitments a question can be about. */
async function chosen(ws: Workspace, q: Question, found: readonly number[]) {
  const base = ws.db.selectFrom('commitments').selectAll().where('project_id', 'in', visible(ws)).where('state', '!=', 'withdrawn');
  if (q.about && q.asks !== 'owed') return base.where(sql<boolean>`id IN (SELECT value FROM json_each(${among(found)}))`).execute();
  const standing = base.where('state', 'in', ['open', 'blocked']).orderBy('due').limit(COMMITMENTS);
  const held = (person: string) => sql<boolean>`id IN (SELECT commitment_id FROM commitment_owners WHERE person_id = ${person})`;
  switch (q.asks) {
    case 'promised':
      return q.who === null
        ? standing.execute()
        : base
            .where(sql<boolean>`(${held(q.who)} OR id IN (SELECT commitment_id FROM events WHERE kind IN ('made', 'handed over') AND instr(data, ${JSON.stringify(q.who)}) > 0))`)
            .limit(COMMITMENTS)
            .execute();
    case 'owed':
      return standing.where(held(ws.asker.person)).execute();
    case 'changed': {
      const from = q.when?.from ?? addDays(ws.today, -7);
      return base
        .where(sql<boolean>`id IN (SELECT commitment_id FROM events WHERE on_day >= ${from} AND on_day <= ${q.when?.to ?? '9999'})`)
        .limit(COMMITMENTS)
        .execute();
    }
    case 'open':
    case 'late':
    case 'upcoming':
    case 'unresolved':
      return (q.who === null ? standing : standing.where(held(q.who))).execute();
    default:
      return [];
  }
}

/** Where an event can be read: the words of the record, or that somebody entered it by hand. */
function sourceOf(e: LedgerEvent, trail: string, names: ReadonlyMap<string, string>, meetings: Meetings): Source {
  const place = e.evidence.find((p) => p.role === 'states') ?? e.evidence[0];
  const meeting = e.meeting === null ? undefined : meetings.get(e.meeting);
  if (place && e.meeting !== null && meeting) return inRecord(place, e.meeting, meeting);
  return { place: null, words: e.data.reason ?? '', who: names.get(e.by) ?? e.by, on: e.on, where: 'entered by hand', at: null, href: trail };
}

const inRecord = (place: Place, meeting: number, named: { title: string; date: string }): Source => ({ place, words: '', who: null, on: named.date, where: named.title, at: null, href: `/meetings/${meeting}/sift?record=${place.record}#s${place.segment}` });

/** Events that came from an answer rest on its words. */
async function answersOf(ws: Workspace, ids: readonly number[], names: ReadonlyMap<string, string>): Promise<Map<number, Source>> {
  const rows = await ws.db
    .selectFrom('answers as a')
    .innerJoin('replies as r', 'r.id', 'a.reply_id')
    .select(['a.event_id', 'a.data', 'r.person_id', 'r.from_address', 'r.received_at'])
    .where('a.event_id', 'is not', null)
    .where(sql<boolean>`a.commitment_id IN (SELECT value FROM json_each(${among(ids)}))`)
    .execute();
  return new Map(rows.map((r) => [r.event_id!, { place: null, words: CODECS.answer.read(r.data).words, who: r.person_id === null ? r.from_address : (names.get(r.person_id) ?? r.person_id), on: r.received_at.slice(0, 10), where: 'answer to a letter', at: null, href: '/post' }]));
}

/** Updates that Sift proposes and nobody has settled. */
async function waitingUpdates(ws: Workspace, ids: readonly number[], meetings: Meetings): Promise<Map<number, Source[]>> {
  const rows = await ws.db.selectFrom('finds').select(['meeting_id', 'record_id', 'data']).where('kind', '=', 'update').where('verdict', '=', 'open').where('twin_of', 'is', null).where('reader', 'not in', [SUPERSEDED, DOUBTED]).orderBy('id', 'desc').limit(COMMITMENTS).execute();
  const wanted = new Set(ids);
  const out = new Map<number, Source[]>();
  for (const r of rows) {
    const find = CODECS.find.read(r.data);
    const of = Number(find.update?.open);
    const meeting = meetings.get(r.meeting_id);
    const place = find.evidence.find((e) => e.role === 'states') ?? find.evidence[0];
    if (wanted.has(of) && meeting && place) out.set(of, [...(out.get(of) ?? []), inRecord({ ...place, record: r.record_id }, r.meeting_id, meeting)]);
  }
  return out;
}

async function statements(ws: Workspace, q: Question, found: readonly number[], meetings: Meetings): Promise<StatementOnRecord[]> {
  const all = !q.about && (q.asks === 'decided' || q.asks === 'questions' || q.asks === 'unresolved' || q.asks === 'changed');
  const rows = await ws.db
    .selectFrom('statements')
    .selectAll()
    .where('project_id', 'in', visible(ws))
    .$if(!all, (b) => b.where(sql<boolean>`id IN (SELECT value FROM json_each(${among(found)}))`))
    .orderBy('id', 'desc')
    .limit(COMMITMENTS)
    .execute();
  const these = among(rows.map((r) => r.id));
  const events = await ws.db.selectFrom('statement_events').select(['statement_id', 'kind', 'note']).where(sql<boolean>`statement_id IN (SELECT value FROM json_each(${these}))`).orderBy('id').execute();
  const beside = new Map((await ws.db.selectFrom('passages').select(['source', 'kind', 'beside']).where('kind', 'in', ['decision', 'question']).where(sql<boolean>`source IN (SELECT value FROM json_each(${these}))`).execute()).map((p) => [p.source, p.beside]));
  const elsewhere = await projectNames(ws);
  return rows.flatMap((s) => {
    const own = events.filter((e) => e.statement_id === s.id);
    if (own.at(-1)?.kind === 'withdrawn') return [];
    const last = own.filter((e) => e.kind !== 'taken').at(-1);
    const over = last?.kind === 'closed' || last?.kind === 'replaced';
    const meeting = meetings.get(s.meeting_id);
    const ref = `${s.kind === 'decision' ? 'D' : 'Q'}-${s.number}`;
    const places = CODECS.places.read(s.evidence).slice(0, 2);
    return [{ kind: s.kind, ref: `${ref}${elsewhere(s.project_id)}`, href: `/${s.kind}s#${ref}`, text: s.text, words: beside.get(s.id) ?? '', on: meeting?.date ?? s.at.slice(0, 10), open: !over, closed: over ? (last.note ?? '') : null, sources: meeting ? places.map((p) => inRecord(p, s.meeting_id, meeting)) : [] }];
  });
}

async function passages(ws: Workspace, found: readonly Candidate[], names: ReadonlyMap<string, string>, meetings: Meetings): Promise<PassageOnRecord[]> {
  const heard = found.filter((c) => c.kind !== 'commitment' && c.kind !== 'decision' && c.kind !== 'question');
  const rows = await ws.db
    .selectFrom('passages')
    .select(['id', 'text', 'cuts'])
    .where(sql<boolean>`id IN (SELECT value FROM json_each(${among(heard.map((c) => c.id))}))`)
    .execute();
  const texts = new Map(rows.map((r) => [r.id, r]));
  return heard.flatMap((c) => {
    const own = texts.get(c.id);
    if (!own) return [];
    const meeting = c.meeting === null ? undefined : meetings.get(c.meeting);
    const href = c.kind === 'said' ? `/meetings/${c.meeting}/sift?record=${c.source}#s${own.cuts.split(':')[0] || 0}` : c.kind === 'letter' ? `/post/letters/${c.source}` : c.kind === 'answer' ? '/post' : c.kind === 'minutes' ? `/meetings/${c.meeting}/minutes` : '/jottings';
    const where = meeting?.title ?? { letter: 'letter', answer: 'answer to a letter', jotting: 'your jotting' }[c.kind as 'letter'] ?? c.kind;
    return [{ place: null, words: own.text, who: c.person === null ? c.voice : (names.get(c.person) ?? c.person), person: c.person, kind: c.kind, on: c.on, where: c.kind === 'minutes' ? `minutes of ${where}` : where, at: c.start, href }];
  });
}

/** Records a subject stands in, the newest first. */
const newestFirst = (found: readonly Candidate[]): number[] =>
  found
    .filter((c) => c.kind === 'said')
    .sort((a, b) => (a.on < b.on ? 1 : -1))
    .map((c) => c.source);

/** The newest records in which the subject came up. */
async function talks(ws: Workspace, said: readonly number[], meetings: Meetings): Promise<TalkOnRecord[]> {
  const records = [...new Set(said)].slice(0, RECORDS);
  const people = await ws.db.selectFrom('people').select(['id', 'name']).execute();
  const out: TalkOnRecord[] = [];
  for (const record of records) {
    const row = await ws.db.selectFrom('records').select('meeting_id').where('id', '=', record).executeTakeFirst();
    const meeting = row && meetings.get(row.meeting_id);
    if (!meeting) continue;
    const whole = await spokenRecord(ws.db, record, people);
    const talk = turnsOf(whole);
    out.push({
      title: meeting.title,
      on: meeting.date,
      talk,
      source: (segment) => ({ place: null, words: whole.segments[segment]?.text ?? '', who: whole.segments[segment]?.voice ?? null, on: meeting.date, where: meeting.title, at: whole.segments[segment]?.start ?? null, href: `/meetings/${row.meeting_id}/sift?record=${record}#s${segment}` }),
    });
  }
  return out;
}
