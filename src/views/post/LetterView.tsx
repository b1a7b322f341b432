import { useEffect, useRef, useState } from 'react';
import { LANGUAGES, LENGTHS, TONES } from '../../core/letters/kinds.ts';
import type { Letter, LetterView as View } from '../../server/letters/letters.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { Pick } from '../parts/Pick.tsx';

export interface LetterProps {
  letter: Letter;
  /** everybody who was invited and has an address */
  there: { id: string; name: string; mail: string; absent: boolean }[];
  findsLeft: number;
  mailboxes: string | null;
}

/** A letter looked at, edited and sent: its words left, as one recipient gets it right. */
export default function LetterView({ letter: given, there, findsLeft, mailboxes }: LetterProps) {
  const [letter, setLetter] = useState(given);
  const [subject, setSubject] = useState(given.subject);
  const [body, setBody] = useState(given.body);
  const [to, setTo] = useState(() => new Set(given.recipients.map((r) => r.id)));
  const [minutes, setMinutes] = useState(given.minutes);
  const [as, setAs] = useState(given.recipients[0]?.id ?? there[0]?.id ?? '');
  const [view, setView] = useState<View | null>(null);
  const [part, setPart] = useState<'html' | 'text' | 'short'>('html');
  const [wrong, setWrong] = useState<{ message: string; advice: string | null } | null>(null);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const text = useRef<HTMLTextAreaElement>(null);
  /** it was asked whether it goes as the second letter of a day */
  const asked = useRef(false);
  const sent = letter.state === 'sent' || letter.state === 'withdrawn';
  const under = letter.state === 'queued';
  const roundUp = letter.kind === 'round-up';
  const reader = there.find((p) => p.id === as) ?? there[0];
  const changed =
    subject !== letter.subject ||
    body !== letter.body ||
    minutes !== letter.minutes ||
    [...to].sort().join() !==
      letter.recipients
        .map((r) => r.id)
        .sort()
        .join();

  useEffect(() => {
    if (!reader) return;
    const wait = setTimeout(() => {
      post<View>(`/api/letters/${letter.id}`, { do: 'preview', subject, body, name: reader.name, mail: reader.mail }).then(
        (v) => {
          setView(v);
          setWrong(null);
        },
        (e: Refused) => setWrong({ message: e.message, advice: e.advice }),
      );
    }, 200);
    return () => clearTimeout(wait);
  }, [subject, body, reader, letter.id]);

  const refused = (error: unknown) => {
    const e = error instanceof Refused ? error : new Refused('Something went wrong in this page.', null, null);
    setWrong({ message: e.message, advice: e.advice });
    setSaid({ head: e.message, bad: true });
  };
  const save = async (): Promise<Letter> => {
    const kept = await post<Letter>(`/api/letters/${letter.id}`, { do: 'save', subject, body, minutes, to: [...to] });
    setLetter(kept);
    setSubject(kept.subject);
    setBody(kept.body);
    return kept;
  };
  const keep = async () => {
    if (sent || !changed) return;
    setBusy(true);
    try {
      await save();
      setWrong(null);
      setSaid({ head: 'Kept', rest: 'the letter waits here until it is sent' });
    } catch (error) {
      refused(error);
    }
    setBusy(false);
  };
  const send = async () => {
    if (sent || busy) return;
    setBusy(true);
    setSaid({ head: `Sending to ${to.size}` });
    try {
      if (changed) await save();
      const insist = asked.current;
      asked.current = false;
      const out = await post<Letter>(`/api/letters/${letter.id}`, { do: 'send', insist });
      setLetter(out);
      const refusedBy = out.recipients.filter((r) => r.state === 'refused');
      const later = out.recipients.find((r) => r.nextTry && r.error);
      const gone = out.recipients.filter((r) => r.state === 'sent').length;
      if (refusedBy.length) setWrong({ message: `${refusedBy.map((r) => r.name).join(', ')}: ${refusedBy[0]!.error}`, advice: gone ? 'The others have it. Correct the address and send again; only these are written to.' : 'Nobody has it yet.' });
      else if (later) setWrong({ message: later.error!, advice: `Nothing is lost: it is tried again at ${later.nextTry!.slice(11, 16)} UTC and after that, until it goes.` });
      else setWrong(null);
      setSaid({ head: out.state === 'sent' ? 'Sent' : out.state === 'queued' ? 'Waits to go' : gone ? 'Sent in part' : 'Not sent', rest: `${gone} of ${out.recipients.length} letters went out`, bad: out.state !== 'sent' });
    } catch (error) {
      asked.current = error instanceof Refused && error.insist;
      refused(error);
    }
    setBusy(false);
  };
  const compose = async (how: { language?: string; tone?: string; length?: string } = {}) => {
    if (sent || under) return;
    try {
      const fresh = await post<Letter>(`/api/letters/${letter.id}`, { do: 'compose', ...how });
      const [oldSubject, oldBody] = [subject, body];
      setLetter(fresh);
      setSubject(fresh.subject);
      setBody(fresh.body);
      setSaid({
        head: 'Composed anew',
        rest: roundUp ? 'from what is taken now' : 'from how things stand now',
        undo: () => {
          setSubject(oldSubject);
          setBody(oldBody);
          setSaid(null);
        },
      });
    } catch (error) {
      refused(error);
    }
  };
  const test = async () => {
    try {
      if (changed && !sent) await save();
      const { to: mail } = await post<{ to: string }>(`/api/letters/${letter.id}`, { do: 'test' });
      setSaid({ head: 'A test went to you', rest: mail });
    } catch (error) {
      refused(error);
    }
  };
  const drop = async () => {
    if (letter.state !== 'draft') return;
    try {
      await post(`/api/letters/${letter.id}`, { do: 'drop' });
      location.assign('/post');
    } catch (error) {
      refused(error);
    }
  };
  const stateOf = (id: string) => letter.recipients.find((r) => r.id === id);

  return (
    <>
      <div className="letter">
        <section className="sheet" aria-label="The letter">
          {findsLeft > 0 && !sent && (
            <p className="notice">
              <b>{findsLeft} finds of this meeting are not settled yet.</b>
              <span>What is taken later is not in this letter until it is composed anew.</span>
            </p>
          )}
          {letter.stale.length > 0 && (
            <p className="notice">
              <b>{letter.stale.join(', ')} since this was written.</b>
              <span>
                <button type="button" className="may line" onClick={() => void compose()}>
                  Compose it anew
                </button>{' '}
                or drop it; it does not go as it is.
              </span>
            </p>
          )}
          {wrong && (
            <p className="notice" role="alert">
              <b>{wrong.message}</b>
              <span>{wrong.advice}</span>
            </p>
          )}
          <label className="subject">
            <span className="vh">Subject</span>
            <input value={subject} readOnly={sent || under} maxLength={300} onChange={(e) => setSubject(e.target.value)} />
          </label>
          <label>
            <span className="vh">The letter’s words</span>
            <textarea ref={text} className="said" value={body} readOnly={sent || under} rows={Math.min(40, Math.max(14, body.split('\n').length + 2))} onChange={(e) => setBody(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
          </label>
          {!roundUp && !sent && letter.kind !== 'answer' && (
            <p className="say-how">
              <Pick label="Language" value={letter.language} options={LANGUAGES.map((l) => [l, LANGUAGE[l]])} onPick={(language) => void compose({ language })} /> <Pick label="Tone" value={letter.tone} options={TONES.map((t) => [t, t])} onPick={(tone) => void compose({ tone })} />{' '}
              <Pick label="Length" value={letter.length} options={LENGTHS.map((l) => [l, l === 'everything' ? 'with everything' : l])} onPick={(length) => void compose({ length })} />
            </p>
          )}
          <p className="moss n13">
            {letter.kind === 'answer' ? 'Written by hand, in the thread of what it answers.' : roundUp ? '{{ recipient.first }} and {{ recipient.name }} are filled in for each recipient. A line that begins with “- ” is an item.' : 'Answers refer to the numbers at the beginning of the lines; leave them as they are.'}
          </p>
        </section>
        <aside className="beside">
          <h2 className="lh">
            Who gets it<span>{sent ? 'sent' : `${to.size} of ${there.length} invited`}</span>
          </h2>
          <ul className="who-gets">
            {there.map((p) => {
              const r = stateOf(p.id);
              return (
                <li key={p.id} className={p.id === as ? 'at' : ''}>
                  <label>
                    <input
                      type="checkbox"
                      checked={to.has(p.id)}
                      disabled={sent || under || !roundUp || r?.state === 'sent'}
                      onChange={() =>
                        setTo((old) => {
                          const n = new Set(old);
                          if (!n.delete(p.id)) n.add(p.id);
                          return n;
                        })
                      }
                    />{' '}
                    {p.name}
                    {p.absent && <span className="moss n12"> absent</span>}
                  </label>
                  <button type="button" className="moss" onClick={() => setAs(p.id)} aria-pressed={p.id === as}>
                    {p.mail}
                  </button>
                  <span className={r?.state === 'sent' ? 'ok' : r?.state === 'refused' || r?.state === 'bounced' ? 'late' : 'moss'}>{r?.state === 'sent' ? 'has it' : r?.state === 'refused' || r?.state === 'bounced' ? r.state : r?.state === 'queued' ? 'waits' : ''}</span>
                </li>
              );
            })}
          </ul>
          {letter.channel && (
            <p className="n13">
              <label>
                <input
                  type="checkbox"
                  checked={to.has('chat')}
                  disabled={sent || under}
                  onChange={() =>
                    setTo((old) => {
                      const n = new Set(old);
                      if (!n.delete('chat')) n.add('chat');
                      return n;
                    })
                  }
                />{' '}
                the short form to the project’s chat channel
              </label>
            </p>
          )}
          {letter.unreachable.length > 0 && (
            <p className="soon n13">
              {letter.unreachable.join(', ')} {letter.unreachable.length > 1 ? 'have' : 'has'} no mail address.
            </p>
          )}
          {letter.newestMinutes !== null && (
            <p className="n13">
              <label>
                <input type="checkbox" checked={minutes !== null} disabled={sent} onChange={() => setMinutes(minutes === null ? letter.newestMinutes : null)} /> with the minutes, version {minutes ?? letter.newestMinutes}, as a PDF
              </label>
            </p>
          )}
          <div className="acts">
            {letter.state === 'withdrawn' ? (
              <span className="moss">This letter was dropped.</span>
            ) : sent && mailboxes ? (
              <a className="do" href={mailboxes} target="_blank" rel="noreferrer">
                Open the mailboxes <kbd>B</kbd>
              </a>
            ) : sent ? (
              <span className="moss">This letter has gone.</span>
            ) : (
              <>
                <button type="button" className="do" disabled={busy || to.size === 0} onClick={() => void send()}>
                  {letter.state === 'part sent' ? 'Send to the rest' : under ? 'Try now' : 'Send'} <kbd>G</kbd>
                </button>
                <button type="button" className="may" disabled={busy || !changed} onClick={() => void keep()}>
                  Keep <kbd>S</kbd>
                </button>
                {letter.kind !== 'answer' && (
                  <button type="button" className="may" disabled={busy || under} onClick={() => void compose()}>
                    Compose anew <kbd>C</kbd>
                  </button>
                )}
                <button type="button" className="may" disabled={busy} onClick={() => void test()}>
                  Test to me <kbd>Y</kbd>
                </button>
                {!roundUp && letter.state === 'draft' && (
                  <button type="button" className="may" disabled={busy} onClick={() => void drop()}>
                    Drop it <kbd>X</kbd>
                  </button>
                )}
              </>
            )}
          </div>
          <div className="tabs" role="tablist">
            <span className="moss">As {reader?.name ?? 'nobody'} gets it</span>
            <button type="button" role="tab" aria-selected={part === 'html'} onClick={() => setPart('html')}>
              Page
            </button>
            <button type="button" role="tab" aria-selected={part === 'text'} onClick={() => setPart('text')}>
              Plain text
            </button>
            <button type="button" role="tab" aria-selected={part === 'short'} onClick={() => setPart('short')}>
              Chat
            </button>
          </div>
          {part === 'short' && <p className="said short-form">{letter.short}</p>}
          {view && part !== 'short' && (part === 'html' ? <iframe title="The letter as it is received" sandbox="" srcDoc={view.html} /> : <pre>{`${view.subject}\n\n${view.text}`}</pre>)}
        </aside>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'g', does: 'let the letter go', line: 'Go', run: () => void send() },
          { key: 's', does: 'keep what was edited', line: 'Keep', run: () => void keep() },
          { key: 'e', does: 'edit the words (Esc leaves)', line: 'Edit', run: () => text.current?.focus() },
          ...(letter.kind === 'answer' ? [] : [{ key: 'c', does: 'compose it anew from what is taken', run: () => void compose() }]),
          { key: 'y', does: 'send a test to yourself', run: () => void test() },
          ...(roundUp ? [] : [{ key: 'x', does: 'drop the letter', run: () => void drop() }]),
          { key: 'v', does: 'see it as the next recipient', line: 'As the next', run: () => setAs(there[(there.findIndex((p) => p.id === as) + 1) % Math.max(1, there.length)]?.id ?? '') },
          ...(mailboxes ? [{ key: 'b', does: 'open the mailboxes of the mail stand-in', run: () => void window.open(mailboxes, '_blank', 'noreferrer') }] : []),
        ]}
      />
    </>
  );
}

const LANGUAGE = { en: 'in English', de: 'auf Deutsch', fr: 'en français', es: 'en español', pt: 'em português' };
