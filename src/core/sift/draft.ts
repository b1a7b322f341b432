import type { DueChoice } from './due.ts';
import type { Group } from './group.ts';
import type { OwnerChoice } from './owner.ts';

/** One group with everything decided about it, before it is judged worth showing. */
export interface Draft {
  group: Group;
  nature: 'action' | 'decision' | 'question';
  owner: OwnerChoice;
  due: DueChoice;
  text: string;
  /** see Wording */
  about: string[];
  /** words of its wording that a careful reader is expected to have used too */
  named: number;
  likeOpen: number;
}
