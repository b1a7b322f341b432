import { useEffect, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { TalkMeasures } from '../../core/measures/talk.ts';
import type { MeasuresAsked, MeasuresShown } from '../../server/pages/measures.ts';
import { get, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { Behind, type BehindShown } from './Behind.tsx';
import { AcrossDrawing, AgesDrawing, FlowDrawing, ForecastDrawing, KeptDrawing, LettersDrawing, MeetingsDrawing, type Open, SlipsDrawing, SurvivalDrawing } from './drawings.tsx';
import { Figure } from './Figure.tsx';
import { agesTold, flowTold, forecastTold, keptTold, lettersTold, meetingsTold, slipsTold, speakersTold, subjectsTold, survivalTold } from './figures.ts';

const FIGURES = ['flow', 'ages', 'kept', 'survival', 'slips', 'forecast', 'meetings', 'letters', 'speakers', 'subjects'] as const;
const KEPT_BY = ['month', 'owner', 'series'] as const;
const RATE = 'ottik hourly rate';

/** Figures and charts of a project, a series or a person; each with its numbers, and what lies behind its points. */
export default function MeasuresView({ shown, project }: { shown: MeasuresShown; project: string }) {
  const [table, setTable] = useState(false);
  const [at, setAt] = useState(0);
  const [by, setBy] = useState<(typeof KEPT_BY)[number]>('month');
  const [rate, setRate] = useState(0);
  const [behind, setBehind] = useState<BehindShown | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const spoken = shown.asked.series ?? [...shown.slips].filter((s) => s.series !== '').sort((a, b) => b.n - a.n)[0]?.series ?? shown.series[0]?.id ?? null;
  const talk = useTalk(spoken);
  useEffect(() => setRate(Number(localStorage.getItem(RATE) ?? 0) || 0), []);
  const step = (by: 1 | -1) => {
    const next = Math.max(0, Math.min(FIGURES.length - 1, at + by));
    setAt(next);
    document.getElementById(FIGURES[next]!)?.scrollIntoView({ block: 'nearest' });
  };
  const open: Open = async (point, key, label) => {
    const { projects, series, person } = shown.asked;
    const asked = new URLSearchParams({ point, key, projects, from: shown.from, days: String(shown.step), ...(series ? { series } : {}), ...(person ? { person } : {}) });
    try {
      setBehind({ label, ...(await get<Omit<BehindShown, 'label'>>(`/api/measures?${asked}`)) });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const figure = (name: (typeof FIGURES)[number]) => ({ name, table, current: FIGURES[at] === name });
  const [flow, ages, kept, survival, slips, forecast, meetings, letters] = [flowTold(shown), agesTold(shown), keptTold(shown, by), survivalTold(shown), slipsTold(shown), forecastTold(shown), meetingsTold(shown, rate), lettersTold(shown)];
  return (
    <>
      <Count shown={shown} project={project} />
      <div className="measures">
        <section aria-label="How much">
          <p className="fl strong">
            How much<span>is open, and how old</span>
          </p>
          <Figure
            {...figure('flow')}
            told={flow}
            wide
            under={
              <p className="legend" aria-hidden="true">
                <i className="made" /> made <i className="ended" /> ended; between them what is open <i className="late" /> late
              </p>
            }
          >
            <FlowDrawing shown={shown} onOpen={open} />
          </Figure>
          <Figure {...figure('ages')} told={ages} image={false}>
            <AgesDrawing shown={shown} onOpen={open} />
          </Figure>
        </section>
        <section aria-label="How soon">
          <p className="fl strong">
            How soon<span>and as promised?</span>
          </p>
          <Figure
            {...figure('kept')}
            told={kept}
            under={
              <p className="choose">
                {KEPT_BY.map((k) => (
                  <button key={k} type="button" aria-pressed={by === k} className={by === k ? 'on' : ''} onClick={() => setBy(k)}>
                    by {k === 'owner' ? 'person' : k}
                  </button>
                ))}
              </p>
            }
          >
            <KeptDrawing shown={shown} by={by} onOpen={open} />
          </Figure>
          <Figure {...figure('survival')} told={survival} wide>
            <SurvivalDrawing shown={shown} onOpen={open} />
          </Figure>
        </section>
        <section aria-label="What comes">
          <p className="fl strong">
            How it goes on<span>carried, moved, missed</span>
          </p>
          <Figure {...figure('slips')} told={slips}>
            <SlipsDrawing shown={shown} onOpen={open} />
          </Figure>
          <Figure {...figure('forecast')} told={forecast} wide image={false}>
            <ForecastDrawing shown={shown} />
          </Figure>
        </section>
        <section aria-label="What it takes">
          <p className="fl strong">
            What it takes<span>meetings and letters</span>
          </p>
          <Figure
            {...figure('meetings')}
            told={meetings}
            under={
              <label className="choose">
                What an hour of one person costs{' '}
                <input
                  type="number"
                  min="0"
                  max="10000"
                  value={rate || ''}
                  placeholder="80"
                  onChange={(e) => {
                    setRate(Number(e.target.value) || 0);
                    localStorage.setItem(RATE, e.target.value);
                  }}
                />
              </label>
            }
          >
            <MeetingsDrawing shown={shown} />
          </Figure>
          <Figure {...figure('letters')} told={letters} wide>
            <LettersDrawing shown={shown} />
          </Figure>
        </section>
        {spoken && (
          <section aria-label="Who speaks, and of what">
            <p className="fl strong">
              Who speaks<span>{shown.series.find((s) => s.id === spoken)?.name}</span>
            </p>
            {talk === null ? (
              <p className="moss reading">Reading the records of the last twelve meetings …</p>
            ) : (
              <>
                <Figure {...figure('speakers')} told={speakersTold(talk)} scrolls>
                  <AcrossDrawing rows={talk.speakers} talk={talk} />
                </Figure>
                <Figure {...figure('subjects')} told={subjectsTold(talk)} scrolls>
                  <AcrossDrawing rows={talk.subjects} talk={talk} />
                </Figure>
              </>
            )}
          </section>
        )}
      </div>
      {behind && <Behind shown={behind} today={shown.today} onClose={() => setBehind(null)} />}
      <Foot
        said={said}
        margin={`As of ${shortDay(shown.today)}`}
        keys={[
          { key: 'j', does: 'next figure', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'the figure before', run: () => step(-1) },
          { key: 't', does: 'tables in place of charts, and back', line: table ? 'Charts' : 'Tables', run: () => setTable(!table) },
          { key: 'b', does: 'on time by month, person or series', run: () => setBy(KEPT_BY[(KEPT_BY.indexOf(by) + 1) % KEPT_BY.length]!) },
          { key: 'l', does: 'what is late now', line: 'Late', run: () => void open('late', shown.today, 'late today') },
          { key: 'Escape', does: 'close what lies behind a point', run: () => setBehind(null) },
        ]}
      />
    </>
  );
}

/** What is counted, as a sentence whose parts are chosen. */
function Count({ shown, project }: { shown: MeasuresShown; project: string }) {
  const go = (change: Partial<MeasuresAsked>) => {
    const asked = { ...shown.asked, ...change };
    location.assign(`/measures?${new URLSearchParams(Object.entries(asked).flatMap(([k, v]) => (v === null || (k === 'projects' && v === 'this') ? [] : [[k, v]])))}`);
  };
  return (
    <div className="say count">
      <span className="fl moss">Count</span>
      <span>
        all that was promised in{' '}
        <select aria-label="Project" value={shown.asked.projects} onChange={(e) => go({ projects: e.target.value as MeasuresAsked['projects'], series: null, person: null })}>
          <option value="this">{project}</option>
          <option value="all">all projects</option>
        </select>{' '}
        from{' '}
        <select aria-label="Series" value={shown.asked.series ?? ''} onChange={(e) => go({ series: e.target.value || null })}>
          <option value="">any meeting</option>
          {shown.series.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>{' '}
        by{' '}
        <select aria-label="Person" value={shown.asked.person ?? ''} onChange={(e) => go({ person: e.target.value || null })}>
          <option value="">anyone</option>
          {shown.people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>{' '}
        since <input type="date" aria-label="Since" value={shown.from} max={shown.today} onChange={(e) => e.target.value && e.target.value !== shown.from && go({ since: e.target.value })} />
        {shown.asked.since && (
          <>
            {' '}
            <button type="button" className="set" onClick={() => go({ since: null })}>
              from the beginning
            </button>
          </>
        )}
      </span>
    </div>
  );
}

/** The talk of a series takes reading its records, and is asked for once the rest is there. */
function useTalk(series: string | null): TalkMeasures | null {
  const [talk, setTalk] = useState<TalkMeasures | null>(null);
  useEffect(() => {
    if (!series) return;
    setTalk(null);
    get<TalkMeasures>(`/api/measures/talk?series=${encodeURIComponent(series)}`).then(setTalk, () => setTalk({ meetings: [], speakers: [], subjects: [] }));
  }, [series]);
  return talk;
}
