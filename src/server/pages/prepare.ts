import type { BriefingPart } from '../../core/meetings/briefing-text.ts';
import type { Visibility } from '../../core/people/rights.ts';
import { openBefore } from '../ledger/commitments.ts';
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
}

/** What one has to know before a meeting, with the same as text. */
export async function preparePage(ws: Workspace, id: number): Promise<Prepared> {
  const { invited, ...brief } = await briefingOfMeeting(ws, id);
  const { meeting } = brief;
  const { visibility } = await ws.db.selectFrom('meetings').select('visibility').where('id', '=', id).executeTakeFirstOrThrow();
  const notes = meeting.series === null ? '' : (await ws.db.selectFrom('series').select('notes').where('id', '=', meeting.series).executeTakeFirstOrThrow()).notes;
  return { ...brief, visibility, notes, open: await openBefore(ws, meeting.project, meeting.date), invited: invited.filter((p) => p.id !== ws.asker.person).map((p) => p.name), today: ws.today, mail: ws.asker.mail };
}
