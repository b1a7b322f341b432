import { useState } from 'react';
import { post } from '../parts/api.ts';
import { useSubmit } from '../parts/use-submit.ts';
import { signIn } from './sign-in.ts';

/** Taking up an invitation: a password, and one is in. */
export default function InvitedView({ token, mail }: { token: string; mail: string }) {
  const [password, setPassword] = useState('');
  const { wrong, busy, submit } = useSubmit(async () => {
    await post(`/api/invited/${token}`, { password });
    await signIn(mail, password);
    location.assign('/');
  });
  return (
    <form className="begin" onSubmit={submit}>
      <fieldset>
        <legend className="fl">Your password</legend>
        <div className="answers">
          <input type="hidden" autoComplete="username" value={mail} readOnly />
          <label>
            At least twelve characters
            {/* biome-ignore lint/a11y/noAutofocus: the page is this form and nothing else */}
            <input type="password" required autoFocus minLength={12} maxLength={128} autoComplete="new-password" value={password} onChange={(e) => setPassword(e.target.value)} />
          </label>
        </div>
        <p className="why">You sign in with it and with {mail}. A few words one after another are easy to remember and hard to guess.</p>
      </fieldset>
      <p className="acts">
        <button type="submit" className="do" disabled={busy}>
          Come in <kbd>Enter</kbd>
        </button>
        {wrong && (
          <span className="bad" role="alert">
            {wrong}
          </span>
        )}
      </p>
    </form>
  );
}
