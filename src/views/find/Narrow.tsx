import { daysBetween } from '../../core/dates/calendar.ts';
import { dayAndMonth } from '../../core/language/days.ts';
import type { Facet } from '../../server/find/facets.ts';
import type { Found } from '../../server/find/search.ts';

const KIND_NAMES: Readonly<Record<string, string>> = { said: 'said', decision: 'decisions', question: 'questions', commitment: 'commitments', minutes: 'minutes', letter: 'letters', answer: 'answers', jotting: 'jottings' };

/** What the places spread over: each part narrows the search to itself, and back. */
export function Narrow({ found, typed, order, onFilter, onOrder }: { found: Found; typed: string; order: 'best' | 'newest'; onFilter(key: string, value: string): void; onOrder(): void }) {
  const row = (name: string, key: string, facets: readonly Facet[]) =>
    facets.length > 0 && (
      <div className="fc" key={key}>
        <dt>{name}</dt>
        <dd>
          {facets.map((f) => {
            const on = typed.includes(`${key}:${/\s/.test(f.key) ? `"${f.key}"` : f.key}`);
            return (
              <button key={f.key} type="button" aria-pressed={on} className={on ? 'on' : ''} onClick={() => onFilter(key, f.key)}>
                <span>{key === 'kind' ? (KIND_NAMES[f.key] ?? f.name) : f.name}</span> <i>{f.n}</i>
              </button>
            );
          })}
        </dd>
      </div>
    );
  return (
    <aside className="narrow" aria-label="Narrow the search">
      <p className="lh">
        {found.capped ? `More than ${found.total} places` : found.total === 1 ? 'One place' : `${found.total} places`}
        <button type="button" className="set n13" onClick={onOrder}>
          {order === 'best' ? 'best first' : 'newest first'}
        </button>
      </p>
      <dl>
        {row('who', 'who', found.facets.who)}
        {row('what kind', 'kind', found.facets.kind)}
        {row('where', 'in', found.facets.in)}
        {found.facets.when.length > 1 && (
          <div className="fc">
            <dt>when</dt>
            <dd>
              <When facets={found.facets} onFilter={onFilter} />
            </dd>
          </div>
        )}
      </dl>
      {found.capped && <p className="moss n13">Only the newest of them are weighed. Add a word or a filter to look further back.</p>}
    </aside>
  );
}

/** Highest bar, in pixels. */
const HIGH = 34;

/** A bar for each week or month; each narrows the search to what was since. */
function When({ facets, onFilter }: { facets: Found['facets']; onFilter(key: string, value: string): void }) {
  const first = facets.when[0]!.from;
  const last = facets.when.at(-1)!.from;
  const span = Math.max(1, daysBetween(first, last));
  const most = Math.max(...facets.when.map((w) => w.n));
  return (
    <div className="when">
      <div className="bars">
        {facets.when.map((w) => (
          <button key={w.from} type="button" style={{ left: `${(daysBetween(first, w.from) / span) * 96}%` }} title={`${dayAndMonth(w.from)}: ${w.n}`} onClick={() => onFilter('since', w.from)}>
            <span className="vh">
              Since {dayAndMonth(w.from)}: {w.n}
            </span>
            <i style={{ height: `${Math.max(3, (w.n / most) * HIGH)}px` }} />
          </button>
        ))}
      </div>
      <p>
        <span>{dayAndMonth(first)}</span>
        <span>{dayAndMonth(last)}</span>
      </p>
    </div>
  );
}
