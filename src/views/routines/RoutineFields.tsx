import { type ReactNode, useMemo } from 'react';
import { clockAt } from '../../core/dates/moments.ts';
import { shortDay } from '../../core/language/days.ts';
import { newStep } from '../../core/routines/ready-made.ts';
import { EXPORTS, FORMATS_OF, faultsOf, fieldsOf, HAS_MEETING, MEETING_KINDS, NAMES, type Routine, type Step, type StepKind, type When } from '../../core/routines/routine.ts';
import { FIELD_WORDS, KIND_WORDS, MINUTES_WORDS, piecesOf, ROUND_UP_WORDS, STEP_SENTENCES, UNTIL_WORDS, WHAT_WORDS, WHEN_SENTENCES } from '../../core/routines/sentences.ts';
import { firstTimes, readTimes } from '../../core/routines/times.ts';
import type { RoutinesShown } from '../../server/pages/routines.ts';
import { Pick } from '../parts/Pick.tsx';
import { moved } from './routines-state.ts';

interface Props {
  routine: Routine;
  isNew: boolean;
  shown: RoutinesShown;
  nameOf(person: string): string;
  onChange(routine: Routine): void;
  onKeep(on: boolean): void;
  onTry(): void;
  onLeave(): void;
}

/** What starts a routine, as it can be chosen: the words before its field. */
const WHEN_CHOICES = Object.entries(WHEN_SENTENCES).map(([on, sentence]) => [on, sentence.replace(/ by \{days\}.*| \{text\}/, '')] as const);
const words = <T extends string>(of: Readonly<Record<T, string>>) => Object.entries(of) as [T, string][];

/** A routine being written: a sentence whose fields are filled in where they stand. */
export function RoutineFields({ routine, isNew, shown, nameOf, onChange, onKeep, onTry, onLeave }: Props) {
  const set = (part: Partial<Routine>) => onChange({ ...routine, ...part });
  const setStep = (n: number, step: Step) => set({ steps: routine.steps.map((s, k) => (k === n ? step : s)) });
  const faults = faultsOf(routine);
  const { when } = routine;
  return (
    <form
      className="writing"
      aria-label={isNew ? 'New routine' : `Edit ${routine.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        onKeep(isNew);
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        e.stopPropagation();
        onLeave();
      }}
    >
      <p className="sentence">
        <input
          // biome-ignore lint/a11y/noAutofocus: the fields open because a key was pressed
          autoFocus
          className="name"
          aria-label="Name of the routine"
          required
          minLength={2}
          maxLength={80}
          value={routine.name}
          onChange={(e) => set({ name: e.target.value })}
        />
      </p>
      <p className="sentence">
        When <Pick label="What starts it" value={when.on} options={WHEN_CHOICES} onPick={(on) => set(begun(on as When['on'], shown.today))} />
        {when.on === 'late' && (
          <>
            {' '}
            by <NumberField label="Working days" value={when.days} least={1} most={60} onChange={(days) => set({ when: { on: 'late', days } })} /> working {when.days === 1 ? 'day' : 'days'}
          </>
        )}
        {when.on === 'time' && (
          <>
            {' '}
            <TextField label="When, in words or cron" value={when.text} wide placeholder="every Friday at 10:00" onChange={(text) => set({ when: { on: 'time', text, from: shown.today } })} />
          </>
        )}
        {when.on !== 'time' && (
          <>
            {' '}
            from <Pick label="Series" value={routine.series ?? ''} options={[['', 'any meeting'], ...shown.series.map((x) => [x.id, x.title] as const)]} onPick={(id) => set({ series: id || null })} />{' '}
            <Pick label="Kind of meeting" value={routine.kind} options={MEETING_KINDS.map((k) => [k, KIND_WORDS[k]] as const)} onPick={(kind) => set({ kind: kind as Routine['kind'] })} />
          </>
        )}
      </p>
      {when.on === 'time' && <ReadBack text={when.text} from={when.from} zone={shown.zone} today={shown.today} />}
      <p className="sentence">
        Ottik{' '}
        {when.on === 'asked' ? (
          'will'
        ) : (
          <Pick
            label="By itself or offered"
            value={routine.how}
            options={[
              ['by itself', 'will by itself'],
              ['offered', 'offers to'],
            ]}
            onPick={(how) => set({ how: how as Routine['how'] })}
          />
        )}
      </p>
      <ol className="steps">
        {routine.steps.map((step, n) => (
          <li key={n}>
            <span className="n">{n + 1}</span>
            <p className="sentence">
              <StepSentence step={step} shown={shown} nameOf={nameOf} onChange={(s) => setStep(n, s)} />
              {step.do === 'post' && (
                <span className="moss n13 hint">
                  <Pick label="Put in" value="" options={[['', 'Put in…'], ...fieldsOf(when.on).map((f) => [f, FIELD_WORDS[f] ?? f] as const)]} onPick={(f) => f && setStep(n, { ...step, text: `${step.text.trimEnd()} {{ ${f} }}`.trim() })} />
                  {!shown.channel && ' The project has no chat channel yet; its address is kept with the letter rules.'}
                </span>
              )}
              {step.do === 'file' && shown.house && <span className="moss n13 hint">On this machine, below {shown.house.folder}. Nothing that lies there is overwritten.</span>}
              {step.do === 'hook' && (
                <span className="moss n13 hint">
                  Signed as Standard Webhooks has it
                  {shown.house ? (
                    <>
                      ; the key to check it with is <code>{shown.house.key}</code>
                    </>
                  ) : (
                    '; whoever set up this Ottik has the key to check it with'
                  )}
                  .
                </span>
              )}
              {step.do === 'take' && <span className="moss n13 hint">Whatever it takes is in the log and can be put back.</span>}
              {faults
                .filter((f) => f.step === n)
                .map((f) => (
                  <span key={f.message} className="late n13 hint">
                    {f.message} {f.advice}
                  </span>
                ))}
            </p>
            <span className="acts">
              <button type="button" className="may" disabled={n === 0} aria-label={`Step ${n + 1}: earlier`} onClick={() => set({ steps: moved(routine.steps, n, -1) })}>
                ↑
              </button>
              <button type="button" className="may" disabled={n === routine.steps.length - 1} aria-label={`Step ${n + 1}: later`} onClick={() => set({ steps: moved(routine.steps, n, 1) })}>
                ↓
              </button>
              <button type="button" className="may" disabled={routine.steps.length === 1} aria-label={`Take step ${n + 1} out`} onClick={() => set({ steps: routine.steps.filter((_, k) => k !== n) })}>
                Take out
              </button>
            </span>
          </li>
        ))}
        <li className="more">
          <span className="n">{routine.steps.length + 1}</span>
          <Pick label="Add a step" value="" options={[['', 'Add a step…'], ...words(NAMES)]} onPick={(kind) => kind && set({ steps: [...routine.steps, newStep(kind as StepKind, when.on, shown.me)] })} />
        </li>
      </ol>
      <p className="sentence small">
        After <NumberField label="Failures" value={routine.pauses} least={1} most={20} onChange={(pauses) => set({ pauses })} /> {routine.pauses === 1 ? 'failed run' : 'failed runs in a row'} it pauses. It acts for you, and sees what you see.
      </p>
      {faults
        .filter((f) => f.step === null)
        .map((f) => (
          <p key={f.message} className="late n13">
            {f.message} {f.advice}
          </p>
        ))}
      <p className="acts">
        <button type="submit" className="do" disabled={faults.length > 0}>
          {isNew ? 'Save and switch on' : 'Save'} <kbd>Enter</kbd>
        </button>
        {isNew && (
          <button type="button" className="may" disabled={faults.length > 0} onClick={() => onKeep(false)}>
            Save, switched off
          </button>
        )}
        <button type="button" className="may" disabled={faults.length > 0} onClick={onTry}>
          {HAS_MEETING.has(when.on) ? 'Try on a past meeting' : 'Try it now'}
        </button>
        <button type="button" className="may" onClick={onLeave}>
          Cancel <kbd>Esc</kbd>
        </button>
      </p>
    </form>
  );
}

/** A routine with another beginning: what does not go with it is as it starts. */
function begun(on: When['on'], today: string): Partial<Routine> {
  const when: When = on === 'late' ? { on, days: 3 } : on === 'time' ? { on, text: 'every Friday at 10:00', from: today } : { on };
  return { when, ...(on === 'time' ? { series: null, kind: 'any' as const } : {}), ...(on === 'asked' ? { how: 'by itself' as const } : {}) };
}

function StepSentence({ step, shown, nameOf, onChange }: { step: Step; shown: RoutinesShown; nameOf(person: string): string; onChange(step: Step): void }) {
  return (
    <>
      {piecesOf(STEP_SENTENCES[step.do]).map((piece) =>
        typeof piece === 'string' ? (
          piece
        ) : (
          <span key={piece.field}>
            <StepField step={step} field={piece.field} shown={shown} nameOf={nameOf} onChange={onChange} />
          </span>
        ),
      )}
    </>
  );
}

/** The control that stands for a field of a step. */
function StepField({ step, field, shown, nameOf, onChange }: { step: Step; field: string; shown: RoutinesShown; nameOf(person: string): string; onChange(step: Step): void }): ReactNode {
  switch (step.do) {
    case 'wait':
      return <Pick label="Until" value={step.until} options={words(UNTIL_WORDS)} onPick={(until) => onChange({ ...step, until: until as typeof step.until })} />;
    case 'take':
      return <NumberField label="How sure, in percent" value={step.sure} least={50} most={99} onChange={(sure) => onChange({ ...step, sure })} />;
    case 'round-up':
      return <Pick label="Draft or send" value={step.act} options={words(ROUND_UP_WORDS)} onPick={(act) => onChange({ ...step, act: act as typeof step.act })} />;
    case 'minutes':
      return <Pick label="Draft or issue" value={step.act} options={words(MINUTES_WORDS)} onPick={(act) => onChange({ ...step, act: act as typeof step.act })} />;
    case 'post':
      return <textarea aria-label="Words" rows={1} maxLength={2000} value={step.text} onChange={(e) => onChange({ ...step, text: e.target.value })} />;
    case 'next':
      return <TextField label="When the next meeting is" value={step.when} wide placeholder="as it was said, or: a week later at 10:00" onChange={(when) => onChange({ ...step, when })} />;
    case 'file':
    case 'hook':
      if (field === 'what')
        return (
          <Pick
            label="What"
            value={step.what}
            options={EXPORTS.map((w) => [w, WHAT_WORDS[w]] as const)}
            onPick={(w) => {
              const what = w as typeof step.what;
              onChange({ ...step, what, format: FORMATS_OF[what].includes(step.format) ? step.format : FORMATS_OF[what][0]! });
            }}
          />
        );
      if (field === 'format') return <Pick label="Format" value={step.format} options={FORMATS_OF[step.what].map((f) => [f, f] as const)} onPick={(f) => onChange({ ...step, format: f as typeof step.format })} />;
      return step.do === 'file' ? <TextField label="Folder" value={step.folder} onChange={(folder) => onChange({ ...step, folder })} /> : <TextField label="Address" value={step.url} wide placeholder="https://" onChange={(url) => onChange({ ...step, url })} />;
    case 'ask':
      if (field === 'question') return <TextField label="Question" value={step.question} wide placeholder="What is late?" onChange={(question) => onChange({ ...step, question })} />;
      return (
        <>
          {step.to.map((id) => (
            <button key={id} type="button" className="set" title="Leave out" onClick={() => onChange({ ...step, to: step.to.filter((t) => t !== id) })}>
              {nameOf(id)} ×
            </button>
          ))}
          {shown.readers.some((id) => !step.to.includes(id)) && (
            <Pick label="Add a reader" value="" options={[['', step.to.length ? 'and…' : 'choose who'], ...shown.readers.filter((id) => !step.to.includes(id)).map((id) => [id, nameOf(id)] as const)]} onPick={(id) => id && onChange({ ...step, to: [...step.to, id] })} />
          )}
        </>
      );
    default:
      return null;
  }
}

/** The first times a phrase gives, so that whoever types it sees what they said. */
function ReadBack({ text, from, zone, today }: { text: string; from: string; zone: string; today: string }) {
  const said = useMemo(() => {
    const times = readTimes(text, from);
    return 'wrong' in times
      ? null
      : firstTimes(times, new Date(), zone, 3)
          .map((at) => {
            const { day, time } = clockAt(at, zone);
            return `${shortDay(day, today)} ${time}`;
          })
          .join(', ');
  }, [text, from, zone, today]);
  return said ? <p className="moss n13">First on {said}.</p> : null;
}

function NumberField({ label, value, least, most, onChange }: { label: string; value: number; least: number; most: number; onChange(value: number): void }) {
  return <input type="number" aria-label={label} min={least} max={most} value={value} onChange={(e) => onChange(Math.max(least, Math.min(most, Math.round(Number(e.target.value)) || least)))} />;
}

function TextField({ label, value, wide, placeholder, onChange }: { label: string; value: string; wide?: boolean; placeholder?: string; onChange(value: string): void }) {
  return <input type="text" aria-label={label} className={wide ? 'wide' : undefined} maxLength={500} placeholder={placeholder} value={value} onChange={(e) => onChange(e.target.value)} />;
}
