import { backupFolder, backupSettings, lastBackup } from '../ledger/backups.ts';
import { mailSettingsShown } from '../letters/mail-settings.ts';
import { mailboxState } from '../letters/mailbox.ts';
import { ownerOf } from '../people/owner.ts';
import { peopleOf } from '../people/people.ts';
import { projectsOf } from '../people/projects.ts';
import { signInShown } from '../people/sign-in-settings.ts';
import { isDemo } from '../people/signing-in.ts';
import type { Workspace } from '../people/workspace.ts';
import { keepDaysOf } from '../records/bringing-in.ts';
import { modelShown } from '../sift/model-reader/setup.ts';
import { closeReaderState } from '../sift/run.ts';

/** Everything that can be set, each as it is now. */
export async function settingsPage(ws: Workspace) {
  const [shown, how, projects] = await Promise.all([mailSettingsShown(ws.db), backupSettings(ws.db), projectsOf(ws)]);
  const senders = await ws.db.selectFrom('projects').select(['id', 'sender']).execute();
  const { since, nextTry, ...mailbox } = mailboxState();
  const mayChange = (await ownerOf(ws.db)) === ws.asker.person;
  return {
    mayChange,
    you: { id: ws.asker.person, name: ws.asker.name, mail: ws.asker.mail, zone: ws.asker.zone },
    signIn: await signInShown(ws),
    stepInto: isDemo() ? (await peopleOf(ws, ws.project)).filter((p) => p.id !== ws.asker.person).map((p) => ({ id: p.id, name: p.name })) : [],
    ...(mayChange ? shown : { out: null, in: null, byEnvironment: shown.byEnvironment || shown.out !== null, door: shown.in?.address ?? shown.door }),
    mailbox: { ...mailbox, since: since.toISOString(), nextTry: nextTry?.toISOString() ?? null },
    projects: projects.map((p) => ({ id: p.id, name: p.name, sender: senders.find((s) => s.id === p.id)?.sender ?? null })),
    readers: { ...closeReaderState(), model: (await modelShown(ws.db))?.host ?? null },
    keepDays: await keepDaysOf(ws.db, ws.project),
    backup: { ...how, path: backupFolder(how), last: await lastBackup(ws.db) },
  };
}
export type Settings = Awaited<ReturnType<typeof settingsPage>>;
