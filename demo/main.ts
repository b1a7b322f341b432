import { rmSync } from 'node:fs';
import { today } from '../src/server/store/clock.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { PostOffice } from '../standins/mail/post-office.ts';
import { isEmpty, loadDemo, storyDay } from './load.ts';
import { PEOPLE } from './people.ts';

// what it reads is its own, and nobody waits
process.env.OTTIK_WORK = 'here';

/** Loads the demo into an empty database; `--fresh` empties it first. */
const file = process.env.OTTIK_DB ?? 'data/ottik.db';
const mail = process.env.OTTIK_MAILBOX_DIR ?? 'data/mailbox';
if (process.argv.includes('--fresh')) {
  for (const end of ['', '-wal', '-shm']) rmSync(`${file}${end}`, { force: true });
  rmSync(mail, { recursive: true, force: true });
}
const db = await openDatabase(file);
if (await isEmpty(db)) {
  const office = new PostOffice(mail);
  await office.load();
  office.keepPeople(PEOPLE.flatMap((p) => (p.mail ? [{ name: p.name, mail: p.mail }] : [])));
  await loadDemo(db, today(), office, storyDay(today(), new Date()));
  await db
    .updateTable('projects')
    .set({ chat_url: `http://localhost:${process.env.OTTIK_CHAT_PORT ?? 4327}/hook` })
    .where('id', '=', 'quiet-crossing')
    .execute();
  console.log(`Loaded the demo Quiet Crossing, dated to ${today()}.`);
} else {
  console.log('Kept what is there (npm run demo -- --fresh starts over).');
}
await db.destroy();
