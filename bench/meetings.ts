import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RecordFormat } from '../src/core/record/model.ts';
import { readRecord } from '../src/core/record/read.ts';
import type { OpenCommitment, SiftInput } from '../src/core/sift/reading.ts';
import type { Answer } from './score.ts';

/** One annotated meeting, ready to be sifted, with what a careful reader took from it. */
export interface Annotated {
  name: string;
  series: string;
  input: SiftInput;
  /** written by us to learn from, not to be scored on */
  rehearsal: boolean;
  gold: Answer & { traps?: { evidence: number[]; why: string }[]; commitments: (Answer['commitments'][number] & { id: string; duePhrase?: string })[] };
}

// biome-ignore lint/suspicious/noExplicitAny: the annotated meetings are our own files, checked by their tests
const json = (file: string): any => JSON.parse(readFileSync(file, 'utf8'));

export const MEETINGS = join(import.meta.dirname, 'meetings');

/**
 * Notes and minutes of our own, in forms the annotated meetings have few of: boxes to tick, tables of actions, labels,
 * marks. Never learned from: they tell how well plain notes are read.
 */
const NOTES = join(import.meta.dirname, 'notes');
export const ownNotes = (): Annotated[] => annotatedMeetings(NOTES);

/** Talk of our own that nothing is learned from, so that what an unseen series gives is held by a test. */
const UNSEEN = join(import.meta.dirname, 'unseen');
export const unseenMeetings = (): Annotated[] => annotatedMeetings(UNSEEN);

/**
 * Meetings of our own, two sittings to a series, written and annotated for Sift to learn from: other worlds, other turns of
 * phrase, more to a page. Scores are told on the annotated meetings alone.
 */
const REHEARSALS = join(import.meta.dirname, 'rehearsals');
export const rehearsals = (): Annotated[] => annotatedMeetings(REHEARSALS).map((m) => ({ ...m, rehearsal: true }));

/**
 * Further series, four times the talk of the scored ones: site meetings, committees, fast talk, memos, captions, and some that
 * are mostly explanation. To learn from; a quarter of them the shipped encoder has not seen (bench/close-readings), and what is
 * told of series left out is told of these too.
 */
const FURTHER = join(import.meta.dirname, 'further');
export const furtherMeetings = (): Annotated[] => annotatedMeetings(FURTHER);

/** Every annotated meeting below a folder of series, in order. */
export function annotatedMeetings(root = MEETINGS): Annotated[] {
  return readdirSync(root, { withFileTypes: true })
    .filter((d) => d.isDirectory() && existsSync(join(root, d.name, 'series.json')))
    .map((d) => d.name)
    .sort()
    .flatMap((slug) => {
      const dir = join(root, slug);
      const series = json(join(dir, 'series.json'));
      const open = new Map<string, OpenCommitment>();
      return series.meetings.map((m: { id: string; date: string; next?: string; present?: string[]; author?: string; record: string; format: RecordFormat }): Annotated => {
        const gold = json(join(dir, `${m.id}.gold.json`));
        const before = [...open.values()];
        for (const u of gold.updates ?? []) {
          const c = open.get(u.open);
          if (!c) continue;
          if (u.kind === 'done' || u.kind === 'dropped') open.delete(u.open);
          else open.set(u.open, { ...c, ...(u.due !== undefined ? { due: u.due } : {}), ...(u.owner ? { owner: u.owner } : {}) });
        }
        for (const c of gold.commitments ?? []) open.set(c.id, { id: c.id, text: c.text, owner: c.owner, due: c.due ?? null, madeOn: m.date });
        return {
          name: `${slug}/${m.id}`,
          series: slug,
          rehearsal: false,
          gold: { commitments: [], decisions: [], questions: [], updates: [], ...gold },
          input: {
            record: readRecord(readFileSync(join(dir, m.record), 'utf8'), m.format),
            people: series.people,
            meeting: { date: m.date, next: m.next ?? null, present: m.present ?? [], author: m.author ?? null },
            open: before,
          },
        };
      });
    });
}
