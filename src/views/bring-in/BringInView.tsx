import { useEffect, useRef, useState } from 'react';
import { readTypedDate } from '../../core/dates/read.ts';
import { clock, shortDay } from '../../core/language/days.ts';
import type { BringInProps } from '../../server/pages/bring-in.ts';
import type { Preview } from '../../server/records.ts';
import { postForm, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { HANDED } from '../parts/QuickEntry.tsx';

interface Held {
  file: Blob;
  name: string | null;
}

/** Bringing a record in: what was read, whose voices, which meeting. Nothing is kept before Enter. */
export default function BringInView({ project, today, startedOn, me, people, series, meetings, meeting }: BringInProps) {
  const [held, setHeld] = useState<Held | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [wrong, setWrong] = useState<{ message: string; advice: string | null; line: number | null } | null>(null);
  const [pasted, setPasted] = useState('');
  const [target, setTarget] = useState<string>(meeting === null ? '' : `m${meeting}`);
  const [title, setTitle] = useState('');
  const [date, setDate] = useState('');
  const [author, setAuthor] = useState('');
  const [voices, setVoices] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState<'reading' | 'keeping' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const refused = (e: unknown) => {
    const r = e instanceof Refused ? e : new Refused('Something went wrong in this page.', 'Load it again; the file itself is untouched.', null);
    setWrong({ message: r.message, advice: r.advice, line: r.line });
  };
  const form = (h: Held) => {
    const f = new FormData();
    f.set('file', h.file);
    f.set('name', h.name ?? '');
    f.set('project', project);
    return f;
  };
  const open = async (h: Held) => {
    setBusy('reading');
    setWrong(null);
    setPreview(null);
    setHeld(h);
    try {
      const p = await postForm<Preview>('/api/records/preview', form(h));
      setPreview(p);
      setVoices(Object.fromEntries(p.voices.map((v) => [v.label, v.person ?? ''])));
      if (meeting === null) {
        setTarget(p.meeting !== null ? `m${p.meeting}` : p.series ? `s${p.series}` : 'new');
        setTitle(p.guess.title ?? '');
        setDate(p.guess.date ?? today);
      }
      if (p.voices.length === 0 && !p.layout.startsWith('[time]') && !p.layout.includes('cues')) setAuthor(me);
    } catch (e) {
      refused(e);
    }
    setBusy(null);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what was handed over by the page before
  useEffect(() => {
    const take = async () => {
      const cache = await caches.open('ottik');
      const kept = await cache.match(HANDED);
      if (!kept) return;
      await cache.delete(HANDED);
      const name = kept.headers.get('x-name');
      await open({ file: await kept.blob(), name: name ? decodeURIComponent(name) : null });
    };
    void take();
    const drop = (e: DragEvent) => {
      const file = e.dataTransfer?.files[0];
      if (!file) return;
      e.preventDefault();
      document.body.classList.remove('dropping');
      void open({ file, name: file.name });
    };
    const paste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (e.target instanceof HTMLTextAreaElement || e.target instanceof HTMLInputElement || text.trim() === '') return;
      e.preventDefault();
      void open({ file: new Blob([text]), name: null });
    };
    addEventListener('drop', drop);
    addEventListener('paste', paste);
    return () => {
      removeEventListener('drop', drop);
      removeEventListener('paste', paste);
    };
  }, []);

  const known = target.startsWith('m') ? meetings.find((m) => m.id === Number(target.slice(1))) : undefined;
  const day = known?.date ?? readTypedDate(date, { date: today, next: null }) ?? (/^\d{4}-\d\d-\d\d$/.test(date) ? date : null);
  const tooEarly = day !== null && day < startedOn;
  const ahead = day !== null && day > today;
  const named = target.startsWith('s') ? series.find((s) => s.id === target.slice(1))?.title : known?.title;
  const ready = preview !== null && day !== null && !tooEarly && !ahead && (named ?? title).trim() !== '';

  const keep = async () => {
    if (!ready || !held || busy) return;
    setBusy('keeping');
    const f = form(held);
    f.set(
      'keep',
      JSON.stringify({
        project,
        meeting: known?.id ?? null,
        series: target.startsWith('s') ? target.slice(1) : (known?.series ?? null),
        title: (named ?? title).trim(),
        date: day,
        author: author || null,
        voices: Object.fromEntries(Object.entries(voices).map(([label, v]) => [label, v.startsWith('new:') ? { person: null, name: v.slice(4) } : { person: v || null, name: null }])),
      }),
    );
    try {
      const { meeting: id } = await postForm<{ meeting: number }>('/api/records', f);
      location.assign(`/meetings/${id}/sift`);
    } catch (e) {
      refused(e);
      setBusy(null);
    }
  };
  const leave = () => {
    setPreview(null);
    setHeld(null);
    setWrong(null);
    setPasted('');
    setSaid({ head: 'Left', rest: 'nothing was kept' });
  };
  const unnamed = preview?.voices.filter((v) => !voices[v.label]).length ?? 0;

  return (
    <>
      {wrong && (
        <div className="say wrong" role="alert">
          <span className="notice">
            <b>{wrong.message}</b>
            <span>
              {wrong.line !== null && `Line ${wrong.line}. `}
              {wrong.advice} Nothing was kept.
            </span>
          </span>
        </div>
      )}
      {!preview ? (
        <div className="bring">
          <section className="sheet" aria-label="Choose a record">
            {busy === 'reading' ? (
              <p className="strong" role="status">
                Reading {held?.name ?? 'the pasted text'}
              </p>
            ) : (
              <>
                <p className="strong">Drop a file, choose one, or paste the text of a meeting.</p>
                <p className="moss">vtt and srt captions; txt in the layouts transcripts and chats are pasted in; md notes and minutes. A dictated memo is enough.</p>
                <p className="acts">
                  <button type="button" className="do" onClick={() => input.current?.click()}>
                    Choose a file <kbd>C</kbd>
                  </button>
                  <input ref={input} type="file" hidden accept=".vtt,.srt,.txt,.md,.markdown,.json,.html,.htm,.docx,.eml,text/*" onChange={(e) => e.target.files?.[0] && void open({ file: e.target.files[0], name: e.target.files[0].name })} />
                </p>
                <textarea className="said" aria-label="Text of the record" placeholder="Or paste here" rows={12} value={pasted} onChange={(e) => setPasted(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
                <button type="button" className="may line" disabled={pasted.trim() === ''} onClick={() => void open({ file: new Blob([pasted]), name: null })}>
                  Read it
                </button>
              </>
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
            <p className="fact">
              {preview.layout}; {preview.lines} lines{preview.seconds ? `, ${Math.max(1, Math.round(preview.seconds / 60))} minutes` : ''}, {preview.voices.length === 0 ? 'no voices named' : `${preview.voices.length} voices`}
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
              <select aria-label="Meeting" value={target} onChange={(e) => setTarget(e.target.value)}>
                <optgroup label="A meeting that lacks a record">
                  {meetings
                    .filter((m) => m.records === 0)
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
                    .filter((m) => m.records > 0)
                    .slice(-8)
                    .map((m) => (
                      <option key={m.id} value={`m${m.id}`}>
                        {m.title}, {shortDay(m.date, today)}
                      </option>
                    ))}
                </optgroup>
              </select>
            </p>
            {target === 'new' && (
              <p className="fact field">
                <input aria-label="Title" value={title} maxLength={200} placeholder="Title of the meeting" onChange={(e) => setTitle(e.target.value)} />
              </p>
            )}
            {!known && (
              <p className="fact field">
                <input aria-label="Date of the meeting" value={date} onChange={(e) => setDate(e.target.value)} />
                <span className={day && !tooEarly && !ahead ? 'moss' : 'late'}>{day === null ? 'not a day yet' : tooEarly ? `${shortDay(day, today)} is before the project began` : ahead ? `${shortDay(day, today)} has not come yet` : shortDay(day, today)}</span>
              </p>
            )}
            {preview.voices.length > 0 ? (
              <>
                <h2 className="lh">
                  Voices<span>{unnamed === 0 ? 'all known' : `${unnamed} to name`}</span>
                </h2>
                {preview.voices.map((v) => (
                  <p className="fact voice-row" key={v.label}>
                    <span className="said">{v.label}</span>
                    <select aria-label={`Who is ${v.label}`} value={voices[v.label] ?? ''} onChange={(e) => setVoices({ ...voices, [v.label]: e.target.value })}>
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
                  <select aria-label="Written by" value={author} onChange={(e) => setAuthor(e.target.value)}>
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
              <button type="button" className="may" onClick={leave}>
                Leave it <kbd>Esc</kbd>
              </button>
            </div>
            <p className="moss n13">Kept as it came, byte for byte, for 60 days.</p>
          </aside>
        </div>
      )}
      <Foot
        said={said}
        keys={
          preview
            ? [
                { key: 'Enter', does: 'keep the record and sift it', line: 'Keep and sift', run: () => void keep() },
                { key: 'Escape', does: 'leave it; nothing is kept', line: 'Leave', run: leave },
              ]
            : [{ key: 'c', does: 'choose a file', line: 'Choose', run: () => input.current?.click() }]
        }
      />
    </>
  );
}
