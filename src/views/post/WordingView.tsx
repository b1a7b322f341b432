import { useEffect, useRef, useState } from 'react';
import { LANGUAGE_NAMES, LANGUAGES, type Language, LENGTHS, LETTER_KINDS, type LetterKind, type LetterLength, TONES, type Tone } from '../../core/letters/kinds.ts';
import { type LetterTemplate, VARIABLES } from '../../core/letters/templates.ts';
import type { TemplatePreview } from '../../server/letters/template-preview.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { Pick } from '../parts/Pick.tsx';

type Kept = LetterTemplate & { from: 'series' | 'project' | 'Ottik' };

/** The wording of a kind of letter, with what it makes of what is open now beside it. */
export default function WordingView({ series, start }: { series: { id: string; title: string }[]; start: Kept }) {
  const [kind, setKind] = useState<LetterKind>('overdue');
  const [language, setLanguage] = useState<Language>('en');
  const [of, setOf] = useState('');
  const [tone, setTone] = useState<Tone>('plain');
  const [length, setLength] = useState<LetterLength>('usual');
  const [kept, setKept] = useState<Kept>(start);
  const [t, setT] = useState<LetterTemplate>(start);
  const [view, setView] = useState<TemplatePreview | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const first = useRef(true);
  const body = useRef<HTMLTextAreaElement>(null);
  const changed = t.subject !== kept.subject || t.body !== kept.body || t.short !== kept.short;
  const wrong = (error: unknown) => setSaid({ head: error instanceof Refused ? error.message : 'Something went wrong in this page.', ...(error instanceof Refused && error.advice ? { rest: error.advice } : {}), bad: true });
  const show = (k: Kept) => {
    setKept(k);
    setT({ subject: k.subject, body: k.body, short: k.short });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: another kind, language or series is another template
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    post<Kept>('/api/templates', { do: 'read', kind, language, series: of }).then(show, wrong);
  }, [kind, language, of]);
  useEffect(() => {
    const wait = setTimeout(() => post<TemplatePreview>('/api/templates', { do: 'preview', kind, language, series: of, tone, length, ...t }).then(setView, () => undefined), 250);
    return () => clearTimeout(wait);
  }, [t, kind, language, of, tone, length]);
  const keep = async () => {
    if (!changed) return;
    try {
      show(await post<Kept>('/api/templates', { do: 'keep', kind, language, series: of, ...t }));
      setSaid({ head: 'Kept', rest: of ? 'for this series' : 'for the project' });
    } catch (error) {
      wrong(error);
    }
  };
  const drop = async () => {
    try {
      show(await post<Kept>('/api/templates', { do: 'drop', kind, language, series: of }));
      setSaid({ head: 'Ottik’s own wording', rest: 'is in force again' });
    } catch (error) {
      wrong(error);
    }
  };
  return (
    <>
      <div className="say">
        <span className="sentence">
          The wording of <Pick label="Kind" value={kind} onPick={(v) => setKind(v as LetterKind)} options={LETTER_KINDS.map((k) => [k, k])} /> letters in <Pick label="Language" value={language} onPick={(v) => setLanguage(v as Language)} options={LANGUAGES.map((l) => [l, LANGUAGE_NAMES[l]])} /> for{' '}
          <Pick label="Series" value={of} onPick={setOf} options={[['', 'the whole project'], ...series.map((s) => [s.id, s.title] as const)]} />, seen <Pick label="Tone" value={tone} onPick={(v) => setTone(v as Tone)} options={TONES.map((x) => [x, x])} /> and{' '}
          <Pick label="Length" value={length} onPick={(v) => setLength(v as LetterLength)} options={LENGTHS.map((l) => [l, l === 'everything' ? 'with everything' : l])} />
        </span>
        <span className="end moss">{kept.from === 'Ottik' ? 'Ottik’s own wording' : `own wording of the ${kept.from}`}</span>
      </div>
      <div className="letter wording">
        <section className="sheet" aria-label="The template">
          {view && view.wrong.length > 0 && (
            <div className="notice" role="alert">
              {view.wrong.map((w) => (
                <p key={w}>{w}</p>
              ))}
            </div>
          )}
          <label className="subject">
            <span className="vh">Subject</span>
            <input value={t.subject} onChange={(e) => setT({ ...t, subject: e.target.value })} />
          </label>
          <label>
            <textarea aria-label="Letter" ref={body} value={t.body} rows={14} onChange={(e) => setT({ ...t, body: e.target.value })} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
          </label>
          <h2 className="lh">As a chat message</h2>
          <label>
            <textarea aria-label="Chat message" className="few" value={t.short} rows={3} onChange={(e) => setT({ ...t, short: e.target.value })} />
          </label>
          <div className="acts">
            <button type="button" className="do" disabled={!changed || (view?.wrong.length ?? 0) > 0} onClick={() => void keep()}>
              Keep <kbd>S</kbd>
            </button>
            {kept.from !== 'Ottik' && (
              <button type="button" className="may" onClick={() => void drop()}>
                Ottik’s own again
              </button>
            )}
          </div>
          <details>
            <summary>Variables of these letters</summary>
            <dl className="vars">
              {VARIABLES.filter((v) => v.kinds.includes(kind)).map((v) => (
                <div key={v.name}>
                  <dt>{`{{ ${v.name} }}`}</dt>
                  <dd>{v.means}</dd>
                </div>
              ))}
            </dl>
          </details>
        </section>
        <aside className="beside">
          <h2 className="lh">
            As it is now<span>{view?.about ?? ''}</span>
          </h2>
          {view && view.wrong.length === 0 && (
            <>
              <p className="strong">{view.subject}</p>
              <pre className="said">{view.text}</pre>
              <h2 className="lh">As a chat message</h2>
              <p className="said short-form">{view.short}</p>
            </>
          )}
        </aside>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 's', does: 'keep the wording', line: 'Keep', run: () => void keep() },
          { key: 'e', does: 'edit it (Esc leaves)', line: 'Edit', run: () => body.current?.focus() },
          { key: 'l', does: 'back to Post', line: 'Post', run: () => location.assign('/post') },
        ]}
      />
    </>
  );
}
