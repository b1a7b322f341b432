import { clock, shortDay } from '../../core/language/days.ts';
import type { Hit } from '../../server/find/hits.ts';
import type { Group } from '../../server/find/search.ts';
import { KindShape } from '../parts/Shapes.tsx';

const KINDS = { commitment: 'action', decision: 'decision', question: 'question' } as const;

/** Places by the meeting or letter they stand in. */
export function Places({ groups, today, at, onAt, onUnfold }: { groups: readonly Group[]; today: string; at: number; onAt(place: number): void; onUnfold(key: string): void }) {
  let n = -1;
  return (
    <div className="places">
      {groups.map((g) => (
        <section key={g.key} className="grp" aria-label={g.title}>
          <header>
            <p className="fl">{shortDay(g.on, today)}</p>
            <h2>{g.title}</h2>
            <span className="moss n13">{g.hits.length + g.more === 1 ? '' : `${g.hits.length + g.more} places`}</span>
          </header>
          {g.hits.map((h) => {
            n++;
            const place = n;
            return <Place key={h.id} hit={h} current={place === at} onAt={() => onAt(place)} />;
          })}
          {g.more > 0 && (
            <p className="more">
              <button type="button" className="may" onClick={() => onUnfold(g.key)}>
                Show {g.more} more
              </button>
            </p>
          )}
        </section>
      ))}
    </div>
  );
}

function Place({ hit, current, onAt }: { hit: Hit; current: boolean; onAt(): void }) {
  const kind = KINDS[hit.kind as keyof typeof KINDS];
  return (
    <a className={`hit${current ? ' on' : ''}`} href={hit.href} data-place={current ? 'on' : undefined} onFocus={onAt}>
      <span className="who">
        {hit.start !== null && <span>{clock(hit.start)}</span>}
        <b>{hit.ref ?? hit.who?.name ?? ''}</b>
      </span>
      <span className={kind ? 'ws own' : 'ws said'}>
        {kind && <KindShape kind={kind} />}
        {hit.kind === 'minutes' && <span className="tag">minutes</span>}
        {hit.pieces.map((p, i) => (p.hit ? <mark key={`${i}${p.text}`}>{p.text}</mark> : <span key={`${i}${p.text.length}`}>{p.text}</span>))}
      </span>
    </a>
  );
}
