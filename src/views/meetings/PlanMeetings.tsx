import { useEffect, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { firstDays, readRhythm, readWhen, rhythmInWords } from '../../core/meetings/rhythm.ts';
import type { CalendarTaken } from '../../server/meetings/calendar-in.ts';
import type { PlannedNow } from '../../server/meetings/planning.ts';
import type { Choice } from '../../server/people/people.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { linkSteps } from '../parts/links.ts';
import { OwnerField } from '../parts/OwnerField.tsx';
import { CalendarIn } from './CalendarIn.tsx';

type What = 'series' | 'meeting' | 'calendar';
const EMPTY = { title: '', when: '', minutes: '60', place: '' };

/** What the page says once it has been loaded again. */
const TOLD = 'ottik-planned';

/** Planning under the week: a series or a single meeting, said the way people say it. */
export default function PlanMeetings({ people, today, calendar = false }: { people: Choice[]; today: string; calendar?: boolean }) {
  const [what, setWhat] = useState<What | null>(calendar ? 'calendar' : null);
  const [now, setNow] = useState(EMPTY);
  const [who, setWho] = useState<{ ids: string[]; names: string[] }>({ ids: [], names: [] });
  const [asking, setAsking] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const [step] = useState(linkSteps);
  const set = (part: Partial<typeof now>) => setNow((was) => ({ ...was, ...part }));
  const begin = (next: What) => {
    setWhat(next);
    setNow(EMPTY);
  };
  const undo = async (made: Pick<PlannedNow, 'series' | 'meeting'>[]) => {
    try {
      for (const m of made) await post('/api/meetings', m.series ? { do: 'remove series', series: m.series } : { do: 'remove meeting', meeting: m.meeting });
      location.reload();
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what was planned right before the page was loaded
  useEffect(() => {
    const told = sessionStorage.getItem(TOLD);
    sessionStorage.removeItem(TOLD);
    if (!told) return;
    const { title, planned, taken } = JSON.parse(told) as { title: string; planned?: PlannedNow; taken?: CalendarTaken };
    if (taken) setSaid({ head: `${taken.taken} taken from the calendar`, rest: taken.doubts.length ? `${taken.doubts.length} could not be read` : undefined, ...(taken.made.length ? { undo: () => void undo(taken.made) } : {}) });
    if (!planned) return;
    setSaid({ head: planned.series ? 'Begun' : 'Planned', rest: `${title}, ${planned.days.length > 1 ? `first on ${shortDay(planned.days[0]!, today)}` : shortDay(planned.days[0]!, today)}`, undo: () => void undo([planned]) });
  }, []);
  const keep = async () => {
    try {
      const planned = await post<PlannedNow>('/api/meetings', { do: what, title: now.title, when: now.when, minutes: Number(now.minutes) || 60, place: now.place, people: who.ids });
      sessionStorage.setItem(TOLD, JSON.stringify({ title: now.title, planned }));
      location.assign(`/meetings?week=${planned.days[0]}`);
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  return (
    <>
      <section className="plan-meetings" aria-label="Plan">
        {what === null ? (
          <p className="acts">
            <button type="button" className="may" onClick={() => begin('meeting')}>
              Plan a meeting <kbd>P</kbd>
            </button>
            <button type="button" className="may" onClick={() => begin('series')}>
              Begin a series <kbd>S</kbd>
            </button>
            <button type="button" className="may" onClick={() => begin('calendar')}>
              Bring in a calendar or an invitation <kbd>C</kbd>
            </button>
          </p>
        ) : what === 'calendar' ? (
          <CalendarIn
            say={setSaid}
            onTaken={(taken) => {
              sessionStorage.setItem(TOLD, JSON.stringify({ title: '', taken }));
              location.assign('/meetings');
            }}
            onLeave={() => setWhat(null)}
          />
        ) : (
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void keep();
            }}
            onKeyDown={(e) => e.key === 'Escape' && !asking && setWhat(null)}
          >
            <div className="fields">
              <label>
                {what === 'series' ? 'Title of the series' : 'Title of the meeting'}
                {/* biome-ignore lint/a11y/noAutofocus: the fields open because a key was pressed */}
                <input autoFocus required minLength={2} maxLength={120} value={now.title} placeholder={what === 'series' ? 'Weekly works call' : 'Visit to the yard'} onChange={(e) => set({ title: e.target.value })} />
              </label>
              <label>
                When
                <input required maxLength={200} value={now.when} placeholder={what === 'series' ? 'every second Tuesday at 10:00' : 'next Tuesday at 14:00'} onChange={(e) => set({ when: e.target.value })} />
                <span className="moss">{understood(what, now.when, today)}</span>
              </label>
              <label>
                Minutes
                <input inputMode="numeric" value={now.minutes} onChange={(e) => set({ minutes: e.target.value.replace(/\D/g, '').slice(0, 4) })} />
              </label>
              <label>
                Place
                <input maxLength={120} value={now.place} placeholder="Site office" onChange={(e) => set({ place: e.target.value })} />
              </label>
            </div>
            <p>
              <span className="moss">Who comes, besides you: </span>
              {asking ? (
                <OwnerField
                  value={who.ids}
                  people={people}
                  onKeep={(ids, names) => {
                    setWho({ ids, names });
                    setAsking(false);
                  }}
                  onLeave={() => setAsking(false)}
                />
              ) : (
                <button type="button" className="set" onClick={() => setAsking(true)}>
                  {listOf(who.names) || 'nobody yet'}
                </button>
              )}
            </p>
            <p className="acts">
              <button type="submit" className="do">
                {what === 'series' ? 'Begin the series' : 'Plan the meeting'}
              </button>
              <button type="button" className="may" onClick={() => setWhat(null)}>
                Leave <kbd>Esc</kbd>
              </button>
            </p>
          </form>
        )}
      </section>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next line (or arrow down)', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'previous line (or arrow up)', run: () => step(-1) },
          { key: 'l', does: 'go to what is lacking first', line: 'What lacks', run: () => document.querySelector<HTMLAnchorElement>('main a.go')?.click() },
          { key: 'i', does: 'bring in a record', line: 'Bring in', run: () => location.assign('/bring-in') },
          { key: 'p', does: 'plan a meeting', line: 'Plan', run: () => begin('meeting') },
          { key: 's', does: 'begin a series', line: 'Series', run: () => begin('series') },
          { key: 'c', does: 'bring in a calendar file or an invitation', run: () => begin('calendar') },
          { key: 'Escape', does: 'leave planning', run: () => setWhat(null) },
        ]}
      />
    </>
  );
}

/** How what was typed is understood, while it is typed. */
function understood(what: What, when: string, today: string): string {
  if (!when.trim()) return '';
  if (what === 'series') {
    const rhythm = readRhythm(when);
    return rhythm ? `${rhythmInWords(rhythm)}, first on ${shortDay(firstDays(rhythm, today, 1)[0]!, today)}` : 'a day and a time are wanted';
  }
  const read = readWhen(when, today);
  return read ? `${shortDay(read.date, today)}${read.time ? ` at ${read.time}` : ', no time'}` : 'a day is wanted';
}
