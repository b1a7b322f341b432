import type { LinearModel } from './linear.ts';
import type { NatureModels } from './natures.ts';
import type { OwnerModel } from './owner.ts';

/** Every weight Sift works with. Made by `npm run learn` from the annotated meetings, never by hand. */
export interface SiftModels {
  natures: NatureModels;
  link: Record<'action' | 'decision' | 'question', LinearModel>;
  judge: Record<'action' | 'decision' | 'question', LinearModel>;
  /** which sentence says what was decided or asked */
  clause: Record<'decision' | 'question', LinearModel>;
  /** which words name the matter */
  keyword: Record<'action' | 'decision' | 'question', LinearModel>;
  /** which stretch of a sentence a job is called by */
  phrase: LinearModel;
  owner: OwnerModel;
  due: LinearModel;
  /** which date phrase is the new date of a commitment that is moved */
  newDate: LinearModel;
  about: LinearModel;
  /** which kind of news a commitment got */
  kind: LinearModel;
  /** from which log-odds a unit is considered, and from which probability a find is shown */
  least: Record<'action' | 'decision' | 'question', number>;
  show: Record<'action' | 'decision' | 'question' | 'update', number>;
}
