import { isIsoDate } from '../dates/calendar.ts';
import { readTypedDate, readTypedPastDate } from '../dates/read.ts';
import { fold } from '../language/fold.ts';
import { readOwners } from '../language/owners.ts';
import type { Person } from '../language/people.ts';

export const IMPORT_FIELDS = ['ref', 'text', 'owner', 'due', 'state', 'made'] as const;
export type ImportField = (typeof IMPORT_FIELDS)[number];

/** Headings lists of commitments come with, by what they mean. Common practice of action logs in five languages. */
const HEADINGS: Record<ImportField, RegExp> = {
  ref: /^(?:ref(?:erence)?|no|nr|number|id|#|key)\.?$/,
  text: /^(?:what|text|action(?: item)?|task|description|title|summary|commitment|todo|to do|subject|aufgabe|was|action a mener|tache|quoi|tarea|accion|que|tarefa|acao|o que)$/,
  owner: /^(?:owner|who|assignee|assigned(?: to)?|responsible|person|by|wer|zustandig|verantwortlich|qui|responsable|quien|quem|responsavel)$/,
  due: /^(?:due(?: date)?|deadline|by when|when|date|target(?: date)?|bis|termin|fallig|echeance|quand|pour le|fecha|vence|cuando|prazo|data|quando)$/,
  state: /^(?:state|status|done|closed|stand|statut|etat|estado|situacao)$/,
  made: /^(?:made|created|raised|opened|start(?:ed)?|date raised|angelegt|cree|creado|criado)$/,
};

/** Which column is which, by the headings; null for a field no column fits. */
export function matchColumns(headings: readonly string[]): Record<ImportField, number | null> {
  const plain = headings.map((h) => fold(h).replace(/\s+/g, ' ').trim());
  const taken = new Set<number>();
  const out = {} as Record<ImportField, number | null>;
  for (const field of IMPORT_FIELDS) {
    const at = plain.findIndex((h, i) => !taken.has(i) && HEADINGS[field].test(h));
    out[field] = at < 0 ? null : at;
    if (at >= 0) taken.add(at);
  }
  return out;
}

export interface Known {
  id: number;
  ref: string;
  text: string;
}

/** A line that can be brought in. */
export interface ImportLine {
  line: number;
  text: string;
  /** ids of known people, and `new:` with a name for others */
  owner: string[];
  due: string | null;
  state: 'open' | 'done' | 'dropped';
  made: string | null;
  /** the commitment it is already, by reference or by its words */
  same: { id: number; ref: string /** what bringing it in would change, in words */; changes?: string[] } | null;
}

export interface ImportReading {
  lines: ImportLine[];
  /** lines that are refused, with what is wrong */
  refused: { line: number; what: string }[];
}

const DONE = /^(?:done|closed|complete[d]?|finished|yes|y|true|x|1|ok|erledigt|fertig|fait|termine|hecho|feito|concluido)$/;
const DROPPED = /^(?:dropped|cancel(?:l)?ed|withdrawn|n\/a|void|entfallt|annule|cancelado)$/;
const OPEN = /^(?:|open|todo|to do|in progress|pending|waiting|blocked|no|n|false|0|offen|ouvert|en cours|abierto|aberto)$/;

/**
 * Reads the lines of a table into commitments; what cannot be read is refused line by line, and the rest stands.
 * @param rows   cells, without the line of headings
 * @param first  number of the first of them in the file
 */
export function readImport(rows: readonly (readonly string[])[], columns: Record<ImportField, number | null>, people: readonly Person[], known: readonly Known[], today: string, first = 2): ImportReading {
  const byRef = new Map(known.map((k) => [k.ref.toLowerCase(), k]));
  const byText = new Map(known.map((k) => [plainOf(k.text), k]));
  const seen = new Map<string, number>();
  const lines: ImportLine[] = [];
  const refused: ImportReading['refused'] = [];
  /** A line as it is read, or what is wrong with it. */
  const read = (cells: readonly string[], line: number): ImportLine | string => {
    const cell = (f: ImportField) => (columns[f] === null ? '' : unquoted(cells[columns[f]!] ?? '').trim());
    const text = cell('text').replace(/\s+/g, ' ');
    if (text.length < 2) return 'there are no words that say what is to be done';
    if (text.length > 2000) return 'its words are longer than 2,000 characters';
    const due = dateOf(cell('due'), today);
    if (due === undefined) return `“${cell('due').slice(0, 40)}” is not a day`;
    const made = dateOf(cell('made'), today, readTypedPastDate);
    if (made === undefined) return `“${cell('made').slice(0, 40)}” is not a day`;
    const state = stateOf(cell('state'));
    if (!state) return `“${cell('state').slice(0, 40)}” is not known as a state`;
    const twice = seen.get(plainOf(text));
    if (twice !== undefined) return `says the same as line ${twice}`;
    // an address names somebody as surely as a name does
    const byMail = people.filter((p) => p.mail && cell('owner').toLowerCase().includes(p.mail.toLowerCase()));
    const owners = byMail.length ? { known: byMail.map((p) => p.id), unknown: [], refused: [] } : readOwners(cell('owner'), people, '');
    if (owners.refused[0]) return owners.refused[0].why.replace(/\.$/, '');
    seen.set(plainOf(text), line);
    const same = byRef.get(cell('ref').toLowerCase()) ?? byText.get(plainOf(text));
    return { line, text, owner: [...owners.known.filter(Boolean), ...owners.unknown.map((n) => `new:${n}`)], due, state, made, same: same ? { id: same.id, ref: same.ref } : null };
  };
  for (const [i, cells] of rows.entries()) {
    if (cells.every((c) => c.trim() === '')) continue;
    const out = read(cells, first + i);
    if (typeof out === 'string') refused.push({ line: first + i, what: out });
    else lines.push(out);
  }
  return { lines, refused };
}

/** A cell that was made harmless for spreadsheets begins with an apostrophe before a formula's sign. */
const unquoted = (cell: string) => cell.replace(/^'(?=[=+\-@\t\r])/, '');
const plainOf = (text: string) =>
  fold(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

function dateOf(text: string, today: string, read = (words: string, day: string) => readTypedDate(words, { date: day, next: null })): string | null | undefined {
  if (text === '' || /^(?:-|tbd|tbc|none|n\/a|offen)$/i.test(text)) return null;
  const day = text.slice(0, 10);
  if (isIsoDate(day) && /^\d{4}-\d{2}-\d{2}(?:[T ].*)?$/.test(text)) return day;
  const dotted = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4}|\d{2})$/.exec(text);
  if (dotted) {
    const iso = `${dotted[3]!.length === 2 ? `20${dotted[3]}` : dotted[3]}-${dotted[2]!.padStart(2, '0')}-${dotted[1]!.padStart(2, '0')}`;
    return isIsoDate(iso) ? iso : undefined;
  }
  return read(text, today) ?? undefined;
}

function stateOf(text: string): ImportLine['state'] | null {
  const word = fold(text).trim();
  if (DONE.test(word)) return 'done';
  if (DROPPED.test(word)) return 'dropped';
  return OPEN.test(word) ? 'open' : null;
}
