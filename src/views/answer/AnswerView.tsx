import { useState } from 'react';
import { addDays, daysBetween, weekday } from '../../core/dates/calendar.ts';
import { readTypedDate } from '../../core/dates/read.ts';
import { isEnded } from '../../core/ledger/state.ts';
import { dayIn, firstNameOf } from '../../core/letters/compose.ts';
import { WORDS } from '../../core/letters/templates.ts';
import { PAGE_WORDS } from '../../core/letters/words/page.ts';
import type { AnswerItem, AnswerPage, Tell } from '../../server/letters/answer-page.ts';
import { post, Refused } from '../parts/api.ts';

type Way = 'date' | 'hand' | 'word';

/** A reader's own page: what is with them, each to be answered with a tap or one typed date. */
export default function AnswerView({ page: given, link, today }: { page: AnswerPage; link: string; today: string }) {
  const [page, setPage] = useState(given);
  const [wrong, setWrong] = useState<{ item: number | null; message: string } | null>(null);
  const [changing, setChanging] = useState<ReadonlySet<number>>(new Set());
  const w = PAGE_WORDS[page.reader.language];
  const ask = async (item: number | null, body: Tell | { do: 'letters'; which: string }) => {
    try {
      setPage(await post<AnswerPage>(`/api/answer/${link}`, body));
      setWrong(null);
      if (item !== null) setChanging((old) => new Set([...old].filter((c) => c !== item)));
    } catch (error) {
      setWrong({ item, message: error instanceof Refused ? `${error.message} ${error.advice ?? ''}` : String(error) });
    }
  };
  const told = page.items.filter((i) => i.told).length;
  const asked = page.items.filter((i) => i.asked);
  const also = page.items.filter((i) => !i.asked);
  const card = (i: AnswerItem, n: number) => (
    <Item key={i.commitment} item={i} n={n} today={today} page={page} open={!i.told || changing.has(i.commitment)} wrong={wrong?.item === i.commitment ? wrong.message : null} onChange={() => setChanging((old) => new Set([...old, i.commitment]))} onTell={(t) => void ask(i.commitment, t)} />
  );
  return (
    <>
      <div className="title">
        <p className="fig">
          {w.told}
          <b>
            {told} {w.of} {page.items.length}
          </b>
        </p>
        <h1>{w.things(page.items.length)}</h1>
        <p className="sub">{w.asks(page.asks, page.project)}</p>
      </div>
      <ol className="answer-items">
        {page.items.length === 0 && <li className="calm">{w.nothing}</li>}
        {asked.map((i, k) => card(i, k + 1))}
        {also.length > 0 && asked.length > 0 && <li className="also">{w.also}</li>}
        {also.map((i, k) => card(i, asked.length + k + 1))}
      </ol>
      <div className="answer-foot" id="letters">
        <label>
          {w.letters}{' '}
          <select value={page.reader.letters} onChange={(e) => void ask(null, { do: 'letters', which: e.target.value })}>
            <option value="all">{w.all}</option>
            <option value="no digest">{w.noDigest}</option>
            <option value="digest">{w.digest}</option>
            <option value="none">{w.none}</option>
          </select>
        </label>
        {wrong && wrong.item === null && <p className="late">{wrong.message}</p>}
        <p className="moss">{w.until(dayIn(page.reader.language, page.until))}</p>
      </div>
    </>
  );
}

function Item({ item: i, n, today, page, open, wrong, onChange, onTell }: { item: AnswerItem; n: number; today: string; page: AnswerPage; open: boolean; wrong: string | null; onChange(): void; onTell(t: Tell): void }) {
  const language = page.reader.language;
  const w = PAGE_WORDS[language];
  const [way, setWay] = useState<Way | null>(null);
  const [date, setDate] = useState('');
  const [why, setWhy] = useState('');
  const [to, setTo] = useState('');
  const [words, setWords] = useState('');
  const late = i.due !== null && i.due < today ? daysBetween(i.due, today) : 0;
  const read = /^\d{4}-\d{2}-\d{2}$/.test(date) ? date : date ? readTypedDate(date, { date: today, next: null }) : null;
  const asks = firstNameOf(page.asks);
  const ended = isEnded(i.state);
  const toldWords = i.told ? `${w.saidNow[i.told.kind] ?? i.told.kind}${i.told.kind === 'moved' && i.told.due ? `: ${dayIn(language, i.told.due)}` : i.told.kind === 'reassigned' && i.told.owner ? '' : ''}` : '';
  return (
    <li className={open && !ended ? 'at' : 'through'}>
      <p className="no">
        {n}
        <span>{i.ref}</span>
      </p>
      <h2>{i.text}</h2>
      {open && !ended ? (
        <>
          <p className="moss">
            {i.due ? `${w.due} ${dayIn(language, i.due)}` : w.noDate}
            {late > 0 && <span className="late">, {WORDS[language].late(late)}</span>}
          </p>
          {i.from && <p className="moss n13">{WORDS[language].madeIn(dayIn(language, i.madeOn), i.from)}</p>}
          {wrong && (
            <p className="late" role="alert">
              {wrong}
            </p>
          )}
          <div className="ways">
            {i.awaiting && (
              <button type="button" onClick={() => onTell({ do: 'confirm', commitment: i.commitment })}>
                {w.confirm}
              </button>
            )}
            <button type="button" onClick={() => onTell({ do: 'done', commitment: i.commitment })}>
              {w.done}
            </button>
            <button type="button" onClick={() => onTell({ do: 'still on it', commitment: i.commitment })}>
              {w.still}
            </button>
            {(['date', 'hand', 'word'] as const).map((k) => (
              <button key={k} type="button" aria-expanded={way === k} onClick={() => setWay(way === k ? null : k)}>
                {k === 'date' ? w.newDate : k === 'hand' ? w.handOver : w.word}
              </button>
            ))}
          </div>
          {way === 'date' && (
            <form
              onSubmit={(e) => {
                e.preventDefault();
                if (read) onTell({ do: 'move', commitment: i.commitment, date: read, reason: why });
              }}
            >
              <label className="typed-in">
                <input value={date} onChange={(e) => setDate(e.target.value)} aria-label={w.newDate} />
                <span className="moss">{w.asYouSay}</span>
              </label>
              <p aria-live="polite">{read ? <b className="read-day">{dayIn(language, read)}</b> : <span className="moss">{date ? w.notADay : ' '}</span>}</p>
              <div className="days">
                {nextWorkingDays(today).map((d) => (
                  <button key={d} type="button" aria-pressed={read === d} onClick={() => setDate(d)}>
                    {dayIn(language, d).replace(/[.,]/g, '').split(' ')[0]}
                    <b>{Number(d.slice(8))}</b>
                  </button>
                ))}
              </div>
              <label className="why">
                <span className="moss">{w.why}</span>
                <input className="said" value={why} maxLength={500} onChange={(e) => setWhy(e.target.value)} />
              </label>
              <button className="do" disabled={!read} type="submit">
                {w.tell(asks, read ? dayIn(language, read) : '…')}
              </button>
            </form>
          )}
          {way === 'hand' && (
            <form
              onSubmit={(e) => {
                e.preventDefault();
                if (to.trim()) onTell({ do: 'hand over', commitment: i.commitment, to, reason: why });
              }}
            >
              <label className="typed-in">
                <input value={to} maxLength={120} onChange={(e) => setTo(e.target.value)} aria-label={w.toWhom} placeholder={w.toWhom} autoComplete="off" />
              </label>
              <label className="why">
                <span className="moss">{w.why}</span>
                <input className="said" value={why} maxLength={500} onChange={(e) => setWhy(e.target.value)} />
              </label>
              <button className="do" disabled={to.trim().length < 2} type="submit">
                {w.tell(asks, `${w.handOver.toLowerCase()}, ${to || '…'}`)}
              </button>
            </form>
          )}
          {way === 'word' && (
            <form
              onSubmit={(e) => {
                e.preventDefault();
                if (words.trim()) onTell({ do: 'say', commitment: i.commitment, words });
              }}
            >
              <label className="why">
                <span className="moss">{w.yourWord}</span>
                <textarea className="said" rows={3} maxLength={2000} value={words} onChange={(e) => setWords(e.target.value)} />
              </label>
              <button className="do" disabled={!words.trim()} type="submit">
                {w.tell(asks, w.word.toLowerCase())}
              </button>
            </form>
          )}
        </>
      ) : (
        <p className="told">
          <b className={i.told?.kind === 'done' || i.state === 'done' ? 'ok' : 'strong'}>{i.told ? toldWords : w.saidNow[i.state]}</b>
          {i.told?.settled && <span className="moss">{w.settled}</span>}
          {i.told && !i.told.settled && (
            <button type="button" className="may" onClick={onChange}>
              {w.change}
            </button>
          )}
        </p>
      )}
    </li>
  );
}

function nextWorkingDays(today: string): string[] {
  const out: string[] = [];
  for (let d = addDays(today, 1); out.length < 6; d = addDays(d, 1)) if (weekday(d) <= 5) out.push(d);
  return out;
}
