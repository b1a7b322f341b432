import { useState } from 'react';
import type { CountryChoice } from '../../core/dates/countries.ts';
import { workingDaysInWords } from '../../core/dates/working-days.ts';
import type { LetterRules } from '../../core/letters/rules.ts';
import type { Choice } from '../../server/people/people.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import { HolidaysField } from '../parts/HolidaysField.tsx';
import { WeekDays } from '../parts/WeekDays.tsx';

interface Props {
  project: string;
  country: string;
  workingDays: string;
  rules: LetterRules;
  people: readonly Choice[];
  countries: readonly CountryChoice[];
  say(said: Said): void;
}

/** Where and when the people of a project work, and who hears of what stays late: each a sentence that can be changed. */
export function Workplace({ project, country: given, workingDays, rules, people, countries, say }: Props) {
  const [now, setNow] = useState({ country: given, workingDays });
  const [to, setTo] = useState(rules.escalation.on ? rules.escalation.to : null);
  const [open, setOpen] = useState<'work' | 'escalation' | null>(null);
  const settle = async (next: typeof now, undoing = false) => {
    const before = now;
    setNow(next);
    try {
      await post('/api/projects', { do: 'settle', project, ...next });
      say({ head: undoing ? 'Taken back' : 'Saved', rest: workingDaysInWords(next.workingDays), ...(undoing ? {} : { undo: () => void settle(before, true) }) });
    } catch (error) {
      setNow(before);
      say(wentWrong(error));
    }
  };
  const escalate = async (person: string | null, undoing = false) => {
    const before = to;
    try {
      await post('/api/rules', { do: 'rules', rules: { ...rules, escalation: { ...rules.escalation, on: person !== null, to: person } } });
      setTo(person);
      setOpen(null);
      say({ head: undoing ? 'Taken back' : 'Saved', rest: person === null ? 'nobody is written to about what stays late' : `${nameOf(person)} hears of what stays late`, ...(undoing ? {} : { undo: () => void escalate(before, true) }) });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const nameOf = (id: string) => people.find((p) => p.id === id)?.name ?? id;
  const land = countries.find((c) => c.code === now.country.slice(0, 2))?.name;
  return (
    <>
      <div className="moss workplace">
        People work{' '}
        <button type="button" className="set" aria-expanded={open === 'work'} onClick={() => setOpen(open === 'work' ? null : 'work')}>
          {workingDaysInWords(now.workingDays)}, {land ? `with the holidays of ${land}` : 'without public holidays'}
        </button>
        , where their own entry says nothing else.
        {open === 'work' && (
          <div className="settling">
            <WeekDays label="Days that are worked" days={now.workingDays} onChange={(days) => void settle({ ...now, workingDays: days })} />
            <HolidaysField value={now.country} countries={countries} none="no country" onChange={(country) => void settle({ ...now, country })} />
            <button type="button" className="may" onClick={() => setOpen(null)}>
              Done
            </button>
          </div>
        )}
      </div>
      <p className="moss workplace">
        {open === 'escalation' ? (
          <label>
            What stays late is told to{' '}
            <select
              // biome-ignore lint/a11y/noAutofocus: the choice opens because it was chosen to be changed
              autoFocus
              value={to ?? ''}
              onChange={(e) => void escalate(e.target.value || null)}
            >
              <option value="">nobody</option>
              {people.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
        ) : (
          <>
            What is {rules.escalation.after} working days late is told to{' '}
            <button type="button" className="set" onClick={() => setOpen('escalation')}>
              {to === null ? 'nobody besides its holder' : nameOf(to)}
            </button>
            ; the <a href="/post/rules">rules of letters</a> say the rest.
          </>
        )}
      </p>
    </>
  );
}
