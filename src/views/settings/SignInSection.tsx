import { useState } from 'react';
import type { Settings } from '../../server/pages/settings.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import { askAuth } from '../sign-in/sign-in.ts';
import { signInInWords } from './words.ts';

interface Props {
  settings: Settings;
  onChange(body: unknown, head: string): Promise<boolean>;
  say(said: Said): void;
}
type Open = 'first' | 'change' | 'on' | 'off' | null;

/** How whoever asks signs in: password, second factor, and where they are signed in. */
export function SignInSection({ settings, onChange, say }: Props) {
  const { signIn } = settings;
  const [open, setOpen] = useState<Open>(null);
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [factor, setFactor] = useState<{ uri: string; codes: string[] } | null>(null);
  const show = (to: Open) => {
    setOpen(to);
    setOld('');
    setPassword('');
  };
  const ask = async (run: () => Promise<unknown>, head: string) => {
    try {
      await run();
      say({ head });
      show(null);
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const act = async () => {
    if (open === 'first') {
      if (await onChange({ do: 'first password', password }, 'You have a password now.')) show(null);
    } else if (open === 'change') await ask(() => askAuth('change-password', { currentPassword: old, newPassword: password, revokeOtherSessions: true }), 'Changed; you are signed out everywhere else.');
    else if (open === 'on')
      await ask(async () => {
        const { totpURI, backupCodes } = await askAuth<{ totpURI: string; backupCodes: string[] }>('two-factor/enable', { password: old });
        setFactor({ uri: totpURI, codes: backupCodes });
      }, 'Enter the code your authenticator shows, and it is on.');
    else if (open === 'off') await ask(() => askAuth('two-factor/disable', { password: old }).then(() => location.reload()), 'The second step is off.');
  };
  const signedIn = signIn.must && signIn.mail !== null;
  const button = (to: Open, words: string) => (
    <button type="button" className="may" onClick={() => show(open === to ? null : to)}>
      {words}
    </button>
  );
  return (
    <section className="band" aria-label="Signing in">
      <p className="fl">Signing in</p>
      <p className="now">{signInInWords(settings)}</p>
      {factor && <SecondFactor uri={factor.uri} codes={factor.codes} say={say} />}
      {open && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void act();
          }}
          onKeyDown={(e) => e.key === 'Escape' && show(null)}
        >
          <div className="fields">
            {open !== 'first' && (
              <label>
                Your password
                {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
                <input type="password" required autoFocus autoComplete="current-password" value={old} onChange={(e) => setOld(e.target.value)} />
              </label>
            )}
            {(open === 'first' || open === 'change') && (
              <label>
                New password, at least twelve characters
                {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
                <input type="password" required autoFocus={open === 'first'} minLength={12} maxLength={128} autoComplete="new-password" value={password} onChange={(e) => setPassword(e.target.value)} />
              </label>
            )}
          </div>
          <p className="acts">
            <button type="submit" className="do">
              {open === 'on' || open === 'off' ? 'Go on' : 'Save'} <kbd>Enter</kbd>
            </button>
            {button(null, 'Leave it')}
          </p>
        </form>
      )}
      {settings.stepInto.length > 0 && (
        <p className="acts">
          {settings.stepInto.map((p) => (
            <button key={p.id} type="button" className="may" onClick={() => void ask(() => post('/api/step-into', { person: p.id }).then(() => location.assign('/')), `You are ${p.name} now.`)}>
              {p.name}
            </button>
          ))}
        </p>
      )}
      {!open && (
        <p className="acts">
          {signIn.mail === null && !signIn.demo && button('first', 'Set a password')}
          {signedIn && button('change', 'Change the password')}
          {signedIn && (signIn.twoFactor ? button('off', 'End the second step') : button('on', 'Ask for a second step'))}
          {signIn.byChoice && signIn.mail !== null && settings.mayChange && (
            <button type="button" className="may" onClick={() => void onChange({ do: 'ask', ask: !signIn.must }, signIn.must ? 'Nobody has to sign in on this machine.' : 'Whoever opens Ottik signs in from now on.').then((kept) => kept && location.reload())}>
              {signIn.must ? 'Do not ask on this machine' : 'Ask for it on this machine too'}
            </button>
          )}
          {signedIn && (
            <>
              <button type="button" className="may" onClick={() => void ask(() => askAuth('revoke-other-sessions', {}), 'You are signed out everywhere else.')}>
                Sign out everywhere else
              </button>
              <button type="button" className="may" onClick={() => void ask(() => askAuth('sign-out', {}).then(() => location.assign('/sign-in')), 'Signed out.')}>
                Sign out
              </button>
            </>
          )}
        </p>
      )}
    </section>
  );
}

/** What an authenticator needs, and the code that proves it has it. */
function SecondFactor({ uri, codes, say }: { uri: string; codes: string[]; say(said: Said): void }) {
  const [code, setCode] = useState('');
  const secret = new URL(uri).searchParams.get('secret') ?? '';
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        askAuth('two-factor/verify-totp', { code: code.replace(/\s/g, '') }).then(
          () => location.reload(),
          (error: unknown) => say(wentWrong(error)),
        );
      }}
    >
      <p>
        Enter this key into your authenticator, or <a href={uri}>open it there</a>: <b>{secret.replace(/(.{4})(?=.)/g, '$1 ')}</b>
      </p>
      <p className="moss">Spare codes, each good once; keep them where you keep keys: {codes.join(', ')}</p>
      <div className="fields">
        <label>
          Code it shows
          {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
          <input required autoFocus inputMode="numeric" autoComplete="one-time-code" maxLength={10} value={code} onChange={(e) => setCode(e.target.value)} />
        </label>
      </div>
      <p className="acts">
        <button type="submit" className="do">
          Switch it on <kbd>Enter</kbd>
        </button>
      </p>
    </form>
  );
}
