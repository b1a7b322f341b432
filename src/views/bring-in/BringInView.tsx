import { useRef, useState } from 'react';
import { clock, shortDay } from '../../core/language/days.ts';
import type { BringInProps } from '../../server/pages/bring-in.ts';
import { Foot } from '../parts/Foot.tsx';
import { ReadAs } from './ReadAs.tsx';
import { leavesNoQuestion, useBringIn } from './use-bring-in.ts';

/** Bringing records in: what was read, whose voices, which meeting. Nothing is kept before Enter. */
export default function BringInView(props: BringInProps) {
  const { today, people, series, meetings } = props;
  const { held, waiting, done, preview, wrong, answers, busy, said, known, day, tooEarly, ahead, ready, say, open, keep, keepAll, leave, stop, readAs } = useBringIn(props);
  const { target, title, date, author, voices } = answers;
  const [pasted, setPasted] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const unnamed = preview?.voices.filter((v) => !voices[v.label]).length ?? 0;
  const several = waiting.length + done.length > 0;
  const all = waiting.length + done.length + 1;

  return (
    <>
      {wrong && (
        <div className="say wrong" role="alert">
          <span className="notice">
            <b>{wrong.message}</b>
            <span>
              {wrong.line !== null && `Line ${wrong.line}. `}
              {wrong.advice} Nothing was kept{several ? ` of ${held?.name ?? 'it'}` : ''}.
            </span>
          </span>
        </div>
      )}
      {!preview ? (
        <div className="bring">
          <section className="sheet" aria-label="Choose a record">
            {busy === 'reading' ? (
              <p className="strong" role="status">
                Reading {several ? `${done.length + 1} of ${all}: ` : ''}
                {held?.name ?? 'the pasted text'}{' '}
                <button type="button" className="may line" onClick={stop}>
                  Stop
                </button>
              </p>
            ) : (
              <>
                <p className="strong">Drop files, choose some, or paste the text of a meeting.</p>
                <p className="moss">Captions (vtt, srt); Word (docx); mail (eml); web pages (html); Markdown notes; text in the layouts transcripts and chats are pasted in; JSON. A dictated memo is enough.</p>
                <p className="acts">
                  <button type="button" className="do" onClick={() => input.current?.click()}>
                    Choose files <kbd>C</kbd>
                  </button>
                  <input ref={input} type="file" multiple hidden accept=".vtt,.srt,.txt,.md,.markdown,.json,.html,.htm,.docx,.eml,text/*" onChange={(e) => open([...(e.target.files ?? [])].map((file) => ({ file, name: file.name })))} />
                </p>
                <textarea className="said" aria-label="Text of the record" placeholder="Or paste here" rows={12} value={pasted} onChange={(e) => setPasted(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
                <button type="button" className="may line" disabled={pasted.trim() === ''} onClick={() => open([{ file: new Blob([pasted]), name: null }])}>
                  Read it
                </button>
              </>
            )}
            {wrong && several && (
              <p className="acts">
                <button type="button" className="do" onClick={leave}>
                  {waiting.length ? 'Leave it out and go on' : 'Leave it out'}
                </button>
              </p>
            )}
            {done.length > 0 && (
              <ul className="rows">
                {done.map((d, i) => (
                  <li key={`${i}${d.name}`}>
                    {d.meeting ? <a href={`/meetings/${d.meeting}/sift`}>{d.name}</a> : <span className="moss">{d.name}</span>}
                    <span className={d.meeting ? 'ok' : 'late'}>{d.meeting ? 'kept and sifted' : (d.why ?? 'left out')}</span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
      ) : (
        <div className="bring">
          <section className="rec" aria-label="What was read">
            {preview.sample
              .filter((s) => s.role !== 'label')
              .map((s, i) => (
                <div className={`turn${s.role === 'meta' || s.role === 'mark' ? ' is-meta' : ''}`} key={`${i}${s.text.slice(0, 8)}`}>
                  <p className="who">
                    {s.voice && <b>{s.voice}</b>}
                    {s.start !== null && <span>{clock(s.start)}</span>}
                  </p>
                  <p className="words said">{s.text || '(no words)'}</p>
                </div>
              ))}
            {preview.lines > 40 && <p className="folded">{preview.lines - 40} more lines read the same way</p>}
          </section>
          <aside className="beside" aria-label="What it is">
            <h2 className="lh">
              Read as<span>{preview.encoding}</span>
            </h2>
            {several && (
              <p className="fact strong" role="status">
                {held?.name}, {done.length + 1} of {all}
              </p>
            )}
            {preview.layouts.length > 0 && <ReadAs layouts={preview.layouts} layout={preview.layout} onLayout={readAs} />}
            <p className="fact">
              {preview.layouts.length > 0 ? '' : `${preview.layout}; `}
              {preview.lines} lines{preview.seconds ? `, ${preview.seconds < 90 ? 'a minute' : `${Math.round(preview.seconds / 60)} minutes`}` : ''}, {preview.voices.length === 0 ? 'no voices named' : `${preview.voices.length} voices`}
            </p>
            {preview.doubts.slice(0, 5).map((d) => (
              <p key={`${d.line}${d.message}`} className="fact soon">
                Line {d.line}: {d.message}
              </p>
            ))}
            {preview.doubts.length > 5 && <p className="fact soon">and {preview.doubts.length - 5} more lines like these</p>}
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
            {target === 'new' && (
              <p className="fact field">
                <input aria-label="Title" value={title} maxLength={200} placeholder="Title of the meeting" onChange={(e) => say({ title: e.target.value })} />
              </p>
            )}
            {!known && (
              <p className="fact field">
                <input aria-label="Date of the meeting" value={date} onChange={(e) => say({ date: e.target.value })} />
                <span className={day && !tooEarly && !ahead ? 'moss' : 'late'}>
                  {day === null ? (answers.date.trim() ? `“${answers.date.trim()}” is not a date` : 'type the day of the meeting') : tooEarly ? `${shortDay(day, today)} is before the project began` : ahead ? `${shortDay(day, today)} is in the future` : shortDay(day, today)}
                </span>
              </p>
            )}
            {preview.voices.length > 0 ? (
              <>
                <h2 className="lh">
                  Voices<span>{unnamed === 0 ? 'all known' : `${unnamed} to name`}</span>
                </h2>
                {unnamed > 1 && (
                  <p className="fact">
                    <button type="button" className="may line" onClick={() => say({ voices: { ...voices, ...Object.fromEntries(preview.voices.filter((v) => !voices[v.label]).map((v) => [v.label, `new:${v.label}`])) } })}>
                      Add all {unnamed} as new people
                    </button>
                  </p>
                )}
                {preview.voices.map((v) => (
                  <p className="fact voice-row" key={v.label}>
                    <span className="said">{v.label}</span>
                    <select aria-label={`Who is ${v.label}`} value={voices[v.label] ?? ''} onChange={(e) => say({ voices: { ...voices, [v.label]: e.target.value } })}>
                      <option value="">nobody we know</option>
                      <option value={`new:${v.label}`}>{v.label}, a new person</option>
                      {people.map((p) => (
                        <option key={p.id} value={p.id}>
                          {p.name}
                        </option>
                      ))}
                    </select>
                    <span className="moss">{v.turns}</span>
                  </p>
                ))}
              </>
            ) : (
              <>
                <h2 className="lh">
                  Written by<span>“I” in it means them</span>
                </h2>
                <p className="fact field">
                  <select aria-label="Written by" value={author} onChange={(e) => say({ author: e.target.value })}>
                    <option value="">not known, or several voices</option>
                    {people.map((p) => (
                      <option key={p.id} value={p.id}>
                        {p.name}
                      </option>
                    ))}
                  </select>
                </p>
              </>
            )}
            <div className="acts">
              <button type="button" className="do" disabled={!ready || busy !== null} onClick={() => void keep()}>
                {busy === 'keeping' ? 'Sifting' : 'Keep and sift'} <kbd>Enter</kbd>
              </button>
              {waiting.length > 0 && (
                <button type="button" className="may" disabled={!ready || busy !== null} onClick={() => void keepAll()} title="Stops at the first that leaves a question">
                  Keep all <kbd>A</kbd>
                </button>
              )}
              <button type="button" className="may" onClick={leave}>
                Leave it <kbd>Esc</kbd>
              </button>
            </div>
            <p className="moss n13">
              Kept as it came, byte for byte, for {props.keepDays} days.
              {waiting.length > 0 && (leavesNoQuestion(preview, answers) ? ` Nothing is open about it; ${waiting.length} more wait.` : ` ${waiting.length} more wait.`)}
            </p>
          </aside>
        </div>
      )}
      <Foot
        said={said}
        keys={
          preview
            ? [
                { key: 'Enter', does: 'keep the record and sift it', line: 'Keep and sift', run: () => void keep() },
                ...(waiting.length > 0 ? [{ key: 'a', does: 'keep this one and all that leave no question', line: 'Keep all', run: () => void keepAll() }] : []),
                { key: 'Escape', does: 'leave it; nothing is kept', line: 'Leave', run: leave },
              ]
            : [{ key: 'c', does: 'choose files', line: 'Choose', run: () => input.current?.click() }]
        }
      />
    </>
  );
}
