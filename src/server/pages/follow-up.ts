import { openBefore } from '../ledger/commitments.ts';
import { letterById } from '../letters/letters.ts';
import { roundUpsOf } from '../letters/round-up.ts';
import { attendeesOf, meetingRow } from '../meetings/meetings.ts';
import type { Workspace } from '../people/workspace.ts';

export const mailboxAddress = (): string | null => (process.env.OTTIK_MAILBOX_PORT ? `http://localhost:${process.env.OTTIK_MAILBOX_PORT}/` : null);

/** The round-up of a meeting, with everybody it could go to. */
export async function followUpPage(ws: Workspace, id: number, wanted: number | null = null) {
  const meeting = await meetingRow(ws, Number.isInteger(id) ? id : -1);
  const open = await openBefore(ws, meeting.project, meeting.date);
  const people = (await attendeesOf(ws, meeting.id)).filter((a) => a.mail && a.id !== ws.asker.person).map((a) => ({ id: a.id, name: a.name, mail: a.mail!, absent: !a.present }));
  const letters = await roundUpsOf(ws, meeting.id);
  const letter = letters.find((l) => l.id === wanted) ?? letters.find((l) => l.state === 'draft') ?? letters[0] ?? null;
  return { meeting, open, people, letter, letters: letters.map((l) => ({ id: l.id, language: l.language, to: l.recipients.map((r) => r.name), state: l.state })), mailboxes: mailboxAddress() };
}

/** A letter that no meeting stands behind, with who it goes to. */
export async function letterPage(ws: Workspace, id: number) {
  const letter = await letterById(ws, Number.isInteger(id) ? id : -1);
  return { letter, people: letter.recipients.filter((r) => r.id !== 'chat').map((r) => ({ id: r.id, name: r.name, mail: r.mail, absent: false })), mailboxes: mailboxAddress() };
}
