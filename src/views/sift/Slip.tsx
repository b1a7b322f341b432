import { useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import { UPDATE_KINDS, type UpdateKind } from '../../core/sift/find.ts';
import type { OpenRow } from '../../server/pages/sift.ts';
import type { Choice } from '../../server/people/people.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import { ComboField } from '../parts/ComboField.tsx';
import { DateField } from '../parts/DateField.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { KIND_NAMES, KindShape } from '../parts/Shapes.tsx';
import { Thread } from '../parts/Thread.tsx';

export type Field = 'text' | 'owner' | 'due' | 'about' | 'news' | null;

export const NEWS: Record<UpdateKind, string> = { done: 'done', moved: 'moved', reassigned: 'handed over', dropped: 'dropped', blocked: 'waiting', progress: 'still on it' };

export interface Edits {
  text?: string;
  owner?: string[];
  due?: string | null;
  kind?: UpdateKind;
  /** names of new people, by their `new:` id */
  named?: Record<string, string>;
}

interface Props {
  find: KeptFind;
  edits: Edits;
  people: readonly Choice[];
  open: OpenRow | undefined;
  /** every commitment it could be news of */
  others: readonly OpenRow[];
  nextRef: string;
  meeting: { date: string; next: string | null };
  today: string;
  field: Field;
  busy: boolean;
  onField(field: Field): void;
  onEdit(edits: Edits): void;
  onTake(): void;
  onPass(): void;
  /** says that it is right or wrong */
  onCall(right: boolean): void;
  /** news of another commitment, or of none */
  onAbout(open: number | null): void;
}

/** The open find: what it is, who, when, why, and what can be done with it. */
export function Slip({ find, edits, people, open, others, nextRef, meeting, today, field, busy, onField, onEdit, onTake, onPass, onCall, onAbout }: Props) {
  const text = edits.text ?? find.text;
  const owner = edits.owner ?? find.owner;
  const due = edits.due !== undefined ? edits.due : find.due;
  const kind = edits.kind ?? find.update?.kind;
  const name = (id: string) => edits.named?.[id] ?? people.find((p) => p.id === id)?.name ?? id.replace(/^new:/, '');
  const [draft, setDraft] = useState(text);
  const sure = find.reader === 'doubted' ? 'doubted by the close reader' : find.confidence >= 0.8 ? 'sure of it' : find.confidence >= 0.55 ? 'fairly sure' : 'not sure';
  return (
    <>
      <svg className="cut" width="17" height="17" aria-hidden="true">
        <path d="M0 0H17V17z" fill="var(--lichen)" />
        <path d="M0 .5L16.5 17" stroke="var(--bottle)" />
      </svg>
      <header>
        <span className="pin">
          <KindShape kind={find.kind} />
        </span>
        <b className={`k-${find.kind}`}>{KIND_NAMES[find.kind]}</b>
        {field === 'about' ? (
          <ComboField
            label="News of which commitment"
            placeholder="C-12, or some words of it"
            options={[{ value: null as number | null, label: find.update ? 'None: a new action' : 'A new action' }, ...others.map((o) => ({ value: o.id as number | null, label: o.ref, note: o.text }))]}
            onPick={onAbout}
            onLeave={() => onField(null)}
          />
        ) : (
          <button type="button" className="moss" disabled={find.kind === 'decision' || find.kind === 'question'} onClick={() => onField('about')} title="Which commitment is it news of? (W)">
            {find.update ? `of ${find.ref}` : `becomes ${nextRef}`}
          </button>
        )}
        <span className="sure" title={`Of finds like this, about ${Math.round(find.confidence * 10) * 10} in 100 are right`}>
          {sure}
        </span>
      </header>
      {field === 'text' ? (
        <textarea
          className="what-field"
          // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
          autoFocus
          aria-label="What"
          rows={2}
          value={draft}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setDraft(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && !e.shiftKey && draft.trim()) {
              e.preventDefault();
              onEdit({ text: draft.trim() });
              onField(null);
            }
            if (e.key === 'Tab' && find.kind === 'action' && draft.trim()) {
              e.preventDefault();
              onEdit({ text: draft.trim() });
              onField('owner');
            }
            if (e.key === 'Escape') {
              e.preventDefault();
              setDraft(text);
              onField(null);
            }
          }}
        />
      ) : (
        <p className="what">
          {find.update ? (
            text
          ) : (
            <button
              type="button"
              className="edit"
              onClick={() => {
                setDraft(text);
                onField('text');
              }}
              title="Change the wording (E)"
            >
              {text}
            </button>
          )}
        </p>
      )}
      {find.update && open && <Thread life={open.life} due={open.due} endedOn={null} blocked={open.state === 'blocked'} today={meeting.date} from={open.madeOn} to={due && due > meeting.date ? due : meeting.date} width={340} height={22} scale={1.15} />}
      <dl>
        {find.update && (
          <div>
            <dt>News</dt>
            <dd className="wide news">
              {field === 'news' ? (
                <ComboField
                  label="What happened"
                  placeholder="done, moved, handed over"
                  options={UPDATE_KINDS.map((k) => ({ value: k, label: NEWS[k] }))}
                  onLeave={() => onField(null)}
                  onPick={(k) => {
                    onEdit({ kind: k });
                    onField(k === 'moved' ? 'due' : k === 'reassigned' ? 'owner' : null);
                  }}
                />
              ) : (
                UPDATE_KINDS.map((k) => (
                  <button key={k} type="button" className={k === kind ? 'on' : ''} aria-pressed={k === kind} onClick={() => onEdit({ kind: k })}>
                    {NEWS[k]}
                  </button>
                ))
              )}
            </dd>
          </div>
        )}
        {find.update && open && (
          <div>
            <dt>Was</dt>
            <dd className="wide">
              {listOf(open.owner.map((o) => o.name)) || 'nobody’s'}, {open.due ? <s>{shortDay(open.due)}</s> : 'no date'} {open.due && open.due < today && <span className="late">{relativeDay(open.due, today)}</span>}
            </dd>
          </div>
        )}
        {(find.kind === 'action' || kind === 'reassigned') && (
          <div>
            <dt>Owner</dt>
            <dd>
              {field === 'owner' ? (
                <OwnerField
                  value={owner}
                  people={people}
                  onLeave={() => onField(null)}
                  onKeep={(ids, names) => {
                    onEdit({ owner: ids, named: Object.fromEntries(ids.map((id, i) => [id, names[i] ?? id])) });
                    onField(null);
                  }}
                />
              ) : (
                <button type="button" className={`set${owner.length ? '' : ' soon'}`} onClick={() => onField('owner')} title="Change the owner (O)">
                  {listOf(owner.map(name)) || 'nobody yet'}
                </button>
              )}
            </dd>
            <dd className="ev moss">{edits.owner ? 'set by you' : find.ownerHow}</dd>
          </div>
        )}
        {(find.kind === 'action' || kind === 'moved' || kind === 'reassigned') && (
          <div>
            <dt>{find.update ? 'Now' : 'Due'}</dt>
            <dd>
              {field === 'due' ? (
                <DateField
                  value={due}
                  context={meeting}
                  today={today}
                  label="Due date"
                  onLeave={() => onField(null)}
                  onKeep={(d) => {
                    onEdit({ due: d });
                    onField(null);
                  }}
                />
              ) : (
                <>
                  <button type="button" className={`set${due ? '' : ' soon'}`} onClick={() => onField('due')} title="Change the date (D)">
                    {due ? shortDay(due, today) : 'no date'}
                  </button>{' '}
                  {due && <span className={due < today ? 'late' : 'moss n13'}>{relativeDay(due, today)}</span>}
                </>
              )}
            </dd>
            {field !== 'due' && <dd className="ev said">{edits.due === undefined && find.duePhrase && <span className="r-when">{find.duePhrase}</span>}</dd>}
          </div>
        )}
        {find.about.length > 0 && edits.text === undefined && (
          <div>
            <dt>About</dt>
            <dd className="wide">{find.about.slice(0, 6).join(', ')}</dd>
          </div>
        )}
        <div>
          <dt>Why</dt>
          <dd className="wide">
            {find.reason}
            {find.also.length > 0 && ` Said in ${find.also.length + 1} records of this meeting.`}
            {find.unadjusted !== null && (
              <>
                {' '}
                <a href="/learned" title={`Of itself Sift would say ${Math.round(find.unadjusted * 100)} in 100; it says ${Math.round(find.confidence * 100)}`}>
                  {find.confidence < find.unadjusted ? 'Trusted less' : 'Trusted more'} after what was taken and passed.
                </a>
              </>
            )}
          </dd>
        </div>
      </dl>
      <footer>
        <button type="button" className="do" disabled={busy} onClick={onTake}>
          Take <kbd>T</kbd>
        </button>
        {!find.update && (
          <button
            type="button"
            className="may"
            onClick={() => {
              setDraft(text);
              onField('text');
            }}
          >
            Edit <kbd>E</kbd>
          </button>
        )}
        <button type="button" className="may" disabled={busy} onClick={onPass}>
          Pass <kbd>P</kbd>
        </button>
        <span className="called">
          {([true, false] as const).map((right) => (
            <button key={String(right)} type="button" aria-pressed={find.right === right} title={`Say that this find is ${right ? 'right (+)' : 'wrong (−)'}; later ones are weighed by it`} onClick={() => onCall(right)}>
              {right ? 'right' : 'wrong'}
            </button>
          ))}
        </span>
      </footer>
    </>
  );
}
