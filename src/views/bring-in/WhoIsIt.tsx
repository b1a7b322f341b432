import { useState } from 'react';
import type { Choice } from '../../server/people/people.ts';
import type { Preview } from '../../server/records/preview.ts';
import type { Answers } from './use-bring-in.ts';

/** A name in the record that may be somebody. */
export interface Unknown {
  of: 'voices' | 'named';
  label: string;
  /** turns it speaks, or lines that name it */
  times: number;
}

/** Who speaks and who is named in a record: one current name, with a key each for new, known and left. */
export function useWhoIsIt(preview: Preview | null, answers: Answers, say: (some: Partial<Answers>) => void) {
  const rows: Unknown[] = preview ? [...preview.voices.map((v) => ({ of: 'voices' as const, label: v.label, times: v.turns })), ...preview.named.map((n) => ({ of: 'named' as const, label: n.name, times: n.times }))] : [];
  const [at, setAt] = useState<string | null>(null);
  const saidOf = (r: Unknown) => answers[r.of][r.label] ?? '';
  const asked = rows.filter((r) => saidOf(r) === '');
  const current = rows.find((r) => key(r) === at) ?? asked[0] ?? null;
  const put = (r: Unknown, value: string) => say({ [r.of]: { ...answers[r.of], [r.label]: value } });
  const settle = (value: (r: Unknown) => string) => {
    if (!current) return;
    put(current, value(current));
    const next = [...rows.slice(rows.indexOf(current) + 1), ...rows].find((r) => r !== current && saidOf(r) === '');
    setAt(next ? key(next) : key(current));
  };
  const step = (by: 1 | -1) => {
    const i = current ? rows.indexOf(current) : -1;
    const next = rows[Math.max(0, Math.min(rows.length - 1, i + by))];
    setAt(next ? key(next) : null);
  };
  return {
    rows,
    asked,
    current,
    saidOf,
    put,
    choose: (r: Unknown) => setAt(key(r)),
    keys: rows.length
      ? [
          { key: 'j', does: 'next name', run: () => step(1) },
          { key: 'k', does: 'the name before', run: () => step(-1) },
          { key: 'n', does: 'a new person', line: 'New person', run: () => settle((r) => `new:${r.label}`) },
          { key: 'w', does: 'say who it is', line: 'Who it is', run: () => current && document.querySelector<HTMLSelectElement>(`[data-who="${CSS.escape(key(current))}"]`)?.focus() },
          { key: 'x', does: 'leave the name: nobody to keep', line: 'Leave it out', run: () => settle(() => '-') },
        ]
      : [],
  };
}

const key = (r: Unknown) => `${r.of} ${r.label}`;

export function WhoIsIt({ rows, asked, current, saidOf, put, choose, people, say, answers }: ReturnType<typeof useWhoIsIt> & { people: Choice[]; answers: Answers; say(some: Partial<Answers>): void }) {
  const unnamed = asked.filter((r) => r.of === 'voices');
  return (
    <>
      {(['voices', 'named'] as const).map((of) => {
        const own = rows.filter((r) => r.of === of);
        const open = asked.filter((r) => r.of === of).length;
        if (own.length === 0) return null;
        return (
          <div key={of}>
            <h2 className="lh">
              {of === 'voices' ? 'Voices' : 'Named, and not known'}
              <span>{open === 0 ? (of === 'voices' ? 'all known' : 'all said') : `${open} to ${of === 'voices' ? 'name' : 'say'}`}</span>
            </h2>
            {of === 'voices' && unnamed.length > 1 && (
              <p className="fact">
                <button type="button" className="may line" onClick={() => say({ voices: { ...answers.voices, ...Object.fromEntries(unnamed.map((v) => [v.label, `new:${v.label}`])) } })}>
                  Add all {unnamed.length} as new people
                </button>
              </p>
            )}
            {own.map((r) => (
              <p className={`fact voice-row${r === current ? ' at' : ''}`} key={r.label} aria-current={r === current || undefined}>
                <span className="said">{r.label}</span>
                <select data-who={key(r)} aria-label={`Who is ${r.label}`} value={saidOf(r)} onFocus={() => choose(r)} onChange={(e) => put(r, e.target.value)}>
                  <option value="">{of === 'voices' ? 'nobody we know' : 'not said yet'}</option>
                  <option value={`new:${r.label}`}>{r.label}, a new person</option>
                  <option value="-">nobody to keep</option>
                  {people.map((p) => (
                    <option key={p.id} value={p.id}>
                      {of === 'named' ? `${p.name}, called so too` : p.name}
                    </option>
                  ))}
                </select>
                <span className="moss">{r.times}</span>
              </p>
            ))}
          </div>
        );
      })}
    </>
  );
}
