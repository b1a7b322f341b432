import { addDays } from '../../../src/core/dates/calendar.ts';
import { readDates } from '../../../src/core/dates/read.ts';
import { readRecord } from '../../../src/core/record/read.ts';
import type { Annotated } from '../../meetings.ts';
import { ASIDES, AWAY, DAYS, EVENTS, HE, type Job, jobs, SHE } from './fillings.ts';
import { dictatedScenes, type Scene, spokenScenes, writtenScenes } from './scenes.ts';

/** Numbers from 0 to 1 that a seed decides (Mulberry32, Tommy Ettinger 2017, from memory). */
function chance(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const DOUBLED = new Set(['get', 'cut', 'put', 'set', 'plan', 'map']);
const ing = (verb: string) => {
  const [first, ...rest] = verb.split(' ') as [string, ...string[]];
  const stem = DOUBLED.has(first) ? first + first.at(-1) : /[^e]e$/.test(first) ? first.slice(0, -1) : first;
  return [`${stem}ing`, ...rest].join(' ');
};
const s = (verb: string) => {
  const [first, ...rest] = verb.split(' ') as [string, ...string[]];
  const end = /(?:s|x|ch|sh)$/.test(first) ? `${first}es` : /[^aeiou]y$/.test(first) ? `${first.slice(0, -1)}ies` : `${first}s`;
  return [end, ...rest].join(' ');
};
const words = (...parts: string[]) => parts.filter(Boolean).join(' ');

const HER = { he: 'she', him: 'her', his: 'her', self: 'herself' };
const HIM = { he: 'he', him: 'him', his: 'his', self: 'himself' };

/** How a meeting of practice is spoken and written down. */
type Hand = 'plain' | 'captions' | 'chopped' | 'unlabelled' | 'written' | 'dictated';

/** Each as often as it stands here. */
const HANDS: readonly Hand[] = ['plain', 'plain', 'plain', 'plain', 'captions', 'chopped', 'unlabelled', 'unlabelled', 'written', 'written', 'dictated'];

interface Line {
  voice: string | null;
  text: string;
  /** numbers of the commitments it is a place of */
  places: number[];
}

/**
 * Meetings put together from the exchanges of `scenes.ts`, annotated by the same rules as the others: the close reader
 * practises on them whose a job is and when it is due.
 * @param count how many
 * @param seed  of which names, jobs and days stand in them, and how they are written down
 */
export function practiceMeetings(count: number, seed: number): Annotated[] {
  const random = chance(seed);
  return Array.from({ length: count }, (_, k) => practiceMeeting(`practice/${k + 1}`, random));
}

function practiceMeeting(name: string, random: () => number): Annotated {
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const several = <T>(from: readonly T[], n: number): T[] => {
    const left = [...from];
    return Array.from({ length: n }, () => left.splice(Math.floor(random() * left.length), 1)[0]!);
  };
  const hand = HANDS[Math.floor(random() * HANDS.length)]!;
  const spoken = hand !== 'written' && hand !== 'dictated';
  const date = addDays('2026-01-05', Math.floor(random() * 360));
  const next = addDays(date, pick([7, 14, 28]));
  const people = several([...SHE, ...HE], 6).map((first, i) => ({ id: `p${i + 1}`, name: `${first} ${pick(['Alder', 'Brook', 'Carrow', 'Dunmore', 'Ekberg', 'Fallow', 'Grieve', 'Holm'])}`, aliases: [] as string[], role: '' }));
  const fullName = (id: string) => people.find((p) => p.id === id)!.name;
  const firstName = (id: string) => fullName(id).split(' ')[0]!;
  const present = people.slice(0, 4).map((p) => p.id);
  const author = people[3]!.id;
  const context = { date, next };
  const dayOf = (phrase: string) => readDates(phrase, context)[0]?.date ?? null;
  const lines: Line[] = [];
  const commitments: Annotated['gold']['commitments'] = [];
  const stock = several(jobs(), 24);

  const play = (scene: Scene) => {
    const cast: Record<string, string> = {};
    const there = several(hand === 'dictated' ? present.slice(0, 3) : present, 3);
    for (const [i, who] of ['A', 'B', 'C'].entries()) cast[who] = there[i]!;
    cast.D = pick(people.slice(4)).id;
    cast.M = author;
    const work: Record<string, Job> = { 1: stock.pop() ?? pick(jobs()), 2: stock.pop() ?? pick(jobs()) };
    const days: Record<string, { day: string; by: string }> = {};
    for (const slot of ['d', 'e', 'f']) {
      for (;;) {
        const { day, before } = pick(DAYS);
        const by = random() < 0.25 && !/^in$/.test(before[0]!) ? day : `${pick(before)} ${day}`;
        if (!dayOf(day) || Object.values(days).some((x) => dayOf(x.day) === dayOf(day))) continue;
        days[slot] = { day: before[0] === 'in' ? `in ${day}` : day, by };
        break;
      }
    }
    const ev = pick(EVENTS);
    const away = pick(AWAY);
    /** the day a slot means is what stands in its last place: with "before" it is another day */
    const meant: Record<string, string | null> = { tonight: date, tomorrow: addDays(date, 1), next };
    const fill = (text: string) =>
      text
        .replace(/\{by ([def])\}/g, (_, d: string) => {
          const { by } = days[d]!;
          meant[d] = dayOf(by);
          return by;
        })
        .replace(/\{([def])\}/g, (_, d: string) => {
          meant[d] ??= dayOf(days[d]!.day);
          return days[d]!.day;
        })
        .replace(/\{(\d)(ing|s|o)?\}/g, (_, n: string, form?: string) => {
          const { verb, object, rest } = work[n]!;
          return form === 'o' ? object : words(form === 'ing' ? ing(verb) : form === 's' ? s(verb) : verb, object, rest);
        })
        .replace(/\{([ABCD])\}/g, (_, who: string) => firstName(cast[who]!))
        .replace(/\{(?:([BC])_)?(he|him|his|self)\}/g, (_, who: string | undefined, w: keyof typeof HER) => (SHE.includes(firstName(cast[who ?? 'D']!)) ? HER : HIM)[w])
        .replaceAll('{ev}', ev)
        .replaceAll('{away}', away)
        .replace(/(^|[.?!] )([a-z])/g, (_, end: string, letter: string) => end + letter.toUpperCase());
    const first = commitments.length;
    const made: Line[] = scene.lines.map((l) => ({ voice: spoken ? fullName(cast[l.speaker]!) : null, text: fill(l.text), places: l.jobs.map((j) => first + scene.jobs.findIndex((x) => x.job === j)) }));
    for (const { job, owner, day, text } of scene.jobs) commitments.push({ id: `c${commitments.length + 1}`, text: fill(text ?? `{${job}}`), owner: owner.map((w) => cast[w]!), due: day ? (meant[day] ?? null) : null, evidence: [] });
    lines.push(...made.flatMap((l) => written(l, hand, random)));
  };

  const scenes = hand === 'written' ? writtenScenes() : hand === 'dictated' ? dictatedScenes() : hand === 'unlabelled' ? spokenScenes().filter(namesItsOwners) : spokenScenes();
  for (const scene of several(scenes, Math.min(scenes.length, 9))) {
    if (spoken && random() < 0.6) lines.push({ voice: fullName(pick(present)), text: hand === 'captions' ? bare(pick(ASIDES)) : pick(ASIDES), places: [] });
    play(scene);
  }
  lines.forEach((l, i) => {
    for (const c of l.places) commitments[c]!.evidence.push(i);
  });
  const text = lines.map((l) => (l.voice && hand !== 'unlabelled' ? `${l.voice}: ${l.text}` : l.text)).join('\n');
  return {
    name,
    series: 'practice',
    gold: { commitments, decisions: [], questions: [], updates: [] },
    input: { record: readRecord(`${text}\n`, hand === 'written' ? 'md' : 'txt'), people, meeting: { date, next, present, author: spoken ? null : author }, open: [] },
  };
}

/** Whether the words alone tell whose the jobs are, also where nobody can see who speaks. */
const namesItsOwners = (scene: Scene) => scene.jobs.every((j) => j.owner.every((who) => scene.lines.some((l) => l.jobs.includes(j.job) && l.text.includes(`{${who}}`))));

/** As a machine writes speech down: no capitals, no marks. */
const bare = (text: string) => text.toLowerCase().replace(/[.,?!]/g, '');
const FILLERS = ['um, ', 'well, ', 'so, ', 'okay, ', 'yeah, ', 'I mean, ', 'look, '];

/** One line as it comes out of the room. */
function written(line: Line, hand: Hand, random: () => number): Line[] {
  if (hand === 'written' || hand === 'dictated') return [line];
  let { text } = line;
  if (random() < 0.15) {
    const filler = FILLERS[Math.floor(random() * FILLERS.length)]!;
    text = filler[0]!.toUpperCase() + filler.slice(1) + (/^(?:I\b|I'|[A-Z][a-z]+,)/.test(text) ? text : text[0]!.toLowerCase() + text.slice(1));
  }
  if (hand === 'captions') text = bare(text);
  if (hand !== 'chopped') return [{ ...line, text }];
  const parts = text.split(' ');
  const out: Line[] = [];
  while (parts.length) out.push({ ...line, text: parts.splice(0, parts.length < 9 ? parts.length : 4 + Math.floor(random() * 5)).join(' ') });
  return out;
}
