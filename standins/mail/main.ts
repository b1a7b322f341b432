import { mailboxPages } from './pages.ts';
import { PostOffice } from './post-office.ts';
import { Replies } from './replies.ts';

/** Starts the mail stand-in: SMTP on one port of this machine, mailboxes in the browser on another. */
const smtpPort = Number(process.env.OTTIK_SMTP_PORT ?? 4325);
const webPort = Number(process.env.OTTIK_MAILBOX_PORT ?? 4326);
const office = new PostOffice(process.env.OTTIK_MAILBOX_DIR ?? 'data/mailbox');
await office.load();
const replies = new Replies(office, { host: '127.0.0.1', port: Number(process.env.OTTIK_ANSWERS_PORT ?? 4384), domain: (process.env.OTTIK_ANSWERS ?? 'answers@ottik.example').split('@')[1]! });
office.smtp().listen(smtpPort, '127.0.0.1', () => {
  mailboxPages(office, replies).listen(webPort, '127.0.0.1', () => console.log(`mail stand-in: SMTP on ${smtpPort}, mailboxes at http://localhost:${webPort}`));
});
