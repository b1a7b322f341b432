import { rmSync } from 'node:fs';
import { modelShown, STAND_IN } from '../src/server/sift/model-reader/setup.ts';
import { today } from '../src/server/store/clock.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { keepSetting } from '../src/server/store/settings.ts';
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
const keepStandIn = () => keepSetting(db, 'model', { address: `http://localhost:${process.env.OTTIK_MODEL_PORT ?? 4424}/v1`, model: STAND_IN, secret: null, ownNetwork: true, masked: false, context: 16_000, patience: 30, parallel: 1 });
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
  await keepStandIn();
  console.log(`Loaded the demo Quiet Crossing, dated to ${today()}.`);
} else {
  // the stand-in may listen elsewhere than last time
  if ((await modelShown(db))?.standIn) await keepStandIn();
  console.log('Kept what is there (npm run demo -- --fresh starts over).');
}
await db.destroy();
