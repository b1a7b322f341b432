import { useRef, useState } from 'react';
import { clock } from '../../core/language/days.ts';
import type { BringInProps } from '../../server/pages/bring-in.ts';
import { Foot } from '../parts/Foot.tsx';
import { BelongsTo } from './BelongsTo.tsx';
import { FirstFinds } from './FirstFinds.tsx';
import { ReadAs } from './ReadAs.tsx';
import { leavesNoQuestion, useBringIn } from './use-bring-in.ts';
import { useWhoIsIt, WhoIsIt } from './WhoIsIt.tsx';

/** Bringing records in: what was read, whose voices, which meeting. Nothing is kept before Enter. */
export default function BringInView(props: BringInProps) {
  const { today, people, series, meetings } = props;
  const { held, waiting, done, preview, firstFinds, wrong, answers, busy, said, known, day, tooEarly, ahead, rhythm, ready, say, open, keep, keepAll, leave, stop, readAs } = useBringIn(props);
  const { author } = answers;
  const who = useWhoIsIt(preview, answers, say);
  const [pasted, setPasted] = useState('');
  const input = useRef<HTMLInputElement>(null);
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
            <BelongsTo preview={preview} answers={answers} known={known} rhythm={rhythm} day={day} tooEarly={tooEarly} ahead={ahead} meetings={meetings} series={series} today={today} say={say} />
            <WhoIsIt {...who} people={people} answers={answers} say={say} />
            {preview.voices.length === 0 && (
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
            <FirstFinds finds={firstFinds} today={today} />
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
                ...who.keys,
                { key: 'Escape', does: 'leave it; nothing is kept', line: 'Leave', run: leave },
              ]
            : [{ key: 'c', does: 'choose files', line: 'Choose', run: () => input.current?.click() }]
        }
      />
    </>
  );
}
