import { useState } from 'react';
import { LANGUAGE_NAMES, LANGUAGES, LENGTHS, TONES } from '../../core/letters/kinds.ts';
import type { LetterRules, ReaderWishes } from '../../core/letters/rules.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

export interface RulesProps {
  rules: LetterRules;
  channel: string;
  people: { id: string; name: string; mail: string | null; wishes: ReaderWishes }[];
  me: string;
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday'];

type Kind = 'assignment' | 'handOver' | 'reminder' | 'check' | 'overdue' | 'escalation' | 'digest' | 'invitation' | 'thanks';

/** The rules of a project's letter plan, each a sentence whose words can be changed. */
export default function RulesView({ rules: given, channel: givenChannel, people: givenPeople, me }: RulesProps) {
  const [rules, setRules] = useState(given);
  const [channel, setChannel] = useState(givenChannel);
  const [people, setPeople] = useState(givenPeople);
  const [said, setSaid] = useState<Said | null>(null);
  const bad = (words: string) => setSaid({ head: words, rest: 'The rule is as it was.', bad: true });
  const wrong = (error: unknown) => setSaid({ head: error instanceof Refused ? error.message : 'Something went wrong in this page.', ...(error instanceof Refused && error.advice ? { rest: error.advice } : {}), bad: true });
  const keep = async (next: LetterRules, undo = true) => {
    const before = rules;
    setRules(next);
    try {
      await post('/api/rules', { do: 'rules', rules: next });
      setSaid({ head: 'Kept', rest: 'the plan follows from now on', undo: undo ? () => void keep(before, false) : undefined });
    } catch (error) {
      setRules(before);
      wrong(error);
    }
  };
  const set = <K extends Kind>(kind: K, change: Partial<LetterRules[K]>) => void keep({ ...rules, [kind]: { ...rules[kind], ...change } });
  const wish = async (id: string, change: Partial<ReaderWishes>) => {
    const before = people;
    const next = people.map((p) => (p.id === id ? { ...p, wishes: { ...p.wishes, ...change } } : p));
    setPeople(next);
    try {
      await post('/api/rules', { do: 'wishes', person: id, wishes: next.find((p) => p.id === id)!.wishes });
      setSaid({ head: 'Kept', rest: next.find((p) => p.id === id)!.name });
    } catch (error) {
      setPeople(before);
      wrong(error);
    }
  };
  const number = (label: string, value: number, onKeep: (n: number) => void, least = 1) => <Num onBad={bad} label={label} value={value} least={least} onKeep={onKeep} />;
  const rule = (kind: Kind, name: string, sentence: React.ReactNode) => (
    <li className={rules[kind].on ? '' : 'off'}>
      <label className="on">
        <input type="checkbox" checked={rules[kind].on} onChange={(e) => set(kind, { on: e.target.checked })} /> {name}
      </label>
      <p>{sentence}</p>
      <label className="by">
        <input type="checkbox" checked={rules[kind].byItself} disabled={!rules[kind].on} onChange={(e) => set(kind, { byItself: e.target.checked })} /> by itself
      </label>
    </li>
  );
  return (
    <>
      <div className="rules">
        <section>
          <h2 className="lh">
            When somebody is written to<span>days are working days where the reader is</span>
          </h2>
          <ul className="rule-list">
            {rule('assignment', 'Assignment', 'when something was taken on: what, by when, and a request to confirm')}
            {rule('handOver', 'Hand-over', 'when something comes to somebody else')}
            {rule(
              'reminder',
              'Reminder',
              <>
                <Num onBad={bad} label="Days before" value={rules.reminder.before[0] ?? 2} least={0} onKeep={(n) => set('reminder', { before: [n, ...rules.reminder.before.slice(1)] })} /> days before it is due
                {rules.reminder.before.length > 1 ? (
                  <>
                    {' '}
                    and again <Num onBad={bad} label="Days before, second" value={rules.reminder.before[1]!} least={0} onKeep={(n) => set('reminder', { before: [rules.reminder.before[0]!, n] })} /> days before{' '}
                    <button type="button" className="may line" onClick={() => set('reminder', { before: rules.reminder.before.slice(0, 1) })}>
                      only once
                    </button>
                  </>
                ) : (
                  <>
                    {' '}
                    <button type="button" className="may line" onClick={() => set('reminder', { before: [...rules.reminder.before, 0] })}>
                      and again
                    </button>
                  </>
                )}
              </>,
            )}
            {rule('check', 'Progress check', <>when nothing has been heard for {number('Days of silence', rules.check.every, (every) => set('check', { every }))} days</>)}
            {rule(
              'overdue',
              'Overdue notice',
              <>
                {number('Days after', rules.overdue.after, (after) => set('overdue', { after }))} day{rules.overdue.after === 1 ? '' : 's'} after it was due, then every {number('Every', rules.overdue.every, (every) => set('overdue', { every }))} days,{' '}
                <select aria-label="How often" value={rules.overdue.times ?? 0} onChange={(e) => set('overdue', { times: Number(e.target.value) || null })}>
                  {[1, 2, 3, 4, 5, 8, 12].map((n) => (
                    <option key={n} value={n}>
                      {n} {n === 1 ? 'time' : 'times'}
                    </option>
                  ))}
                  <option value={0}>until it is done</option>
                </select>
              </>,
            )}
            {rule(
              'escalation',
              'Escalation',
              <>
                when it is {number('Days late', rules.escalation.after, (after) => set('escalation', { after }))} days late, to{' '}
                <select aria-label="To whom" value={rules.escalation.to ?? ''} onChange={(e) => set('escalation', { to: e.target.value || null })}>
                  <option value="">somebody</option>
                  {people
                    .filter((p) => p.mail && p.id !== me)
                    .map((p) => (
                      <option key={p.id} value={p.id}>
                        {p.name}
                      </option>
                    ))}
                </select>
              </>,
            )}
            {rule(
              'digest',
              'Digest',
              <>
                all that somebody holds, every{' '}
                <select aria-label="Weekday" value={rules.digest.weekday} onChange={(e) => set('digest', { weekday: Number(e.target.value) })}>
                  {WEEKDAYS.map((d, i) => (
                    <option key={d} value={i + 1}>
                      {d}
                    </option>
                  ))}
                </select>{' '}
                at <Time onBad={bad} label="At which hour" value={rules.digest.hour} onKeep={(hour) => set('digest', { hour })} /> by the reader’s clock
              </>,
            )}
            {rule('invitation', 'Invitation', <>{number('Days before a sitting', rules.invitation.before, (before) => set('invitation', { before }))} days before a sitting, with its calendar entry</>)}
            {rule('thanks', 'Closing thanks', 'when something is done')}
          </ul>
          <h2 className="lh">How and when</h2>
          <ul className="rule-list plain">
            <li>
              <p>
                Other letters that go by themselves go at <Time onBad={bad} label="Hour" value={rules.hour} onKeep={(hour) => void keep({ ...rules, hour })} /> by the reader’s clock
                {rules.quiet ? (
                  <>
                    , never between <Time onBad={bad} label="Quiet from" value={rules.quiet.from} onKeep={(from) => void keep({ ...rules, quiet: { ...rules.quiet!, from } })} /> and <Time onBad={bad} label="Quiet to" value={rules.quiet.to} onKeep={(to) => void keep({ ...rules, quiet: { ...rules.quiet!, to } })} />.
                  </>
                ) : (
                  '.'
                )}{' '}
                <button type="button" className="may line" onClick={() => void keep({ ...rules, quiet: rules.quiet ? null : { from: '18:00', to: '07:30' } })}>
                  {rules.quiet ? 'no quiet hours' : 'keep quiet hours'}
                </button>
              </p>
            </li>
            <li>
              <p>
                Things of the next <Num onBad={bad} label="Gather" value={rules.gather} least={0} onKeep={(gather) => void keep({ ...rules, gather: Math.min(3, gather) })} /> days go along with a letter that is written anyway.
              </p>
            </li>
            <li>
              <p>
                Tone{' '}
                <select aria-label="Tone" value={rules.tone} onChange={(e) => void keep({ ...rules, tone: e.target.value as LetterRules['tone'] })}>
                  {TONES.map((t) => (
                    <option key={t}>{t}</option>
                  ))}
                </select>
                , length{' '}
                <select aria-label="Length" value={rules.length} onChange={(e) => void keep({ ...rules, length: e.target.value as LetterRules['length'] })}>
                  {LENGTHS.map((l) => (
                    <option key={l} value={l}>
                      {l === 'everything' ? 'with everything' : l}
                    </option>
                  ))}
                </select>
                ; both can be set for each letter.
              </p>
            </li>
            <li>
              <label>
                <input type="checkbox" checked={rules.answersByThemselves} onChange={(e) => void keep({ ...rules, answersByThemselves: e.target.checked })} /> Answers that leave no doubt become updates without being looked at
              </label>
            </li>
            <li>
              <label className="channel">
                Chat channel (incoming webhook){' '}
                <input
                  type="url"
                  value={channel}
                  placeholder="none"
                  onChange={(e) => setChannel(e.target.value)}
                  onBlur={() => channel !== givenChannel && post('/api/rules', { do: 'channel', url: channel }).then(() => setSaid({ head: 'Kept', rest: channel ? 'letters can go to the channel in short form' : 'no channel' }), wrong)}
                />
              </label>
            </li>
          </ul>
        </section>
        <section>
          <h2 className="lh">
            How people want to be written to<span>{people.length}</span>
          </h2>
          <table className="wishes">
            <thead>
              <tr>
                <th>Who</th>
                <th>Letters</th>
                <th>Language</th>
                <th>Clock</th>
                <th>Holidays of</th>
              </tr>
            </thead>
            <tbody>
              {people.map((p) => (
                <tr key={p.id}>
                  <th>
                    <a href={`/people/${p.id}`}>{p.name}</a>
                    {!p.mail && <span className="soon n12"> no address</span>}
                  </th>
                  <td>
                    <select aria-label={`Letters to ${p.name}`} value={p.wishes.letters} onChange={(e) => void wish(p.id, { letters: e.target.value as 'all' })}>
                      <option value="all">all</option>
                      <option value="no digest">all but digests</option>
                      <option value="digest">digest only</option>
                      <option value="none">none</option>
                    </select>
                  </td>
                  <td>
                    <select aria-label={`Language of ${p.name}`} value={p.wishes.language} onChange={(e) => void wish(p.id, { language: e.target.value as 'en' })}>
                      {LANGUAGES.map((l) => (
                        <option key={l} value={l}>
                          {LANGUAGE_NAMES[l]}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td>
                    <Words label={`Time zone of ${p.name}`} value={p.wishes.zone} onKeep={(zone) => void wish(p.id, { zone })} />
                  </td>
                  <td>
                    <Words label={`Country of ${p.name}`} value={p.wishes.country} placeholder="none" onKeep={(country) => void wish(p.id, { country: country.toUpperCase() })} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      <Foot said={said} keys={[{ key: 'l', does: 'back to Post', line: 'Post', run: () => location.assign('/post') }]} />
    </>
  );
}

function Num({ label, value, least, onKeep, onBad }: { label: string; value: number; least: number; onKeep(n: number): void; onBad(words: string): void }) {
  const [text, setText] = useState(String(value));
  const n = Number(text);
  const good = text.trim() !== '' && Number.isInteger(n) && n >= least && n <= 60;
  const done = () => {
    if (!good) onBad(`“${text}” is not a number from ${least} to 60.`);
    else if (n !== value) onKeep(n);
  };
  return <input className="num" inputMode="numeric" aria-label={label} aria-invalid={!good} value={text} onChange={(e) => setText(e.target.value)} onBlur={done} onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLInputElement).blur()} />;
}

/** A time of day as it is typed: `8`, `8:30`, `8h30`. What is none stays as it was typed, and that is said. */
function Time({ label, value, onKeep, onBad }: { label: string; value: string; onKeep(t: string): void; onBad(words: string): void }) {
  const [bad, setBad] = useState(false);
  const keep = (input: HTMLInputElement) => {
    const m = /^(\d{1,2})(?:[:.h](\d{2}))?$/.exec(input.value.trim());
    const good = m !== null && Number(m[1]) < 24 && Number(m[2] ?? 0) < 60;
    setBad(!good);
    if (!good) return onBad(`“${input.value.trim()}” is not a time. Type one like 08:30.`);
    const time = `${m[1]!.padStart(2, '0')}:${m[2] ?? '00'}`;
    input.value = time;
    if (time !== value) onKeep(time);
  };
  return <input className="num time" inputMode="numeric" aria-label={label} aria-invalid={bad} defaultValue={value} onBlur={(e) => keep(e.target)} onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLInputElement).blur()} />;
}

function Words({ label, value, placeholder, onKeep }: { label: string; value: string; placeholder?: string; onKeep(t: string): void }) {
  return <input className="words-in" aria-label={label} defaultValue={value} placeholder={placeholder} onBlur={(e) => e.target.value.trim() !== value && onKeep(e.target.value.trim())} onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLInputElement).blur()} />;
}
