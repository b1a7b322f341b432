import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import { isOpen } from '../ledger/state.ts';
import { counts, type Measured } from './measured.ts';
import { LastedBy, type Survival, shareAfter, survivalBy } from './survival.ts';

/** How likely an open commitment is to miss its date. */
export interface Miss {
  id: number;
  /** 0 to 1 */
  miss: number;
}

export interface Forecast {
  /** those with a date to come, the most doubtful first */
  misses: Miss[];
  /** how many of the open ones will have ended after so many weeks */
  ends: { weeks: number; expected: number }[];
  score: Score;
}

/** How well forecasts of the same kind were in the past. */
export interface Score {
  /** forecasts that were made and can be told right or wrong by now */
  n: number;
  /** mean squared error (G. W. Brier, 1950): 0 is perfect */
  brier: number;
  /** the same for saying the share of missed dates so far each time */
  base: number;
}

/** Weight of what everybody does against what one person did: as if each had kept so many dates as all do. */
const PRIOR = 8;
/** Forecasts need so many dates that were met or missed before them. */
const LEAST = 8;
const WEEKS = [1, 2, 4, 8];
/** Dates further ahead are told like those so many days ahead. */
const AHEAD = 100;
/** Days before a date at which past forecasts are scored. */
const BEFORE = [7, 3];
/** Most past dates that are scored, the newest ones. */
const SCORED = 400;

/**
 * What is known of dates on a day: how long before or after their date commitments were done, and how each person kept
 * theirs. Only what had happened by that day goes in.
 */
class Known {
  readonly #curve: Survival;
  readonly #missed: number;
  readonly #n: number;
  readonly #own = new Map<string, { n: number; missed: number }>();

  constructor(dated: readonly Dated[], on: number) {
    const lasted = new LastedBy();
    let missed = 0;
    let n = 0;
    for (const d of dated) {
      if (d.from > on) continue;
      const done = d.doneOn !== null && d.doneOn <= on;
      // days are counted from so long before the date that none is negative
      const at = (day: number) => Math.max(0, AHEAD + day - d.due);
      lasted.add(at(done ? d.doneOn! : on), done, at(d.from) - 1);
      if (!done && d.due >= on) continue;
      const late = !done || d.doneOn! > d.due;
      n++;
      if (late) missed++;
      for (const o of d.owner) {
        const own = this.#own.get(o) ?? this.#own.set(o, { n: 0, missed: 0 }).get(o)!;
        own.n++;
        if (late) own.missed++;
      }
    }
    this.#curve = survivalBy(lasted);
    this.#missed = missed;
    this.#n = n;
  }

  get n(): number {
    return this.#n;
  }

  /** The share of dates that were missed so far. */
  get base(): number {
    return this.#n ? this.#missed / this.#n : 0.5;
  }

  /**
   * How likely a date is missed that lies so many days ahead: of all that were still open so long before their date, the
   * share that was open after it; moved in odds by how much more or less often than all its holders miss theirs.
   */
  missOf(daysLeft: number, owner: readonly string[]): number {
    const before = shareAfter(this.#curve, Math.max(0, AHEAD - daysLeft - 1));
    const after = shareAfter(this.#curve, AHEAD);
    const p = clamp(before > 0 ? after / before : this.base);
    const all = clamp(this.base);
    const rates = owner.map((o) => {
      const own = this.#own.get(o) ?? { n: 0, missed: 0 };
      return clamp((own.missed + PRIOR * all) / (own.n + PRIOR));
    });
    const theirs = rates.length ? rates.reduce((a, b) => a + b, 0) / rates.length : all;
    const odds = (p / (1 - p)) * (theirs / (1 - theirs) / (all / (1 - all)));
    return odds / (1 + odds);
  }
}

/** Never quite sure: a share of nothing or all so far is no certainty. */
const clamp = (p: number) => Math.min(0.97, Math.max(0.03, p));

/** A date as it was last agreed, and what became of it. */
interface Dated {
  /** the day it was given; days are counted from 2000 on */
  from: number;
  due: number;
  doneOn: number | null;
  owner: readonly string[];
}

const dayOf = (day: IsoDate) => daysBetween('2000-01-01', day);

function datedOf(all: readonly Measured[]): Dated[] {
  return all.flatMap((c) => {
    const last = c.dues.at(-1);
    if (!counts(c) || c.state === 'dropped' || !last || last.due === null) return [];
    return [{ from: dayOf(last.on), due: dayOf(last.due), doneOn: c.state === 'done' ? dayOf(c.endedOn!) : null, owner: c.owner }];
  });
}

/**
 * Forecasts from what happened before: when what is open will end (by the survival curve of all that were made, given the
 * age each has reached), which dates are likely to be missed, and how right the same forecasts would have been for the dates
 * that have passed, each made from what was known on its day.
 */
export function forecastOf(all: readonly Measured[], today: IsoDate): Forecast {
  const dated = datedOf(all);
  const known = new Known(dated, dayOf(today));
  const open = all.filter((c) => counts(c) && isOpen(c.state));
  const misses = known.n < LEAST ? [] : open.filter((c) => c.due !== null && c.due >= today).map((c) => ({ id: c.id, miss: known.missOf(daysBetween(today, c.due!), c.owner) }));
  const lives = new LastedBy();
  for (const c of all) if (counts(c)) lives.add(Math.max(0, daysBetween(c.madeOn, c.endedOn ?? today)), c.endedOn !== null);
  const life = survivalBy(lives);
  const ends = WEEKS.map((weeks) => ({
    weeks,
    expected: open.reduce((sum, c) => {
      const age = Math.max(0, daysBetween(c.madeOn, today));
      const now = shareAfter(life, age);
      return sum + (now > 0 ? 1 - shareAfter(life, age + 7 * weeks) / now : 0);
    }, 0),
  }));
  return { misses: misses.sort((a, b) => b.miss - a.miss), ends, score: scoreOf(dated, dayOf(today)) };
}

/** The forecasts that would have been made a week and three days before each date that has passed. */
function scoreOf(dated: readonly Dated[], today: number): Score {
  const passed = dated
    .filter((d) => d.due < today)
    .sort((a, b) => b.due - a.due)
    .slice(0, SCORED);
  const by = new Map<number, Known>();
  let [n, brier, base] = [0, 0, 0];
  for (const d of passed)
    for (const before of BEFORE) {
      const on = d.due - before;
      // it was not there yet, or done already
      if (d.from > on || (d.doneOn !== null && d.doneOn <= on)) continue;
      const known = by.get(on) ?? by.set(on, new Known(dated, on)).get(on)!;
      if (known.n < LEAST) continue;
      const missed = d.doneOn === null || d.doneOn > d.due ? 1 : 0;
      n++;
      brier += (known.missOf(before, d.owner) - missed) ** 2;
      base += (known.base - missed) ** 2;
    }
  return { n, brier: n ? brier / n : 0, base: n ? base / n : 0 };
}
