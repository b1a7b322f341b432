import { stancesOn } from '../../gist/stances.ts';
import { timeOn } from '../../gist/subject.ts';
import { capitalised, shortDay } from '../../language/days.ts';
import { type Answer, Answering } from '../answer.ts';
import { about, share } from '../fits.ts';
import type { OnRecord, Source } from '../on-record.ts';
import { type Question, stemsOf } from '../question.ts';
import { dayWords, nameOf } from '../standing.ts';
import { within } from '../when.ts';

const MEETINGS = 8;
const [EACH, PEOPLE] = [3, 8];
const ENOUGH = 0.6;

const long = (seconds: number) => (seconds < 90 ? `${Math.max(1, Math.round(seconds))} seconds` : `${Math.round(seconds / 60)} minutes`);

/** When a subject was last spoken of, for how long, and in which meetings. */
export function spoken(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const stems = stemsOf(q.about);
  const met = r.talks
    .filter((t) => within(t.on, q.when))
    .map((t) => ({ ...t, ...timeOn(t.talk, q.about) }))
    // a subject of several words is meant as a whole: half of its words alone are another one
    .filter((t) => t.stretches.some((s) => share(stems, words(t.talk.turns, s), r.weight) >= ENOUGH))
    .sort((a, b) => (a.on < b.on ? 1 : -1));
  const [last] = met;
  if (last) {
    const roughly = last.talk.times === 'estimated' ? 'about ' : '';
    answer.say(`Last on ${dayWords(last.on, r.today)}, in ${last.title}, for ${roughly}${long(last.seconds)}.`, [last.source(last.stretches.at(-1)!.segment)]);
    if (met.length > 1) answer.say(`In ${met.length} meetings altogether, for ${met.some((t) => t.talk.times === 'estimated') ? 'about ' : ''}${long(met.reduce((sum, t) => sum + t.seconds, 0))}.`);
    for (const t of met.slice(1, MEETINGS)) answer.say(`${shortDay(t.on, r.today)}, ${t.title}: ${long(t.seconds)}`, [t.source(t.stretches[0]!.segment)]);
  } else answer.missing(`${capitalised(q.about)} was not spoken of in any record.`);
  return answer.done();
}

const words = (turns: readonly { text: string }[], s: { from: number; to: number }) =>
  turns
    .slice(s.from, s.to + 1)
    .map((t) => t.text)
    .join(' ');

const SIDES = [
  ['for', 'For it'],
  ['against', 'Against it'],
  ['unsure', 'Neither yes nor no'],
] as const;

/** What was said for and against something, side by side. */
export function sides(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const stems = new Set(stemsOf(q.about));
  const said = r.talks.filter((t) => within(t.on, q.when)).flatMap((t) => stancesOn(t.talk, stems).map((s) => ({ ...s, source: t.source(s.segment) })));
  for (const [side, head] of SIDES) {
    const own = said.filter((s) => s.side === side && onSubject(s, r, [...stems]));
    if (own.length === 0) continue;
    answer.head(`${head}: ${own.length}`);
    for (const s of own.slice(0, 6)) answer.say(`${s.source.who ?? 'Somebody'}, ${shortDay(s.source.on, r.today)}: “${s.because}”`, [s.source]);
  }
  if (answer.empty) {
    answer.missing(`Nothing on record speaks for or against ${q.about}.`);
    for (const d of about(r.statements, q.about, r.weight).slice(0, 2)) answer.say(d.kind === 'decision' ? `It was decided on ${shortDay(d.on, r.today)}: ${d.text}` : `It was asked on ${shortDay(d.on, r.today)}: ${d.text}`, d.sources, d);
  }
  return answer.done();
}

/** The words themselves, or the turn right before them, are about the subject. */
function onSubject(s: { text: string; source: Source }, r: OnRecord, stems: readonly string[]): boolean {
  if (share(stems, s.text, r.weight) >= ENOUGH) return true;
  const talk = r.talks.find((t) => t.talk.turns.some((u) => u.text === s.text && t.source(u.segment).href === s.source.href))?.talk;
  const at = talk?.turns.findIndex((u) => u.text === s.text) ?? -1;
  return at > 0 && share(stems, talk!.turns[at - 1]!.text, r.weight) >= ENOUGH;
}

/** What each person, or one of them, said about a subject, in their words, the newest first. */
export function each(q: Question, r: OnRecord): Answer {
  const answer = new Answering();
  const stems = stemsOf(q.about);
  const by = new Map<string, OnRecord['passages'][number][]>();
  for (const p of r.passages) {
    if (!within(p.on, q.when) || p.who === null || (q.who !== null && p.person !== q.who) || !HEARD.has(p.kind)) continue;
    if (stems.length && share(stems, p.words, r.weight) < ENOUGH) continue;
    by.set(p.who, [...(by.get(p.who) ?? []), p]);
  }
  for (const [name, said] of [...by].sort((a, b) => b[1].length - a[1].length).slice(0, PEOPLE)) {
    const newest = said.sort((a, b) => (a.on < b.on ? 1 : -1));
    const call = newest[0]!.person === r.me ? 'You' : name;
    answer.say(`${call}, ${said.length === 1 ? `on ${shortDay(newest[0]!.on, r.today)}` : `${said.length} times, last on ${shortDay(newest[0]!.on, r.today)}`}`, newest.slice(0, EACH));
  }
  const name = q.who === null ? null : (r.names.get(q.who) ?? null);
  if (name !== null) {
    // in notes it stands what somebody said, in the words of whoever wrote them
    const first = name.split(/\s+/)[0]!;
    const told = r.passages.filter((p) => within(p.on, q.when) && p.person !== q.who && HEARD.has(p.kind) && share(stems, p.words, r.weight) >= ENOUGH && new RegExp(`(?<!\\p{L})${escaped(first)}(?!\\p{L})`, 'u').test(p.words));
    if (told.length) answer.say(`In the words of others, with ${name} named in them:`, told.slice(0, EACH));
  }
  if (answer.empty) answer.missing(q.unknown ? `Nobody called ${q.unknown} is known here.` : `Nothing on record has ${q.who === null ? 'anybody' : nameOf(q.who, r)} speaking${q.about ? ` about ${q.about}` : ''}.`);
  return answer.done();
}

/** Letters are set by Ottik from the registers: they say nothing of what anybody thinks. */
const HEARD: ReadonlySet<string> = new Set(['said', 'answer', 'jotting']);

const escaped = (name: string) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
