import type { DueChoice } from './due.ts';
import type { OwnerChoice } from './owner.ts';
import type { Group } from './shapes.ts';
import type { Wording } from './wording.ts';

/** One group with everything decided about it, before it is judged worth showing. */
export interface Draft {
  group: Group;
  nature: 'action' | 'decision' | 'question';
  owner: OwnerChoice;
  due: DueChoice;
  /** what it is called; found out when asked for, since most drafts are never shown */
  wording: () => Wording;
  /** words of its wording that a careful reader is expected to have used too */
  named: number;
  likeOpen: number;
}
