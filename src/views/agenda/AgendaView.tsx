import { useState } from 'react';
import { relativeDay } from '../../core/ledger/due.ts';
import type { AgendaChange, AgendaShown } from '../../server/meetings/agenda.ts';
import { post, wentWrong } from '../parts/api.ts';
import { PointFields } from './PointFields.tsx';
import { StandingFields } from './StandingFields.tsx';

interface Props {
  first: AgendaShown;
  today: string;
  mayChange: boolean;
}

type Shown = AgendaShown & { removed: number | null };

/** The agenda of a meeting: why each point is there and how long it gets; added to, ordered and changed by whoever is asked to it. */
export default function AgendaView({ first, today, mayChange }: Props) {
  const [now, setNow] = useState<AgendaShown>(first);
  const [open, setOpen] = useState<number | 'new' | 'standing' | 'history' | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const [said, setSaid] = useState<{ words: string; bad: boolean; back?: AgendaChange } | null>(null);
  const change = async (what: AgendaChange, words: string) => {
    try {
      const { removed, ...shown } = await post<Shown>(`/api/meetings/${now.meeting}/agenda`, what);
      setNow(shown);
      setOpen(null);
      setSaid({ words, bad: false, ...(removed === null ? {} : { back: { do: 'put back', point: removed } as const }) });
    } catch (error) {
      const { head, rest } = wentWrong(error);
      setSaid({ words: [head, rest].filter(Boolean).join(' '), bad: true });
    }
  };
  const move = (at: number, to: number) => {
    if (to < 0 || to >= now.points.length || to === at) return;
    void change({ do: 'move', at, to }, `“${now.points[at]!.title}” moved`).then(() => document.querySelectorAll<HTMLElement>('.agenda > li')[to]?.focus());
  };
  const given = now.points.reduce((n, p) => n + p.given, 0);
  return (
    <section className="agenda-part" aria-label="Agenda">
      <h2 className="lh">
        Agenda
        <span>
          {given} of {now.minutes} min{now.kept ? '' : ', as built from what is open'}
        </span>
      </h2>
      <ol className="agenda">
        {now.points.map((p, at) =>
          open === at ? (
            <li key={p.id ?? `built ${at}`} className="open">
              <PointFields title={p.title} minutes={p.minutes} note={p.note} onKeep={(to) => void change({ do: 'edit', at, ...to }, 'Saved')} onLeave={() => setOpen(null)} />
            </li>
          ) : (
            <li
              key={p.id ?? `built ${at}`}
              className={`${p.kind}${p.fits ? '' : ' without'}${dragged === at ? ' dragged' : ''}`}
              tabIndex={mayChange ? 0 : undefined}
              draggable={mayChange}
              onDragStart={() => setDragged(at)}
              onDragEnd={() => setDragged(null)}
              onDragOver={(e) => dragged !== null && e.preventDefault()}
              onDrop={(e) => {
                e.preventDefault();
                if (dragged !== null) move(dragged, at);
                setDragged(null);
              }}
              onKeyDown={(e) => {
                if (!mayChange || e.target !== e.currentTarget) return;
                const act = actOf(e.key, e.altKey);
                if (act === null) return;
                e.preventDefault();
                if (act === 'change') setOpen(at);
                else if (act === 'take out') void change({ do: 'remove', at }, `“${p.title}” taken out`);
                else move(at, at + act);
              }}
            >
              <span className="min">{p.fits ? `${p.given} min` : 'no time'}</span>
              <span className="what">
                <b>{p.title}</b>
                <span className="moss">{[p.why, p.by && p.kind === 'own' ? p.by : '', p.given < p.minutes && p.fits ? `${p.minutes} min wanted` : ''].filter(Boolean).join('; ')}</span>
                {p.note && <NoteWords text={p.note} />}
              </span>
              {mayChange && (
                <span className="acts">
                  <button type="button" className="may" onClick={() => setOpen(at)}>
                    Change
                  </button>
                  <button type="button" className="may" onClick={() => void change({ do: 'remove', at }, `“${p.title}” taken out`)}>
                    Take out
                  </button>
                </span>
              )}
              {p.kind === 'review' && now.review.length > 0 && (
                <ul className="reviewed">
                  {now.review.map((g) => (
                    <li key={g.owner}>
                      <span className="who">{g.owner}</span>
                      <span>
                        {g.rows.slice(0, 6).map((r) => (
                          <a key={r.id} href={`/ledger/${r.ref}`} title={r.text} className={r.late ? 'late' : ''}>
                            <span className="ref">{r.ref}</span> {r.late && r.due ? relativeDay(r.due, today) : r.miss !== null && r.miss >= 0.5 ? `${Math.round(r.miss * 100)} % likely late` : ''}
                          </a>
                        ))}
                        {g.rows.length > 6 && <span className="moss">and {g.rows.length - 6} more</span>}
                      </span>
                    </li>
                  ))}
                </ul>
              )}
            </li>
          ),
        )}
      </ol>
      {now.without.length > 0 && <p className="soon n13">Without time: {now.without.join('; ')}. Take something out, or make the meeting longer.</p>}
      {open === 'new' && <PointFields title="" minutes={5} note={null} onKeep={({ title, minutes }) => void change({ do: 'add', title, minutes }, `“${title}” added`)} onLeave={() => setOpen(null)} />}
      {open === 'standing' && now.standing && <StandingFields points={now.standing} onKeep={(points) => void change({ do: 'standing', points }, 'Saved for every meeting of the series')} onLeave={() => setOpen(null)} />}
      {open === 'history' && (
        <ul className="history">
          {now.history.map((h) => (
            <li key={h.at + h.what}>
              <span className="moss">
                {h.at.slice(0, 16).replace('T', ' ')} UTC, {h.by}
              </span>{' '}
              {h.what}
            </li>
          ))}
        </ul>
      )}
      <p className="acts">
        {mayChange && (
          <>
            <button type="button" className="may" onClick={() => setOpen('new')}>
              Add a point
            </button>
            {now.standing && (
              <button type="button" className="may" onClick={() => setOpen('standing')}>
                What stands every time
              </button>
            )}
            {now.kept && (
              <button type="button" className="may" onClick={() => void change({ do: 'build' }, 'Built anew; what people added stays')}>
                Build it anew
              </button>
            )}
          </>
        )}
        {now.history.length > 0 && (
          <button type="button" className="may" onClick={() => setOpen(open === 'history' ? null : 'history')}>
            Who changed what
          </button>
        )}
        <span role="status" className={said?.bad ? 'late' : 'moss'}>
          {said?.words}
          {said?.back && (
            <>
              {' '}
              <button type="button" className="may line" onClick={() => void change(said.back!, 'Put back')}>
                Undo
              </button>
            </>
          )}
        </span>
      </p>
      {mayChange && <p className="moss n13">Drag a point to move it, or focus it: Alt and arrows move, Enter changes, Delete takes out.</p>}
    </section>
  );
}

/** What a key does on a point that is focused; a number is by how many places it moves. */
function actOf(key: string, alt: boolean): 'change' | 'take out' | 1 | -1 | null {
  if (key === 'Enter') return 'change';
  if (key === 'Delete') return 'take out';
  if (alt && key === 'ArrowUp') return -1;
  return alt && key === 'ArrowDown' ? 1 : null;
}

/** A note with its addresses made into links. */
function NoteWords({ text }: { text: string }) {
  return (
    <span className="note-words">
      {text.split(/(https?:\/\/[^\s<>"]{1,500})/).map((part, n) =>
        n % 2 ? (
          <a key={n} href={part} rel="noreferrer" target="_blank">
            {part}
          </a>
        ) : (
          part
        ),
      )}
    </span>
  );
}
