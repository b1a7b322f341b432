import { addDays } from '../../core/dates/calendar.ts';
import { type CountryChoice, countryChoices } from '../../core/dates/countries.ts';
import { fold } from '../../core/language/fold.ts';
import { countsAsOpen, isLate } from '../../core/ledger/predicates.ts';
import { type OnTime, onTimeOf } from '../../core/measures/on-time.ts';
import type { Briefing } from '../../core/meetings/briefing.ts';
import { type Jotting, jottingsOf } from '../day/jottings.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { correspondenceOf } from '../letters/correspondence.ts';
import { briefingFor, lastMet } from '../meetings/briefings.ts';
import { type Details, detailsOf } from '../people/details.ts';
import { type Access, accessOf } from '../people/invitations.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';

export interface PersonProps {
  person: { id: string; name: string; role: string; organisation: string; mail: string | null; bounced: string | null };
  me: string;
  today: string;
  theirs: LedgerRow[];
  mine: LedgerRow[];
  /** theirs and mine that ended since they last met */
  ended: LedgerRow[];
  brief: Briefing;
  last: { id: number; date: string; title: string } | null;
  next: { id: number; date: string; time: string | null; title: string } | null;
  heard: { from: string; meetings: string[]; letters: { on: string; late: boolean }[]; answers: string[]; silentFor: number | null };
  onTime: OnTime;
  notes: Jotting[];
  people: Choice[];
  details: Details;
  countries: CountryChoice[];
  zones: string[];
  access: Access;
}

/** How far back the line of what was heard goes. */
const WEEKS = 9;

/** A person: both sides' promises, where they are heard and where silent, how they keep dates, standing notes. */
export async function personPage(ws: Workspace, id: string): Promise<PersonProps> {
  const people = await peopleOf(ws, ws.project);
  const person = people.find((p) => p.id === id);
  if (!person) throw new Refusal('not-found', 'There is no such person in this project.');
  const last = await lastMet(ws, ws.project, id, ws.today);
  const [held, mine] = (await Promise.all([id, ws.asker.person].map((owner) => ledgerRows(ws, { project: ws.project, state: 'all', owner, lives: false })))) as [LedgerRow[], LedgerRow[]];
  const open = (r: LedgerRow) => r.state === 'open' || r.state === 'blocked';
  // what I promised in a meeting they sat in, or that names them
  const met = new Set((await ws.db.selectFrom('attendance').select('meeting_id').where('person_id', '=', id).execute()).map((a) => a.meeting_id));
  const from = addDays(ws.today, -7 * WEEKS);
  const [brief, next, meetings, letters, answers, silence, notes, row] = await Promise.all([
    briefingFor(ws, ws.project, [id], last?.date ?? null),
    nextWith(ws.db, ws.project, id, ws.today),
    ws.db.selectFrom('meetings as m').innerJoin('attendance as a', 'a.meeting_id', 'm.id').select('m.date').where('m.project_id', '=', ws.project).where('a.person_id', '=', id).where('a.present', '=', 1).where('m.date', '>=', from).where('m.date', '<=', ws.today).orderBy('m.date').execute(),
    ws.db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select(['r.sent_at', 'l.kind']).where('l.project_id', '=', ws.project).where('r.person_id', '=', id).where('r.sent_at', '>=', from).orderBy('r.sent_at').execute(),
    ws.db.selectFrom('replies').select('received_at').where('project_id', '=', ws.project).where('person_id', '=', id).where('nature', '=', 'answer').where('received_at', '>=', from).orderBy('received_at').execute(),
    correspondenceOf(ws.db, ws.project, ws.today),
    jottingsOf(ws, ws.project, { about: { kind: 'person', id } }),
    ws.db.selectFrom('people').select('bounced').where('id', '=', id).executeTakeFirstOrThrow(),
  ]);
  return {
    person: { id, name: person.name, role: person.role, organisation: person.organisation, mail: person.mail, bounced: row.bounced },
    me: ws.asker.person,
    today: ws.today,
    details: await detailsOf(ws, ws.project, id),
    countries: countryChoices(),
    zones: Intl.supportedValuesOf('timeZone'),
    theirs: id === ws.asker.person ? [] : held.filter(open),
    mine: mine.filter((r) => open(r) && (id === ws.asker.person || (r.meeting !== null && met.has(r.meeting)) || fold(r.text).includes(fold(person.name.split(/\s+/)[0] ?? '')))),
    ended: [...held, ...mine.filter((m) => !held.some((h) => h.id === m.id))].filter((r) => r.state === 'done' && r.endedOn !== null && r.endedOn >= (last?.date ?? from)).sort((a, b) => (a.endedOn! < b.endedOn! ? 1 : -1)),
    brief,
    last,
    next,
    heard: { from, meetings: meetings.map((m) => m.date), letters: letters.map((l) => ({ on: l.sent_at!.slice(0, 10), late: l.kind === 'overdue' })), answers: answers.map((a) => a.received_at.slice(0, 10)), silentFor: silence.find((s) => s.person === id)?.silentFor ?? null },
    onTime: onTimeOf(
      held.filter((r) => r.state !== 'dropped' && r.state !== 'merged').map((r) => ({ ref: r.ref, due: r.due, doneOn: r.state === 'done' ? r.endedOn : null })),
      ws.today,
    ),
    notes,
    access: await accessOf(ws, ws.project, id, new Date()),
    people: choicesOf(people, ws.asker),
  };
}

/** The next sitting both are asked to. */
async function nextWith(db: Workspace['db'], project: string, person: string, today: string) {
  const rows = await db
    .selectFrom('meetings as m')
    .leftJoin('series_people as s', (j) => j.onRef('s.series_id', '=', 'm.series_id').on('s.person_id', '=', person))
    .leftJoin('attendance as a', (j) => j.onRef('a.meeting_id', '=', 'm.id').on('a.person_id', '=', person))
    .select(['m.id', 'm.date', 'm.time', 'm.title'])
    .where('m.project_id', '=', project)
    .where('m.date', '>', today)
    .where('m.cancelled_at', 'is', null)
    .where((eb) => eb.or([eb('s.person_id', 'is not', null), eb('a.person_id', 'is not', null)]))
    .orderBy('m.date')
    .limit(1)
    .executeTakeFirst();
  return rows ?? null;
}

/** Everybody of a project with what they hold and how silent they are. */
export async function peoplePage(ws: Workspace) {
  const people = await peopleOf(ws, ws.project);
  const rows = await ledgerRows(ws, { project: ws.project, state: 'open', lives: false });
  const silence = new Map((await correspondenceOf(ws.db, ws.project, ws.today)).map((c) => [c.person, c]));
  return people.map((p) => {
    const held = rows.filter((r) => countsAsOpen(r, ws.today) && r.owner.some((o) => o.id === p.id));
    const c = silence.get(p.id);
    return {
      id: p.id,
      name: p.name,
      role: p.role,
      organisation: p.organisation,
      mail: p.mail,
      open: held.length,
      late: held.filter((r) => isLate(r, ws.today)).length,
      carried: held.reduce((s, r) => s + r.carried, 0),
      lastWritten: c?.lastWritten ?? null,
      lastAnswered: c?.lastAnswered ?? null,
      silentFor: c?.silentFor ?? null,
      bounced: c?.bounced ?? null,
    };
  });
}
