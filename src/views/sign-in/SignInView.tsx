import { type ReactNode, useState } from 'react';
import { useSubmit } from '../parts/use-submit.ts';
import { askAuth, signIn } from './sign-in.ts';

type Step = 'password' | 'code' | 'spare' | 'forgotten' | 'written' | 'new';

/** Signing in: address and password, the second factor where there is one, and the way to a new password. */
export default function SignInView({ next, token }: { next: string; token: string | null }) {
  const [step, setStep] = useState<Step>(token ? 'new' : 'password');
  const [mail, setMail] = useState('');
  const [secret, setSecret] = useState('');
  const { wrong, setWrong, busy, submit } = useSubmit(async () => {
    if (step === 'password') {
      const { twoFactorRedirect } = await signIn(mail, secret);
      if (twoFactorRedirect) go('code');
      else location.assign(next);
    } else if (step === 'code' || step === 'spare') {
      await askAuth(step === 'code' ? 'two-factor/verify-totp' : 'two-factor/verify-backup-code', { code: secret.replace(/\s/g, '') });
      location.assign(next);
    } else if (step === 'forgotten') {
      await askAuth('request-password-reset', { email: mail.trim() });
      go('written');
    } else if (step === 'new') {
      await askAuth('reset-password', { newPassword: secret, token });
      location.assign('/sign-in');
    }
  });
  const go = (to: Step) => {
    setStep(to);
    setSecret('');
    setWrong(null);
  };
  const other = (to: Step, words: string) => (
    <button type="button" className="may" onClick={() => go(to)}>
      {words}
    </button>
  );
  const address = (
    <label>
      Your mail address
      {/* biome-ignore lint/a11y/noAutofocus: the page is this form and nothing else */}
      <input type="email" required autoFocus autoComplete="username" value={mail} onChange={(e) => setMail(e.target.value)} />
    </label>
  );
  const FORMS: Record<Step, { legend: string; fields: ReactNode; does: string | null; others: ReactNode }> = {
    password: {
      legend: 'You',
      fields: (
        <>
          {address}
          <label>
            Your password
            <input type="password" required autoComplete="current-password" value={secret} onChange={(e) => setSecret(e.target.value)} />
          </label>
        </>
      ),
      does: 'Sign in',
      others: other('forgotten', 'I have forgotten it'),
    },
    code: { legend: 'Second step', fields: <Code label="Code your authenticator shows" value={secret} onType={setSecret} />, does: 'Sign in', others: other('spare', 'Use a spare code') },
    spare: { legend: 'Second step', fields: <Code label="One of your spare codes" value={secret} onType={setSecret} />, does: 'Sign in', others: other('code', 'Use the authenticator') },
    forgotten: { legend: 'You', fields: address, does: 'Send me a link', others: other('password', 'Back') },
    written: { legend: 'Your mail', fields: <p>If {mail} is entered here, a letter with a link is on its way to it. The link works for two hours.</p>, does: null, others: other('password', 'Back to signing in') },
    new: {
      legend: 'New password',
      fields: (
        <label>
          At least twelve characters
          {/* biome-ignore lint/a11y/noAutofocus: the page is this form and nothing else */}
          <input type="password" required autoFocus minLength={12} maxLength={128} autoComplete="new-password" value={secret} onChange={(e) => setSecret(e.target.value)} />
        </label>
      ),
      does: 'Keep it',
      others: null,
    },
  };
  const form = FORMS[step];
  return (
    <form className="begin" onSubmit={submit}>
      <fieldset>
        <legend className="fl">{form.legend}</legend>
        <div className="answers">{form.fields}</div>
      </fieldset>
      <p className="acts">
        {form.does && (
          <button type="submit" className="do" disabled={busy}>
            {form.does} <kbd>Enter</kbd>
          </button>
        )}
        {form.others}
        {wrong && (
          <span className="bad" role="alert">
            {wrong}
          </span>
        )}
      </p>
    </form>
  );
}

function Code({ label, value, onType }: { label: string; value: string; onType(value: string): void }) {
  return (
    <label>
      {label}
      {/* biome-ignore lint/a11y/noAutofocus: the page is this form and nothing else */}
      <input required autoFocus autoComplete="one-time-code" maxLength={40} value={value} onChange={(e) => onType(e.target.value)} />
    </label>
  );
}
