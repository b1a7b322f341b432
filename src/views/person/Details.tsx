import { useState } from 'react';
import { workingDaysInWords } from '../../core/dates/working-days.ts';
import { LANGUAGES, type Language } from '../../core/letters/kinds.ts';
import type { Details as Kept } from '../../server/people/details.ts';
import { HolidaysField } from '../parts/HolidaysField.tsx';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';
import { WeekDays } from '../parts/WeekDays.tsx';

interface Props {
  details: Kept;
  countries: readonly { code: string; name: string }[];
  zones: readonly string[];
  editing: boolean;
  onEditing(editing: boolean): void;
  onKeep(to: Kept): void;
}

const LANGUAGE_NAMES: Record<Language, string> = { en: 'English', de: 'German', fr: 'French', es: 'Spanish', pt: 'Portuguese' };

/** What an entry says of a person: read as a list, changed in place. */
export function Details({ details, countries, zones, editing, onEditing, onKeep }: Props) {
  const country = countries.find((c) => c.code === details.country.slice(0, 2))?.name ?? null;
  return (
    <section className="band details" aria-label="Details">
      <p className="fl">Details</p>
      {editing ? (
        <Fields details={details} countries={countries} zones={zones} onKeep={onKeep} onLeave={() => onEditing(false)} />
      ) : (
        <>
          <dl>
            <dt>Mail</dt>
            <dd>{details.mail ?? <span className="moss">no address</span>}</dd>
            <dt>Role</dt>
            <dd>{details.role || <span className="moss">none</span>}</dd>
            <dt>Also called</dt>
            <dd>{details.aliases.join(', ') || <span className="moss">nothing else</span>}</dd>
            <dt>Organisation</dt>
            <dd>{details.organisation || <span className="moss">none</span>}</dd>
            <dt>Written to in</dt>
            <dd>{LANGUAGE_NAMES[details.language]}</dd>
            <dt>Time zone</dt>
            <dd>
              {details.zone}
              <span className="moss">{country ? `, holidays of ${country}` : ''}</span>
            </dd>
            <dt>Works</dt>
            <dd>{details.workingDays ? workingDaysInWords(details.workingDays) : <span className="moss">as in the project</span>}</dd>
          </dl>
          <p className="acts">
            <button type="button" className="may" onClick={() => onEditing(true)}>
              Edit details <kbd>E</kbd>
            </button>
          </p>
        </>
      )}
    </section>
  );
}

function Fields({ details, countries, zones, onKeep, onLeave }: Omit<Props, 'editing' | 'onEditing'> & { onLeave(): void }) {
  const [now, setNow] = useState({ ...details, aliases: details.aliases.join(', ') });
  const set = (part: Partial<typeof now>) => setNow((was) => ({ ...was, ...part }));
  const text = (label: string, key: 'name' | 'aliases' | 'role' | 'organisation' | 'mail', more: React.InputHTMLAttributes<HTMLInputElement> = {}) => (
    <label>
      {label}
      <input value={now[key] ?? ''} maxLength={254} onChange={(e) => set({ [key]: e.target.value })} {...more} />
    </label>
  );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onKeep({
          ...now,
          aliases: now.aliases
            .split(',')
            .map((a) => a.trim())
            .filter(Boolean),
        });
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onLeave();
      }}
    >
      <div className="fields">
        {text('Name', 'name', { required: true, autoFocus: true })}
        {text('Mail address', 'mail', { type: 'email', placeholder: 'name@example.org' })}
        {text('Also called, with commas between', 'aliases', { placeholder: 'Bram, BO' })}
        {text('Role', 'role', { placeholder: 'Project manager' })}
        {text('Organisation', 'organisation')}
        <label>
          Language of letters
          <select value={now.language} onChange={(e) => set({ language: e.target.value as Language })}>
            {LANGUAGES.map((l) => (
              <option key={l} value={l}>
                {LANGUAGE_NAMES[l]}
              </option>
            ))}
          </select>
        </label>
        <label>
          Time zone
          <select value={now.zone} onChange={(e) => set({ zone: e.target.value })}>
            {[...new Set([now.zone, ...zones])].map((z) => (
              <option key={z}>{z}</option>
            ))}
          </select>
        </label>
        <HolidaysField value={now.country} countries={countries} none="as in the project" onChange={(country) => set({ country })} />
      </div>
      <div className="settling">
        <WeekDays label={now.workingDays ? 'Works on' : 'Works as in the project'} days={now.workingDays ?? ''} onChange={(workingDays) => set({ workingDays })} />
        {now.workingDays && (
          <button type="button" className="may" onClick={() => set({ workingDays: null })}>
            As in the project
          </button>
        )}
      </div>
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
