import { useEffect, useMemo, useState } from 'react';
import { daysBetween } from '../../core/dates/calendar.ts';
import { shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { Letter } from '../../server/letters/letters.ts';
import type { Preview } from '../../server/letters/plan.ts';
import type { Reply } from '../../server/letters/replies.ts';
import type { ToCome } from '../../server/pages/post.ts';
import { post, type Refused } from '../parts/api.ts';

/** A planned letter as it would be written, and the rules that made it. */
export function PlannedSheet({ letter, today, hour, form, onForm, children }: { letter: ToCome; today: string; hour: string; form: 'mail' | 'chat'; onForm(f: 'mail' | 'chat'): void; children: React.ReactNode }) {
  const [view, setView] = useState<Preview | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let here = true;
    post<Preview>('/api/plan', { do: 'preview', to: letter.to, day: letter.day }).then(
      (v) => here && setView(v),
      (e: Refused) => here && setWrong(`${e.message} ${e.advice ?? ''}`),
    );
    return () => {
      here = false;
    };
  }, [letter.to, letter.day]);
  return (
    <>
      <header className="post-head">
        <p className="fl">
          {letter.held ? 'held' : letter.day === today ? 'today' : shortDay(letter.day)}
          <span>{letter.byItself ? `goes at ${hour}` : 'waits for your look'}</span>
        </p>
        <h2>{view?.subject ?? `To ${letter.name}`}</h2>
        <p className="to">
          To <b>{letter.name}</b>
        </p>
        <p className="form" role="tablist">
          <button type="button" role="tab" aria-selected={form === 'mail'} onClick={() => onForm('mail')}>
            Mail
          </button>
          <button type="button" role="tab" aria-selected={form === 'chat'} onClick={() => onForm('chat')}>
            Chat, short
          </button>
        </p>
      </header>
      {view && view.goesOn !== today && <p className="moss n13">As it will read on {shortDay(view.goesOn)}. Sent today, it tells how things stand today.</p>}
      {wrong && (
        <p className="notice" role="alert">
          <b>{wrong}</b>
        </p>
      )}
      {view && (form === 'mail' ? <Paragraphs body={view.body} items={view.items} today={today} /> : <p className="said short-form">{view.short}</p>)}
      {children}
      <ul className="why-plan">
        {letter.about.map((a, i) => (
          <li key={`${a.ref}${i}`}>
            <b>{a.ref || 'Invitation'}</b> <span>{a.kind === 'invitation' ? '' : a.kind}</span>{' '}
            <span className="moss">
              {a.why}
              {a.from ? `; by the rule it was ${shortDay(a.from)}` : ''}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A letter's paragraphs with its references and how late they are in the margin. */
function Paragraphs({ body, items, today }: { body: string; items: readonly { n: number; ref: string; due: string | null; state: string }[]; today: string }) {
  return (
    <div className="post-letter said">
      {body
        .trim()
        .split('\n')
        .map((line, i, lines) => {
          if (!line.trim()) return <div key={i} className="gap" />;
          const heading = line.length < 60 && /^\d+\. C-/.test(lines[i + 1] ?? '') && !/^\d+\. C-/.test(line);
          const n = /^(\d+)\. C-\d+\s+/.exec(line);
          const item = n ? items.find((x) => x.n === Number(n[1])) : undefined;
          const late = item?.due && item.due < today ? daysBetween(item.due, today) : 0;
          return (
            <div key={i} className="par">
              {item && (
                <span className="fig">
                  {item.due && (late > 0 || daysBetween(today, item.due) <= 1) && <i className={late > 0 ? 'late' : 'soon'}>{relativeDay(item.due, today)}</i>}
                  {item.ref}
                </span>
              )}
              <p className={heading ? 'strong' : ''}>
                <Linked text={n ? `${n[1]}. ${line.slice(n[0].length)}` : line} />
              </p>
            </div>
          );
        })}
    </div>
  );
}

/** The reader's own page is named, not spelled out. */
function Linked({ text }: { text: string }) {
  const parts = text.split(/(https?:\/\/[^\s/]{1,200}\/answer\/\S+)/);
  return (
    <>
      {parts.map((p, i) =>
        i % 2 ? (
          <a key={i} className="lk" href={p} target="_blank" rel="noreferrer">
            their own page
          </a>
        ) : (
          p
        ),
      )}
    </>
  );
}

/** A letter that is written, with what became of it. */
export function LetterSheet({ letter, today }: { letter: Letter; today: string }) {
  const open = letter.state !== 'sent';
  return (
    <>
      <header className="post-head">
        <p className="fl">
          {letter.sentAt ? shortDay(letter.sentAt.slice(0, 10)) : 'draft'}
          <span>{letter.kind}</span>
        </p>
        <h2>{letter.subject}</h2>
        <p className="to">
          To <b>{letter.recipients.map((r) => r.name).join(', ')}</b>
        </p>
      </header>
      {letter.stale.length > 0 && (
        <p className="notice">
          <b>{letter.stale.join(', ')} since this was written.</b>
          <span>Open it to compose it anew, or to drop it.</span>
        </p>
      )}
      {letter.recipients
        .filter((r) => r.error)
        .map((r) => (
          <p key={r.id} className="notice">
            <b>{r.name}:</b> {r.error}
            {r.nextTry && <span>It is tried again at {r.nextTry.slice(11, 16)} UTC.</span>}
          </p>
        ))}
      <Paragraphs body={letter.body} items={letter.items} today={open ? today : (letter.sentAt?.slice(0, 10) ?? today)} />
      <div className="acts">
        <a className={open ? 'do' : 'may'} href={letter.meeting ? `/meetings/${letter.meeting}/follow-up` : `/post/letters/${letter.id}`}>
          {open ? 'Open it' : 'See who has it'} <kbd>E</kbd>
        </a>
      </div>
    </>
  );
}

/** An answer as it was written, with the words that were read marked. */
export function ReplySheet({ reply, today, at, children }: { reply: Reply; today: string; at: string | null; children?: React.ReactNode }) {
  const marked = useMemo(
    () =>
      markWords(
        reply.words,
        reply.answers.map((a) => a.words),
      ),
    [reply],
  );
  const day = reply.receivedAt.slice(0, 10);
  return (
    <>
      <header className="post-head">
        <p className="fl">
          {day === today ? reply.receivedAt.slice(11, 16) : shortDay(day)}
          <span>{reply.how === 'page' ? 'on their page' : 'by mail'}</span>
        </p>
        <h2>{reply.from}</h2>
        {reply.how === 'mail' && reply.address !== reply.from && <p className="moss n13">{reply.address}</p>}
        <p className="to">
          {reply.letter ? (
            <>
              answers{' '}
              <a className="may line" href={`/post/letters/${reply.letter}`}>
                {reply.letterSubject}
              </a>
            </>
          ) : (
            reply.subject
          )}
        </p>
      </header>
      {reply.note && (
        <p className={reply.nature === 'bounce' || !reply.verified ? 'notice' : 'note-of'}>
          <b>{reply.nature === 'bounce' ? 'It was not delivered: ' : ''}</b>
          {reply.note}
        </p>
      )}
      <div className="post-letter said">
        {marked.map((line, i) => (
          <div key={i} className="par">
            <p>
              {line.map((part, k) => (
                <span key={k} className={part.read ? `rd${part.of === at ? ' now' : ''}` : ''}>
                  {part.text}
                </span>
              ))}
            </p>
          </div>
        ))}
      </div>
      {children}
    </>
  );
}

/** Lines of an answer cut into what was read and what was not. */
export function markWords(words: string, read: readonly string[]): { text: string; read: boolean; of: string | null }[][] {
  return words.split('\n').map((line) => {
    const hit = read.map((w) => ({ w, at: line.indexOf(w) })).filter((h) => h.at >= 0 && h.w.length > 0);
    const out: { text: string; read: boolean; of: string | null }[] = [];
    let from = 0;
    for (const h of hit.sort((a, b) => a.at - b.at)) {
      if (h.at < from) continue;
      if (h.at > from) out.push({ text: line.slice(from, h.at), read: false, of: null });
      out.push({ text: h.w, read: true, of: h.w });
      from = h.at + h.w.length;
    }
    if (from < line.length) out.push({ text: line.slice(from), read: false, of: null });
    return out;
  });
}
