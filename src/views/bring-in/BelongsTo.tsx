import { shortDay } from '../../core/language/days.ts';
import { firstDays, type Rhythm, rhythmInWords } from '../../core/meetings/rhythm.ts';
import type { BringInProps } from '../../server/pages/bring-in.ts';
import type { Preview } from '../../server/records/preview.ts';
import type { Answers } from './use-bring-in.ts';

interface Props extends Pick<BringInProps, 'meetings' | 'series' | 'today'> {
  preview: Preview;
  answers: Answers;
  known: BringInProps['meetings'][number] | undefined;
  rhythm: Rhythm | null;
  day: string | null;
  tooEarly: boolean;
  ahead: boolean;
  say(some: Partial<Answers>): void;
}

/** Which meeting a record is of: one that is planned, one more of a series, the first of a new series, or one of its own. */
export function BelongsTo({ preview, answers, known, rhythm, day, tooEarly, ahead, meetings, series, today, say }: Props) {
  const { target, title, date, when } = answers;
  return (
    <>
      <h2 className="lh">
        Belongs to<span>{preview.guess.dateFrom ? `date from ${preview.guess.dateFrom}` : ''}</span>
      </h2>
      <p className="fact field">
        <select aria-label="Meeting" value={target} onChange={(e) => say({ target: e.target.value, replaces: null })}>
          <optgroup label="A meeting that lacks a record">
            {meetings
              .filter((m) => m.records.length === 0)
              .map((m) => (
                <option key={m.id} value={`m${m.id}`}>
                  {m.title}, {shortDay(m.date, today)}
                </option>
              ))}
          </optgroup>
          <optgroup label="A new sitting of">
            {series.map((s) => (
              <option key={s.id} value={`s${s.id}`}>
                {s.title}
              </option>
            ))}
          </optgroup>
          <option value="series">The first of a new series</option>
          <option value="new">A meeting of its own</option>
          <optgroup label="A second record for">
            {meetings
              .filter((m) => m.records.length > 0)
              .slice(-8)
              .map((m) => (
                <option key={m.id} value={`m${m.id}`}>
                  {m.title}, {shortDay(m.date, today)}
                </option>
              ))}
          </optgroup>
        </select>
      </p>
      {known && known.records.length > 0 && (
        <p className="fact field">
          <select aria-label="In place of" value={answers.replaces ?? ''} onChange={(e) => say({ replaces: e.target.value === '' ? null : Number(e.target.value) })}>
            <option value="">beside {known.records.length === 1 ? 'the record that is there' : 'the records that are there'}</option>
            {known.records.map((r) => (
              <option key={r.id} value={r.id}>
                in place of {r.name}
              </option>
            ))}
          </select>
          {answers.replaces !== null && <span className="moss">what was taken from it stays</span>}
        </p>
      )}
      {(target === 'new' || target === 'series') && (
        <p className="fact field">
          <input aria-label="Title" value={title} maxLength={200} placeholder={target === 'series' ? 'Title of the series' : 'Title of the meeting'} onChange={(e) => say({ title: e.target.value })} />
          {target === 'series' && preview.newSeries && <span className="moss">{preview.newSeries.why}</span>}
        </p>
      )}
      {target === 'series' && (
        <p className="fact field">
          <input aria-label="When the series meets" value={when} maxLength={200} placeholder="every Tuesday at 10:00" onChange={(e) => say({ when: e.target.value })} />
          <span className={rhythm ? 'moss' : 'late'}>{rhythm ? `${rhythmInWords(rhythm)}; next ${shortDay(firstDays(rhythm, today, 1)[0]!, today)}` : 'type a day and a time'}</span>
        </p>
      )}
      {!known && (
        <p className="fact field">
          <input aria-label="Date of the meeting" value={date} onChange={(e) => say({ date: e.target.value })} />
          <span className={day && !tooEarly && !ahead ? 'moss' : 'late'}>{day === null ? (date.trim() ? `“${date.trim()}” is not a date` : 'type the day of the meeting') : tooEarly ? `${shortDay(day, today)} is before the project began` : ahead ? `${shortDay(day, today)} is in the future` : shortDay(day, today)}</span>
        </p>
      )}
    </>
  );
}
