import { openBefore } from '../ledger/commitments.ts';
import { letterById } from '../letters/letters.ts';
import { roundUpsOf } from '../letters/round-up.ts';
import { attendeesOf, meetingRow } from '../meetings/meetings.ts';
import type { PageSession } from './page.ts';

export const mailboxAddress = (): string | null => (process.env.OTTIK_MAILBOX_PORT ? `http://localhost:${process.env.OTTIK_MAILBOX_PORT}/` : null);

/** The round-up of a meeting, with everybody it could go to. */
export async function followUpPage({ db, asker, today }: PageSession, id: number, wanted: number | null = null) {
  const meeting = await meetingRow(asker, db, Number.isInteger(id) ? id : -1);
  const open = await openBefore(asker, db, meeting.project, meeting.date, today);
  const people = (await attendeesOf(asker, db, meeting.id)).filter((a) => a.mail && a.id !== asker.person).map((a) => ({ id: a.id, name: a.name, mail: a.mail!, absent: !a.present }));
  const letters = await roundUpsOf(asker, db, meeting.id);
  const letter = letters.find((l) => l.id === wanted) ?? letters.find((l) => l.state === 'draft') ?? letters[0] ?? null;
  return { meeting, open, people, letter, letters: letters.map((l) => ({ id: l.id, language: l.language, to: l.recipients.map((r) => r.name), state: l.state })), mailboxes: mailboxAddress() };
}

/** A letter that no meeting stands behind, with who it goes to. */
export async function letterPage({ db, asker }: PageSession, id: number) {
  const letter = await letterById(asker, db, Number.isInteger(id) ? id : -1);
  return { letter, people: letter.recipients.filter((r) => r.id !== 'chat').map((r) => ({ id: r.id, name: r.name, mail: r.mail, absent: false })), mailboxes: mailboxAddress() };
}
