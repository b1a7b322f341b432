import * as rrule from 'rrule';
import { addMonths, type IsoDate, isIsoDate } from '../dates/calendar.ts';

/**
 * How often something comes again: a recurrence rule of RFC 5545 §3.3.10 without its RRULE name, such as
 * `FREQ=WEEKLY;INTERVAL=2;BYDAY=TU`. A rule goes by days: what comes several times a day is no series of meetings.
 */
export type Rule = string;

/** The package is a module for browsers and a script for Node.js, which has what it gives under one name. */
const { RRule } = 'default' in rrule ? (rrule.default as typeof rrule) : rrule;

interface Parts {
  freq: 'DAILY' | 'WEEKLY' | 'MONTHLY' | 'YEARLY';
  interval: number;
  count: number | null;
  /** the last moment, `19971224T000000Z` or `19971224` */
  until: string | null;
  /** the BY parts as they were written, by their names */
  by: Readonly<Record<string, readonly string[]>>;
}

const BY = ['BYMONTH', 'BYWEEKNO', 'BYYEARDAY', 'BYMONTHDAY', 'BYDAY', 'BYSETPOS'];

/** A rule by its parts; null for what is no rule, or one that gives several moments a day. */
function partsOf(rule: Rule): Parts | null {
  if (rule.length > 500) return null;
  const own = new Map(
    rule
      .replace(/^RRULE:/i, '')
      .toUpperCase()
      .split(';')
      .filter(Boolean)
      .map((part) => part.split('=') as [string, string]),
  );
  const freq = own.get('FREQ');
  const number = (name: string) => (own.has(name) ? Number(own.get(name)) : null);
  const interval = number('INTERVAL') ?? 1;
  const count = number('COUNT');
  const until = own.get('UNTIL') ?? null;
  const by = Object.fromEntries(BY.flatMap((name) => (own.get(name) ? [[name, own.get(name)!.split(',')]] : [])));
  const known = [...own.keys()].every((name) => ['FREQ', 'INTERVAL', 'COUNT', 'UNTIL', 'WKST', ...BY].includes(name));
  if (!known || (freq !== 'DAILY' && freq !== 'WEEKLY' && freq !== 'MONTHLY' && freq !== 'YEARLY')) return null;
  if (!Number.isInteger(interval) || interval < 1 || interval > 400) return null;
  if (count !== null && (!Number.isInteger(count) || count < 1 || count > 10_000)) return null;
  if (until !== null && !/^\d{8}(?:T\d{6}Z?)?$/.test(until)) return null;
  if ((by.BYDAY ?? []).some((d) => !/^[+-]?\d{0,2}(?:MO|TU|WE|TH|FR|SA|SU)$/.test(d))) return null;
  if (Object.entries(by).some(([name, list]) => name !== 'BYDAY' && list.some((n) => !/^[+-]?\d{1,3}$/.test(n)))) return null;
  return { freq, interval, count, until, by };
}

export const isRule = (text: string): boolean => partsOf(text) !== null;

/** A rule is followed so far ahead of where it is asked for: one that gives no day in that time gives none. */
const MONTHS_AHEAD = 12 * 15;

/**
 * The days of a rule, in order.
 * @param start the first day the rule counts from; where the rule does not give it, the first is the next one it gives
 * @param from  days before are left out
 * @param to    days after are left out
 * @param time  of day of each, which an end given by a moment may fall before
 */
export function daysOf(rule: Rule, start: IsoDate, { from = start, to, count = 1000, time = '00:00' }: { from?: IsoDate; to?: IsoDate; count?: number; time?: string }): IsoDate[] {
  const parts = partsOf(rule);
  if (!parts || !isIsoDate(start) || count < 1) return [];
  const horizon = addMonths(from > start ? from : start, MONTHS_AHEAD);
  const last = to !== undefined && to < horizon ? to : horizon;
  const own = RRule.parseString(rule.replace(/^RRULE:/i, ''));
  const end = new Date(`${last}T23:59:59Z`);
  const until = own.until && own.until < end ? own.until : end;
  const out: IsoDate[] = [];
  new RRule({ ...own, until, dtstart: new Date(`${start}T${time}:00Z`) }).all((moment) => {
    const day = moment.toISOString().slice(0, 10);
    if (day >= from) out.push(day);
    return out.length < count;
  });
  return out;
}

const DAY_CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
const WORKING = 'MO,TU,WE,TH,FR';

export const dayCode = (isoWeekday: number): string => DAY_CODES[isoWeekday - 1]!;

/** The days of the week a rule keeps to, Monday is 1; empty where it goes by days of the month. */
export function weekdaysOf(rule: Rule): number[] {
  const days = partsOf(rule)?.by.BYDAY ?? [];
  return [...new Set(days.map((d) => DAY_CODES.indexOf(d.slice(-2) as (typeof DAY_CODES)[number]) + 1))].filter((d) => d > 0).sort();
}

const list = (names: readonly string[]) => (names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`);
const NTH: Record<string, string> = { 1: 'first', 2: 'second', 3: 'third', 4: 'fourth', 5: 'fifth', '-1': 'last', '-2': 'last but one' };
const EVERY = ['', '', 'second ', 'third ', 'fourth '];
const ordinal = (n: number) => `${n}${n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** A rule in words, as `readRhythm` reads them again where they are of the kinds people say. */
export function ruleInWords(rule: Rule): string {
  const parts = partsOf(rule);
  if (!parts) return 'by a rule Ottik does not know';
  const { freq, interval, by } = parts;
  const byDay = by.BYDAY ?? [];
  const ends = parts.count ? `, ${parts.count} times` : parts.until ? `, until ${parts.until.slice(0, 4)}-${parts.until.slice(4, 6)}-${parts.until.slice(6, 8)}` : '';
  if (freq === 'DAILY') return (interval === 1 ? 'every day' : `every ${interval} days`) + ends;
  if (freq === 'WEEKLY') {
    if (byDay.join(',') === WORKING && interval === 1) return `every weekday${ends}`;
    const days = list(byDay.map((d) => DAY_NAMES[DAY_CODES.indexOf(d as (typeof DAY_CODES)[number])] ?? d));
    if (interval < EVERY.length) return `every ${EVERY[interval]}${days || 'week'}${ends}`;
    return `every ${interval} weeks${days ? ` on ${days}` : ''}${ends}`;
  }
  const months = freq === 'YEARLY' ? `of ${list((by.BYMONTH ?? []).map((m) => MONTHS[Number(m) - 1] ?? '')) || 'the year'}` : interval === 1 ? 'of every month' : `of every ${EVERY[interval]?.trim() || ordinal(interval)} month`;
  return `the ${whichDays(by)} ${months}${ends}`;
}

/** `first and third Monday`, `15th`, `last day`, `last working day`. */
function whichDays(by: Parts['by']): string {
  const byDay = by.BYDAY ?? [];
  const place = by.BYSETPOS?.[0];
  if (place !== undefined && byDay.join(',') === WORKING) return `${NTH[place] ?? ordinal(Number(place))} working day`;
  const numbered = byDay.map((d) => /^([+-]?\d)?(\w\w)$/.exec(d)).filter((m) => m !== null);
  if (numbered.length) {
    const name = (code: string) => DAY_NAMES[DAY_CODES.indexOf(code as (typeof DAY_CODES)[number])] ?? code;
    const nth = (n: string | undefined) => NTH[String(Number(n ?? place ?? 1))] ?? 'first';
    return new Set(numbered.map((m) => m[2])).size === 1 ? `${list(numbered.map((m) => nth(m[1])))} ${name(numbered[0]![2]!)}` : list(numbered.map((m) => `${nth(m[1])} ${name(m[2]!)}`));
  }
  return list((by.BYMONTHDAY ?? []).map((d) => (Number(d) === -1 ? 'last day' : Number(d) < 0 ? `${ordinal(-Number(d))} day from the end` : ordinal(Number(d))))) || 'same day';
}
