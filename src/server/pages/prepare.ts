import type { BriefingPart } from '../../core/meetings/briefing-text.ts';
import type { Visibility } from '../../core/people/rights.ts';
import { openBefore } from '../ledger/commitments.ts';
import { type AgendaShown, agendaOf } from '../meetings/agenda.ts';
import { briefingOfMeeting } from '../meetings/briefings.ts';
import type { MeetingRow } from '../meetings/meetings.ts';
import type { Workspace } from '../people/workspace.ts';

export interface Prepared {
  meeting: MeetingRow;
  open: number;
  since: string | null;
  invited: string[];
  parts: BriefingPart[];
  text: string;
  today: string;
  /** where it can be mailed to; null where whoever asks has no address */
  mail: string | null;
  visibility: Visibility;
  /** what holds for every meeting of its series */
  notes: string;
  /** null for a meeting that was held before anybody made one */
  agenda: AgendaShown | null;
  mayChange: boolean;
}

/** What one has to know before a meeting, with the same as text. */
export async function preparePage(ws: Workspace, id: number): Promise<Prepared> {
  const { invited, ...brief } = await briefingOfMeeting(ws, id);
  const { meeting } = brief;
  const { visibility } = await ws.db.selectFrom('meetings').select('visibility').where('id', '=', id).executeTakeFirstOrThrow();
  const notes = meeting.series === null ? '' : (await ws.db.selectFrom('series').select('notes').where('id', '=', meeting.series).executeTakeFirstOrThrow()).notes;
  const agenda = meeting.records > 0 ? await keptAgenda(ws, id) : await agendaOf(ws, id);
  const mayChange = meeting.records === 0 && ws.asker.roles.get(meeting.project) !== 'guest' && !ws.asker.archived.has(meeting.project);
  return { ...brief, visibility, notes, agenda, mayChange, open: await openBefore(ws, meeting.project, meeting.date), invited: invited.filter((p) => p.id !== ws.asker.person).map((p) => p.name), today: ws.today, mail: ws.asker.mail };
}

/** The agenda of a meeting that was held, where somebody kept one. */
async function keptAgenda(ws: Workspace, id: number): Promise<AgendaShown | null> {
  const agenda = await agendaOf(ws, id);
  return agenda.kept ? agenda : null;
}
