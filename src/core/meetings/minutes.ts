import { z } from 'zod';
import { clock, listOf, longDay, shortDay } from '../language/days.ts';

/** What minutes are made of besides the words a person writes. */
export const PARTS = ['attendance', 'summary', 'topics', 'decisions', 'actions', 'updates', 'questions', 'ideas', 'shares'] as const;
export type Part = (typeof PARTS)[number];
export const PART_NAMES: Record<Part, string> = {
  attendance: 'Attendance',
  summary: 'Summary',
  topics: 'Topics',
  decisions: 'Decided',
  actions: 'Who does what',
  updates: 'From before',
  questions: 'Left open',
  ideas: 'For and against',
  shares: 'Who spoke',
};
export const LENGTHS = ['brief', 'usual', 'everything'] as const;
export type Length = (typeof LENGTHS)[number];

/** Something numbered: what it says, who holds it, until when, and the moment it rests on. */
export interface MinutesItem {
  ref: string;
  /** id of the commitment that can be changed where it stands, or null */
  commitment: number | null;
  text: string;
  owner: string[];
  due: string | null;
  /** what happened to it, for an update */
  news: string | null;
  /** link to the moment in the record */
  moment: string | null;
}

/** Everything minutes can tell of a meeting, as it is known now. */
export interface MinutesData {
  meeting: { title: string; number: number | null; date: string; time: string | null; place: string; next: string | null };
  project: string;
  present: string[];
  absent: string[];
  /** came in after the start, where the record shows it, with the seconds */
  late: { name: string; at: number }[];
  topics: { title: string; start: number | null; seconds: number }[];
  decisions: MinutesItem[];
  actions: MinutesItem[];
  updates: MinutesItem[];
  questions: MinutesItem[];
  summary: Record<Length, { voice: string | null; text: string }[]>;
  ideas: { text: string; voice: string | null; stances: { voice: string | null; side: string; text: string }[] }[];
  shares: { voice: string; seconds: number; share: number }[];
}

const Text = z.object({
  type: z.literal('text'),
  text: z.string().max(20_000),
  marks: z
    .array(z.object({ type: z.enum(['bold', 'italic']) }))
    .max(2)
    .optional(),
});
const Break = z.object({ type: z.literal('hardBreak') });
const Inline = z.array(z.union([Text, Break])).max(500);
const Paragraph = z.object({ type: z.literal('paragraph'), content: Inline.optional() });
const Heading = z.object({ type: z.literal('heading'), attrs: z.object({ level: z.union([z.literal(2), z.literal(3)]) }), content: Inline.optional() });
const Item = z.object({ type: z.literal('listItem'), content: z.array(Paragraph).max(20) });
const List = z.object({ type: z.enum(['bulletList', 'orderedList']), attrs: z.record(z.string(), z.unknown()).optional(), content: z.array(Item).max(200) });
const Live = z.object({ type: z.literal('part'), attrs: z.object({ part: z.enum(PARTS), length: z.enum(LENGTHS).optional() }) });

/**
 * The draft of minutes: what a person wrote, and between it the parts that follow what is known of the meeting. The
 * shape is that of a ProseMirror document, bounded to what minutes need.
 */
export const DraftSchema = z.object({ type: z.literal('doc'), content: z.array(z.union([Paragraph, Heading, List, Live])).max(400) });
export type Draft = z.infer<typeof DraftSchema>;

/** A series without a template of its own begins with these. */
export const USUAL_PARTS: readonly Part[] = ['attendance', 'decisions', 'actions', 'updates', 'questions'];

export function draftOf(parts: readonly { part: Part; length?: Length | undefined }[]): Draft {
  return { type: 'doc', content: parts.flatMap(({ part, length }) => [{ type: 'part' as const, attrs: { part, ...(length ? { length } : {}) } }]) };
}

/** The parts of a draft in their order: what a template of a series keeps. */
export function partsOf(draft: Draft): { part: Part; length?: Length | undefined }[] {
  return draft.content.flatMap((n) => (n.type === 'part' ? [{ part: n.attrs.part, length: n.attrs.length }] : []));
}

export type Run = { text: string; bold?: boolean; italic?: boolean };
/** The words of runs alone. */
export const runsText = (runs: readonly Run[]): string => runs.map((r) => r.text).join('');
/** Minutes as they are set: the one shape that every way out is made from. */
export type Block =
  | { kind: 'heading'; level: 2 | 3; text: string }
  | { kind: 'text'; runs: Run[] }
  | { kind: 'list'; ordered: boolean; items: Run[][] }
  | { kind: 'items'; of: 'decisions' | 'actions' | 'updates' | 'questions'; items: MinutesItem[] }
  | { kind: 'table'; head: string[] /** column that takes the room the others leave */; wide: number; rows: string[][] };

export interface Minutes {
  title: string;
  /** lines under the title: project, day, place */
  under: string[];
  blocks: Block[];
}

const minutesLong = (seconds: number) => (seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`);

/** Sets a draft with what is known: parts are filled in, empty ones left out. */
export function compileMinutes(draft: Draft, data: MinutesData): Minutes {
  const { meeting } = data;
  const blocks = draft.content.flatMap((n): Block[] => {
    if (n.type === 'part') return partBlocks(n.attrs.part, n.attrs.length ?? 'usual', data);
    if (n.type === 'heading') return [{ kind: 'heading', level: n.attrs.level, text: plain(n.content ?? []) }];
    if (n.type === 'paragraph') return n.content?.length ? [{ kind: 'text', runs: runs(n.content) }] : [];
    return [{ kind: 'list', ordered: n.type === 'orderedList', items: n.content.map((i) => i.content.flatMap((p) => runs(p.content ?? []))) }];
  });
  return {
    title: `${meeting.title}${meeting.number ? ` no. ${meeting.number}` : ''}`,
    under: [[data.project, `${longDay(meeting.date)} ${meeting.date.slice(0, 4)}${meeting.time ? `, ${meeting.time}` : ''}`, meeting.place].filter(Boolean).join(' · ')],
    blocks: blocks.filter((b) => b.kind !== 'heading' || b.text !== ''),
  };
}

const runs = (inline: z.infer<typeof Inline>): Run[] => inline.map((t) => (t.type === 'hardBreak' ? { text: '\n' } : { text: t.text, ...(t.marks?.some((m) => m.type === 'bold') ? { bold: true } : {}), ...(t.marks?.some((m) => m.type === 'italic') ? { italic: true } : {}) }));
const plain = (inline: z.infer<typeof Inline>) =>
  runs(inline)
    .map((r) => r.text)
    .join('');

function partBlocks(part: Part, length: Length, d: MinutesData): Block[] {
  const head = (level: 2 | 3, text: string): Block => ({ kind: 'heading', level, text });
  const named = (blocks: Block[]): Block[] => (blocks.length ? [head(2, PART_NAMES[part]), ...blocks] : []);
  switch (part) {
    case 'attendance': {
      const rows = [
        ['Present', listOf(d.present)],
        ['Absent', listOf(d.absent)],
        ['Came later', listOf(d.late.map((l) => `${l.name} (${clock(l.at)})`))],
        ['Next', d.meeting.next ? shortDay(d.meeting.next) : ''],
      ].filter((r) => r[1]);
      return rows.map(([name, who]) => ({ kind: 'text', runs: [{ text: `${name}: `, bold: true }, { text: who! }] }));
    }
    case 'summary':
      return named(d.summary[length].length ? [{ kind: 'list', ordered: false, items: d.summary[length].map((l) => [...(l.voice ? [{ text: `${l.voice}: `, bold: true }] : []), { text: l.text }]) }] : []);
    case 'topics':
      return named(d.topics.length ? [{ kind: 'table', head: ['At', 'Topic', 'For'], wide: 1, rows: d.topics.map((t) => [t.start === null ? '' : clock(t.start), t.title, minutesLong(t.seconds)]) }] : []);
    case 'decisions':
    case 'actions':
    case 'updates':
    case 'questions':
      return named(d[part].length ? [{ kind: 'items', of: part, items: d[part] }] : []);
    case 'ideas':
      return named(d.ideas.flatMap((i): Block[] => [head(3, `${i.voice ? `${i.voice}: ` : ''}${i.text}`), { kind: 'table', head: ['Who', 'Side', 'Said'], wide: 2, rows: i.stances.map((s) => [s.voice ?? '', s.side, s.text]) }]));
    case 'shares':
      return named(d.shares.length ? [{ kind: 'table', head: ['Who', 'Minutes', 'Share'], wide: 0, rows: d.shares.map((s) => [s.voice, clock(s.seconds), `${Math.round(s.share * 100)}%`]) }] : []);
  }
}

/** Who and when of an item, in the words every way out shows. */
export function itemFoot(of: 'decisions' | 'actions' | 'updates' | 'questions', item: MinutesItem): string {
  if (of === 'actions') return `${item.owner.length ? listOf(item.owner) : 'nobody yet'}, ${item.due ? `by ${shortDay(item.due)}` : 'no date'}`;
  if (of === 'updates') return item.news ?? '';
  return '';
}

/**
 * What one version says otherwise than the one before, in plain sentences; empty when they say the same.
 * Numbered items are compared by reference, everything else block by block.
 */
export function changesBetween(before: Minutes, after: Minutes): string[] {
  const out: string[] = [];
  const itemsOf = (m: Minutes) => new Map(m.blocks.flatMap((b) => (b.kind === 'items' ? b.items.map((i) => [`${b.of} ${i.ref}`, { of: b.of, i }] as const) : [])));
  const [was, is] = [itemsOf(before), itemsOf(after)];
  for (const [key, { of, i }] of is) {
    const old = was.get(key)?.i;
    if (!old) out.push(`${i.ref} added: ${i.text}`);
    else {
      if (old.text !== i.text) out.push(`${i.ref} reworded: “${old.text}” became “${i.text}”`);
      if (itemFoot(of, old) !== itemFoot(of, i)) out.push(`${i.ref}: ${itemFoot(of, old) || 'nothing'} became ${itemFoot(of, i) || 'nothing'}`);
    }
  }
  for (const [key, { i }] of was) if (!is.has(key)) out.push(`${i.ref} left out: ${i.text}`);
  const words = (m: Minutes) => m.blocks.filter((b) => b.kind !== 'items').map(blockText);
  const [oldWords, newWords] = [new Set(words(before)), new Set(words(after))];
  for (const w of newWords) if (!oldWords.has(w)) out.push(`added: ${shortened(w)}`);
  for (const w of oldWords) if (!newWords.has(w)) out.push(`left out: ${shortened(w)}`);
  return out;
}

const shortened = (text: string) => (text.length > 120 ? `${text.slice(0, 117)}…` : text);

function blockText(b: Block): string {
  switch (b.kind) {
    case 'heading':
      return b.text;
    case 'text':
      return runsText(b.runs);
    case 'list':
      return b.items.map((i) => i.map((r) => r.text).join('')).join(' / ');
    case 'items':
      return b.items.map((i) => `${i.ref} ${i.text}`).join(' / ');
    case 'table':
      return b.rows.map((r) => r.join(' ')).join(' / ');
  }
}

/** File name without its ending: `works-call-no-6-2026-03-05-v2`. */
export function minutesFileName(m: Minutes, date: string, version: number | null): string {
  const name = m.title
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);
  return `${name || 'minutes'}-${date}${version ? `-v${version}` : '-draft'}`;
}
