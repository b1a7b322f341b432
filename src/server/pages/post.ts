import { lettersOf } from '../letters.ts';
import { meetingRows } from '../meetings.ts';
import { mailboxAddress } from './follow-up.ts';
import type { PageSession } from './page.ts';

/** Letters that wait for a look, and letters that went out. */
export async function postPage({ db, asker, project, today }: PageSession) {
  const [letters, meetings] = await Promise.all([lettersOf(asker, db, project), meetingRows(asker, db, { project })]);
  const drafts = letters.filter((l) => l.state !== 'sent').map((l) => ({ meeting: l.meeting, date: l.meetingDate, subject: l.subject, note: `to ${l.recipients.length} who were invited`, state: l.state === 'part sent' ? 'part sent' : 'draft' }));
  const unwritten = meetings.filter((m) => m.records > 0 && m.findsLeft === 0 && m.letter === 'none').map((m) => ({ meeting: m.id, date: m.date, subject: `Round-up of ${m.title}${m.number ? ` no. ${m.number}` : ''}`, note: 'its finds are settled', state: 'to write' }));
  return { today, waiting: [...drafts, ...unwritten].sort((a, b) => b.date.localeCompare(a.date)), sent: letters.filter((l) => l.state === 'sent'), mailboxes: mailboxAddress() };
}
