import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import type { KeptFind } from '../../server/finds.ts';
import type { SiftProps } from '../../server/pages/sift.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { KindShape } from '../parts/Shapes.tsx';
import { type Join, joinNotes } from './joins.ts';
import { marksBySegment } from './marks.ts';
import { edgeOf, RecordColumn } from './RecordColumn.tsx';
import { readingWords, refine, useReading } from './reading.ts';
import { type Edits, type Field, NEWS, Slip } from './Slip.tsx';
import { Strip } from './Strip.tsx';
import { turnsOf } from './turns.ts';

/** Turns shown above and below the current find of a very long record. */
const REACH = 250;

export default function SiftView({ meeting, record, finds: given, people: known, open, next, today }: SiftProps) {
  const [finds, setFinds] = useState(given);
  const [people, setPeople] = useState(known);
  const [current, setCurrent] = useState<number | null>(() => [...given].sort((a, b) => edgeOf(a) - edgeOf(b) || a.id - b.id).find((f) => f.verdict === 'open')?.id ?? null);
  const [edits, setEdits] = useState<Record<number, Edits>>({});
  const [field, setField] = useState<Field>(null);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const [made, setMade] = useState(next);
  const [joins, setJoins] = useState<Join[]>([]);
  const [narrow, setNarrow] = useState(false);
  const [view, setView] = useState<[number, number]>([0, 0.1]);
  const [height, setHeight] = useState(600);
  const root = useRef<HTMLDivElement>(null);
  const latest = useRef({ finds, edits, current });
  latest.current = { finds, edits, current };

  const turns = useMemo(() => turnsOf(record.segments, record.captions), [record]);
  const marks = useMemo(() => marksBySegment(finds, record.id), [finds, record.id]);
  const ordered = useMemo(() => [...finds].sort((a, b) => edgeOf(a) - edgeOf(b) || a.id - b.id), [finds]);
  const find = ordered.find((f) => f.id === current) ?? null;
  const turnAt = useMemo(() => {
    const at = new Map<number, number>();
    turns.forEach((t, i) => {
      for (const s of t.segments) at.set(s.index, i);
    });
    return at;
  }, [turns]);
  const long = turns.length > REACH * 3;
  const middle = long ? (find ? (turnAt.get(edgeOf(find)) ?? 0) : 0) : 0;
  const shown: [number, number] = long ? [Math.max(0, middle - REACH), Math.min(turns.length, middle + REACH)] : [0, turns.length];
  const left = finds.filter((f) => f.verdict === 'open').length;

  const go = useCallback((id: number | null) => {
    setField(null);
    setCurrent(id);
    if (id === null) return;
    requestAnimationFrame(() => document.querySelector(`[data-finds~="${id}"]`)?.scrollIntoView({ block: 'center', behavior: matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth' }));
  }, []);

  const step = (by: 1 | -1) => {
    const waiting = ordered.filter((f) => f.verdict === 'open' || f.id === current);
    const at = waiting.findIndex((f) => f.id === current);
    const target = waiting[at < 0 ? 0 : Math.max(0, Math.min(waiting.length - 1, at + by))];
    if (target) go(target.id);
  };

  const after = (id: number): number | null => {
    const at = ordered.findIndex((f) => f.id === id);
    return (ordered.slice(at + 1).find((f) => f.verdict === 'open') ?? ordered.slice(0, at).find((f) => f.verdict === 'open'))?.id ?? null;
  };

  const refused = (error: unknown) => {
    const e = error instanceof Refused ? error : new Refused('Something went wrong in this page.', 'Load it again.', null);
    setSaid({ head: e.message, rest: e.advice ?? undefined, bad: true });
  };

  const replace = (f: KeptFind) => setFinds((all) => all.map((x) => (x.id === f.id ? f : x)));

  const reopen = async (id: number) => {
    try {
      replace(await post<KeptFind>(`/api/finds/${id}`, { do: 'reopen' }));
      setSaid(null);
      go(id);
    } catch (error) {
      refused(error);
    }
  };

  const judge = async (what: 'take' | 'pass') => {
    if (!find || busy || find.verdict === 'taken') return;
    const { named, ...changes } = edits[find.id] ?? {};
    const before = find;
    const target = after(find.id);
    setBusy(true);
    replace({ ...find, ...(changes.text ? { text: changes.text } : {}), verdict: what === 'take' ? 'taken' : 'passed' });
    go(target);
    try {
      const kept = await post<KeptFind>(`/api/finds/${find.id}`, what === 'take' ? { do: 'take', ...changes } : { do: 'pass' });
      replace(kept);
      if (named) setPeople((all) => [...all, ...kept.owner.filter((o) => !all.some((p) => p.id === o)).map((o, i) => ({ id: o, name: Object.values(named)[i] ?? o, role: '', organisation: '' }))]);
      if (what === 'take' && !kept.update) setMade((m) => ({ ...m, [kept.kind]: Math.max(m[kept.kind as 'action'], Number((kept.ref ?? 'C-0').slice(2)) + 1) }));
      const who = kept.kind === 'action' ? [listOf(kept.owner.map((o) => named?.[o] ?? people.find((p) => p.id === o)?.name ?? Object.values(named ?? {})[0] ?? o)) || 'nobody yet', kept.due ? shortDay(kept.due, today) : 'no date'].join(', ') : kept.update ? NEWS[kept.update.kind] : kept.text;
      setSaid({ head: what === 'take' ? `${kept.ref} taken` : 'Passed', rest: what === 'take' ? who : kept.text, undo: () => void reopen(kept.id) });
    } catch (error) {
      replace(before);
      go(before.id);
      refused(error);
    } finally {
      setBusy(false);
    }
  };

  const mark = async (kind: 'action' | 'decision' | 'question') => {
    const place = selectedPlace();
    if (!place) {
      setSaid({ head: 'Nothing is selected', rest: 'Select words in the record first, then press H.', bad: true });
      return;
    }
    try {
      const f = await post<KeptFind>(`/api/meetings/${meeting.id}/finds`, { record: record.id, kind, ...place });
      setFinds((all) => [...all, f]);
      getSelection()?.removeAllRanges();
      setSaid({ head: 'Marked', rest: f.text, undo: undefined });
      go(f.id);
    } catch (error) {
      refused(error);
    }
  };

  const reading = useReading(
    record.id,
    given.some((f) => f.verdict === 'open' && f.reader === 'quick'),
    (read) => {
      const r = refine(latest.current.finds, read, new Set(Object.keys(latest.current.edits).map(Number)));
      setFinds(r.finds);
      const looked = latest.current.current;
      if (looked !== null && !r.finds.some((f) => f.id === looked)) setCurrent(r.finds.find((f) => f.verdict === 'open')?.id ?? null);
      const words = [r.added && `${r.added} new`, r.changed && `${r.changed} put better`, r.gone && `${r.gone} dropped`].filter(Boolean).join(', ');
      setSaid((before) => before ?? { head: 'Read closely', rest: words || 'nothing changed' });
    },
  );

  // notes stand where their words are: measured after every change of layout
  const layout = useCallback(() => {
    const el = root.current;
    if (!el) return;
    const small = innerWidth < 900;
    setNarrow(small);
    if (small) return;
    const o = el.getBoundingClientRect();
    const leaf = el.querySelector('.leafcol')!.getBoundingClientRect();
    const margin = el.querySelector('.margin')!.getBoundingClientRect();
    const placed = [...el.querySelectorAll<HTMLElement>('.note[data-for]')].flatMap((n) => {
      const words = el.querySelectorAll(`[data-finds~="${n.dataset.for}"]`);
      const rects = words.length ? [...words[0]!.getClientRects()] : [];
      const last = rects[rects.length - 1];
      return last ? [{ id: Number(n.dataset.for), x: last.right - o.left, y: last.bottom - o.top + 1, height: n.offsetHeight, open: n.classList.contains('is-open'), passed: n.classList.contains('is-passed') }] : [];
    });
    placed.sort((a, b) => a.y - b.y || a.x - b.x);
    const made = joinNotes(placed, { leaf: leaf.right - o.left, note: margin.left - o.left, slip: margin.left - o.left - 17 });
    setJoins(made);
    const ends = made.map((j) => j.top + (placed.find((p) => p.id === j.id)?.height ?? 0));
    setHeight(Math.max(el.querySelector<HTMLElement>('.rec')!.offsetHeight, ...ends) + 40);
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is listed changes where notes and words stand
  useLayoutEffect(layout, [layout, finds, current, field, edits, narrow, shown[0], shown[1]]);
  useEffect(() => {
    const watch = () => {
      layout();
      const el = root.current;
      if (!el) return;
      const rec = el.querySelector('.rec')!.getBoundingClientRect();
      const part = (y: number) => Math.max(0, Math.min(1, (y - rec.top) / Math.max(1, rec.height)));
      const of = (p: number) => (shown[0] + p * (shown[1] - shown[0])) / Math.max(1, turns.length);
      setView([of(part(48)), of(part(innerHeight - 36))]);
    };
    watch();
    void document.fonts.ready.then(layout);
    addEventListener('resize', watch);
    addEventListener('scroll', watch, { passive: true });
    return () => {
      removeEventListener('resize', watch);
      removeEventListener('scroll', watch);
    };
  }, [layout, shown[0], shown[1], turns.length]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for the place the page was opened at
  useEffect(() => {
    const wanted = /^#s(\d+)$/.exec(location.hash)?.[1];
    if (wanted) {
      const f = ordered.find((x) => x.evidence.some((e) => e.segment === Number(wanted)));
      if (f) setCurrent(f.id);
      requestAnimationFrame(() => {
        const place = document.querySelector(`[data-seg="${wanted}"]`);
        place?.scrollIntoView({ block: 'center' });
        place?.classList.add('led-here');
      });
    }
  }, []);

  const note = (f: KeptFind) => {
    const isOpen = f.id === current && f.verdict === 'open';
    const join = joins.find((j) => j.id === f.id);
    const cls = `note n-${f.kind}${isOpen ? ` is-open${field ? ' is-typing' : ''}` : f.verdict === 'taken' ? ' is-taken' : f.verdict === 'passed' ? ' is-passed' : ''}`;
    const name = (id: string) => people.find((p) => p.id === id)?.name ?? id;
    return (
      <article key={f.id} className={cls} data-for={f.id} aria-current={isOpen || undefined} style={narrow ? undefined : { top: join?.top ?? 0, visibility: join ? 'visible' : 'hidden' }}>
        {isOpen ? (
          <Slip
            key={f.id}
            find={f}
            edits={edits[f.id] ?? {}}
            people={people}
            open={open.find((o) => String(o.id) === f.update?.open)}
            nextRef={f.kind === 'action' ? `C-${made.action}` : f.kind === 'decision' ? `D-${made.decision}` : `Q-${made.question}`}
            meeting={meeting}
            today={today}
            field={field}
            busy={busy}
            onField={setField}
            onEdit={(e) => setEdits((all) => ({ ...all, [f.id]: { ...all[f.id], ...e } }))}
            onTake={() => void judge('take')}
            onPass={() => void judge('pass')}
          />
        ) : (
          <>
            <span className="pin">
              <KindShape kind={f.kind} hollow={f.verdict === 'passed'} />
            </span>
            <div>
              {f.verdict === 'passed' ? (
                <p>
                  <s>{f.text}</s> passed{' '}
                  <button type="button" onClick={() => void reopen(f.id)}>
                    Bring back
                  </button>
                </p>
              ) : f.verdict === 'taken' ? (
                <p className="taken">
                  <b>{f.ref}</b> {f.update ? NEWS[f.update.kind] : f.text}{' '}
                  <button type="button" onClick={() => void reopen(f.id)}>
                    Take back
                  </button>
                </p>
              ) : (
                <button type="button" className="rest" onClick={() => go(f.id)}>
                  <span className="head">
                    {f.ref && <b>{f.ref} </b>}
                    {edits[f.id]?.text ?? f.text}
                  </span>
                  {f.kind === 'action' && <span className={`meta${f.owner.length && f.due ? '' : ' soon'}`}>{f.owner.length || f.due ? [listOf(f.owner.map(name)) || 'no owner', f.due ? shortDay(f.due, today) : 'no date'].join(', ') : 'loose: no owner, no date'}</span>}
                  {f.update && (
                    <span className="meta">
                      {NEWS[f.update.kind]}
                      {f.update.kind === 'moved' && f.due ? ` to ${shortDay(f.due, today)}` : ''}
                    </span>
                  )}
                </button>
              )}
            </div>
          </>
        )}
      </article>
    );
  };

  const shownFinds = ordered.filter((f) => {
    const t = turnAt.get(edgeOf(f)) ?? 0;
    return t >= shown[0] && t < shown[1];
  });

  return (
    <>
      <div className={`sift${narrow ? ' is-narrow' : ''}`} ref={root} style={narrow ? undefined : { minHeight: height }}>
        <div className="leafcol" />
        <RecordColumn turns={turns} shown={shown} marks={marks} current={current} address={`/meetings/${meeting.id}/sift?record=${record.id}`} onFind={go} below={narrow ? (seg) => shownFinds.filter((f) => edgeOf(f) === seg).map(note) : null} />
        {!narrow && (
          <>
            <svg className="wires" aria-hidden="true">
              {joins.map((j) => (
                <g key={j.id} stroke={j.open ? 'var(--bottle)' : 'var(--rule-strong)'}>
                  <path d={j.path} fill="none" strokeWidth={j.open ? 1.5 : 1} strokeDasharray={j.passed ? '2 3' : undefined} />
                  <circle cx={j.from.x} cy={j.from.y} r={j.open ? 2 : 1} fill={j.open ? 'var(--bottle)' : 'var(--rule-strong)'} />
                  {j.dot && <circle cx={j.dot.x} cy={j.dot.y} r="3.5" fill="var(--bottle)" />}
                </g>
              ))}
            </svg>
            <section className="margin" aria-label="Finds">
              {shownFinds.map(note)}
              {finds.length === 0 && (
                <div className="nothing">
                  <p className="strong">No finds in this record</p>
                  <p className="moss">Ottik read all of it and proposes nothing. If something was missed, select the words and press H.</p>
                </div>
              )}
            </section>
            <Strip
              turns={turns}
              finds={ordered}
              current={current}
              view={view}
              onGo={(t) => {
                const turn = turns[Math.max(0, Math.min(turns.length - 1, t))];
                const near = ordered.reduce<KeptFind | null>((best, f) => (!best || Math.abs((turnAt.get(edgeOf(f)) ?? 0) - t) < Math.abs((turnAt.get(edgeOf(best)) ?? 0) - t) ? f : best), null);
                if (long && near) go(near.id);
                else if (turn) document.querySelector(`[data-seg="${turn.key}"]`)?.scrollIntoView({ block: 'center' });
              }}
            />
          </>
        )}
      </div>
      {left === 0 && finds.length > 0 && (
        <aside className="through">
          All {finds.length} finds are settled.{' '}
          <a className="do" href={`/meetings/${meeting.id}/follow-up`}>
            Write the round-up <kbd>F</kbd>
          </a>
        </aside>
      )}
      <Foot
        margin={readingWords(reading)}
        said={said ?? { head: left === 0 ? 'Sifted' : `${left} of ${finds.length} finds left`, rest: left === 0 ? 'everything is settled' : undefined }}
        keys={[
          { key: 'j', does: 'next find (or arrow down)', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'previous find (or arrow up)', line: 'Back', run: () => step(-1) },
          { key: 't', does: 'take the open find', line: 'Take', run: () => void judge('take') },
          { key: 'p', does: 'pass it', line: 'Pass', run: () => void judge('pass') },
          { key: 'e', does: 'edit the wording', run: () => find && !find.update && setField('text') },
          { key: 'o', does: 'edit the owner', line: 'Owner', run: () => find && (find.kind === 'action' || find.update) && setField('owner') },
          { key: 'd', does: 'edit the date', line: 'Date', run: () => find && (find.kind === 'action' || find.update) && setField('due') },
          { key: 'h', does: 'mark the selected words as an action', line: 'Mark', run: () => void mark('action') },
          { key: 'g', does: 'mark the selected words as a decision', run: () => void mark('decision') },
          { key: 'q', does: 'mark the selected words as an open question', run: () => void mark('question') },
          { key: 'f', does: 'go on to Follow up', run: () => location.assign(`/meetings/${meeting.id}/follow-up`) },
        ]}
      />
    </>
  );
}

/** The selected words as a place in one segment. */
function selectedPlace(): { segment: number; from: number; to: number; text: string } | null {
  const s = getSelection();
  if (!s || s.isCollapsed || s.rangeCount === 0) return null;
  const range = s.getRangeAt(0);
  const holder = (range.startContainer instanceof Element ? range.startContainer : range.startContainer.parentElement)?.closest<HTMLElement>('[data-seg]');
  if (!holder) return null;
  const before = document.createRange();
  before.setStart(holder, 0);
  before.setEnd(range.startContainer, range.startOffset);
  const from = before.toString().length;
  const whole = holder.textContent ?? '';
  const inside = holder.contains(range.endContainer) ? range.toString() : whole.slice(from);
  const text = inside.trim();
  const lead = inside.length - inside.trimStart().length;
  return text.length > 1 ? { segment: Number(holder.dataset.seg), from: from + lead, to: from + lead + text.length, text } : null;
}
