import { useEffect, useMemo, useRef, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { Letter } from '../../server/letters/letters.ts';
import type { Marked } from '../../server/letters/plan.ts';
import type { KeptAnswer, Reply, TakeAnswer } from '../../server/letters/replies.ts';
import type { StrayChange } from '../../server/letters/strays.ts';
import type { PostProps, ToCome } from '../../server/pages/post.ts';
import { post, Refused } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';
import { AnswerSlip } from './AnswerSlip.tsx';
import { type AnswerDraft, draftOf, takeOf } from './answer-draft.ts';
import { ANSWERED, type Entry, lineOf, sectionsOf, standIn } from './entries.ts';
import { Plan } from './Plan.tsx';
import { LetterSheet, PlannedSheet, ReplySheet } from './Sheets.tsx';
import { StrayActs, type StrayField } from './StrayActs.tsx';
import { canBeAnswered, WriteBack } from './WriteBack.tsx';

/** Post: the letter plan above, the letter or answer that is looked at left, and what waits, came back and went out right. */
export default function PostView(props: PostProps) {
  const { today } = props;
  const [toCome, setToCome] = useState(props.toCome);
  const [replies, setReplies] = useState(props.replies);
  const [strays, setStrays] = useState(props.strays);
  const [strayField, setStrayField] = useState<StrayField>(null);
  const [drafts] = useState(props.drafts);
  const sections = useMemo(() => sectionsOf({ ...props, toCome, replies, strays, drafts }), [props, toCome, replies, strays, drafts]);
  const entries = useMemo(() => sections.flatMap((s) => s.entries), [sections]);
  const [id, setId] = useState(entries[0]?.id ?? '');
  const [moving, setMoving] = useState(false);
  const [form, setForm] = useState<'mail' | 'chat'>('mail');
  const [said, setSaid] = useState<Said | null>(null);
  const [busy, setBusy] = useState(false);
  const place = useRef({ section: '', at: 0 });
  const entry: Entry | undefined = entries.find((e) => e.id === id) ?? standIn(sections, place.current);
  const at = entry ? entries.indexOf(entry) : 0;
  const section = sections.find((s) => entry && s.entries.includes(entry));
  if (entry && section) place.current = { section: section.title, at: section.entries.indexOf(entry) };
  const go = (by: number) => {
    const next = entries[Math.max(0, Math.min(entries.length - 1, at + by))];
    if (next) setId(next.id);
    setMoving(false);
  };
  const wrong = (error: unknown) => {
    const e = error instanceof Refused ? error : new Refused('Something went wrong in this page.', null, null);
    setSaid({ head: e.message, ...(e.advice ? { rest: e.advice } : {}), bad: true });
  };
  const planned = entry?.at === 'planned' ? entry.letter : null;
  /** the letter that was asked about before it goes as the second of a day */
  const asked = useRef<string | null>(null);

  const mark = async (what: 'hold' | 'release' | 'drop' | 'move', until?: string) => {
    if (!planned || busy) return;
    setBusy(true);
    const before = toCome;
    try {
      const marked = await post<Marked>('/api/plan', { do: what, to: planned.to, day: planned.day, ...(until ? { until } : {}) });
      const same = (l: ToCome) => l.to === planned.to && l.day === planned.day && l.held === planned.held;
      const moved = marked.day ?? until;
      const joined = moved ? toCome.find((l) => l.to === planned.to && l.day === moved && !l.held) : undefined;
      const after = toCome.flatMap((l) => {
        if (joined && l === joined) return [{ ...l, about: [...l.about, ...planned.about] }];
        if (!same(l)) return [l];
        if (what === 'drop' || joined) return [];
        return [{ ...l, held: what === 'hold', day: moved ?? l.day }];
      });
      setToCome(after);
      setMoving(false);
      const heads = { hold: 'Held', release: 'Released', drop: 'Dropped', move: `Moved to ${moved ? shortDay(moved) : ''}${moved !== until ? ', the next day they work' : ''}` };
      setSaid({
        head: heads[what],
        rest: `letter to ${planned.name}${joined ? '; it goes with the one of that day' : ''}`,
        undo: () => {
          post('/api/plan', { do: 'unmark', keys: marked.keys, before: marked.before }).then(() => {
            setToCome(before);
            setSaid({ head: 'Put back', rest: `letter to ${planned.name}` });
          }, wrong);
        },
      });
    } catch (error) {
      wrong(error);
    }
    setBusy(false);
  };

  const send = async () => {
    if (busy) return;
    if (entry?.at === 'unwritten') return location.assign(`/meetings/${entry.meeting.meeting}/follow-up`);
    if (entry?.at === 'draft') return location.assign(entry.letter.meeting ? `/meetings/${entry.letter.meeting}/follow-up` : `/post/letters/${entry.letter.id}`);
    if (!planned) return;
    const sameDay = planned.day > today ? toCome.find((l) => l.to === planned.to && l.day <= today && !l.held) : undefined;
    if (sameDay && asked.current !== entry?.id) {
      asked.current = entry?.id ?? null;
      return setSaid({ head: `A letter to ${planned.name} goes today already.`, rest: 'G again sends two', or: { key: 'n', label: 'One letter for both', run: () => void mark('move', today) } });
    }
    setBusy(true);
    const insist = asked.current === entry?.id;
    asked.current = null;
    setSaid({ head: `Writing to ${planned.name}` });
    try {
      const letter = await post<Letter>('/api/plan', { do: 'send', to: planned.to, day: planned.day, insist });
      const r = letter.recipients[0];
      setToCome(toCome.filter((l) => !(l.to === planned.to && l.day === planned.day && l.held === planned.held)));
      setSaid(
        r?.state === 'sent'
          ? { head: 'Gone', rest: `to ${planned.name}: ${letter.subject}` }
          : r?.error
            ? { head: r.error, rest: r.nextTry ? `nothing is lost: it is tried again at ${r.nextTry.slice(11, 16)} UTC` : 'it waits among the drafts', bad: true }
            : { head: 'On its way', rest: `to ${planned.name}; the mail server takes its time` },
      );
    } catch (error) {
      if (error instanceof Refused && error.insist) asked.current = entry?.id ?? null;
      wrong(error);
    }
    setBusy(false);
  };
  const write = async () => {
    if (entry?.at === 'draft' || entry?.at === 'unwritten') return send();
    if (!planned) return;
    try {
      const letter = await post<Letter>('/api/plan', { do: 'write', to: planned.to, day: planned.day });
      location.assign(`/post/letters/${letter.id}`);
    } catch (error) {
      wrong(error);
    }
  };
  const changed = (r: Reply) => setReplies((old) => old.map((o) => (o.id === r.id ? r : o)));
  const [answerAt, setAnswerAt] = useState(0);
  const [editing, setEditing] = useState<'kind' | 'owner' | 'due' | null>(null);
  const reply = entry?.at === 'reply' ? entry.reply : null;
  const openAnswers = reply?.answers.filter((a) => a.verdict === 'open') ?? [];
  const current = openAnswers[Math.min(answerAt, openAnswers.length - 1)];
  const [changedAnswers, setChangedAnswers] = useState<Record<number, AnswerDraft>>({});
  const draftFor = (a: KeptAnswer) => changedAnswers[a.id] ?? draftOf(a);
  const take = (a: KeptAnswer) => void settle(a.id, { do: 'take', ...takeOf(draftFor(a)) });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another entry begins at its first answer
  useEffect(() => {
    setAnswerAt(0);
    setEditing(null);
    setWriting(false);
  }, [id]);
  const settle = async (answer: number, body: ({ do: 'take' } & TakeAnswer) | { do: 'pass' | 'reopen' }) => {
    const a = reply?.answers.find((x) => x.id === answer);
    try {
      changed(await post<Reply>(`/api/answers/${answer}`, body));
      setEditing(null);
      setSaid({
        head: body.do === 'take' ? 'Taken' : body.do === 'pass' ? 'Passed' : 'Taken back',
        rest: a?.ref ? `${a.ref} ${body.do === 'take' ? (ANSWERED[body.kind ?? a.kind] ?? '') : ''}` : (a?.words.slice(0, 60) ?? ''),
        undo: body.do === 'reopen' ? undefined : () => void settle(answer, { do: 'reopen' }),
      });
    } catch (error) {
      wrong(error);
    }
  };
  /** Settles mail that belongs to no letter; what was put away can be brought back. */
  const stray = async (r: Reply, change: StrayChange) => {
    try {
      const { reply: now } = await post<{ reply: Reply }>(`/api/replies/${r.id}`, change);
      setStrayField(null);
      setStrays((all) => all.filter((x) => x.id !== r.id));
      setReplies((all) => (all.some((x) => x.id === now.id) ? all.map((x) => (x.id === now.id ? now : x)) : [now, ...all]));
      if (change.do === 'about' || change.do === 'from') setId(`reply ${now.id}`);
      const heads = { about: 'Matched', from: 'Kept', 'put away': 'Put away', 'bring back': 'Brought back', correct: 'Corrected and sent again' };
      setSaid({ head: heads[change.do], rest: now.subject || now.address, ...(change.do === 'put away' ? { undo: () => void stray(now, { do: 'bring back' }) } : {}) });
    } catch (error) {
      wrong(error);
    }
  };
  const [writing, setWriting] = useState(false);
  const [begun, setBegun] = useState<Record<number, string>>({});
  const writeBack = async (r: Reply, text: string) => {
    setBusy(true);
    try {
      const { reply: now, letter } = await post<{ reply: Reply; letter: Letter }>(`/api/replies/${r.id}`, { do: 'write back', text });
      setBegun(({ [r.id]: _, ...others }) => others);
      setWriting(false);
      setStrays((all) => all.filter((x) => x.id !== r.id));
      setReplies((all) => (all.some((x) => x.id === now.id) ? all.map((x) => (x.id === now.id ? now : x)) : [now, ...all]));
      const to = letter.recipients[0];
      setSaid(to?.state === 'sent' ? { head: 'Gone', rest: `to ${to.name}: ${letter.subject}` } : { head: to?.error ?? 'On its way', rest: 'nothing is lost: it waits among the drafts', bad: true });
    } catch (error) {
      wrong(error);
    }
    setBusy(false);
  };
  const opened = useRef(id);
  useEffect(() => {
    if (opened.current === id) return;
    opened.current = id;
    document.querySelector('.post-right li.on')?.scrollIntoView({ block: 'nearest' });
  }, [id]);

  return (
    <>
      <Plan
        days={props.days}
        rows={props.rows}
        today={today}
        at={planned ? { id: planned.to, day: planned.day } : null}
        onPick={(person, day) => {
          const hit = entries.find(
            (e) =>
              (e.at === 'planned' && e.letter.to === person && e.letter.day === day) ||
              (e.at === 'draft' && e.letter.recipients.some((r) => r.id === person) && day === today) ||
              (e.at === 'sent' && e.letter.recipients.some((r) => r.id === person) && e.letter.sentAt?.slice(0, 10) === day) ||
              (e.at === 'reply' && e.reply.person === person && e.reply.receivedAt.slice(0, 10) === day),
          );
          if (hit) setId(hit.id);
        }}
      />
      <div className="post-desk">
        <section className="post-sheet" aria-label="What is looked at" aria-live="polite">
          {!entry && (
            <div className="calm-post">
              <h2>No letter waits, and nothing came back</h2>
              <p className="moss">
                Letters are planned from what is open and the <a href="/post/rules">rules of the project</a>.
              </p>
            </div>
          )}
          {entry?.at === 'planned' && (
            <PlannedSheet key={entry.id} letter={entry.letter} today={today} hour={entry.letter.kind === 'digest' ? props.hours.digest : props.hours.usual} form={form} onForm={setForm}>
              <div className="acts">
                <button type="button" className="do" disabled={busy} onClick={() => void send()}>
                  {entry.letter.day > today ? 'Let it go now' : 'Let it go'} <kbd>G</kbd>
                </button>
                <button type="button" className="may" onClick={() => void write()}>
                  Edit <kbd>E</kbd>
                </button>
                <button type="button" className="may" onClick={() => void mark(entry.letter.held ? 'release' : 'hold')}>
                  {entry.letter.held ? 'Release' : 'Hold'} <kbd>H</kbd>
                </button>
                {moving ? (
                  <DateField value={null} context={{ date: today, next: props.next }} today={today} label="Move the letter to" onKeep={(d) => (d ? void mark('move', d) : setMoving(false))} onLeave={() => setMoving(false)} />
                ) : (
                  <button type="button" className="may" onClick={() => setMoving(true)}>
                    Move <kbd>M</kbd>
                  </button>
                )}
                <button type="button" className="may" onClick={() => void mark('drop')}>
                  Drop it <kbd>X</kbd>
                </button>
              </div>
            </PlannedSheet>
          )}
          {(entry?.at === 'draft' || entry?.at === 'sent') && <LetterSheet letter={entry.letter} today={today} />}
          {entry?.at === 'unwritten' && (
            <div className="calm-post">
              <h2>Round-up of {entry.meeting.title}</h2>
              <p className="moss">Its finds are settled, and nobody has been written to yet.</p>
              <a className="do" href={`/meetings/${entry.meeting.meeting}/follow-up`}>
                Write it <kbd>E</kbd>
              </a>
            </div>
          )}
          {reply && (
            <ReplySheet reply={reply} today={today} at={current?.words ?? null}>
              <StrayActs key={reply.id} reply={reply} people={props.people} open={props.open} field={strayField} onField={setStrayField} onChange={(c) => void stray(reply, c)} />
              <WriteBack key={`back ${reply.id}`} reply={reply} today={today} open={writing} begun={begun[reply.id]} busy={busy} onBegun={(text) => setBegun((all) => ({ ...all, [reply.id]: text }))} onOpen={setWriting} onSend={(text) => void writeBack(reply, text)} onWrong={wrong} />
            </ReplySheet>
          )}
        </section>
        <div className="post-right">
          {reply && reply.answers.length > 0 && (
            <section className="answers" aria-label="Read from the answer">
              {reply.answers.map((a) => (
                <AnswerSlip
                  key={`${a.id}${a.verdict}`}
                  answer={a}
                  draft={draftFor(a)}
                  onDraft={(draft) => setChangedAnswers((all) => ({ ...all, [a.id]: draft }))}
                  open={a.id === current?.id}
                  today={today}
                  next={props.next}
                  people={props.people}
                  editing={a.id === current?.id ? editing : null}
                  onEdit={setEditing}
                  onTake={() => take(a)}
                  onPass={() => void settle(a.id, { do: 'pass' })}
                  onUndo={() => void settle(a.id, { do: 'reopen' })}
                  onOpen={() => setAnswerAt(openAnswers.findIndex((o) => o.id === a.id))}
                />
              ))}
            </section>
          )}
          {sections.map((s) => (
            <section key={s.title}>
              <h2 className="lh">
                {s.title}
                <span>{s.count}</span>
              </h2>
              {s.entries.length === 0 && <p className="moss n13">{s.empty}</p>}
              <ul>
                {s.entries.map((e) => {
                  const l = lineOf(e, today);
                  return (
                    <li key={e.id} className={e.id === entry?.id ? 'on' : ''}>
                      <button type="button" aria-current={e.id === entry?.id} onClick={() => setId(e.id)}>
                        <span className="n">{l.who}</span>
                        <span className={`w ${l.tone === 'late' ? 'late' : ''}`}>{l.what}</span>
                        <span className={`t ${l.tone}`}>{l.end}</span>
                      </button>
                    </li>
                  );
                })}
              </ul>
            </section>
          ))}
          {props.silent.length > 0 && (
            <section>
              <h2 className="lh">
                Silent<span>{props.silent.length}</span>
              </h2>
              <ul>
                {props.silent.map((s) => (
                  <li key={s.person} className="flat">
                    <a href={`/people/${s.person}`}>
                      <span className="n">{s.name}</span>
                      <span className={`w ${s.bounced ? 'late' : ''}`}>{s.bounced ? `could not be reached: ${s.bounced}` : `${s.unanswered === 1 ? 'one letter' : `${s.unanswered} letters`} without an answer${s.never ? ', never answered' : ''}`}</span>
                      <span className="t">{s.silentFor === 0 ? 'since today' : `${s.silentFor} ${s.silentFor === 1 ? 'day' : 'days'}`}</span>
                    </a>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next letter or answer', line: 'Next', run: () => go(1) },
          { key: 'k', does: 'the one before', run: () => go(-1) },
          { key: 'g', does: 'let the letter go', ...(reply ? {} : { line: 'Go' }), run: () => void send() },
          { key: 'h', does: 'hold the letter, or release it', ...(reply ? {} : { line: 'Hold' }), run: () => void mark(planned?.held ? 'release' : 'hold') },
          { key: 'm', does: 'move the letter to another day', ...(reply ? {} : { line: 'Move' }), run: () => planned && setMoving(true) },
          { key: 'x', does: 'drop the letter, or put mail away that belongs to none', run: () => void (reply?.nature === 'unmatched' ? stray(reply, { do: 'put away' }) : mark('drop')) },
          { key: 'a', does: 'say what mail is about that belongs to no letter, or correct an address', run: () => (reply?.nature === 'bounce' ? setStrayField('correct') : reply?.nature === 'unmatched' && setStrayField('about')) },
          { key: 'u', does: 'bring back mail that was put away', run: () => reply?.nature === 'put away' && void stray(reply, { do: 'bring back' }) },
          { key: 'w', does: 'write back to what came', ...(reply ? { line: 'Write back' } : {}), run: () => reply && canBeAnswered(reply) && setWriting(true) },
          { key: 'e', does: 'edit the letter, or change what was read', run: () => (current ? setEditing('kind') : void write()) },
          { key: 't', does: 'take what was read from the answer', ...(reply ? { line: 'Take' } : {}), run: () => current && take(current) },
          { key: 'p', does: 'pass it', ...(reply ? { line: 'Pass' } : {}), run: () => current && void settle(current.id, { do: 'pass' }) },
          { key: 'd', does: 'change the date that was read', run: () => current && setEditing('due') },
          { key: 'o', does: 'change the owner that was read', run: () => (reply?.nature === 'unmatched' ? setStrayField('from') : current && setEditing('owner')) },
          {
            key: 'Escape',
            does: 'leave what is being changed',
            run: () => {
              setEditing(null);
              setMoving(false);
              setStrayField(null);
              setWriting(false);
            },
          },
          { key: 'c', does: 'the letter as a chat message, and back', run: () => setForm((f) => (f === 'mail' ? 'chat' : 'mail')) },
          { key: 'l', does: 'the rules of the plan', run: () => location.assign('/post/rules') },
          ...(props.mailboxes ? [{ key: 'b', does: 'open the mailboxes of the mail stand-in', run: () => void window.open(props.mailboxes ?? '', '_blank', 'noreferrer') }] : []),
        ]}
      />
    </>
  );
}
