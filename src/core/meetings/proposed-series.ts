import { daysBetween, type IsoDate, partsOf, weekday } from '../dates/calendar.ts';
import { fold } from '../language/fold.ts';
import { dayCode, type Rule } from './recurrence.ts';
import { rhythmInWords } from './rhythm.ts';

/** A series that a single meeting looks like one of: its title, its rhythm in words, and why. */
export interface ProposedSeries {
  title: string;
  when: string;
  why: string;
}

const SAID: readonly [RegExp, (day: string) => Rule, string][] = [
  [/\b(?:daily|every day|stand-?up)\b/, () => 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'daily'],
  [/\b(?:fortnightly|bi-?weekly|every (?:two|2|other|second) weeks?)\b/, (day) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${day}`, 'every two weeks'],
  [/\b(?:weekly|every week|each week)\b/, (day) => `FREQ=WEEKLY;BYDAY=${day}`, 'weekly'],
];
/** Days in a month, on average, and how far a weekday of each month strays from that. */
const MONTH = 30.44;
const STRAY = 7;

const isMonths = (gap: number) => gap > MONTH - STRAY && Math.abs(gap - MONTH * Math.round(gap / MONTH)) <= STRAY;

/**
 * Whether a meeting looks like one of a series: its title says how often (`Weekly works call`), or earlier ones of the same
 * title lie whole weeks or months apart.
 * @param others earlier meetings that belong to no series
 * @returns null where neither says so
 */
export function proposedSeries(meeting: { title: string; date: IsoDate; time: string | null }, others: readonly { title: string; date: IsoDate; time: string | null }[]): ProposedSeries | null {
  const title = meeting.title.trim();
  if (title.length < 2 || title.length > 120) return null;
  const day = dayCode(weekday(meeting.date));
  const alike = others.filter((o) => fold(o.title) === fold(title) && o.date !== meeting.date);
  const time = meeting.time ?? alike.find((o) => o.time)?.time ?? '10:00';
  const proposal = (rule: Rule, why: string): ProposedSeries => ({ title, when: rhythmInWords({ rule, time }), why });
  for (const [said, rule, word] of SAID) if (said.test(fold(title))) return proposal(rule(day), `its title says ${word}`);
  if (/\bmonthly\b/.test(fold(title))) return proposal(byMonth(meeting.date, day), 'its title says monthly');
  if (alike.length === 0) return null;
  const days = [meeting.date, ...alike.map((o) => o.date)].sort();
  const gaps = days.slice(1).map((d, i) => daysBetween(days[i]!, d));
  const held = `${alike.length === 1 ? 'one' : alike.length} of this title ${alike.length === 1 ? 'was' : 'were'} held before`;
  if (gaps.every((gap) => gap % 7 === 0)) {
    const weeks = Math.min(...gaps) / 7;
    if (weeks <= 3) return proposal(`FREQ=WEEKLY${weeks > 1 ? `;INTERVAL=${weeks}` : ''};BYDAY=${day}`, held);
  }
  return gaps.every(isMonths) ? proposal(byMonth(meeting.date, day), held) : null;
}

/** The same weekday of each month: the first to the fourth, or the last. */
function byMonth(date: IsoDate, day: string): Rule {
  const nth = Math.ceil(partsOf(date).day / 7);
  return `FREQ=MONTHLY;BYDAY=${nth > 4 ? -1 : nth}${day}`;
}
