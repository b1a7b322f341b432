import type { BriefingPart } from '../../core/meetings/briefing-text.ts';
import { openBefore } from '../ledger/commitments.ts';
import { briefingOfMeeting } from '../meetings/briefings.ts';
import type { MeetingRow } from '../meetings/meetings.ts';
import type { PageSession } from './page.ts';

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
}

/** What one has to know before a meeting, with the same as text. */
export async function preparePage({ db, asker, today }: Pick<PageSession, 'db' | 'asker' | 'today'>, id: number): Promise<Prepared> {
  const { invited, ...brief } = await briefingOfMeeting(asker, db, id, today);
  const { meeting } = brief;
  return { ...brief, open: await openBefore(asker, db, meeting.project, meeting.date, today), invited: invited.filter((p) => p.id !== asker.person).map((p) => p.name), today, mail: asker.mail };
}
