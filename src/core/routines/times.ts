import { Cron } from 'croner';
import { addDays, type IsoDate } from '../dates/calendar.ts';
import { clockAt, momentAt, type TimeOfDay } from '../dates/moments.ts';
import { daysOf, type Rule } from '../meetings/recurrence.ts';
import { endIn, readRhythm, rhythmInWords, startOf } from '../meetings/rhythm.ts';

/** When something starts by the clock: by days with a time on them, or by a cron expression; so often, and until when. */
export interface Times {
  by: { rule: Rule; start: IsoDate; time: TimeOfDay } | { cron: string };
  /** how often in all; null for without end */
  times: number | null;
  /** the last day */
  until: IsoDate | null;
}

/** Fires of a cron expression stand at least so far apart, in minutes. */
export const CLOSEST = 15;
/** So many fires are looked at to tell how far apart they stand: a week of quarters of an hour. */
const LOOKED_AT = 700;

/** Minutes and hours of a cron expression are figures or stars, and a word never is. */
const FIGURES = /^[\d*?][\d*/,?-]*$/;
const isCron = (said: string): boolean => {
  const [minute, hour, day] = said.split(' ').filter((part) => part !== '');
  return said.startsWith('@') || (FIGURES.test(minute ?? '') && FIGURES.test(hour ?? '') && day !== undefined);
};

/**
 * Times as people say or write them: `every Friday at ten`, `last working day of the month at 16:00, six times`, or the
 * five fields of cron with an end in words: `0 10 * * 5 until 30 June`.
 * @param today what the days are counted from
 * @returns the times, or why they cannot be: in a sentence, with what to do
 */
export function readTimes(text: string, today: IsoDate): Times | { wrong: string; advice: string } {
  const said = text.trim().slice(0, 200);
  if (isCron(said)) return readCron(said, today);
  const rhythm = readRhythm(said, today);
  if (!rhythm) return { wrong: `“${said}” does not say when.`, advice: 'Type days and a time, such as “every Friday at 10:00”, or the five fields of cron.' };
  const { rule, ...end } = withoutEnd(rhythm.rule);
  return { by: { rule, start: startOf(rule, today), time: rhythm.time }, ...end };
}

/** A rule without its end, and the end by itself. */
function withoutEnd(rule: Rule): { rule: Rule; times: number | null; until: IsoDate | null } {
  const times = /;COUNT=(\d+)/.exec(rule)?.[1];
  const until = /;UNTIL=(\d{4})(\d{2})(\d{2})/.exec(rule);
  return { rule: rule.replace(/;(?:COUNT|UNTIL)=[^;]*/g, ''), times: times ? Number(times) : null, until: until ? `${until[1]}-${until[2]}-${until[3]}` : null };
}

function readCron(said: string, today: IsoDate): ReturnType<typeof readTimes> {
  const { rest, end } = endIn(said, today);
  const fields = rest.trim().replace(/,$/, '').trim();
  if (end === null) return { wrong: `“${said}” has an end that is no day.`, advice: 'Write it as in “0 10 * * 5 until 30 June”.' };
  const { times, until } = withoutEnd(end);
  try {
    const fires = cronOf(fields, 'UTC').nextRuns(LOOKED_AT, new Date(`${today}T00:00:00Z`));
    if (fires.length === 0) return { wrong: `“${fields}” never comes.`, advice: 'Check its day and month.' };
    if (fires.some((at, i) => i > 0 && at.getTime() - fires[i - 1]!.getTime() < CLOSEST * 60_000)) return { wrong: `“${fields}” comes more often than every ${CLOSEST} minutes.`, advice: 'Choose fewer times.' };
  } catch {
    return { wrong: `“${fields}” is no cron expression.`, advice: 'It has five fields: minute, hour, day of the month, month, day of the week; 0 10 * * 5 is Fridays at ten.' };
  }
  return { by: { cron: fields }, times, until };
}

/** Five fields and no more: a routine does not start by seconds. */
const cronOf = (fields: string, zone: string) => new Cron(fields, { timezone: zone, paused: true, ...(fields.startsWith('@') ? {} : { mode: '5-part' as const }) });

/**
 * The next moment of some times after another moment.
 * @param zone IANA name of the zone whose clock they go by
 * @param done how often it has been already
 * @returns null when it comes no more
 */
export function nextTime({ by, times, until }: Times, after: Date, zone: string, done = 0): Date | null {
  if (times !== null && done >= times) return null;
  const at = 'cron' in by ? cronOf(by.cron, zone).nextRun(after) : nextOf(by, after, zone);
  return at === null || (until !== null && clockAt(at, zone).day > until) ? null : at;
}

function nextOf({ rule, start, time }: { rule: Rule; start: IsoDate; time: TimeOfDay }, after: Date, zone: string): Date | null {
  const { day } = clockAt(after, zone);
  for (const on of daysOf(rule, start, { from: day > start ? day : start, to: addDays(day > start ? day : start, 366 * 5), count: 2 })) {
    const at = momentAt(on, time, zone);
    if (at > after) return at;
  }
  return null;
}

/** The first moments of some times, for whoever types them to see what they said. */
export function firstTimes(times: Times, after: Date, zone: string, count: number): Date[] {
  const out: Date[] = [];
  for (let at = nextTime(times, after, zone); at !== null && out.length < count; at = nextTime(times, at, zone, out.length)) out.push(at);
  return out;
}

/** Times in words. A cron expression stands for itself. */
export function timesInWords({ by, times, until }: Times): string {
  const words = 'cron' in by ? `by cron ${by.cron}` : rhythmInWords(by);
  return [words, times === null ? null : times === 1 ? 'once' : `${times} times`, until === null ? null : `until ${until}`].filter(Boolean).join(', ');
}
