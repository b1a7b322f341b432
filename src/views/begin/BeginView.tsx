import { useEffect, useState } from 'react';
import type { CountryChoice } from '../../core/dates/countries.ts';
import { MONDAY_TO_FRIDAY } from '../../core/dates/working-days.ts';
import { post } from '../parts/api.ts';
import { HolidaysField } from '../parts/HolidaysField.tsx';
import { useSubmit } from '../parts/use-submit.ts';
import { WeekDays } from '../parts/WeekDays.tsx';
import { signIn } from '../sign-in/sign-in.ts';

/** The first run: who this is, what the first project is called, and what comes next. */
export default function BeginView({ countries, zones, mustSignIn }: { countries: CountryChoice[]; zones: string[]; mustSignIn: boolean }) {
  const [you, setYou] = useState({ name: '', mail: '', zone: 'UTC', country: '', workingDays: MONDAY_TO_FRIDAY });
  const [project, setProject] = useState('');
  const [password, setPassword] = useState('');
  const [next, setNext] = useState('/bring-in');
  // this machine knows where it stands; the server may stand elsewhere
  useEffect(() => {
    const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
    if (zones.includes(timeZone)) setYou((was) => ({ ...was, zone: timeZone }));
  }, [zones]);
  const set = (part: Partial<typeof you>) => setYou((was) => ({ ...was, ...part }));
  const { wrong, busy, submit } = useSubmit(async () => {
    await post('/api/begin', { ...you, project, ...(mustSignIn ? { password } : {}) });
    if (mustSignIn) await signIn(you.mail, password);
    location.assign(next);
  });
  return (
    <form className="begin" onSubmit={submit}>
      <fieldset>
        <legend className="fl">You</legend>
        <div className="answers">
          <label>
            Your name
            {/* biome-ignore lint/a11y/noAutofocus: the page is this form and nothing else */}
            <input value={you.name} required minLength={2} maxLength={120} autoComplete="name" autoFocus placeholder="First name and surname" onChange={(e) => set({ name: e.target.value })} />
          </label>
          <label>
            Your mail address
            <input type="email" value={you.mail} autoComplete="email" placeholder="name@example.org" onChange={(e) => set({ mail: e.target.value })} />
          </label>
          <label>
            Time zone
            <select value={you.zone} onChange={(e) => set({ zone: e.target.value })}>
              {[...new Set([you.zone, ...zones])].map((z) => (
                <option key={z}>{z}</option>
              ))}
            </select>
          </label>
          <HolidaysField value={you.country} countries={countries} none="no country: weekends only" onChange={(country) => set({ country })} />
          <WeekDays label="You work on" days={you.workingDays} onChange={(workingDays) => set({ workingDays })} />
        </div>
        {mustSignIn && (
          <div className="answers">
            <label>
              A password, of at least twelve characters
              <input type="password" required minLength={12} maxLength={128} autoComplete="new-password" value={password} onChange={(e) => setPassword(e.target.value)} />
            </label>
          </div>
        )}
        <p className="why">Letters go out in your name and from your address. Nothing is sent before you set up a mail server and let a letter go.</p>
      </fieldset>
      <fieldset>
        <legend className="fl">First project</legend>
        <div className="answers">
          <label>
            What it is called
            <input value={project} required minLength={2} maxLength={80} placeholder="New ferry terminal" onChange={(e) => setProject(e.target.value)} />
          </label>
        </div>
      </fieldset>
      <fieldset className="ways">
        <legend className="fl">Then</legend>
        {[
          ['/bring-in', 'Bring in the record of a meeting: a transcript, notes, a chat or a dictated memo'],
          ['/people?add', 'Add the people you work with from a list'],
          ['/meetings?calendar', 'Bring in an invitation or a calendar file: your meetings and series, with who is asked to them'],
          ['/ledger/import', 'Bring in a list of commitments you keep elsewhere'],
          ['/', 'Look around first'],
        ].map(([to, label]) => (
          <label key={to}>
            <input type="radio" name="next" checked={next === to} onChange={() => setNext(to!)} />
            {label}
          </label>
        ))}
      </fieldset>
      <p className="acts">
        <button type="submit" className="do" disabled={busy}>
          Begin <kbd>Enter</kbd>
        </button>
        {wrong && (
          <span className="bad" role="alert">
            {wrong}
          </span>
        )}
      </p>
    </form>
  );
}
