import { listOf, shortDay } from '../../core/language/days.ts';
import type { FirstFind } from '../../server/records/first-look.ts';

const NAMES = { action: 'action', decision: 'decision', question: 'question', update: 'update' } as const;
const SHOWN = 7;

/** What Sift finds in a record while the questions about it are answered; nothing of it is kept. */
export function FirstFinds({ finds, today }: { finds: FirstFind[] | null; today: string }) {
  const count = (kind: FirstFind['kind']) => finds?.filter((f) => f.kind === kind).length ?? 0;
  const counts = (['action', 'decision', 'question', 'update'] as const).filter((k) => count(k) > 0).map((k) => `${count(k)} ${NAMES[k]}${count(k) > 1 ? 's' : ''}`);
  return (
    <section aria-label="First finds" className="first-finds">
      <h2 className="lh">
        First finds<span role="status">{finds === null ? 'Sift is reading' : counts.join(', ') || 'nothing found'}</span>
      </h2>
      {finds?.slice(0, SHOWN).map((f, i) => (
        <p className="fact" key={`${i}${f.text}`}>
          <span className="moss">{NAMES[f.kind]}</span>
          <span className="w">{f.text}</span>
          <span className="moss">{[listOf(f.owner), f.due ? `by ${shortDay(f.due, today)}` : ''].filter(Boolean).join(', ')}</span>
        </p>
      ))}
      {(finds?.length ?? 0) > SHOWN && <p className="moss n13">and {finds!.length - SHOWN} more, once it is kept</p>}
    </section>
  );
}
