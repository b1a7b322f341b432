import { useState } from 'react';
import type { Readers } from '../../server/pages/readers.ts';
import { TryRow } from '../settings/TryRow.tsx';
import { useTrying } from '../settings/use-trying.ts';

type Kept = Readers['model'];

interface Typed {
  address: string;
  model: string;
  key: string | null;
  ownNetwork: boolean;
  masked: boolean;
  context: number;
  patience: number;
  parallel: number;
}

/** Digits of a field that takes a number. */
const number = (text: string) => Number(text.replace(/\D/g, '').slice(0, 7));

/** Where the model is, and how it is asked. A key that is kept is not shown; leaving the field alone keeps it. */
export function ModelFields({ kept, onKeep, onLeave }: { kept: Kept; onKeep(typed: Typed): Promise<void>; onLeave(): void }) {
  const [typed, setTyped] = useState<Typed>({
    address: kept?.address ?? '',
    model: kept?.model ?? '',
    key: null,
    ownNetwork: kept?.ownNetwork ?? true,
    masked: kept?.masked ?? false,
    context: kept?.context ?? 16_000,
    patience: kept?.patience ?? 120,
    parallel: kept?.parallel ?? 1,
  });
  const set = (part: Partial<Typed>) => setTyped((was) => ({ ...was, ...part }));
  const { told, busy, attempt } = useTrying<{ words: string }>((got) => got.words, '/api/readers');
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void onKeep(typed);
      }}
      onKeyDown={(e) => e.key === 'Escape' && onLeave()}
    >
      <div className="fields">
        <label className="wide">
          Address
          {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
          <input autoFocus required type="url" value={typed.address} maxLength={400} placeholder="http://localhost:8080/v1" onChange={(e) => set({ address: e.target.value })} />
        </label>
        <label>
          Model
          <input required value={typed.model} maxLength={200} placeholder="as the server calls it" onChange={(e) => set({ model: e.target.value })} />
        </label>
        <label>
          Key
          <input type="password" value={typed.key ?? ''} autoComplete="new-password" maxLength={2000} placeholder={kept?.hasKey ? 'the one that is kept' : 'none'} onChange={(e) => set({ key: e.target.value })} />
        </label>
        <label>
          Context, in tokens
          <input required inputMode="numeric" value={typed.context || ''} onChange={(e) => set({ context: number(e.target.value) })} />
        </label>
        <label>
          Seconds to wait for a word
          <input required inputMode="numeric" value={typed.patience || ''} onChange={(e) => set({ patience: number(e.target.value) })} />
        </label>
        <label>
          Questions at once
          <input required inputMode="numeric" value={typed.parallel || ''} onChange={(e) => set({ parallel: number(e.target.value) })} />
        </label>
      </div>
      <label className="tick">
        <input type="checkbox" checked={typed.masked} onChange={(e) => set({ masked: e.target.checked })} />
        Replace people’s names and mail addresses by “Person 1”, “Person 2” on the way out, and put them back on the way in
      </label>
      <label className="tick">
        <input type="checkbox" checked={typed.ownNetwork} onChange={(e) => set({ ownNetwork: e.target.checked })} />
        The server may stand on this machine or in our own network
      </label>
      <TryRow told={told} busy={busy} can={typed.address !== '' && typed.model !== ''} onTry={() => void attempt({ do: 'try model', ...typed })} onLeave={onLeave} />
    </form>
  );
}
