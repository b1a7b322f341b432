import { LINE_KINDS, type LineKind } from '../../core/meetings/live/capture.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { Room, RoomLine } from '../../server/meetings/live/room.ts';

/** A line that is on its way: shown at once, and sent until somebody has heard of it. */
export interface Unsent {
  id: string;
  text: string;
  point: number | null;
  /** why it cannot be kept; it stays here, to be copied */
  refused: string | null;
}

export interface LiveState {
  room: Room;
  walk: readonly LedgerRow[];
  /** the commitment that is spoken of */
  at: number | null;
  unsent: readonly Unsent[];
  typed: string;
  /** the line whose words are in the field, as they were when it was opened */
  editing: Pick<RoomLine, 'id' | 'revision'> | null;
  reading: boolean;
  offline: boolean;
}

export type LiveTold =
  | { do: 'room'; room: Room }
  | { do: 'typed'; text: string }
  | { do: 'write'; line: Unsent }
  | { do: 'sent'; id: string; room: Room }
  | { do: 'refused'; id: string; why: string }
  | { do: 'drop'; id: string }
  | { do: 'offline'; is: boolean }
  /** `typed` is what stands in the field then, in the signs of whoever changes it */
  | { do: 'edit'; line: RoomLine; typed: string }
  | { do: 'leave' }
  | { do: 'walk'; by: 1 | -1 }
  | { do: 'walked'; row: LedgerRow }
  | { do: 'read' };

/** What happens on the page of a meeting that is held. What is typed is never lost: it is in the field, on its way, or kept. */
export function liveReducer(state: LiveState, told: LiveTold): LiveState {
  switch (told.do) {
    case 'room':
      // an answer that was overtaken by a later one says nothing new
      return { ...state, room: told.room.now >= state.room.now ? told.room : state.room, offline: false };
    case 'typed':
      return { ...state, typed: told.text };
    case 'write':
      return { ...state, typed: '', unsent: [...state.unsent, told.line] };
    case 'sent':
      return { ...state, offline: false, unsent: state.unsent.filter((u) => u.id !== told.id), room: told.room.now >= state.room.now ? told.room : state.room };
    case 'refused':
      return { ...state, unsent: state.unsent.map((u) => (u.id === told.id ? { ...u, refused: told.why } : u)) };
    case 'drop':
      return { ...state, unsent: state.unsent.filter((u) => u.id !== told.id) };
    case 'offline':
      return { ...state, offline: told.is };
    case 'edit':
      return { ...state, typed: told.typed, editing: { id: told.line.id, revision: told.line.revision } };
    case 'leave':
      return { ...state, typed: state.editing ? '' : state.typed, editing: null };
    case 'walk': {
      const n = state.walk.findIndex((r) => r.id === spokenOf(state)?.id) + told.by;
      return { ...state, at: state.walk[Math.max(0, Math.min(state.walk.length - 1, n))]?.id ?? null };
    }
    case 'walked': {
      const walk = state.walk.map((r) => (r.id === told.row.id ? told.row : r));
      return { ...state, walk, at: nextToWalk(walk, { ...state.room.walked, [told.row.id]: true }, told.row.id) };
    }
    default:
      return { ...state, reading: !state.reading };
  }
}

/** The commitment that is spoken of: the chosen one, else the first nothing was said about yet. */
export function spokenOf(state: Pick<LiveState, 'walk' | 'at' | 'room'>): LedgerRow | null {
  return state.walk.find((r) => r.id === state.at) ?? state.walk.find((r) => !state.room.walked[r.id]) ?? state.walk[0] ?? null;
}

/** The next one nothing was said about, after some other; when there is none, that one stays. */
function nextToWalk(walk: readonly LedgerRow[], walked: Readonly<Record<number, unknown>>, after: number): number {
  const n = walk.findIndex((r) => r.id === after);
  return [...walk.slice(n + 1), ...walk.slice(0, n)].find((r) => !walked[r.id])?.id ?? after;
}

/** The kind after another, for a key that goes through them. */
export const nextKind = (kind: LineKind): LineKind => LINE_KINDS[(LINE_KINDS.indexOf(kind) + 1) % LINE_KINDS.length]!;

/** First letters of a name, as they stand behind a line. */
export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0] ?? '')
    .join('')
    .slice(0, 3)
    .toUpperCase();

/** How far it is, in a sentence for whoever comes late. */
export function soFar(room: Room): string {
  const done = new Set<number | null>();
  for (const m of room.marks) {
    if (m.kind === 'tick') done.add(m.item);
    if (m.kind === 'untick') done.delete(m.item);
  }
  const count = (kind: LineKind, one: string, many = `${one}s`) => {
    const n = room.lines.filter((l) => l.read.kind === kind).length;
    return `${n} ${n === 1 ? one : many}`;
  };
  return `${room.points.filter((p) => done.has(p.id)).length} of ${room.points.length} points, ${count('decision', 'decision')}, ${count('action', 'action')}, ${count('question', 'question')}, ${Object.keys(room.walked).length} of before spoken of`;
}
