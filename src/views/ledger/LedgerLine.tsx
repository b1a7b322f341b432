import { type ReactNode, type Ref, useState } from 'react';
import { addDays } from '../../core/dates/calendar.ts';
import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { Column } from '../../core/ledger/look.ts';
import { isPutOff } from '../../core/ledger/predicates.ts';
import type { Change } from '../../server/ledger/changes.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { Choice } from '../../server/people/people.ts';
import { DateField } from '../parts/DateField.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { Thread } from '../parts/Thread.tsx';
import { COLUMN_CLASS, cellText } from './columns.ts';
import type { Group } from './grouping.ts';

export type LineField = 'text' | 'owner' | 'due' | 'off' | 'waits' | 'parts';

/** Days before and after today that the small threads span. */
const BEFORE = 49;
const AHEAD = 28;

interface Props {
  row: LedgerRow;
  /** the group it is the first of */
  group: Group | null;
  columns: readonly Column[];
  /** the projects that are shown */
  projects: Readonly<Record<string, string>>;
  current: boolean;
  marked: boolean;
  editing: LineField | null;
  people: readonly Choice[];
  today: string;
  index: number;
  measure: Ref<HTMLTableRowElement>;
  onChoose(): void;
  onEdit(field: LineField | null): void;
  /** a change of this line alone */
  onChange(change: Change, words: string, now: Partial<LedgerRow>): void;
  /** a change of this line, or of all that are marked */
  onAct(change: Change, words: string, now: Partial<LedgerRow>): void;
  onSplit(parts: string[]): void;
}

/** The address of a commitment's trail; references are of a project, so it is named where several are shown. */
export function trailOf(r: Pick<LedgerRow, 'ref' | 'project'>, projects: Readonly<Record<string, string>>): string {
  return Object.keys(projects).length > 1 ? `/ledger/${r.ref}?project=${encodeURIComponent(r.project)}` : `/ledger/${r.ref}`;
}

/** One commitment as a line of the Ledger; what is edited is edited in its place. */
export function LedgerLine(props: Props) {
  const { row: r, group: g, columns, current, marked, editing, index, measure, onChoose } = props;
  return (
    <tr ref={measure} data-index={index} data-row={r.id} className={[g && 'first', current && 'at', marked && 'marked', editing && 'edit'].filter(Boolean).join(' ')} aria-current={current || undefined} onClick={onChoose}>
      <th scope="row">
        {g && (
          <span className={`grp ${g.tone}`}>
            {g.name} <b>{g.rows.length}</b>
          </span>
        )}
        <a className="ref" href={trailOf(r, props.projects)}>
          {r.ref}
        </a>
      </th>
      <td className="what">
        <What {...props} />
      </td>
      {columns.map((c) => (
        <td key={c} className={COLUMN_CLASS[c]}>
          <Cell column={c} {...props} />
        </td>
      ))}
    </tr>
  );
}

/** The words, or the field in their place; a field whose column is not shown stands here too. */
function What(props: Props) {
  const { row: r, columns, editing, onEdit, onChange, onSplit } = props;
  if (editing === 'waits')
    return <Typed label="Waits for" placeholder="what it waits for, or a reference such as C-12" onLeave={() => onEdit(null)} onKeep={(words) => onChange({ do: 'block', ...(/^C-\d+$/i.test(words) ? { on: words.toUpperCase() } : words ? { reason: words } : {}) }, 'waits', { state: 'blocked' })} />;
  if (editing === 'text') return <Typed label="What" value={r.text} onLeave={() => onEdit(null)} onKeep={(words) => words && onChange({ do: 'reword', text: words }, 'reworded', { text: words })} />;
  if (editing === 'parts')
    return (
      <Typed
        label="Its parts, with a semicolon between"
        value={`${r.text}; `}
        onLeave={() => onEdit(null)}
        onKeep={(words) =>
          onSplit(
            words
              .split(';')
              .map((p) => p.trim())
              .filter(Boolean),
          )
        }
      />
    );
  if (editing === 'owner' && !columns.includes('owner')) return <Cell column="owner" {...props} />;
  if ((editing === 'due' || editing === 'off') && !columns.includes('due')) return <Cell column="due" {...props} />;
  return (
    <button type="button" onClick={() => onEdit('text')} title={r.text}>
      {r.text}
    </button>
  );
}

function Typed({ label, value = '', placeholder, onKeep, onLeave }: { label: string; value?: string; placeholder?: string; onKeep(words: string): void; onLeave(): void }) {
  const [draft, setDraft] = useState(value);
  return (
    <span className="typed wide">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        aria-label={label}
        placeholder={placeholder}
        value={draft}
        onChange={(e) => setDraft(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') onKeep(draft.trim());
          if (e.key === 'Escape') onLeave();
        }}
      />
    </span>
  );
}

function Cell({ column, row: r, editing, people, today, onEdit, onAct }: Props & { column: Column }): ReactNode {
  const ended = r.endedOn !== null;
  const dot = <span className="zero">·</span>;
  switch (column) {
    case 'owner':
      if (editing === 'owner') return <OwnerField value={r.owner.map((o) => o.id)} people={people} onLeave={() => onEdit(null)} onKeep={(ids, names) => onAct({ do: 'hand over', owner: ids }, `is ${listOf(names) || 'nobody’s'} now`, { owner: ids.map((id, k) => ({ id, name: names[k] ?? id })) })} />;
      return (
        <button type="button" className={r.owner.length ? '' : 'soon'} onClick={() => !ended && onEdit('owner')}>
          {listOf(r.owner.map((o) => o.name)) || 'nobody yet'}
        </button>
      );
    case 'due':
      if (editing === 'off') return <DateField value={null} context={{ date: today, next: null }} today={today} label="Put off until" onLeave={() => onEdit(null)} onKeep={(until) => (until ? onAct({ do: 'put off', until }, `put off to ${shortDay(until, today)}`, { putOff: until }) : onEdit(null))} />;
      if (editing === 'due') return <DateField value={r.due} context={{ date: today, next: null }} today={today} label="Due date" onLeave={() => onEdit(null)} onKeep={(due) => onAct({ do: 'move', due }, due ? `moved to ${shortDay(due, today)}` : 'has no date now', { due })} />;
      return (
        <button type="button" onClick={() => !ended && onEdit('due')}>
          <Due row={r} today={today} />
        </button>
      );
    case 'life':
      return <Thread life={r.life} due={r.due} endedOn={r.endedOn} blocked={r.state === 'blocked'} today={today} from={addDays(today, -BEFORE)} to={addDays(today, AHEAD)} width={136} scale={0.9} />;
    case 'waits':
      return r.waitsFor ? <a href={`/ledger/${r.waitsFor}`}>{r.waitsFor}</a> : cellText(column, r, today) || dot;
    default:
      return cellText(column, r, today) || dot;
  }
}

/** The due date, and how it stands beside today. */
function Due({ row: r, today }: { row: LedgerRow; today: string }) {
  const late = r.due !== null && r.due < today;
  return (
    <>
      <span className={r.due ? 'day' : `day${r.undated ? '' : ' soon'}`}>{r.due ? shortDay(r.due, today) : r.undated ? 'needs none' : 'no date'}</span>
      {r.endedOn ? (
        <span className={`rel ${r.state === 'done' ? 'ok' : 'moss'}`}>
          {r.state} {shortDay(r.endedOn, today)}
        </span>
      ) : r.state === 'blocked' ? (
        <span className="rel moss">{r.waitsFor ? `waits for ${r.waitsFor}` : 'waiting'}</span>
      ) : isPutOff(r, today) ? (
        <span className="rel moss">{r.putOff === 'backlog' ? 'backlog' : `back ${shortDay(r.putOff!, today)}`}</span>
      ) : (
        r.due && <span className={`rel ${late ? 'late' : r.due <= addDays(today, 1) ? 'soon' : 'moss'}`}>{relativeDay(r.due, today)}</span>
      )}
    </>
  );
}
