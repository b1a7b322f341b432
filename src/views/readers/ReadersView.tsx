import { useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { Readers } from '../../server/pages/readers.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { ModelFields } from './ModelFields.tsx';

const seconds = (ms: number) => `${(ms / 1000).toFixed(ms < 10_000 ? 1 : 0)} s`;
const STATES = { waiting: 'waits', reading: 'reads', done: 'read', failed: 'failed', cancelled: 'stopped' } as const;

/** Who reads the records, whether each of them works, and what the one that asks elsewhere may do. */
export default function ReadersView({ start }: { start: Readers }) {
  const [now, setNow] = useState(start);
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const { model, close } = now;
  const change = async (body: unknown, head: string) => {
    try {
      setNow(await post<Readers>('/api/readers', body));
      setSaid({ head });
      setOpen(false);
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const keys = now.mayChange
    ? [
        { key: 'o', does: model ? 'change the model server' : 'set up a model server', line: 'Model server', run: () => setOpen((was) => !was) },
        { key: 'Escape', does: 'close what is open; nothing is kept', run: () => setOpen(false) },
      ]
    : [];
  return (
    <div className="settings">
      <section className="band" aria-label="Quick reader">
        <p className="fl">Quick reader</p>
        <p className="now">
          Gives its finds at once. <span className="moss">On this machine; sends nothing.</span>
        </p>
      </section>
      <section className="band" aria-label="Close reader">
        <p className="fl">Close reader</p>
        <p className="now">
          {close.on ? 'Goes over them after it.' : 'Switched off.'} <span className="moss">On this machine; sends nothing.</span>
        </p>
        {close.last && <p className={close.last.fault ? 'told bad' : 'moss'}>{close.last.fault ? `When it was last used, it failed: ${close.last.fault}` : `Last used at ${close.last.at.slice(11, 16)} UTC, ${seconds(close.last.milliseconds)} for one record.`}</p>}
      </section>
      <section className="band" aria-label="Model reader">
        <p className="fl">Model reader</p>
        {open ? (
          <ModelFields kept={model} onKeep={(typed) => change({ do: 'keep model', ...typed }, 'The model server is set up.')} onLeave={() => setOpen(false)} />
        ) : (
          <>
            <p className="now">
              {model ? (
                <>
                  Asks {model.model} at {model.host}
                  {model.standIn ? ', the stand-in that ships with Ottik and knows prepared answers alone' : ''}. What it answers counts only where the record’s own words bear it out.{' '}
                  <span className="moss">The words of a record go there, with the people’s names and roles, what was open, and your notes of that meeting{model.masked ? '; names go as “Person 1”, “Person 2”' : ''}. A private record never does.</span>
                </>
              ) : (
                <>
                  No model server is set up. <span className="moss">If you have one of your own, on this machine, in your firm or rented, it can read records too. Until then nothing leaves this machine.</span>
                </>
              )}
            </p>
            {now.mayChange && (
              <p className="acts">
                <button type="button" className="may" onClick={() => setOpen(true)}>
                  {model ? 'Change or try it' : 'Set up a model server'} <kbd>O</kbd>
                </button>
                {model && (
                  <button type="button" className="may" onClick={() => void change({ do: 'forget model' }, 'The model server is forgotten; nothing is asked of it any more.')}>
                    Forget it
                  </button>
                )}
              </p>
            )}
            {model && (
              <ul className="senders">
                {now.projects.map((p) => (
                  <li key={p.id}>
                    <span>{p.name}</span>
                    <span>{p.on ? 'Its records are read by the model.' : 'Its records stay here.'}</span>
                    <button type="button" className="may" onClick={() => void change({ do: 'switch', project: p.id, on: !p.on }, p.on ? `Records of ${p.name} stay here.` : `Records of ${p.name} are read by the model from now on.`)}>
                      {p.on ? 'Switch off' : 'Switch on'}
                    </button>
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
      </section>
      {model && (
        <section className="band" aria-label="Its last readings">
          <p className="fl">Its last readings</p>
          {now.readings.length === 0 ? (
            <p className="moss">It has read nothing yet.</p>
          ) : (
            <ul className="readings">
              {now.readings.map((r) => (
                <li key={r.record}>
                  <a className="may" href={`/meetings/${r.meeting}/sift?record=${r.record}`}>
                    {r.title}, {shortDay(r.date, now.today)}
                  </a>
                  <span className={r.state === 'failed' ? 'late' : 'moss'}>
                    {STATES[r.state]}
                    {r.standIn ? ' by the stand-in' : ` by ${r.model}`}
                  </span>
                  <span>{r.state === 'failed' ? r.why : `${r.words.toLocaleString('en')} words in ${seconds(r.milliseconds)}: ${r.found} finds held up, ${r.both} Sift had too${r.dropped.length ? `; ${r.dropped.join('; ')}` : ''}`}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
      <Foot said={said} keys={keys} />
    </div>
  );
}
