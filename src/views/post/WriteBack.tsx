import { useEffect, useRef, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { Reply } from '../../server/letters/replies.ts';
import { get } from '../parts/api.ts';

interface Props {
  reply: Reply;
  today: string;
  open: boolean;
  /** what was begun before, kept while the page stands */
  begun: string | undefined;
  busy: boolean;
  onBegun(text: string): void;
  onOpen(open: boolean): void;
  onSend(text: string): void;
  onWrong(error: unknown): void;
}

/** Whether a person would read an answer to it. */
export const canBeAnswered = (r: Reply) => r.nature === 'answer' || r.nature === 'unmatched' || r.nature === 'away';

/** What was written back to something that came back, and the field to write more. Leaving the field keeps what is in it. */
export function WriteBack({ reply, today, open, begun, busy, onBegun, onOpen, onSend, onWrong }: Props) {
  const area = useRef<HTMLTextAreaElement>(null);
  const [frame, setFrame] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the greeting is asked for once, when the field opens
  useEffect(() => {
    if (!open || begun !== undefined) return;
    get<{ text: string }>(`/api/replies/${reply.id}`).then((f) => {
      setFrame(f.text);
      onBegun(f.text);
    }, onWrong);
  }, [open]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the cursor is set once, when the field opens, and not at each letter
  useEffect(() => {
    const field = area.current;
    if (!open || !field || begun === undefined) return;
    field.focus();
    // the cursor stands where the words go: on the empty line after the greeting
    const at = begun.indexOf('\n\n\n') + 2;
    if (at > 1) field.setSelectionRange(at, at);
  }, [open, begun === undefined]);
  if (!canBeAnswered(reply)) return null;
  const empty = !begun?.trim() || begun === frame;
  return (
    <>
      {reply.answeredBy.map((a) => (
        <blockquote key={a.letter} className="back-of">
          <p className="fl">
            you wrote back
            <span>{a.on === today ? 'today' : shortDay(a.on, today)}</span>
          </p>
          <a href={`/post/letters/${a.letter}`}>{a.text}</a>
        </blockquote>
      ))}
      {open && begun !== undefined ? (
        <form
          className="write-back"
          onSubmit={(e) => {
            e.preventDefault();
            if (!empty && !busy) onSend(begun.trim());
          }}
        >
          <textarea
            ref={area}
            className="said"
            aria-label={`Answer to ${reply.from}`}
            rows={Math.min(18, Math.max(8, begun.split('\n').length + 1))}
            value={begun}
            maxLength={20_000}
            onChange={(e) => onBegun(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') {
                e.stopPropagation();
                onOpen(false);
              }
              if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) e.currentTarget.form?.requestSubmit();
            }}
          />
          <div className="acts">
            <button type="submit" className="do" disabled={empty || busy}>
              Send it <kbd>Ctrl Enter</kbd>
            </button>
            <button type="button" className="may" onClick={() => onOpen(false)}>
              Leave it <kbd>Esc</kbd>
            </button>
          </div>
        </form>
      ) : (
        <div className="acts">
          <button type="button" className={reply.answers.some((a) => a.kind === 'question' && a.verdict === 'open') ? 'do' : 'may'} onClick={() => onOpen(true)}>
            {begun && !empty ? 'Go on writing back' : 'Write back'} <kbd>W</kbd>
          </button>
        </div>
      )}
    </>
  );
}
