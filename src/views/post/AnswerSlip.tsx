import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { KeptAnswer } from '../../server/letters/replies.ts';
import type { Choice } from '../../server/people/people.ts';
import { ComboField } from '../parts/ComboField.tsx';
import { DateField } from '../parts/DateField.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { KindShape } from '../parts/Shapes.tsx';
import { type AnswerDraft, withDue, withKind, withOwner } from './answer-draft.ts';
import { ANSWERED } from './entries.ts';

const KINDS = ['done', 'moved', 'reassigned', 'blocked', 'progress', 'dropped', 'confirmed', 'declined', 'remark'] as const;

interface Props {
  answer: KeptAnswer;
  /** what was read, as it has been changed */
  draft: AnswerDraft;
  open: boolean;
  today: string;
  next: string | null;
  people: readonly Choice[];
  /** which of its parts is being changed */
  editing: 'kind' | 'owner' | 'due' | null;
  onEdit(what: 'kind' | 'owner' | 'due' | null): void;
  onDraft(draft: AnswerDraft): void;
  onTake(): void;
  onPass(): void;
  onUndo(): void;
  onOpen(): void;
}

/** What was read from an answer, beside the words: was and now, to be taken, changed or passed. */
export function AnswerSlip({ answer: a, draft, open, today, next, people, editing, onEdit, onDraft, onTake, onPass, onUndo, onOpen }: Props) {
  const { kind, due, owner } = draft;
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? id.replace(/^new:/, '');
  if (a.verdict !== 'open' || !open) {
    return (
      <article className={`read-of ${a.verdict}`}>
        <span className="k-update">
          <KindShape kind="update" />
        </span>
        <div>
          <button type="button" className="head" onClick={onOpen}>
            {a.ref && <b>{a.ref}</b>} {a.text || a.words}
          </button>
          <p className="moss n13">
            {ANSWERED[a.kind]}
            {a.kind === 'moved' && a.due ? ` to ${shortDay(a.due, today)}` : ''}
            {a.kind === 'reassigned' && a.owner ? ` to ${listOf(a.owner.map(name))}` : ''}
            {a.verdict === 'taken' ? (a.byItself ? ', taken by itself' : ', taken') : a.verdict === 'passed' ? ', passed' : ''}
            {a.verdict !== 'open' && (
              <button type="button" className="may line" onClick={onUndo}>
                take back
              </button>
            )}
          </p>
        </div>
      </article>
    );
  }
  const was = a.was;
  return (
    <article className="read-of open" aria-current="true">
      <header>
        <span className="k-update">
          <KindShape kind="update" />
        </span>
        {editing === 'kind' ? (
          <ComboField
            label="What it says"
            placeholder="done, moved, handed over"
            options={KINDS.map((k) => ({ value: k, label: ANSWERED[k]! }))}
            onLeave={() => onEdit(null)}
            onPick={(k) => {
              onDraft(withKind(draft, k));
              onEdit(k === 'moved' ? 'due' : k === 'reassigned' ? 'owner' : null);
            }}
          />
        ) : (
          <button type="button" className="set" onClick={() => onEdit('kind')}>
            <b>{ANSWERED[kind]}</b>
          </button>
        )}
        <span className="moss end">{a.sure ? 'sure of it' : 'look closely'}</span>
      </header>
      <p className="what">
        {a.ref ? <a href={`/ledger/${a.ref}`}>{a.ref}</a> : 'About no commitment'} {a.text}
      </p>
      {was && (
        <dl className="wn">
          <div>
            <dt>was</dt>
            <dd>{was.due ? <s>{shortDay(was.due, today)}</s> : <s>no date</s>}</dd>
            <dd className={was.due && was.due < today ? 'late' : 'moss'}>{was.due ? relativeDay(was.due, today) : (listOf(was.owner.map(name)) ?? '')}</dd>
          </div>
          <div>
            <dt>now</dt>
            {kind === 'moved' || editing === 'due' ? (
              <dd className="strong" style={{ gridColumn: '2 / 4' }}>
                {editing === 'due' ? (
                  <DateField
                    value={due}
                    context={{ date: today, next }}
                    today={today}
                    label="New date"
                    onKeep={(d) => {
                      onDraft(withDue(draft, d));
                      onEdit(null);
                    }}
                    onLeave={() => onEdit(null)}
                  />
                ) : (
                  <button type="button" className="set" onClick={() => onEdit('due')}>
                    {due ? `${shortDay(due, today)}, ${relativeDay(due, today)}` : 'no date yet'}
                  </button>
                )}
              </dd>
            ) : kind === 'reassigned' || editing === 'owner' ? (
              <dd className="strong" style={{ gridColumn: '2 / 4' }}>
                {editing === 'owner' ? (
                  <OwnerField
                    value={owner ?? []}
                    people={people}
                    onKeep={(o) => {
                      onDraft(withOwner(draft, o));
                      onEdit(null);
                    }}
                    onLeave={() => onEdit(null)}
                  />
                ) : (
                  <button type="button" className="set" onClick={() => onEdit('owner')}>
                    {owner?.length ? listOf(owner.map(name)) : 'nobody yet'}
                  </button>
                )}
              </dd>
            ) : (
              <dd className={kind === 'done' ? 'ok strong' : 'strong'} style={{ gridColumn: '2 / 4' }}>
                {kind === 'question' || kind === 'remark' ? 'as it was; the words go on its trail' : ANSWERED[kind]}
              </dd>
            )}
          </div>
          {kind === 'reassigned' && (due || editing === 'due') && editing !== 'owner' && (
            <div>
              <dt>due</dt>
              <dd className="strong" style={{ gridColumn: '2 / 4' }}>
                {due ? `${shortDay(due, today)}, ${relativeDay(due, today)}` : 'no date'}
              </dd>
            </div>
          )}
        </dl>
      )}
      <p className="moss n13 why">{a.reason}</p>
      <footer>
        <button type="button" className="do" onClick={onTake}>
          Take <kbd>T</kbd>
        </button>
        <button type="button" className="may" onClick={() => onEdit('kind')}>
          Change <kbd>E</kbd>
        </button>
        <button type="button" className="may" onClick={onPass}>
          Pass <kbd>P</kbd>
        </button>
      </footer>
    </article>
  );
}
