import Papa from 'papaparse';
import { capitalised, countWord, dayAndMonth, shortDay } from '../../core/language/days.ts';
import { shareAfter } from '../../core/measures/survival.ts';
import type { TalkMeasures } from '../../core/measures/talk.ts';
import type { MeasuresShown } from '../../server/pages/measures.ts';

/** What a figure says beside its drawing: what is to be seen, how to read it, and the numbers behind it. */
export interface Told {
  title: string;
  read: string;
  head: string[];
  rows: (string | number)[][];
}

const percent = (share: number) => `${Math.round(share * 100)} %`;
const one = (n: number) => Math.round(n * 10) / 10;
const plural = (n: number, thing: string) => `${n} ${thing}${n === 1 ? '' : 's'}`;
const monthName = (month: string) => `${dayAndMonth(`${month}-01`).split(' ')[1]} ${month.slice(0, 4)}`;

export function flowTold({ flow, totals, from, today }: MeasuresShown): Told {
  const before = flow.slice(0, -1).reduce((most, p) => Math.max(most, p.late), 0);
  const trend = totals.late > before ? `; never before were so many late` : before > 0 ? `; at most ${before} were late before` : '';
  return {
    title: `${totals.open} open, ${totals.late === 0 ? 'none of them late' : `${totals.late} of them late`}`,
    read: `${plural(totals.made, 'commitment')} made since ${shortDay(from, today)}, ${totals.done} done, ${totals.dropped} dropped${trend}`,
    head: ['Day', 'Made', 'Ended', 'Open', 'Late'],
    rows: flow.map((p) => [p.on, p.made, p.ended, p.open, p.late]),
  };
}

export function agesTold({ ages, medianAge }: MeasuresShown): Told {
  return {
    title: medianAge === null ? 'Nothing is open' : `Half of what is open is ${plural(medianAge, 'day')} old or older`,
    read: 'What is open by its age in weeks: late under a bar, loose over dashes',
    head: ['Weeks', 'Open', 'References'],
    rows: ages.map((a) => [a.weeks, a.open.length + a.more, a.open.map((c) => `${c.ref}${c.late ? ' late' : c.loose ? ' loose' : ''}`).join(', ') + (a.more ? `, ${a.more} more` : '')]),
  };
}

/** What months, people and series are called on the axis. */
export function keptName(by: 'month' | 'owner' | 'series', key: string, shown: Pick<MeasuresShown, 'series' | 'people'>): string {
  if (by === 'month') return monthName(key);
  if (key === '') return by === 'owner' ? 'nobody' : 'no series';
  return (by === 'owner' ? shown.people : shown.series).find((n) => n.id === key)?.name ?? key;
}

export function keptTold(shown: MeasuresShown, by: 'month' | 'owner' | 'series'): Told {
  const { all } = shown.kept;
  return {
    title: all.of === 0 ? 'No date has passed yet' : `${all.onTime} of ${all.of} came on time`,
    read: `By ${by === 'month' ? 'the month they were due' : by === 'owner' ? 'who holds them' : 'series'}; the bar is where the true share lies with 95 % certainty. What is late and open counts as not on time, and what was done counts on the day it was told`,
    head: [by === 'month' ? 'Month' : by === 'owner' ? 'Person' : 'Series', 'On time', 'Of', 'Share', 'At least', 'At most'],
    rows: [...shown.kept[by], { ...all, key: 'all' }].map((k) => [k === all || k.key === 'all' ? 'all' : keptName(by, k.key, shown), k.onTime, k.of, percent(k.share), percent(k.from), percent(k.to)]),
  };
}

export function survivalTold({ survival: s }: MeasuresShown): Told {
  const last = s.steps.at(-1)!;
  const naive = s.naive === null || s.median === s.naive ? '' : `; those already done alone would say ${one(s.naive)}`;
  return {
    title: s.ended === 0 ? 'Nothing has been done yet' : s.median === null ? `After ${plural(last.days, 'day')} ${percent(last.share)} are still open` : `Half are done after ${plural(s.median, 'day')}`,
    read: `Share still open by days since it was made; what is open or was dropped counts for as long as it lasted${naive}`,
    head: ['Days', 'Still open', 'At least', 'At most', 'Watched', 'Done'],
    rows: s.steps.map((p) => [p.days, percent(p.share), percent(p.from), percent(p.to), p.atRisk, p.ended]),
  };
}

/** The curve at some days, for a chart that draws steps. */
export function survivalPoints({ survival: s }: MeasuresShown): { days: number; share: number; from: number; to: number }[] {
  const last = s.steps.at(-1)!.days;
  const end = Math.max(7, Math.ceil((last + 1) / 7) * 7);
  return [...s.steps.map((p) => ({ days: p.days, share: p.share * 100, from: p.from * 100, to: p.to * 100 })), ...(end > last ? [{ days: end, share: shareAfter(s, end) * 100, from: s.steps.at(-1)!.from * 100, to: s.steps.at(-1)!.to * 100 }] : [])];
}

export function slipsTold(shown: MeasuresShown): Told {
  const [worst] = shown.slips.filter((s) => s.n > 0);
  const name = (key: string) => keptName('series', key, shown);
  return {
    title: !worst || worst.carries === 0 ? 'Nothing was carried over' : `${capitalised(name(worst.series))} carries a commitment ${one(worst.carries / worst.n)} times`,
    read: 'Meetings a commitment was still open in after its first, and moves of its date, for each one made',
    head: ['Series', 'Made', 'Carried', 'Carries each', 'Moved', 'Moves each'],
    rows: shown.slips.map((s) => [name(s.series), s.n, s.carried.length, one(s.carries / s.n), s.moved.length, one(s.moves / s.n)]),
  };
}

export function forecastTold({ forecast: f, today }: MeasuresShown): Told {
  const likely = f.misses.filter((m) => m.miss >= 0.5).length;
  const { n, brier, base } = f.score;
  const right = n === 0 ? 'No forecast could be checked yet' : `Of ${n} past forecasts the mean squared error is ${brier.toFixed(2)}; saying the usual share each time would have ${base.toFixed(2)}${brier < base ? '' : ', which is no worse'}`;
  const weeks = f.ends.find((e) => e.weeks === 4);
  return {
    title: f.misses.length === 0 ? 'Too little has happened to forecast dates' : likely === 0 ? 'No date is likely to be missed' : `${capitalised(countWord(likely))}${likely === DOUBTFUL ? ' or more' : ''} ${likely === 1 ? 'date is' : 'dates are'} likely to be missed`,
    read: `${right}.${weeks ? ` About ${Math.round(weeks.expected)} of what is open should end within four weeks` : ''}`,
    head: ['Reference', 'What', 'Who', 'Due', 'Likely missed'],
    rows: [...f.misses.map((m) => [m.ref, m.text, m.owner, shortDay(m.due, today), percent(m.miss)]), ...f.ends.map((e) => ['', `expected to end within ${plural(e.weeks, 'week')}`, '', '', one(e.expected)])],
  };
}

/** As many dates as the server tells. */
const DOUBTFUL = 8;

export function meetingsTold({ meetings }: MeasuresShown, rate: number): Told {
  const held = meetings.filter((w) => w.ids.length > 0);
  const hours = meetings.reduce((sum, w) => sum + w.hours, 0);
  const person = meetings.reduce((sum, w) => sum + w.personHours, 0);
  const week = meetings.length ? hours / meetings.length : 0;
  const money = rate > 0 ? `; at ${rate} an hour ${Math.round(person * rate)} altogether` : '';
  return {
    title: held.length === 0 ? 'No meeting was held' : `${one(week)} hours of meetings a week`,
    read: `${percent(week / 40)} of a working week of 40 hours; ${one(person)} hours of everybody together${money}`,
    head: ['Week from', 'Meetings', 'Hours', 'People at each', 'Hours of everybody', ...(rate > 0 ? ['Cost'] : [])],
    rows: meetings.map((w) => [w.from, w.ids.length, one(w.hours), one(w.size), one(w.personHours), ...(rate > 0 ? [Math.round(w.personHours * rate)] : [])]),
  };
}

export function lettersTold({ letters: l }: MeasuresShown): Told {
  const silent = l.silent.length === 0 ? 'nobody is silent' : `${l.silent[0]!.person} has ${plural(l.silent[0]!.letters, 'letter')} unanswered`;
  return {
    title: l.sent === 0 ? 'No letter that asks for an answer has gone' : `${l.answered} of ${plural(l.sent, 'letter')} ${l.sent === 1 ? 'was' : 'were'} answered`,
    read: l.sent === 0 ? 'Reminders, checks and notices show here with their answers' : `${l.wait.median === null ? 'Fewer than half so far' : `Half within ${plural(l.wait.median, 'day')}`}; ${silent}`,
    head: ['Week from', 'Letters', 'Answered'],
    rows: [...l.weeks.map((w) => [w.from, w.sent, w.answered]), ...l.silent.map((s) => [`silent: ${s.person}`, s.letters, 0])],
  };
}

export function speakersTold(talk: TalkMeasures): Told {
  const all = talk.speakers.reduce((sum, s) => sum + s.total, 0);
  const [first] = talk.speakers;
  return {
    title: first ? `${first.name} speaks most: ${percent(all ? first.total / all : 0)}` : 'Nobody is heard in these records',
    read: `Minutes spoken in each meeting, on one scale; a gap where somebody did not speak${talk.meetings.some((m) => m.estimated) ? '. Where a record has no times they are estimated from its words' : ''}`,
    head: ['Who', ...talk.meetings.map((m) => m.on), 'Minutes', 'Share'],
    rows: talk.speakers.map((s) => [s.name, ...s.seconds.map((x) => (x === null ? '' : one(x / 60))), one(s.total / 60), percent(all ? s.total / all : 0)]),
  };
}

export function subjectsTold(talk: TalkMeasures): Told {
  const [first] = talk.subjects;
  return {
    title: first ? `${capitalised(first.name)} takes the most time` : 'No subject comes up in two meetings',
    read: 'Minutes spent on words that name topics of more than one meeting',
    head: ['Subject', ...talk.meetings.map((m) => m.on), 'Minutes'],
    rows: talk.subjects.map((s) => [s.name, ...s.seconds.map((x) => (x === null ? '' : one(x / 60))), one(s.total / 60)]),
  };
}

/** The numbers as a spreadsheet reads them (RFC 4180); what it would take for a formula is kept as text. */
export const asCsvRows = (told: Told): string => Papa.unparse({ fields: told.head, data: told.rows }, { escapeFormulae: true });
