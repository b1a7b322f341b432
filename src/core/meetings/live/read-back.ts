import type { Captured, LineKind } from './capture.ts';

/** What stands at the end of a meeting, as it is read back: decisions, actions with what each lacks, and questions. */
export interface ReadBack<T> {
  kind: Exclude<LineKind, 'point'>;
  line: T;
  lacks: ('owner' | 'date')[];
}

const ORDER: readonly LineKind[] = ['decision', 'action', 'question'];

/** Lines of a meeting in the order they are read back; points are not. */
export function readBack<T extends { read: Captured }>(lines: readonly T[]): ReadBack<T>[] {
  return ORDER.flatMap((kind) => lines.filter((l) => l.read.kind === kind).map((line) => ({ kind: kind as ReadBack<T>['kind'], line, lacks: kind === 'action' ? lacks(line.read) : [] })));
}

const lacks = ({ owner, due }: Captured): ('owner' | 'date')[] => [...(owner.length ? [] : (['owner'] as const)), ...(due ? [] : (['date'] as const))];

/** Lines as the record they become: Markdown, by point of the agenda. Gives the number of the line each stands in, from 1. */
export function asRecord<T extends { text: string; item: number | null }>(title: string, points: readonly { id: number; title: string }[], lines: readonly T[]): { text: string; at: Map<T, number> } {
  const out = [`# ${escaped(title)}`];
  const at = new Map<T, number>();
  for (const point of [...points, null]) {
    const own = lines.filter((l) => (point ? l.item === point.id : !points.some((p) => p.id === l.item)));
    if (own.length === 0) continue;
    out.push('', `## ${escaped(point?.title ?? 'Besides')}`, '');
    for (const line of own) {
      out.push(`- ${escaped(line.text)}`);
      at.set(line, out.length);
    }
  }
  return { text: `${out.join('\n')}\n`, at };
}

/** Words that stay words in Markdown. */
const escaped = (text: string) =>
  text
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[\\`*_[\]<>#|~!]/g, '\\$&')
    .replace(/^([-+=:])/, '\\$1')
    .replace(/^(\d{1,9})([.)])/, '$1\\$2');
