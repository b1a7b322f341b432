import { useState } from 'react';
import type { Settings } from '../../server/pages/settings.ts';
import { Server } from './Server.tsx';
import { TryRow } from './TryRow.tsx';
import { useTrying } from './use-trying.ts';
import { inInWords } from './words.ts';

interface Props {
  settings: Settings;
  open: boolean;
  onOpen(): void;
  onChange(body: unknown, head: string): Promise<boolean>;
}

/** Where answers come in: a mailbox that Ottik reads and leaves as it is. */
export function MailIn({ settings, open, onOpen, onChange }: Props) {
  const { now, bad } = inInWords(settings);
  return (
    <section className="band" aria-label="Answers in">
      <p className="fl">Answers in</p>
      {open ? (
        <Fields settings={settings} onOpen={onOpen} onChange={onChange} />
      ) : (
        <>
          <p className="now">{now}</p>
          {bad && <p className="told bad">{bad}</p>}
          {settings.mayChange && (
            <p className="acts">
              <button type="button" className="may" onClick={onOpen}>
                {settings.in ? 'Change' : 'Name a mailbox'} <kbd>I</kbd>
              </button>
              {settings.in && (
                <button type="button" className="may" onClick={() => void onChange({ do: 'forget', which: 'in' }, 'The mailbox is forgotten and not read any more.')}>
                  Forget it
                </button>
              )}
            </p>
          )}
        </>
      )}
    </section>
  );
}

function Fields({ settings, onOpen, onChange }: Omit<Props, 'open'>) {
  const kept = settings.in;
  const [typed, setTyped] = useState({
    host: kept?.host ?? '',
    port: kept?.port ?? 993,
    security: kept?.security ?? ('tls' as const),
    user: kept?.user ?? '',
    password: null as string | null,
    folder: kept?.folder ?? 'INBOX',
    address: kept?.address ?? settings.you.mail ?? '',
    plus: kept?.plus ?? true,
    everything: kept?.everything ?? false,
  });
  const set = (part: Partial<typeof typed>) => setTyped((was) => ({ ...was, ...part }));
  const { told, busy, attempt } = useTrying<{ mails: number }>((got) => `It works: the folder holds ${got.mails} ${got.mails === 1 ? 'mail' : 'mails'}. Those stay as they are; what comes from now on is read.`);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void onChange({ do: 'keep in', ...typed }, 'The mailbox is read from now on.');
      }}
      onKeyDown={(e) => e.key === 'Escape' && onOpen()}
    >
      <div className="fields">
        <Server typed={typed} which="in" hasPassword={kept?.hasPassword ?? false} onSet={set} />
        <label>
          Folder
          <input required value={typed.folder} maxLength={200} onChange={(e) => set({ folder: e.target.value })} />
        </label>
        <label className="wide">
          Its mail address
          <input required type="email" value={typed.address} onChange={(e) => set({ address: e.target.value })} />
        </label>
      </div>
      <label className="tick">
        <input type="checkbox" checked={typed.plus} onChange={(e) => set({ plus: e.target.checked })} />
        Mail for name+anything@… comes into it as well, so that each letter gets an address of its own
      </label>
      <label className="tick">
        <input type="checkbox" checked={typed.everything} onChange={(e) => set({ everything: e.target.checked })} />
        The folder is for Ottik alone: take in all that comes, not only what answers a letter
      </label>
      <TryRow told={told} busy={busy} can={typed.host !== ''} onTry={() => void attempt({ do: 'try in', ...typed })} onLeave={onOpen} />
    </form>
  );
}
