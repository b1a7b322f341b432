import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Segment } from '../../core/record/model.ts';
import type { SiftProps } from '../../server/pages/sift.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import { Foot } from '../parts/Foot.tsx';
import { Closing } from './Closing.tsx';
import { type Join, joinNotes } from './joins.ts';
import { KeepingLine } from './KeepingLine.tsx';
import { ModelLine } from './ModelLine.tsx';
import { marksBySegment } from './marks.ts';
import { Note } from './Note.tsx';
import { AttachMedia, Player } from './Player.tsx';
import { edgeOf, RecordColumn } from './RecordColumn.tsx';
import { ALL_SHOWN, isFaint, isShown, KINDS, type Shown, ShownLine } from './Shown.tsx';
import { type Field, Slip } from './Slip.tsx';
import { Strip } from './Strip.tsx';
import { nextOpen } from './sure.ts';
import { type Turn, turnsOf } from './turns.ts';
import { useFinds } from './use-finds.ts';
import { useSettling } from './use-settling.ts';
import { VoicePanel } from './VoicePanel.tsx';

/** Turns in the page above and below the place that is looked at, in a very long record. */
const REACH = 250;
/** So near the end of these, in pixels, the next ones are brought in. */
const NEAR_THE_END = 1600;
/** So long a scroll to a find takes at most, in milliseconds. */
const ON_THE_WAY = 900;

export type WholeRecord = SiftProps['record'] & { segments: Segment[] };

export default function SiftView(props: Omit<SiftProps, 'record'> & { record: WholeRecord }) {
  const { meeting, record, open, today, keeping } = props;
  const [current, setCurrent] = useState<number | null>(() => nextOpen([...props.finds].sort((a, b) => edgeOf(a) - edgeOf(b) || a.id - b.id))?.id ?? null);
  const [field, setField] = useState<Field>(null);
  const [merging, setMerging] = useState<number | null>(null);
  const [shown, setShown] = useState<Shown>(ALL_SHOWN);
  const [joins, setJoins] = useState<Join[]>([]);
  const [narrow, setNarrow] = useState(false);
  const [view, setView] = useState<[number, number]>([0, 0.1]);
  const [height, setHeight] = useState(600);
  const root = useRef<HTMLDivElement>(null);
  /** the line that is read while other turns come into the page: it stays where it stands */
  const held = useRef<{ seg: string; top: number } | null>(null);
  const player = useRef<HTMLMediaElement>(null);
  const [media, setMedia] = useState(record.media);
  const [played, setPlayed] = useState<number | null>(null);
  const [asked, setAsked] = useState<Turn | null>(null);

  // scrolling moves what is in the page of a long record along; going to a find goes there
  const [scrolledTo, setScrolledTo] = useState<number | null>(null);
  /** until when the page is on its way to a find, and is not moved along by where it passes */
  const goingUntil = useRef(0);

  const go = useCallback((id: number | null) => {
    setField(null);
    setScrolledTo(null);
    goingUntil.current = performance.now() + ON_THE_WAY;
    setCurrent(id);
    if (id === null) return;
    requestAnimationFrame(() => document.querySelector(`[data-finds~="${id}"]`)?.scrollIntoView({ block: 'center', behavior: matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth' }));
  }, []);
  const { finds, ordered, find, people, edits, edit, busy, said, made, reading, model, judge, reopen, takeSure, reshape, split, call, mark, undo, redo, say } = useFinds(props, go, current);
  useSettling(finds);
  const offered = ordered.filter((f) => isShown(f, shown) || f.id === current);

  const turns = useMemo(() => turnsOf(record.segments, record.captions), [record]);
  const marks = useMemo(() => marksBySegment(finds, record.id), [finds, record.id]);
  const turnAt = useMemo(() => {
    const at = new Map<number, number>();
    turns.forEach((t, i) => {
      for (const s of t.segments) at.set(s.index, i);
    });
    return at;
  }, [turns]);
  const play = useCallback((seconds: number) => {
    if (!player.current) return;
    player.current.currentTime = seconds;
    void player.current.play();
  }, []);
  const long = turns.length > REACH * 3;
  const middle = long ? (scrolledTo ?? (find ? (turnAt.get(edgeOf(find)) ?? 0) : 0)) : 0;
  const part: [number, number] = long ? [Math.max(0, middle - REACH), Math.min(turns.length, middle + REACH)] : [0, turns.length];
  const left = finds.filter((f) => f.verdict === 'open').length;

  const step = (by: 1 | -1) => {
    // what is sure comes first, and what stands as a faint mark after it
    const open = offered.filter((f) => f.verdict === 'open' || f.id === current);
    const waiting = [...open.filter((f) => !isFaint(f, shown)), ...open.filter((f) => isFaint(f, shown))];
    const at = waiting.findIndex((f) => f.id === current);
    const target = waiting[at < 0 ? 0 : Math.max(0, Math.min(waiting.length - 1, at + by))];
    if (target) go(target.id);
  };

  /** Through all finds that are shown, settled or not. */
  const walk = (by: 1 | -1) => {
    const at = offered.findIndex((f) => f.id === current);
    const target = offered[at < 0 ? 0 : Math.max(0, Math.min(offered.length - 1, at + by))];
    if (target) go(target.id);
  };

  const turnInto = () => {
    if (find?.verdict !== 'open') return;
    if (find.update) void reshape(find.id, { do: 'about', open: null }, 'Now an action of its own');
    else {
      const order = ['action', 'decision', 'question'] as const;
      const kind = order[(order.indexOf(find.kind as 'action') + 1) % 3]!;
      void reshape(find.id, { do: 'kind', kind }, `Now ${kind === 'action' ? 'an' : 'a'} ${kind}`);
    }
  };
  const merge = () => {
    if (merging === null) return setMerging(find?.verdict === 'open' ? find.id : null);
    setMerging(null);
    if (find && find.id !== merging) void reshape(merging, { do: 'merge', with: find.id }, 'Merged');
  };
  const merged = finds.find((f) => f.id === merging) ?? null;

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
  useLayoutEffect(layout, [layout, finds, current, field, edits, narrow, shown, asked, media, part[0], part[1]]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: when other turns are in the page
  useLayoutEffect(() => {
    const line = held.current;
    held.current = null;
    const now = line && root.current?.querySelector(`[data-seg="${line.seg}"]`)?.getBoundingClientRect().top;
    if (typeof now === 'number') scrollBy({ top: now - line!.top, behavior: 'instant' });
  }, [part[0], part[1]]);
  useEffect(() => {
    const watch = () => {
      layout();
      const el = root.current;
      if (!el) return;
      const rec = el.querySelector('.rec')!.getBoundingClientRect();
      const share = (y: number) => Math.max(0, Math.min(1, (y - rec.top) / Math.max(1, rec.height)));
      const of = (p: number) => (part[0] + p * (part[1] - part[0])) / Math.max(1, turns.length);
      setView([of(share(48)), of(share(innerHeight - 36))]);
      if (!long || performance.now() < goingUntil.current) return;
      const at = (part[0] + part[1]) / 2;
      const to = rec.bottom - innerHeight < NEAR_THE_END && part[1] < turns.length ? at + REACH / 2 : rec.top > -NEAR_THE_END && part[0] > 0 ? Math.max(0, at - REACH / 2) : null;
      if (to === null || held.current) return;
      const there = [...el.querySelectorAll<HTMLElement>('.turn [data-seg]')].find((x) => x.getBoundingClientRect().bottom > 60);
      if (there) held.current = { seg: there.dataset.seg!, top: there.getBoundingClientRect().top };
      setScrolledTo(Math.round(to));
    };
    watch();
    void document.fonts.ready.then(layout);
    addEventListener('resize', watch);
    addEventListener('scroll', watch, { passive: true });
    return () => {
      removeEventListener('resize', watch);
      removeEventListener('scroll', watch);
    };
  }, [layout, long, part[0], part[1], turns.length]);
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
      return;
    }
    // a long record opens where its first find is, not where its talk begins
    requestAnimationFrame(() => {
      const first = find && document.querySelector(`[data-finds~="${find.id}"]`);
      if (first && first.getBoundingClientRect().bottom > innerHeight - 60) first.scrollIntoView({ block: 'center' });
    });
  }, []);

  const ask = useCallback((turn: Turn) => setAsked((before) => (before?.key === turn.key ? null : turn)), []);
  const voicePanel = (turn: Turn) => {
    const segment = turn.segments[0]!;
    const label = record.under[segment.index] ?? turn.voice ?? '';
    return <VoicePanel key={turn.key} record={record.id} label={label} segment={segment.index} last={turn.segments.at(-1)!.index} person={record.voices.find((v) => v.label === label)?.person ?? null} people={people} onLeave={() => setAsked(null)} />;
  };

  const note = (f: KeptFind) => {
    const join = joins.find((j) => j.id === f.id);
    const slip = f.id === current && f.verdict === 'open' && (
      <Slip
        key={f.id}
        find={f}
        edits={edits[f.id] ?? {}}
        people={people}
        open={open.find((o) => String(o.id) === f.update?.open)}
        others={open}
        onAbout={(to) => {
          setField(null);
          void reshape(f.id, { do: 'about', open: to }, to === null ? 'Now an action of its own' : 'Now news of an open one');
        }}
        nextRef={f.kind === 'action' ? `C-${made.action}` : f.kind === 'decision' ? `D-${made.decision}` : `Q-${made.question}`}
        meeting={meeting}
        today={today}
        field={field}
        busy={busy}
        onField={setField}
        onEdit={(e) => edit(f.id, e)}
        onTake={() => void judge('take')}
        onPass={() => void judge('pass')}
        onCall={(right) => void call(f, right)}
      />
    );
    return (
      <Note
        key={f.id}
        find={f}
        looked={f.id === current}
        edits={edits[f.id]}
        at={narrow ? null : { top: join?.top ?? 0, visible: join !== undefined }}
        slip={slip || null}
        typing={field !== null}
        faint={f.id !== current && isFaint(f, shown)}
        today={today}
        name={(id) => people.find((p) => p.id === id)?.name ?? id}
        onGo={() => go(f.id)}
        onReopen={() => void reopen(f.id)}
      />
    );
  };

  const shownFinds = offered.filter((f) => {
    const t = turnAt.get(edgeOf(f)) ?? 0;
    return t >= part[0] && t < part[1];
  });

  return (
    <>
      <ShownLine finds={finds} shown={shown} onChange={setShown} />
      {model.model && <ModelLine model={model.model} running={model.running} onTurn={model.turn} onAct={(body) => void model.act(body)} />}
      <div className={`sift${narrow ? ' is-narrow' : ''}`} ref={root} style={narrow ? undefined : { minHeight: height }}>
        <div className="leafcol" />
        <RecordColumn
          turns={turns}
          shown={part}
          marks={marks}
          current={current}
          address={`/meetings/${meeting.id}/sift?record=${record.id}`}
          onFind={go}
          below={narrow ? (seg) => shownFinds.filter((f) => edgeOf(f) === seg).map(note) : null}
          head={media && <Player record={record.id} media={media} lines={turns} player={player} onLine={setPlayed} onGone={() => setMedia(null)} />}
          foot={
            <>
              <KeepingLine keeping={keeping} today={today} />
              {!media && !keeping.goneOn && (
                <div className="keeping">
                  <AttachMedia record={record.id} onMedia={setMedia} say={say} />
                </div>
              )}
            </>
          }
          asked={asked && { turn: asked.key, panel: voicePanel(asked) }}
          onVoice={ask}
          played={played}
          onPlay={media ? play : null}
        />
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
      {left === 0 && finds.length > 0 && <Closing meeting={meeting} finds={finds.length} people={people} today={today} say={say} />}
      <Foot
        margin={reading}
        said={merged ? { head: `Merge “${merged.text}”`, rest: 'with which? J and K choose, M merges, Esc leaves' } : (said ?? { head: left === 0 ? 'Sifted' : `${left} of ${finds.length} finds left`, rest: left === 0 ? 'everything is settled' : undefined })}
        keys={[
          { key: 'j', does: 'next find (or arrow down)', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'previous find (or arrow up)', line: 'Back', run: () => step(-1) },
          { key: 't', does: 'take the open find', line: 'Take', run: () => void judge('take') },
          { key: 'p', does: 'pass it', line: 'Pass', run: () => void judge('pass') },
          { key: 'e', does: 'edit the wording', run: () => find && !find.update && setField('text') },
          { key: 'o', does: 'edit the owner', line: 'Owner', run: () => find && (find.kind === 'action' || find.update) && setField('owner') },
          { key: 'd', does: 'edit the date', line: 'Date', run: () => find && (find.kind === 'action' || find.update) && setField('due') },
          { key: 'h', does: 'mark the selected words as an action', line: 'Mark', run: () => void mark('action', selectedPlace()) },
          { key: 'g', does: 'mark the selected words as a decision', run: () => void mark('decision', selectedPlace()) },
          { key: 'q', does: 'mark the selected words as an open question', run: () => void mark('question', selectedPlace()) },
          { key: 'a', does: 'take everything that is sure and has owner and date', line: 'Take sure', run: () => void takeSure() },
          { key: 'c', does: 'turn it into an action, a decision, a question', run: turnInto },
          { key: 'w', does: 'say which commitment it is news of, or that it is none', run: () => find?.verdict === 'open' && find.kind !== 'decision' && find.kind !== 'question' && setField('about') },
          { key: 'n', does: 'say what happened to the commitment', run: () => find?.verdict === 'open' && find.update && setField('news') },
          { key: ']', does: 'next find, settled ones too', run: () => walk(1) },
          { key: '[', does: 'previous find, settled ones too', run: () => walk(-1) },
          { key: 'u', does: 'take back what was done with this find', run: () => find && find.verdict !== 'open' && void reopen(find.id) },
          { key: 'm', does: 'merge it with another find', line: 'Merge', run: merge },
          { key: 's', does: 'split the selected words off as a find of their own', run: () => void split(selectedPlace()) },
          { key: '+', does: 'say that the find is right', run: () => find && void call(find, true) },
          { key: '-', does: 'say that it is wrong', run: () => find && void call(find, false) },
          { key: 'z', does: 'undo the last change, and the ones before it', run: () => void undo() },
          { key: 'y', does: 'do again what was undone', run: () => void redo() },
          ...(media ? [{ key: ' ', does: 'play the recording, or stop it', run: () => void (player.current?.paused ? player.current.play() : player.current?.pause()) }] : []),
          {
            key: 'Escape',
            does: 'leave what is being changed, merging, or asking who speaks',
            run: () => {
              setField(null);
              setMerging(null);
              setAsked(null);
            },
          },
          { key: 'x', does: 'show what is doubtful in full, or as faint marks', run: () => setShown((x) => ({ ...x, doubtful: !x.doubtful })) },
          { key: 'v', does: 'show only what is left, or everything', run: () => setShown((x) => ({ ...x, leftOnly: !x.leftOnly })) },
          ...KINDS.map((k, i) => ({ key: String(i + 1), does: `show or hide ${k}s`, run: () => setShown((x) => ({ ...x, hidden: x.hidden.includes(k) ? x.hidden.filter((h) => h !== k) : [...x.hidden, k] })) })),
          ...(model.model && !model.model.private ? [{ key: 'r', does: model.running ? 'stop the model reader' : 'have the model reader read this record', run: model.turn }] : []),
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
