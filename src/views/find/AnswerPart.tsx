import { useLayoutEffect, useRef, useState } from 'react';
import { clock, shortDay } from '../../core/language/days.ts';
import type { Worded } from '../../server/find/worded.ts';
import type { Answered } from '../../server/pages/find.ts';

/** An answer: its lines on the leaf, the words each rests on beside, and a thread from one to the other. */
export function AnswerPart({ answered, worded, today }: { answered: Answered; worded: Worded | null; today: string }) {
  const answer = worded ? { ...answered.answer, lines: worded.lines } : answered.answer;
  const box = useRef<HTMLElement>(null);
  const paths = useThreads(box, worded ?? answered);
  return (
    <section className="answer" ref={box} aria-label="Answer">
      <svg className="wires" aria-hidden="true">
        {paths.map((d) => (
          <path key={d} d={d} fill="none" stroke="var(--rule-strong)" />
        ))}
      </svg>
      <div className="in">
        <p className="fl strong">
          Answer
          {answer.sources.length > 0 && <span>from {answer.sources.length === 1 ? 'one place' : `${answer.sources.length} places`}</span>}
        </p>
        {answer.lines.map((l, i) =>
          l.head ? (
            <h3 key={l.text}>{l.text}</h3>
          ) : (
            <p key={`${l.text}${i}`} className="line">
              <span data-line={l.sources.join(' ')}>
                {l.ref ? linked(l.text, l.ref) : l.text}
                {l.sources.map((s) => (
                  <a key={s} className="no" href={answer.sources[s]?.href} aria-label={`Source ${s + 1}`}>
                    {s + 1}
                  </a>
                ))}
              </span>
            </p>
          ),
        )}
        {worded && (
          <p className="not">
            Worded by {worded.standIn ? 'the stand-in for a model' : worded.model} at {worded.host}; each sentence is held against its sources
            {worded.dropped > 0 && `, ${worded.dropped} ${worded.dropped === 1 ? 'was' : 'were'} left out`}
          </p>
        )}
        {answer.missing && <p className={answer.lines.length ? 'not' : 'not alone'}>{answer.missing}</p>}
      </div>
      <ol className="sources">
        {answer.sources.map((s, i) => (
          <li key={`${s.href}${s.words}`} data-source={i}>
            <span className="no">{i + 1}</span>
            <div>
              {s.words && <p className="said">{s.words}</p>}
              <p className="w">
                {[s.who, shortDay(s.on, today), s.where].filter(Boolean).join(', ')}, <a href={s.href}>{s.at === null ? 'open' : clock(s.at)}</a>
              </p>
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The line with its reference as a link. */
function linked(text: string, ref: { ref: string; href: string }) {
  const at = text.indexOf(ref.ref);
  // a decision’s line begins with its day: the reference follows it
  if (at < 0)
    return (
      <>
        {text}{' '}
        <a className="ref" href={ref.href}>
          {ref.ref}
        </a>
      </>
    );
  return (
    <>
      {text.slice(0, at)}
      <a className="ref" href={ref.href}>
        {ref.ref}
      </a>
      {text.slice(at + ref.ref.length)}
    </>
  );
}

/** Under this width the sources stand below their lines, and numbers are enough. */
const SIDE_BY_SIDE = 1180;
const MOST = 6;

/** Threads from the end of each line to its first source, in lanes of their own so that none lies on another. */
function useThreads(box: React.RefObject<HTMLElement | null>, answered: Answered | Worded): string[] {
  const [paths, setPaths] = useState<string[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer stands elsewhere
  useLayoutEffect(() => {
    const draw = () => {
      const root = box.current;
      if (!root || innerWidth < SIDE_BY_SIDE) return setPaths([]);
      const o = root.getBoundingClientRect();
      const ends = [...root.querySelectorAll<HTMLElement>('[data-line]')].flatMap((line) => {
        const first = line.dataset.line?.split(' ')[0];
        const source = first ? root.querySelector(`[data-source="${first}"]`) : null;
        const last = [...line.getClientRects()].at(-1);
        if (!source || !last) return [];
        const to = source.getBoundingClientRect();
        return [{ x: Math.round(last.right - o.left + 6), y: Math.round((last.top + last.bottom) / 2 - o.top) + 0.5, tx: Math.round(to.left - o.left - 4), ty: Math.round(to.top - o.top + 15) + 0.5 }];
      });
      if (ends.length > MOST) return setPaths([]);
      const down = ends.filter((e) => e.ty > e.y).length;
      let [d, u] = [0, 0];
      setPaths(
        ends.map((e) => {
          const lane = e.tx - 14 - (e.ty > e.y ? (down - 1 - d++) * 5 : u++ * 5);
          const r = Math.min(6, Math.abs(e.ty - e.y) / 2);
          const s = Math.sign(e.ty - e.y);
          return s === 0 ? `M${e.x} ${e.y}H${e.tx}` : `M${e.x} ${e.y}H${lane - r}q${r} 0 ${r} ${s * r}V${e.ty - s * r}q0 ${s * r} ${r} ${s * r}H${e.tx}`;
        }),
      );
    };
    draw();
    void document.fonts.ready.then(draw);
    addEventListener('resize', draw);
    return () => removeEventListener('resize', draw);
  }, [answered]);
  return paths;
}
