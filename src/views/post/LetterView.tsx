import { useEffect, useRef, useState } from 'react';
import type { Letter, LetterView as View } from '../../server/letters.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

export interface LetterProps {
  letter: Letter;
  /** everybody who was invited and has an address */
  there: { id: string; name: string; mail: string; absent: boolean }[];
  findsLeft: number;
  mailboxes: string;
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
  const [part, setPart] = useState<'html' | 'text'>('html');
  const [wrong, setWrong] = useState<{ message: string; advice: string | null } | null>(null);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const text = useRef<HTMLTextAreaElement>(null);
  const sent = letter.state === 'sent';
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
      const out = await post<Letter>(`/api/letters/${letter.id}`, { do: 'send' });
      setLetter(out);
      const refusedBy = out.recipients.filter((r) => r.state === 'refused');
      setWrong(refusedBy.length ? { message: `${refusedBy.map((r) => r.name).join(', ')}: ${refusedBy[0]!.error}`, advice: 'The others have it. Correct the address and send again; only these are written to.' } : null);
      setSaid({ head: out.state === 'sent' ? 'Sent' : 'Sent in part', rest: `${out.recipients.filter((r) => r.state === 'sent').length} of ${out.recipients.length} letters went out`, bad: out.state !== 'sent' });
    } catch (error) {
      refused(error);
    }
    setBusy(false);
  };
  const compose = async () => {
    if (sent) return;
    try {
      const fresh = await post<Letter>(`/api/letters/${letter.id}`, { do: 'compose' });
      const [oldSubject, oldBody] = [subject, body];
      setLetter(fresh);
      setSubject(fresh.subject);
      setBody(fresh.body);
      setSaid({
        head: 'Composed anew',
        rest: 'from what is taken now',
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
          {wrong && (
            <p className="notice" role="alert">
              <b>{wrong.message}</b>
              <span>{wrong.advice}</span>
            </p>
          )}
          <label className="subject">
            <span className="vh">Subject</span>
            <input value={subject} readOnly={sent} maxLength={300} onChange={(e) => setSubject(e.target.value)} />
          </label>
          <label>
            <span className="vh">The letter’s words</span>
            <textarea ref={text} className="said" value={body} readOnly={sent} rows={Math.min(40, Math.max(14, body.split('\n').length + 2))} onChange={(e) => setBody(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
          </label>
          <p className="moss n13">
            {'{{ recipient.first }}'} and {'{{ recipient.name }}'} are filled in for each recipient. A line that begins with “- ” is an item.
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
                      disabled={sent || r?.state === 'sent'}
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
                  <span className={r?.state === 'sent' ? 'ok' : r?.state === 'refused' ? 'late' : 'moss'}>{r?.state === 'sent' ? 'has it' : r?.state === 'refused' ? 'refused' : ''}</span>
                </li>
              );
            })}
          </ul>
          {letter.unreachable.length > 0 && <p className="soon n13">No address is known of {letter.unreachable.join(', ')}.</p>}
          {letter.newestMinutes !== null && (
            <p className="n13">
              <label>
                <input type="checkbox" checked={minutes !== null} disabled={sent} onChange={() => setMinutes(minutes === null ? letter.newestMinutes : null)} /> with the minutes, version {minutes ?? letter.newestMinutes}, as a PDF
              </label>
            </p>
          )}
          <div className="acts">
            {sent ? (
              <a className="do" href={mailboxes} target="_blank" rel="noreferrer">
                Open the mailboxes <kbd>B</kbd>
              </a>
            ) : (
              <>
                <button type="button" className="do" disabled={busy || to.size === 0} onClick={() => void send()}>
                  {letter.state === 'part sent' ? 'Send to the rest' : 'Send'} <kbd>G</kbd>
                </button>
                <button type="button" className="may" disabled={busy || !changed} onClick={() => void keep()}>
                  Keep <kbd>S</kbd>
                </button>
                <button type="button" className="may" disabled={busy} onClick={() => void compose()}>
                  Compose anew <kbd>C</kbd>
                </button>
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
          </div>
          {view && (part === 'html' ? <iframe title="The letter as it is received" sandbox="" srcDoc={view.html} /> : <pre>{`${view.subject}\n\n${view.text}`}</pre>)}
        </aside>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'g', does: 'let the letter go', line: 'Go', run: () => void send() },
          { key: 's', does: 'keep what was edited', line: 'Keep', run: () => void keep() },
          { key: 'e', does: 'edit the words (Esc leaves)', line: 'Edit', run: () => text.current?.focus() },
          { key: 'c', does: 'compose it anew from what is taken', run: () => void compose() },
          { key: 'v', does: 'see it as the next recipient', line: 'As the next', run: () => setAs(there[(there.findIndex((p) => p.id === as) + 1) % Math.max(1, there.length)]?.id ?? '') },
          { key: 'b', does: 'open the mailboxes of the mail stand-in', run: () => window.open(mailboxes, '_blank', 'noreferrer') },
        ]}
      />
    </>
  );
}
