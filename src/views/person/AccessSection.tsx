import { useState } from 'react';
import { ROLE_WORDS, ROLES, type Role } from '../../core/people/rights.ts';
import type { Access } from '../../server/people/invitations.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

interface Props {
  person: { id: string; name: string; mail: string | null };
  start: Access;
  /** whether it is whoever looks at the page */
  own: boolean;
  say(said: Said): void;
}

/** Whether somebody signs in here and what they may do in the project; whoever manages it changes both. */
export function AccessSection({ person, start, own, say }: Props) {
  const [access, setAccess] = useState(start);
  const [role, setRole] = useState<Role>(start.role);
  const [link, setLink] = useState<string | null>(null);
  const ask = async (body: unknown, head: string, rest?: string) => {
    try {
      const got = await post<{ access: Access; link?: string | null; trouble?: string | null }>(`/api/people/${person.id}/access`, body);
      setAccess(got.access);
      setRole(got.access.role);
      setLink(got.link ?? null);
      say(got.trouble ? { head: 'Invited, but the letter did not go.', rest: got.trouble, bad: true } : { head, rest });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const renew = async () => {
    try {
      const { letters } = await post<{ letters: number }>(`/api/people/${person.id}/links`, { do: 'renew' });
      say({ head: 'Made anew', rest: `the former links open nothing any more${letters ? `; ${letters === 1 ? 'a letter that has' : `${letters} letters that have`} not gone yet ${letters === 1 ? 'carries' : 'carry'} the new ones` : ''}` });
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const now = access.owner ? 'set up this Ottik, and may do everything in it' : access.sees ? `signs in here; as ${access.role} ${ROLE_WORDS[access.role]}` : access.invitedUntil ? `is invited until ${access.invitedUntil.slice(0, 10)}` : 'does not sign in here';
  return (
    <section className="band details" aria-label="Access">
      <p className="fl">Access</p>
      <p>
        {person.name} {now}.
      </p>
      {link && (
        <p className="moss">
          Hand this link over yourself; it is shown this once: <b>{link}</b>
        </p>
      )}
      {(own || access.mayManage) && (
        <p className="moss">
          {own ? 'Your letters lead to pages of your own, and your calendar' : 'Their letters lead to pages of their own, and their calendar'} has an address of its own: whoever has one can open it.{' '}
          <button type="button" className="may" onClick={() => void renew()}>
            Make these links anew
          </button>
        </p>
      )}
      {access.mayManage && !access.owner && (
        <p className="acts">
          <label>
            As
            <select value={role} onChange={(e) => setRole(e.target.value as Role)}>
              {ROLES.map((r) => (
                <option key={r} value={r}>
                  {r}: {ROLE_WORDS[r]}
                </option>
              ))}
            </select>
          </label>
          {access.sees ? (
            <>
              <button type="button" className="may" disabled={role === access.role} onClick={() => void ask({ do: 'role', role }, 'Changed', `${person.name} is ${role} from now on`)}>
                Change the role
              </button>
              <button type="button" className="may" onClick={() => void ask({ do: 'role', role: null }, 'Ended', `${person.name} does not see the project any more`)}>
                End their access
              </button>
            </>
          ) : (
            <button type="button" className="may" onClick={() => void ask({ do: 'invite', role }, 'Invited', `a letter went to ${person.mail}`)}>
              {access.invitedUntil ? 'Invite once more' : 'Invite to sign in'}
            </button>
          )}
        </p>
      )}
    </section>
  );
}
