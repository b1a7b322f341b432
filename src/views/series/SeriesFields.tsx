import { useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { PARTS, type Part } from '../../core/meetings/parts.ts';
import { firstDays, readRhythm, rhythmInWords } from '../../core/meetings/rhythm.ts';
import { VISIBILITIES, VISIBILITY_WORDS, type Visibility } from '../../core/people/rights.ts';
import type { SeriesEntry } from '../../server/meetings/series.ts';
import type { Choice } from '../../server/people/people.ts';
import { OwnerField } from '../parts/OwnerField.tsx';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';

interface Props {
  entry: SeriesEntry;
  names: Record<string, string>;
  people: Choice[];
  today: string;
  onKeep(to: SeriesEntry): void;
  onLeave(): void;
}

/** What holds for a series, being edited. Its rhythm is said in words, and what was understood stands beside it. */
export function SeriesFields({ entry, names: given, people, today, onKeep, onLeave }: Props) {
  const [now, setNow] = useState({ ...entry, minutes: String(entry.minutes) });
  const [names, setNames] = useState(given);
  const [adding, setAdding] = useState(false);
  const set = (part: Partial<typeof now>) => setNow((was) => ({ ...was, ...part }));
  const rhythm = readRhythm(now.when, today);
  const turned = rhythm !== null && now.when !== entry.when;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onKeep({ ...now, minutes: Number(now.minutes) || entry.minutes });
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || adding) return;
        e.preventDefault();
        onLeave();
      }}
    >
      <div className="fields">
        <label>
          Title
          {/* biome-ignore lint/a11y/noAutofocus: the fields open because a key was pressed */}
          <input autoFocus required minLength={2} maxLength={120} value={now.title} onChange={(e) => set({ title: e.target.value })} />
        </label>
        <label>
          Short name, for lines and lists
          <input required maxLength={24} value={now.short} onChange={(e) => set({ short: e.target.value })} />
        </label>
        <label>
          When it meets
          <input required maxLength={200} value={now.when} placeholder="last Thursday of the month at 14:00" onChange={(e) => set({ when: e.target.value })} />
          <span className="moss">{rhythm === null ? 'a day and a time are wanted' : turned ? `${rhythmInWords(rhythm)}, from ${shortDay(firstDays(rhythm, today, 1)[0]!, today)}; planned meetings follow` : 'as it is'}</span>
        </label>
        <label>
          Minutes it lasts
          <input inputMode="numeric" value={now.minutes} onChange={(e) => set({ minutes: e.target.value.replace(/\D/g, '').slice(0, 4) })} />
        </label>
        <label>
          Place
          <input maxLength={120} value={now.place} onChange={(e) => set({ place: e.target.value })} />
        </label>
        <label>
          Who sees its meetings
          <select value={now.visibility} onChange={(e) => set({ visibility: e.target.value as Visibility })}>
            {VISIBILITIES.map((v) => (
              <option key={v} value={v}>
                {VISIBILITY_WORDS[v]}
              </option>
            ))}
          </select>
        </label>
        <label className="wide">
          Standing notes, shown each time it is prepared
          <textarea rows={3} maxLength={4000} value={now.notes} onChange={(e) => set({ notes: e.target.value })} />
        </label>
      </div>
      <ul className="parts" aria-label="Who comes">
        {now.people.map((p, i) => (
          <li key={p.id}>
            <span>{names[p.id] ?? p.id.replace(/^new:/, '')}</span>
            <select aria-label={`Part of ${names[p.id] ?? p.id}`} value={p.part} onChange={(e) => set({ people: now.people.map((x, k) => (k === i ? { ...x, part: e.target.value as Part } : x)) })}>
              {PARTS.map((part) => (
                <option key={part}>{part}</option>
              ))}
            </select>
            <button type="button" className="may" onClick={() => set({ people: now.people.filter((_, k) => k !== i) })}>
              Leave out
            </button>
          </li>
        ))}
        <li>
          {adding ? (
            <OwnerField
              value={[]}
              people={people}
              onKeep={(ids, called) => {
                setNames((was) => ({ ...was, ...Object.fromEntries(ids.map((id, i) => [id, called[i] ?? id])) }));
                set({ people: [...now.people, ...ids.filter((id) => !now.people.some((p) => p.id === id)).map((id) => ({ id, part: 'attends' as const }))] });
                setAdding(false);
              }}
              onLeave={() => setAdding(false)}
            />
          ) : (
            <button type="button" className="may" onClick={() => setAdding(true)}>
              Ask somebody else to it
            </button>
          )}
        </li>
      </ul>
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
