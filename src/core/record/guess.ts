import { type IsoDate, makeDate, partsOf } from '../dates/calendar.ts';
import { readDates } from '../dates/read.ts';
import type { MeetingRecord } from './model.ts';

export interface MeetingGuess {
  title: string | null;
  date: IsoDate | null;
  /** where the date was found, for people: `the file name`, `line 2` */
  dateFrom: string | null;
}

/**
 * Title and date of the meeting, from the name of the file and the first lines of the record.
 * @param today newest date that is believed: a record is about a meeting that was held
 */
export function guessMeeting(record: MeetingRecord, fileName: string | null, today: IsoDate): MeetingGuess {
  const stem = (fileName ?? '').replace(/\.[^.]+$/, '');
  const named = dateInName(stem);
  const found = named ? { date: named, from: 'the file name', line: null } : dateInHead(record, today);
  return { title: titleOf(record, stem, found?.line ?? null), date: found?.date ?? null, dateFrom: found?.from ?? null };
}

function dateInName(stem: string): IsoDate | null {
  const iso = /(\d{4})[-_.]?(\d{2})[-_.]?(\d{2})/.exec(stem);
  return iso ? makeDate(Number(iso[1]), Number(iso[2]), Number(iso[3])) : null;
}

/** Ways of saying a date that name the month; a weekday or a day alone says too little of when a meeting was. */
const WHOLE_DATES = new Set(['day and month', 'month and day', 'numeric date']);

function dateInHead(record: MeetingRecord, today: IsoDate): { date: IsoDate; from: string; line: number } | null {
  for (const s of record.segments.slice(0, 8)) {
    const stamp = /\b(\d{4}-\d{2}-\d{2})\b/.exec(s.text);
    const inText = stamp ? makeDate(...(stamp[1]!.split('-').map(Number) as [number, number, number])) : null;
    if (inText && inText <= today) return { date: inText, from: `line ${s.line}`, line: s.line };
    for (const d of readDates(s.text, { date: today, next: null })) {
      if (!d.date || !WHOLE_DATES.has(d.rule)) continue;
      const { year, month, day } = partsOf(d.date);
      const held = d.date <= today ? d.date : makeDate(year - 1, month, day);
      if (held) return { date: held, from: `line ${s.line}`, line: s.line };
    }
  }
  return null;
}

/** A first line with the day in it that is short enough to be a title, and that nobody says. */
const TITLE_WORDS = 12;

function titleOf(record: MeetingRecord, stem: string, dated: number | null): string | null {
  const heading = record.segments.find((s) => s.role === 'heading' && s.index < 3);
  const first = record.segments.find((s) => s.line === dated && s.index < 2 && s.voice === null && s.text.split(/\s+/).length <= TITLE_WORDS && !/^[a-z]{3,12}:/i.test(s.text));
  const subject = record.segments.slice(0, 8).find((s) => s.role === 'meta' && /^subject:/i.test(s.text));
  const raw =
    heading?.text ??
    first?.text ??
    subject?.text.replace(/^subject:\s*(?:(?:re|fwd?):\s*)*/i, '') ??
    stem
      .replace(/\d{4}[-_.]?\d{2}[-_.]?\d{2}/, ' ')
      .replace(/\d{1,2}[-.:]\d{2}/, ' ')
      .replace(/[-_.]+/g, ' ');
  const title = raw
    .replace(/[,:–—-]?\s{0,4}\b(?:(?:mon|tues|wednes|thurs|fri|satur|sun)day|mon|tue|wed|thu|fri|sat|sun)?,?\s{0,4}\d{1,2}(?:st|nd|rd|th)?\s{1,4}(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\w*(?:\s+\d{4})?\b.*$/i, '')
    .replace(/\b(?:minutes|transcript|notes|record(?:ing)?|recap)(?:\s+(?:of|from))?(?:\s+the)?\b:?/gi, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .trim()
    .replace(/^[:,–-]|[:,–-]$/g, '')
    .replace(/\s(?:of|on|from|at|in)$/i, '')
    .trim();
  return title.length > 1 ? title[0]!.toUpperCase() + title.slice(1, 120) : null;
}
