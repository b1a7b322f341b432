import { SECURITY } from './words.ts';

export interface ServerTyped {
  host: string;
  port: number;
  security: keyof typeof SECURITY;
  user: string;
  password: string | null;
}

/** The ports that are usual for a protection: those of RFC 8314 and RFC 6409, and of RFC 9051. */
const PORTS = { out: { tls: 465, starttls: 587, none: 25 }, in: { tls: 993, starttls: 143, none: 143 } };

/** What any mail server is reached by. A password that is kept is not shown; leaving the field alone keeps it. */
export function Server<T extends ServerTyped>({ typed, which, hasPassword, onSet }: { typed: T; which: 'out' | 'in'; hasPassword: boolean; onSet(part: Partial<ServerTyped>): void }) {
  return (
    <>
      <label>
        Server
        {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
        <input autoFocus required value={typed.host} maxLength={253} placeholder={which === 'out' ? 'smtp.example.org' : 'imap.example.org'} onChange={(e) => onSet({ host: e.target.value })} />
      </label>
      <label>
        Protection
        <select value={typed.security} onChange={(e) => onSet({ security: e.target.value as keyof typeof SECURITY, port: PORTS[which][e.target.value as keyof typeof SECURITY] })}>
          {(Object.keys(SECURITY) as (keyof typeof SECURITY)[]).map((s) => (
            <option key={s} value={s}>
              {SECURITY[s]}
            </option>
          ))}
        </select>
      </label>
      <label>
        Port
        <input required inputMode="numeric" value={typed.port || ''} onChange={(e) => onSet({ port: Number(e.target.value.replace(/\D/g, '').slice(0, 5)) })} />
      </label>
      <label>
        Login
        <input value={typed.user} autoComplete="off" maxLength={254} placeholder="often the mail address" onChange={(e) => onSet({ user: e.target.value })} />
      </label>
      <label>
        Password, or app password
        <input type="password" value={typed.password ?? ''} autoComplete="new-password" maxLength={1000} placeholder={hasPassword ? 'the one that is kept' : ''} onChange={(e) => onSet({ password: e.target.value })} />
      </label>
    </>
  );
}
