import Holidays from 'date-holidays';
import { addDays, type IsoDate, partsOf } from '../../core/dates/calendar.ts';
import { MONDAY_TO_FRIDAY, type WorkingCalendar, type WorkingDays, workingWeek } from '../../core/dates/working-days.ts';
import { DEFAULT_RULES, type LetterRules, LetterRulesSchema, type LetterWish, type ReaderWishes, ReaderWishesSchema } from '../../core/letters/rules.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';

/** The rules of a project. What was kept before a rule existed gets that rule as a project starts with it. */
export async function rulesOf(db: Db, project: string): Promise<LetterRules> {
  const row = await db.selectFrom('projects').select('rules').where('id', '=', project).executeTakeFirst();
  if (!row?.rules) return DEFAULT_RULES;
  return LetterRulesSchema.parse({ ...DEFAULT_RULES, ...(JSON.parse(row.rules) as Partial<LetterRules>) });
}

export async function keepRules(ws: Workspace, project: string, rules: LetterRules): Promise<LetterRules> {
  mustSee(ws, project, 'project');
  if (rules.escalation.on && !rules.escalation.to) throw new Refusal('bad-input', 'Choose who receives escalations.');
  await ws.db
    .updateTable('projects')
    .set({ rules: JSON.stringify(LetterRulesSchema.parse(rules)) })
    .where('id', '=', project)
    .execute();
  return rules;
}

export async function keepWishes(ws: Workspace, project: string, person: string, wishes: ReaderWishes): Promise<void> {
  mustSee(ws, project, 'project');
  const member = await ws.db.selectFrom('memberships').select('person_id').where('project_id', '=', project).where('person_id', '=', person).executeTakeFirst();
  if (!member) throw new Refusal('not-found', 'There is no such person in this project.');
  const w = ReaderWishesSchema.parse(wishes);
  if (w.country && !knownCountry(w.country)) throw new Refusal('bad-input', `No holidays are known for “${w.country}”.`, 'Take a country like SE or DE, with a region like DE-BY where it has its own.');
  const { letters, ...entry } = w;
  await ws.db.updateTable('people').set(entry).where('id', '=', person).execute();
  await keepLetterWish(ws.db, project, person, letters);
}

/** Says which of a project's letters somebody wants; those of other projects stay as they are. */
export async function keepLetterWish(db: Db, project: string, person: string, letters: LetterWish): Promise<void> {
  await db
    .insertInto('letter_wishes')
    .values({ project_id: project, person_id: person, letters })
    .onConflict((c) => c.columns(['project_id', 'person_id']).doUpdateSet({ letters }))
    .execute();
}

/** Which of a project's letters each of its people wants. */
export async function lettersWanted(db: Db, project: string): Promise<(person: string) => LetterWish> {
  const said = new Map((await db.selectFrom('letter_wishes').select(['person_id', 'letters']).where('project_id', '=', project).execute()).map((w) => [w.person_id, w.letters]));
  return (person) => said.get(person) ?? 'all';
}

/** Keeps the address of the project's chat channel; the empty string takes it away. */
export async function keepChannel(ws: Workspace, project: string, url: string): Promise<{ url: string | null }> {
  mustSee(ws, project, 'project');
  if (url && !/^https?:\/\/[^\s@]+$/.test(url)) throw new Refusal('bad-input', `“${url.slice(0, 80)}” is not the address of a channel.`, 'It begins with https:// and is shown where the channel’s incoming webhook was set up.');
  await ws.db
    .updateTable('projects')
    .set({ chat_url: url || null })
    .where('id', '=', project)
    .execute();
  return { url: url || null };
}

const knownCountry = (country: string) => new Holidays().getCountries()[country.split('-')[0]!] !== undefined;

const calendars = new Map<string, WorkingCalendar>();

/** Working days where somebody is: public holidays off (date-holidays), for a year around a day. */
export function calendarOf(country: string, around: IsoDate, weekdays: WorkingDays = MONDAY_TO_FRIDAY): WorkingCalendar {
  const { year } = partsOf(around);
  const key = `${country} ${year} ${weekdays}`;
  const known = calendars.get(key);
  if (known) return known;
  const [land, region] = country.split('-');
  const days: IsoDate[] = [];
  if (land) {
    const holidays = region ? new Holidays(land, region) : new Holidays(land);
    for (const y of [year - 1, year, year + 1]) {
      for (const h of holidays.getHolidays(y)) {
        if (h.type !== 'public') continue;
        const from = h.date.slice(0, 10);
        const length = Math.max(1, Math.round((h.end.getTime() - h.start.getTime()) / 86_400_000));
        for (let k = 0; k < length; k++) days.push(addDays(from, k));
      }
    }
  }
  const works = workingWeek(days, weekdays);
  if (calendars.size > 200) calendars.clear();
  calendars.set(key, works);
  return works;
}

/** The working days of people of a project: their own, and where they have none those of the project. */
export async function calendarsOf(db: Db, project: string, around: IsoDate): Promise<(person: string) => WorkingCalendar> {
  const usual = await db.selectFrom('projects').select(['country', 'working_days']).where('id', '=', project).executeTakeFirst();
  const own = new Map((await db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.country', 'p.working_days']).where('m.project_id', '=', project).execute()).map((p) => [p.id, p]));
  return (person) => calendarOf(own.get(person)?.country || (usual?.country ?? ''), around, own.get(person)?.working_days ?? usual?.working_days);
}
