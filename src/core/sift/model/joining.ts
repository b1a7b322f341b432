import type { Find, FindPart } from '../find.ts';
import { uniqueKeys } from '../sift.ts';
import { both, sameMatter } from './checking.ts';
import type { Trust } from './trust.ts';

/** Two readers put one matter in different words; so much of these in the same place is enough. */
const SAME_MATTER = 0.2;

/**
 * One list of finds from Sift's own reader and the model reader. What both found is surer, and is called what the model
 * calls it; what one alone found stays as sure as it was.
 * @param own   finds of the close reader, or of the quick one
 * @param model finds of the model reader that held up
 */
export function joined(own: readonly Find[], model: readonly Find[], trust: Trust): Find[] {
  const left = [...model];
  const out = own.map((mine) => {
    const at = left.findIndex((theirs) => sameMatter(mine, theirs, SAME_MATTER));
    if (at < 0) return mine;
    return together(mine, left.splice(at, 1)[0]!, trust);
  });
  const all = [...out, ...left].sort((a, b) => (a.evidence[0]?.segment ?? 0) - (b.evidence[0]?.segment ?? 0) || a.kind.localeCompare(b.kind));
  return uniqueKeys(all);
}

function together(mine: Find, theirs: Find, trust: Trust): Find {
  return {
    ...both(theirs, mine),
    key: mine.key,
    confidence: Math.max(mine.confidence, trust.both[mine.kind]),
    doubtful: doubtfulIn(mine, theirs),
    reason: theirs.reason.replace(/^The model reader; /, 'Both readers; '),
  };
}

/** Where both readers say the same it is sure; where they differ, or only the less careful one says anything, somebody has to look. */
function doubtfulIn(mine: Find, theirs: Find): FindPart[] {
  if (mine.update && theirs.update) return mine.update.kind === theirs.update.kind && mine.due === theirs.due ? [] : ['news'];
  if (mine.kind !== 'action') return [];
  const out: FindPart[] = [];
  const same = [...mine.owner].sort().join() === [...theirs.owner].sort().join();
  const owner = theirs.owner.length === 0 ? mine.owner.length > 0 : mine.owner.length > 0 ? !same : theirs.doubtful?.includes('owner');
  if (owner) out.push('owner');
  if (theirs.due === null ? mine.due !== null : mine.due !== null && mine.due !== theirs.due) out.push('due');
  return out;
}
