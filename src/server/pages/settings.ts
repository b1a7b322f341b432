import { backupFolder, backupSettings, lastBackup } from '../ledger/backups.ts';
import { mailSettingsShown } from '../letters/mail-settings.ts';
import { mailboxState } from '../letters/mailbox.ts';
import { ownerOf } from '../people/first-run.ts';
import { projectsOf } from '../people/projects.ts';
import type { Workspace } from '../people/workspace.ts';
import { keepDaysOf } from '../records/bringing-in.ts';
import { closeReaderState } from '../sift/run.ts';

/** Everything that can be set, each as it is now. */
export async function settingsPage(ws: Workspace) {
  const [shown, how, projects] = await Promise.all([mailSettingsShown(ws.db), backupSettings(ws.db), projectsOf(ws)]);
  const senders = await ws.db.selectFrom('projects').select(['id', 'sender']).execute();
  const { since, nextTry, ...mailbox } = mailboxState();
  return {
    mayChange: (await ownerOf(ws.db)) === ws.asker.person,
    you: { id: ws.asker.person, name: ws.asker.name, mail: ws.asker.mail, zone: ws.asker.zone },
    ...shown,
    mailbox: { ...mailbox, since: since.toISOString(), nextTry: nextTry?.toISOString() ?? null },
    projects: projects.map((p) => ({ id: p.id, name: p.name, sender: senders.find((s) => s.id === p.id)?.sender ?? null })),
    readers: closeReaderState(),
    keepDays: await keepDaysOf(ws.db, ws.project),
    backup: { ...how, path: backupFolder(how), last: await lastBackup(ws.db) },
  };
}
export type Settings = Awaited<ReturnType<typeof settingsPage>>;
