import { z } from 'zod';
import { Refusal } from '../refusal.ts';
import { PasswordSchema } from './passwords.ts';
import { askForPassword, hasPassword, isDemo, mustSignIn, onThisMachineOnly, setPassword } from './signing-in.ts';
import type { Workspace } from './workspace.ts';

export const SignInSchema = z.discriminatedUnion('do', [
  /** the first password of whoever asks; another one is set through what checks the old one */
  z.object({ do: z.literal('first password'), password: PasswordSchema }),
  z.object({ do: z.literal('ask'), ask: z.boolean() }),
]);

/** How whoever asks signs in, and whether they have to. */
export async function signInShown(ws: Workspace) {
  const user = await ws.db.selectFrom('users').select(['email', 'twoFactorEnabled']).where('personId', '=', ws.asker.person).executeTakeFirst();
  return { must: await mustSignIn(ws.db), byChoice: onThisMachineOnly(), mail: user?.email ?? null, twoFactor: user?.twoFactorEnabled === 1, demo: isDemo() };
}

export async function changeSignIn(ws: Workspace, change: z.infer<typeof SignInSchema>): Promise<void> {
  if (change.do === 'ask') return askForPassword(ws.db, ws.asker.person, change.ask);
  if (await hasPassword(ws.db, ws.asker.person)) throw new Refusal('conflict', 'You have a password already.', 'Change it: that asks for the old one.');
  await setPassword(ws.db, ws.asker.person, change.password);
}
