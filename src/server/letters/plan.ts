import { sql } from 'kysely';
import { z } from 'zod';
import { addDays, type IsoDate } from '../../core/dates/calendar.ts';
import { clockAt, isQuiet } from '../../core/dates/moments.ts';
import { onWorkingDay } from '../../core/dates/working-days.ts';
import { shortDay } from '../../core/language/days.ts';
import { carriedOver } from '../../core/ledger/due.ts';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import type { CommitmentState } from '../../core/ledger/state.ts';
import { composeLetter, type LetterItem, type LetterSitting } from '../../core/letters/compose.ts';
import { LANGUAGES, type Language, LENGTHS, type LetterKind, type LetterLength, pressing, TONES, type Tone } from '../../core/letters/kinds.ts';
import { daysAhead, type PlannedLetter, planLetters } from '../../core/letters/plan.ts';
import { hourOf, type LetterRules, type ReaderWishes } from '../../core/letters/rules.ts';
import { ledgerStamp } from '../ledger/live.ts';
import { predicates } from '../ledger/predicates.ts';
import { invitedTo } from '../meetings/meetings.ts';
import { mustSee, type Workspace, workspaceOf } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { publicAddress } from '../store/addresses.ts';
import type { Db } from '../store/database.ts';
import { addRecipient, type Letter, letterById } from './letters.ts';
import { answerPath } from './links.ts';
import { senderOf } from './mail-settings.ts';
import { queueLetter } from './queue.ts';
import { calendarsOf, lettersWanted, rulesOf } from './rules.ts';
import { fillTemplate, templateOf } from './templates.ts';

interface Reader {
  id: string;
  name: string;
  mail: string | null;
  wishes: ReaderWishes;
}

/** A project's letter plan, with what is needed to show it and to write from it. */
export interface Plan {
  rules: LetterRules;
  manager: string;
  letters: PlannedLetter[];
  readers: Map<string, Reader>;
  /** references and words of the commitments the plan speaks of */
  refs: Map<number, { ref: string; text: string }>;
}

/** Computes the letter plan of a project from what is open, who is to be written to, the rules, and what was written. */
export async function planOf(db: Db, project: string, today: IsoDate, days = daysAhead(today)): Promise<Plan> {
  const rules = await rulesOf(db, project);
  const manager = await managerOf(db, project);
  const people = await db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name', 'p.mail', 'p.language', 'p.zone', 'p.country']).where('m.project_id', '=', project).execute();
  const wanted = await lettersWanted(db, project);
  const readers = new Map<string, Reader>(people.map((p) => [p.id, { id: p.id, name: p.name, mail: p.mail, wishes: { letters: wanted(p.id), language: p.language as Language, zone: p.zone, country: p.country } }]));
  const rows = await db
    .selectFrom('commitments')
    .select(['id', 'number', 'text', 'due', 'state', 'made_on', 'ended_on', 'last_on', 'handed_on'])
    .where('project_id', '=', project)
    .where('state', '!=', 'withdrawn')
    // what ended long ago is written to nobody about
    .where((eb) => eb.or([eb('state', 'in', ['open', 'blocked']), eb.and([eb('state', '=', 'done'), eb('ended_on', '>=', addDays(today, -14))])]))
    // nobody is asked about what is put off
    .where(({ not }) => not(predicates(today, 'commitments').putOff))
    .orderBy('id')
    .execute();
  const owners = await db
    .selectFrom('commitment_owners')
    .selectAll()
    .where(sql<boolean>`commitment_id IN (SELECT value FROM json_each(${JSON.stringify(rows.map((r) => r.id))}))`)
    .execute();
  const ownersOf = new Map<number, string[]>();
  for (const o of owners) ownersOf.set(o.commitment_id, [...(ownersOf.get(o.commitment_id) ?? []), o.person_id]);
  const sittings = await db
    .selectFrom('meetings as m')
    .select(['m.id', 'm.date'])
    .where('m.project_id', '=', project)
    .where('m.date', '>', today)
    .where('m.cancelled_at', 'is', null)
    .where(({ not, exists, selectFrom }) => not(exists(selectFrom('records').select('records.id').whereRef('records.meeting_id', '=', 'm.id'))))
    .orderBy('m.id')
    .execute();
  const invited: { id: number; date: string; people: string[] }[] = [];
  for (const s of sittings) invited.push({ ...s, people: (await invitedTo(db, s.id)).map((p) => p.id) });
  const written = await db
    .selectFrom('letter_items as i')
    .innerJoin('letters as l', 'l.id', 'i.letter_id')
    .innerJoin('letter_recipients as r', 'r.letter_id', 'l.id')
    .select(['i.key', 'r.person_id', 'l.planned_on', 'l.created_at'])
    .where('l.project_id', '=', project)
    .where('l.state', '!=', 'withdrawn')
    .where('r.person_id', 'is not', null)
    .execute();
  const answered = new Set((await db.selectFrom('answers as a').innerJoin('replies as r', 'r.id', 'a.reply_id').select('a.commitment_id').where('r.project_id', '=', project).where('a.verdict', '=', 'open').where('a.commitment_id', 'is not', null).execute()).map((a) => a.commitment_id!));
  const marks = await db.selectFrom('plan_marks').select(['key', 'what', 'day']).where('project_id', '=', project).execute();
  const works = await calendarsOf(db, project, today);
  const letters = planLetters({
    today,
    days,
    rules,
    manager,
    readers: [...readers.values()].filter((r) => r.mail).map((r) => ({ id: r.id, letters: r.wishes.letters, works: works(r.id) })),
    commitments: rows.map((c) => ({ id: c.id, owner: ownersOf.get(c.id) ?? [], due: c.due, state: c.state as CommitmentState, madeOn: c.made_on, endedOn: c.ended_on, lastOn: c.last_on, handedOn: c.handed_on, answerWaits: answered.has(c.id) })),
    sittings: invited,
    written: written.map((w) => ({ key: w.key, to: w.person_id!, on: w.planned_on ?? w.created_at.slice(0, 10) })),
    marks,
  });
  return { rules, manager, letters, readers, refs: new Map(rows.map((c) => [c.id, { ref: `C-${c.number}`, text: c.text }])) };
}

/** Who runs a project: the person named for it, else the first who has an account. */
export async function managerOf(db: Db, project: string): Promise<string> {
  const row = await db.selectFrom('projects').select('manager_id').where('id', '=', project).executeTakeFirst();
  if (row?.manager_id) return row.manager_id;
  const first = await db.selectFrom('memberships as m').innerJoin('people as p', 'p.id', 'm.person_id').select('p.id').where('m.project_id', '=', project).where('p.account', '=', 1).orderBy('p.id').limit(1).executeTakeFirst();
  return first?.id ?? '';
}

export const PlanChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('write'), to: z.string().max(140), day: IsoDateSchema }),
  z.object({ do: z.literal('hold'), to: z.string().max(140), day: IsoDateSchema }),
  z.object({ do: z.literal('release'), to: z.string().max(140), day: IsoDateSchema }),
  z.object({ do: z.literal('move'), to: z.string().max(140), day: IsoDateSchema, until: IsoDateSchema }),
  z.object({ do: z.literal('drop'), to: z.string().max(140), day: IsoDateSchema }),
  z.object({ do: z.literal('unmark'), keys: z.array(z.string().max(300)).max(500), before: z.array(z.object({ key: z.string().max(300), what: z.enum(['hold', 'move', 'drop']), day: IsoDateSchema.nullable() })).max(500) }),
]);
export type PlanChange = z.infer<typeof PlanChangeSchema>;
export interface Marked {
  keys: string[];
  /** the marks there were before, to be put back */
  before: { key: string; what: 'hold' | 'move' | 'drop'; day: string | null }[];
  /** where it was moved to: the day asked for, or the next one its reader works on */
  day: string | null;
}

/** Holds, releases, moves or drops a planned letter, or puts back the marks there were. A move onto a day that has a letter joins the two. */
export async function changePlan(ws: Workspace, project: string, change: Exclude<PlanChange, { do: 'write' }>): Promise<Marked> {
  mustSee(ws, project, 'project');
  if (change.do === 'unmark') {
    await ws.transaction(async (ws) => {
      if (change.keys.length) await ws.db.deleteFrom('plan_marks').where('project_id', '=', project).where('key', 'in', change.keys).execute();
      for (const m of change.before) await ws.db.insertInto('plan_marks').values({ project_id: project, key: m.key, what: m.what, day: m.day, at: new Date().toISOString(), by_person: ws.asker.person }).execute();
    });
    return { keys: change.keys, before: [], day: null };
  }
  const { letters } = await planOf(ws.db, project, ws.today);
  const letter = letters.find((l) => l.to === change.to && l.day === change.day && l.held === (change.do === 'release')) ?? letters.find((l) => l.to === change.to && l.day === change.day);
  if (!letter) throw new Refusal('not-found', 'That letter is not planned any more.', 'The plan follows what is open; load the page again.');
  if (change.do === 'move' && change.until < ws.today) throw new Refusal('bad-input', 'That day has passed.', 'Choose today or a later day.');
  // a letter goes on a day its reader works
  const day = change.do === 'move' ? onWorkingDay(change.until, 1, (await calendarsOf(ws.db, project, ws.today))(change.to)) : null;
  const keys = letter.covers;
  const before = await ws.db.selectFrom('plan_marks').select(['key', 'what', 'day']).where('project_id', '=', project).where('key', 'in', keys).execute();
  await ws.transaction(async (ws) => {
    await ws.db.deleteFrom('plan_marks').where('project_id', '=', project).where('key', 'in', keys).execute();
    if (change.do === 'release') return;
    for (const key of keys) await ws.db.insertInto('plan_marks').values({ project_id: project, key, what: change.do, day, at: new Date().toISOString(), by_person: ws.asker.person }).execute();
  });
  return { keys, before, day };
}

/** Writes a planned letter: it becomes a draft that can be looked at, edited and let go. */
export async function writePlanned(ws: Workspace, project: string, to: string, day: IsoDate, { byItself = false, goesOn = ws.today }: { byItself?: boolean; goesOn?: IsoDate } = {}): Promise<Letter> {
  mustSee(ws, project, 'project');
  // looked up and written in one transaction: asked for twice at once it is written once
  return ws.transaction(async (ws) => {
    const planned = (await planOf(ws.db, project, ws.today)).letters.find((l) => l.to === to && l.day === day);
    if (!planned) throw new Refusal('not-found', 'That letter is not planned any more.', 'The plan follows what is open; load the page again.');
    return writeLetter(ws, project, planned, { byItself, goesOn });
  });
}

/** Writes a letter to one person about what a plan names. */
export async function writeLetter(ws: Workspace, project: string, planned: Pick<PlannedLetter, 'to' | 'kind' | 'parts' | 'covers'>, { byItself = false, goesOn = ws.today }: { byItself?: boolean; goesOn?: IsoDate } = {}): Promise<Letter> {
  mustSee(ws, project, 'project');
  const reader = await ws.db.selectFrom('people').select(['name', 'mail', 'language']).where('id', '=', planned.to).executeTakeFirst();
  if (!reader?.mail) throw new Refusal('not-found', `${reader?.name ?? 'This person'} has no mail address.`, 'Add one under People.');
  const sender = await senderOf(ws, project);
  const rules = await rulesOf(ws.db, project);
  const id = await ws.transaction(async (ws) => {
    const sitting = planned.parts.find((p) => p.sitting !== null)?.sitting ?? null;
    const { id } = await ws.db
      .insertInto('letters')
      .values({
        project_id: project,
        meeting_id: null,
        sitting_id: sitting,
        kind: planned.kind,
        subject: '…',
        body: '…',
        language: reader.language,
        tone: rules.tone,
        length: rules.length,
        state: 'draft',
        created_at: new Date().toISOString(),
        planned_on: ws.today,
        sent_at: null,
        by_person: ws.asker.person,
        from_name: sender.name,
        from_mail: sender.address,
        by_itself: byItself ? 1 : 0,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await addRecipient(ws.db, id, planned.to, reader.mail!);
    for (const key of planned.covers) {
      const part = planned.parts.find((p) => p.key === key);
      await ws.db
        .insertInto('letter_items')
        .values({ letter_id: id, n: null, key, kind: part?.kind ?? key.split(':')[0]!, commitment_id: part?.commitment ?? null })
        .execute();
    }
    await compose(ws, id, goesOn);
    return id;
  });
  return letterById(ws, id);
}

/** A planned letter as it would be written, without writing it. */
export interface Preview {
  /** the day whose facts it tells */
  goesOn: IsoDate;
  subject: string;
  body: string;
  short: string;
  items: { n: number; ref: string; due: string | null; state: string }[];
}

class NotKept extends Error {
  constructor(readonly letter: Letter) {
    super('only looked at');
  }
}

/** What a planned letter would say: it is written as it would be, looked at, and not kept. */
export async function previewPlanned(ws: Workspace, project: string, to: string, day: IsoDate): Promise<Preview> {
  const goesOn = day > ws.today ? day : ws.today;
  try {
    await ws.transaction(async (ws) => {
      throw new NotKept(await writePlanned(ws, project, to, day, { goesOn }));
    });
    throw new Error('nothing was written');
  } catch (error) {
    if (!(error instanceof NotKept)) throw error;
    const l = error.letter;
    return { goesOn, subject: l.subject, body: l.body, short: l.short, items: l.items.map((i) => ({ n: i.n, ref: i.ref, due: i.due, state: i.state })) };
  }
}

export const ComposeSchema = z.object({ language: z.enum(LANGUAGES).optional(), tone: z.enum(TONES).optional(), length: z.enum(LENGTHS).optional() });

/** Composes a draft anew from how things stand now, in the language, tone and length asked for. */
export async function composeAnew(ws: Workspace, id: number, how: z.infer<typeof ComposeSchema>): Promise<Letter> {
  const letter = await letterById(ws, id);
  if (letter.state !== 'draft') throw new Refusal('conflict', 'This letter has gone out and does not change any more.');
  if (letter.kind === 'answer') throw new Refusal('conflict', 'This letter was written by hand; Ottik has no wording for it.', 'Change its words where they stand.');
  await ws.transaction(async (ws) => {
    await ws.db
      .updateTable('letters')
      .set({ ...(how.language ? { language: how.language } : {}), ...(how.tone ? { tone: how.tone } : {}), ...(how.length ? { length: how.length } : {}), created_at: new Date().toISOString() })
      .where('id', '=', id)
      .execute();
    await compose(ws, id, ws.today);
  });
  return letterById(ws, id);
}

/**
 * Makes a draft tell how things stand on the day it goes: one composed on an earlier day is composed again, unless somebody has
 * put it into their own words.
 * @throws Refusal of the kind `insist` where it was put into own words on an earlier day
 */
export async function freshen(ws: Workspace, id: number, insist: boolean): Promise<void> {
  const row = await ws.db.selectFrom('letters').select(['composed_on', 'edited', 'state']).where('id', '=', id).executeTakeFirst();
  if (!row?.composed_on || row.composed_on === ws.today || row.state !== 'draft') return;
  if (!row.edited) await composeAnew(ws, id, {});
  else if (!insist) throw new Refusal('insist', `This letter tells how things stood on ${shortDay(row.composed_on, ws.today)}.`, 'Read it once more; G again sends it as it is, C composes it anew.');
}

/** Fills a letter's template with its items as they stand now and numbers them. What ended meanwhile is left out. */
async function compose(ws: Workspace, id: number, today: IsoDate): Promise<void> {
  const l = await ws.db.selectFrom('letters').innerJoin('projects as p', 'p.id', 'letters.project_id').select(['letters.kind', 'letters.language', 'letters.tone', 'letters.length', 'letters.sitting_id', 'letters.project_id', 'p.name as project']).where('letters.id', '=', id).executeTakeFirstOrThrow();
  const recipient = await ws.db.selectFrom('letter_recipients as r').innerJoin('people as p', 'p.id', 'r.person_id').select(['r.id', 'p.id as person', 'p.name']).where('r.letter_id', '=', id).where('r.via', '=', 'mail').executeTakeFirstOrThrow();
  const items = await letterItems(ws.db, id, recipient.person, today);
  const sitting = l.sitting_id === null ? null : await ws.db.selectFrom('meetings').select(['title', 'date', 'time', 'place', 'series_id']).where('id', '=', l.sitting_id).executeTakeFirstOrThrow();
  if (items.length === 0 && !sitting) throw new Refusal('conflict', 'Nothing in this letter would be true today.', 'It goes on its day, or drop it.');
  const series = sitting?.series_id ?? (items[0] ? ((await ws.db.selectFrom('commitments').select('series_id').where('id', '=', items[0].commitment).executeTakeFirst())?.series_id ?? null) : null);
  // what it is called goes by what is true on the day it goes: nothing due in four days is overdue
  const kind = items.length ? items.map((i) => i.kind).sort(pressing)[0]! : (l.kind as LetterKind);
  const composed = composeLetter(
    {
      kind,
      items,
      sitting: sitting as LetterSitting | null,
      recipient: { name: recipient.name },
      sender: { name: (await senderOf(ws, l.project_id)).name },
      project: { name: l.project },
      today,
      link: `${publicAddress()}${await answerPath(ws.db, recipient.id, today)}`,
      language: l.language as Language,
      tone: l.tone as Tone,
      length: l.length as LetterLength,
    },
    fillTemplate,
    await templateOf(ws.db, l.project_id, series, kind, l.language as Language),
  );
  await ws.db
    .updateTable('letters')
    .set({ kind, subject: composed.subject, body: composed.body, short: composed.short, composed_on: today, as_of: Number(await ledgerStamp(ws.db)), edited: 0 })
    .where('id', '=', id)
    .execute();
  await ws.db.updateTable('letter_items').set({ n: null }).where('letter_id', '=', id).execute();
  for (const { n, commitment } of composed.numbered) {
    const row = await ws.db.selectFrom('letter_items').select('id').where('letter_id', '=', id).where('commitment_id', '=', commitment).where('n', 'is', null).orderBy('id').limit(1).executeTakeFirst();
    if (row) await ws.db.updateTable('letter_items').set({ n }).where('id', '=', row.id).execute();
  }
}

async function letterItems(tx: Db, letter: number, reader: string, today: IsoDate): Promise<LetterItem[]> {
  const rows = await tx
    .selectFrom('letter_items as i')
    .innerJoin('commitments as c', 'c.id', 'i.commitment_id')
    .leftJoin('meetings as m', 'm.id', 'c.meeting_id')
    .select(['i.kind', 'c.id', 'c.number', 'c.text', 'c.due', 'c.state', 'c.made_on', 'c.ended_on', 'c.moved', 'c.series_id', 'm.title'])
    .where('i.letter_id', '=', letter)
    .orderBy('i.id')
    .execute();
  const out: LetterItem[] = [];
  for (const r of rows) {
    const owners = await tx.selectFrom('commitment_owners as o').innerJoin('people as p', 'p.id', 'o.person_id').select(['p.id', 'p.name']).where('o.commitment_id', '=', r.id).orderBy('p.name').execute();
    const open = r.state === 'open' || r.state === 'blocked';
    if (r.kind !== 'thanks' && !open) continue;
    // nobody is told that something is late before it is
    if (r.kind === 'escalation' && (r.due === null || r.due >= today)) continue;
    if (r.kind !== 'escalation' && r.kind !== 'thanks' && !owners.some((o) => o.id === reader)) continue;
    const sittings = r.series_id === null ? [] : await tx.selectFrom('meetings').select('date').where('series_id', '=', r.series_id).where('sifted_at', 'is not', null).execute();
    out.push({
      commitment: r.id,
      ref: `C-${r.number}`,
      text: r.text,
      owner: owners.map((o) => o.name),
      due: r.due,
      state: r.state as CommitmentState,
      madeOn: r.made_on,
      meeting: r.title ?? '',
      moved: r.moved,
      carried: carriedOver(
        r.made_on,
        r.ended_on,
        sittings.map((s) => s.date),
      ),
      // a date that was moved makes an overdue thing one that is due soon
      kind: r.kind === 'overdue' && (r.due === null || r.due >= today) ? 'reminder' : (r.kind as LetterKind),
    });
  }
  return out;
}

/** Writes and queues what is planned for today and may go by itself, where its reader's clock says so. Gives how many. */
export async function letGoByThemselves(db: Db, now: Date): Promise<number> {
  let n = 0;
  for (const { id: project } of await db.selectFrom('projects').select('id').where('archived_at', 'is', null).execute()) {
    const manager = await managerOf(db, project);
    if (!manager) continue;
    const seen = await workspaceOf(db, manager).catch(() => null);
    if (!seen?.asker.mail || !seen.asker.projects.has(project)) continue;
    const rules = await rulesOf(db, project);
    const { zone } = seen.asker;
    const today = clockAt(now, zone).day;
    const plan = await planOf(db, project, today, 1);
    for (const planned of plan.letters) {
      const there = clockAt(now, plan.readers.get(planned.to)?.wishes.zone ?? zone);
      if (!planned.byItself || planned.held || planned.day > today || there.day < planned.day || there.time < hourOf(planned.kind, rules) || isQuiet(there.time, rules.quiet)) continue;
      // written and queued together: a letter that is written and not queued would wait for a look that nobody gives it
      await seen.with({ today }).transaction(async (ws) => {
        const letter = await writePlanned(ws, project, planned.to, planned.day, { byItself: true });
        await queueLetter(ws, letter.id, now);
      });
      n++;
    }
  }
  return n;
}
