import type { Choice } from '../../server/people/people.ts';
import { ComboField } from '../parts/ComboField.tsx';

interface Props {
  name: string;
  people: readonly Choice[];
  /** what became of the entry: whom it was merged with, or that it was taken off */
  gone: { into: { id: string; name: string } | null } | null;
  merging: boolean;
  onMerging(merging: boolean): void;
  onMerge(into: string): void;
  onTakeOff(): void;
}

/** Putting the entry itself right: the same person as another, or nobody of this project. */
export function EntryActs({ name, people, gone, merging, onMerging, onMerge, onTakeOff }: Props) {
  return (
    <section className="band entry" aria-label="The entry">
      <p className="fl">Entry</p>
      {gone ? (
        <p className="moss">
          {gone.into ? (
            <>
              {name} is <a href={`/people/${gone.into.id}`}>{gone.into.name}</a> from now on.
            </>
          ) : (
            <>
              {name} is not in this project any more. <a href="/people">Everybody</a>
            </>
          )}
        </p>
      ) : (
        <p className="acts">
          {merging ? (
            <ComboField label="The same person as" placeholder="a name" options={people.map((p) => ({ value: p.id, label: p.name, note: [p.role, p.organisation].filter(Boolean).join(', ') }))} onPick={onMerge} onLeave={() => onMerging(false)} />
          ) : (
            <button type="button" className="may" onClick={() => onMerging(true)}>
              The same person as somebody else <kbd>M</kbd>
            </button>
          )}
          <button type="button" className="may" onClick={onTakeOff}>
            Take off the project <kbd>X</kbd>
          </button>
        </p>
      )}
    </section>
  );
}
