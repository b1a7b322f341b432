import { useState } from 'react';
import type { Settings } from '../../server/pages/settings.ts';
import { Server } from './Server.tsx';
import { TryRow } from './TryRow.tsx';
import { useTrying } from './use-trying.ts';
import { outInWords } from './words.ts';

interface Props {
  settings: Settings;
  open: boolean;
  onOpen(): void;
  onChange(body: unknown, head: string): Promise<boolean>;
}

/** Where letters go out, and from which addresses. */
export function MailOut({ settings, open, onOpen, onChange }: Props) {
  return (
    <section className="band" aria-label="Letters out">
      <p className="fl">Letters out</p>
      {open ? (
        <Fields settings={settings} onOpen={onOpen} onChange={onChange} />
      ) : (
        <>
          <p className="now">{outInWords(settings)}</p>
          {settings.out && settings.out.senders.length > 0 && (
            <div className="fields">
              {settings.projects.map((p) => (
                <label key={p.id}>
                  {p.name} writes from
                  <select value={p.sender ?? ''} disabled={!settings.mayChange} onChange={(e) => void onChange({ do: 'sender', project: p.id, address: e.target.value || null }, `${p.name} writes from ${e.target.value || 'whoever writes'} from now on.`)}>
                    <option value="">whoever writes the letter</option>
                    {settings.out!.senders.map((s) => (
                      <option key={s.address} value={s.address}>
                        {s.name}, {s.address}
                      </option>
                    ))}
                  </select>
                </label>
              ))}
            </div>
          )}
          {settings.mayChange && (
            <p className="acts">
              <button type="button" className="may" onClick={onOpen}>
                {settings.out ? 'Change' : 'Name a mail server'} <kbd>O</kbd>
              </button>
              {settings.out && (
                <button type="button" className="may" onClick={() => void onChange({ do: 'forget', which: 'out' }, 'The mail server is forgotten; letters wait.')}>
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
  const [typed, setTyped] = useState({ host: settings.out?.host ?? '', port: settings.out?.port ?? 587, security: settings.out?.security ?? ('starttls' as const), user: settings.out?.user ?? '', password: null as string | null, senders: settings.out?.senders ?? [] });
  const { told, busy, attempt } = useTrying<{ to: string }>((got) => `It works: a test letter is on its way to ${got.to}.`);
  const sender = (k: number, part: Partial<{ name: string; address: string }>) => setTyped((was) => ({ ...was, senders: was.senders.map((s, i) => (i === k ? { ...s, ...part } : s)) }));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void onChange({ do: 'keep out', ...typed }, 'Letters go out by this server from now on.');
      }}
      onKeyDown={(e) => e.key === 'Escape' && onOpen()}
    >
      <div className="fields">
        <Server typed={typed} which="out" hasPassword={settings.out?.hasPassword ?? false} onSet={(part) => setTyped((was) => ({ ...was, ...part }))} />
      </div>
      <ul className="senders">
        {typed.senders.map((s, k) => (
          <li key={k}>
            <label>
              Name letters go out under
              <input required value={s.name} maxLength={120} onChange={(e) => sender(k, { name: e.target.value })} />
            </label>
            <label>
              Address
              <input required type="email" value={s.address} onChange={(e) => sender(k, { address: e.target.value })} />
            </label>
            <button type="button" className="may" onClick={() => setTyped((was) => ({ ...was, senders: was.senders.filter((_, i) => i !== k) }))}>
              Remove
            </button>
          </li>
        ))}
      </ul>
      <TryRow told={told} busy={busy} can={typed.host !== ''} words={`Try it: a letter to ${settings.you.mail ?? 'you'}`} onTry={() => void attempt({ do: 'try out', ...typed })} onLeave={onOpen}>
        <button type="button" className="may" onClick={() => setTyped((was) => ({ ...was, senders: [...was.senders, { name: '', address: '' }] }))}>
          Add a sender
        </button>
      </TryRow>
    </form>
  );
}
