import type { SavedView } from '../../server/ledger/views.ts';

/** The address of a saved view; whoever opens it sees the same lines, grouped and in columns as they were saved. */
export function viewAddress(v: SavedView): string {
  return `/ledger?${new URLSearchParams({ text: v.query, by: v.grouping, ...(v.columns ? { columns: v.columns.join(' ') } : {}) })}`;
}

/** The ways of looking at the Ledger that were saved, by name. */
export function SavedViews({ views, onOpen, onDrop }: { views: readonly SavedView[]; onOpen(view: SavedView): void; onDrop(view: SavedView): void }) {
  return (
    <span className="sentence saved">
      Saved:{' '}
      {views.map((v) => (
        <span key={v.id}>
          <a
            className="set"
            href={viewAddress(v)}
            onClick={(e) => {
              e.preventDefault();
              onOpen(v);
            }}
          >
            {v.name}
          </a>{' '}
          <button type="button" className="moss" aria-label={`Drop the view ${v.name}`} onClick={() => onDrop(v)}>
            ×
          </button>{' '}
        </span>
      ))}
    </span>
  );
}

/** The name a view is saved under. */
export function ViewName({ onSave, onLeave }: { onSave(name: string): void; onLeave(): void }) {
  return (
    <label className="sentence">
      Save this view as{' '}
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        maxLength={60}
        onKeyDown={(e) => {
          if (e.key === 'Enter') onSave((e.target as HTMLInputElement).value);
          if (e.key === 'Escape') onLeave();
        }}
        onBlur={onLeave}
      />
    </label>
  );
}
