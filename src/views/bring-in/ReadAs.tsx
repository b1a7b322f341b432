import { useState } from 'react';

/** How the lines of a plain text are laid out: told by their look, and put right here where that was wrong. */
export function ReadAs({ layouts, layout, onLayout }: { layouts: readonly string[]; layout: string; onLayout(layout: string): void }) {
  const own = !layouts.includes(layout);
  const [typed, setTyped] = useState(own ? layout : '');
  const [typing, setTyping] = useState(own);
  return (
    <>
      <p className="fact field">
        <select
          aria-label="Layout of a line"
          value={typing ? 'own' : layout}
          onChange={(e) => {
            setTyping(e.target.value === 'own');
            if (e.target.value !== 'own') onLayout(e.target.value);
          }}
        >
          {layouts.map((l) => (
            <option key={l} value={l}>
              {l}
            </option>
          ))}
          <option value="own">written down by hand</option>
        </select>
      </p>
      {typing && (
        <p className="fact field">
          <input
            aria-label="A line with NAME, TIME and WORDS in their places"
            value={typed}
            maxLength={200}
            placeholder="[TIME] NAME | WORDS"
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' || typed.trim() === '') return;
              e.preventDefault();
              e.stopPropagation();
              onLayout(typed.trim());
            }}
          />
          <span className="moss">NAME, TIME and WORDS stand for the parts; then Enter</span>
        </p>
      )}
    </>
  );
}
