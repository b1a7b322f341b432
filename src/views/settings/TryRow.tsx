import type { ReactNode } from 'react';

interface Props {
  told: { words: string; bad: boolean } | null;
  busy: boolean;
  /** whether there is enough typed in to try */
  can: boolean;
  /** what trying does, where that needs saying */
  words?: string;
  /** what else can be done in the form */
  children?: ReactNode;
  onTry(): void;
  onLeave(): void;
}

/** The foot of a form that can be tried before it is kept: keep it, try it, leave it, and what the trying said. */
export function TryRow({ told, busy, can, words = 'Try it', children, onTry, onLeave }: Props) {
  return (
    <p className="acts">
      <button type="submit" className="do" disabled={busy}>
        Save <kbd>Enter</kbd>
      </button>
      <button type="button" className="may" disabled={busy || !can} onClick={onTry}>
        {words}
      </button>
      {children}
      <button type="button" className="may" onClick={onLeave}>
        Leave it <kbd>Esc</kbd>
      </button>
      <span className={told?.bad ? 'told bad' : 'told ok'} role="status">
        {busy ? 'Trying …' : told?.words}
      </span>
    </p>
  );
}
