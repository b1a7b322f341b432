import { webhookPoster } from '../../../src/server/letters/chat.ts';
import { smtpMailer } from '../../../src/server/letters/mailer.ts';
import { deliverDue, nextDue, resumeQueue } from '../../../src/server/letters/queue.ts';
import { openDatabase } from '../../../src/server/store/database.ts';

/** The queue in a process of its own, to be killed at any moment: takes up what was left, sends until nothing waits. */
const db = await openDatabase(process.env.OTTIK_DB!);
await resumeQueue(db);
const carriers = { mail: smtpMailer({ host: '127.0.0.1', port: Number(process.env.OTTIK_SMTP_PORT), patience: 3000 }), chat: webhookPoster() };
while ((await nextDue(db)) !== null) await deliverDue(db, carriers, () => new Date());
await db.destroy();
