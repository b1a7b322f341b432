import { Fragment, memo, type ReactNode } from 'react';
import { clock } from '../../core/language/days.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import { type marksBySegment, type Run, runsOf } from './marks.ts';
import type { Turn } from './turns.ts';

/** The segment a find stands beside: the one that states it, or its first. */
export function edgeOf(f: KeptFind): number {
  return (f.evidence.find((e) => e.role === 'states') ?? f.evidence[0])?.segment ?? 0;
}

interface Props {
  turns: readonly Turn[];
  shown: [number, number];
  marks: ReturnType<typeof marksBySegment>;
  current: number | null;
  address: string;
  onFind(id: number): void;
  /** on a narrow page: the notes that stand below a segment */
  below: ((segment: number) => ReactNode[]) | null;
  /** what stands above the record, and at its foot */
  head: ReactNode;
  foot: ReactNode;
  /** the turn whose speaker is asked about, and what stands there for it */
  asked: { turn: number; panel: ReactNode } | null;
  onVoice(turn: Turn): void;
  /** the turn that is being played */
  played: number | null;
  /** plays from a moment, where there is a recording */
  onPlay: ((seconds: number) => void) | null;
}

/** The record, set to be read, with what was read from it underlined. */
export function RecordColumn({ turns, shown, marks, current, address, onFind, below, head, foot, asked, onVoice, played, onPlay }: Props) {
  return (
    <section className="rec" aria-label="Record">
      {head}
      {shown[0] > 0 && <p className="folded">{shown[0]} turns before this</p>}
      {turns.slice(shown[0], shown[1]).map((t) => {
        const touched = t.segments.some((s) => (marks.get(s.index) ?? []).some((m) => m.find.id === current));
        const notes = below ? t.segments.flatMap((s) => below(s.index)) : [];
        return (
          <Fragment key={t.key}>
            <TurnRow turn={t} marks={t.segments.map((s) => marks.get(s.index) ?? NONE)} current={touched ? current : null} address={address} onFind={onFind} onVoice={onVoice} played={played === t.key} onPlay={onPlay} />
            {asked?.turn === t.key && asked.panel}
            {notes}
          </Fragment>
        );
      })}
      {shown[1] < turns.length && <p className="folded">{turns.length - shown[1]} turns after this</p>}
      {foot}
    </section>
  );
}

const NONE: never[] = [];
type Marks = NonNullable<ReturnType<ReturnType<typeof marksBySegment>['get']>>;

const TurnRow = memo(
  function TurnRow({ turn, marks, current, address, onFind, onVoice, played, onPlay }: { turn: Turn; marks: Marks[]; current: number | null; address: string; onFind(id: number): void; onVoice(turn: Turn): void; played: boolean; onPlay: Props['onPlay'] }) {
    if (turn.role === 'heading') {
      return (
        <h2 className="topic" data-seg={turn.segments[0]!.index}>
          {turn.segments[0]!.text}
        </h2>
      );
    }
    return (
      <div className={`turn${current !== null ? ' now' : ''}${played ? ' is-played' : ''}${turn.role === 'meta' || turn.role === 'mark' ? ' is-meta' : ''}`} style={turn.item ? ({ '--depth': turn.item.depth + 1 } as React.CSSProperties) : undefined}>
        <p className="who">
          {turn.voice && (
            <b>
              <button type="button" title={`${turn.voice}: who is this?`} onClick={() => onVoice(turn)}>
                {turn.voice}
              </button>
            </b>
          )}
          {turn.start !== null && (
            <a
              href={`${address}#s${turn.segments[0]!.index}`}
              title={onPlay ? 'Play from here; the address is a link to this moment' : 'Link to this moment'}
              onClick={(e) => {
                if (!onPlay) return;
                e.preventDefault();
                history.replaceState(null, '', e.currentTarget.href);
                onPlay(turn.start!);
              }}
            >
              {clock(turn.start)}
            </a>
          )}
        </p>
        <p className={`words said${turn.item ? ' is-item' : ''}${turn.item?.struck ? ' is-struck' : ''}`}>
          {turn.item && (
            <span className="bullet" aria-hidden="true">
              {turn.item.box === 'open' ? '☐' : turn.item.box === 'done' ? '☑' : turn.item.cells ? '' : '–'}
            </span>
          )}
          {turn.segments.map((s, i) => (
            <Fragment key={s.index}>
              {i > 0 && ' '}
              <span data-seg={s.index}>
                {runsOf(s.text, marks[i]!, current).map((r) => {
                  const anchors = r.ends.filter((id) => edgeHere(marks[i]!, id, s.index));
                  return r.find === null ? <Fragment key={r.from}>{r.text}</Fragment> : <RunSpan key={r.from} run={r} anchors={anchors} onFind={onFind} />;
                })}
              </span>
            </Fragment>
          ))}
        </p>
      </div>
    );
  },
  (a, b) => a.turn === b.turn && a.current === b.current && a.played === b.played && a.onPlay === b.onPlay && a.marks.every((m, i) => m === b.marks[i]),
);

/** Whether this segment is where the find's note stands, so that its line begins here. */
function edgeHere(marks: Marks, find: number, segment: number): boolean {
  const m = marks.find((x) => x.find.id === find);
  return !!m && edgeOf(m.find) === segment;
}

function RunSpan({ run, anchors, onFind }: { run: Run; anchors: number[]; onFind(id: number): void }) {
  const cls = ['find', run.verdict === 'passed' ? 'fk-passed' : `fk-${run.kind}`, run.current ? 'cur' : '', run.what === 'when' ? 'r-when' : run.what === 'who' ? 'r-who' : run.what === 'assent' ? 'r-yes' : '', run.verdict === 'taken' ? 'is-settled' : ''].filter(Boolean).join(' ');
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the words of the record stay words
    <span className={cls} {...(anchors.length ? { 'data-finds': anchors.join(' ') } : {})} onClick={() => run.verdict === 'open' && onFind(run.find!)}>
      {run.text}
    </span>
  );
}
