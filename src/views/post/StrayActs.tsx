import { useState } from 'react';
import type { Reply } from '../../server/letters/replies.ts';
import type { StrayChange } from '../../server/letters/strays.ts';
import type { Choice } from '../../server/people/people.ts';
import { ComboField } from '../parts/ComboField.tsx';

export type StrayField = 'about' | 'from' | 'correct' | null;

interface Props {
  reply: Reply;
  people: readonly Choice[];
  open: readonly { ref: string; text: string }[];
  field: StrayField;
  onField(field: StrayField): void;
  onChange(change: StrayChange): void;
}

/** What can be done with mail that belongs to no letter, and with an address that a letter did not reach. */
export function StrayActs({ reply, people, open, field, onField, onChange }: Props) {
  const [mail, setMail] = useState('');
  if (reply.nature === 'bounce') {
    return field === 'correct' ? (
      <form
        className="acts"
        onSubmit={(e) => {
          e.preventDefault();
          onChange({ do: 'correct', mail: mail.trim() });
        }}
      >
        <span className="typed">
          <input
            // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
            autoFocus
            type="email"
            aria-label={`New address of ${reply.from}`}
            placeholder="name@firm.example"
            value={mail}
            onChange={(e) => setMail(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && onField(null)}
          />
        </span>
        <button type="submit" className="do">
          Keep it and send again <kbd>Enter</kbd>
        </button>
      </form>
    ) : (
      <div className="acts">
        <button type="button" className="do" onClick={() => onField('correct')}>
          Correct the address <kbd>A</kbd>
        </button>
      </div>
    );
  }
  if (reply.nature === 'put away') {
    return (
      <div className="acts">
        <button type="button" className="may" onClick={() => onChange({ do: 'bring back' })}>
          Bring it back <kbd>U</kbd>
        </button>
      </div>
    );
  }
  if (reply.nature !== 'unmatched') return null;
  return (
    <div className="acts">
      {field === 'about' ? (
        <ComboField label="Which commitment it is about" placeholder="C-12, or some words of it" options={open.map((o) => ({ value: o.ref, label: o.ref, note: o.text }))} onPick={(ref) => onChange({ do: 'about', refs: [ref] })} onLeave={() => onField(null)} />
      ) : (
        <button type="button" className="do" onClick={() => onField('about')}>
          Say what it is about <kbd>A</kbd>
        </button>
      )}
      {field === 'from' ? (
        <ComboField label="Who it is from" placeholder="a name" options={people.map((p) => ({ value: p.id, label: p.name, note: p.organisation }))} onPick={(person) => onChange({ do: 'from', person })} onLeave={() => onField(null)} />
      ) : (
        <button type="button" className="may" onClick={() => onField('from')}>
          Say who it is from <kbd>O</kbd>
        </button>
      )}
      <button type="button" className="may" onClick={() => onChange({ do: 'put away' })}>
        Put it away <kbd>X</kbd>
      </button>
    </div>
  );
}
