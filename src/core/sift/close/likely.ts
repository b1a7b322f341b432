import { logOdds, probability } from '../linear.ts';
import type { SiftModels } from '../models.ts';
import { readNatures } from '../natures.ts';
import type { Reading } from '../reading.ts';
import { aboutFeatures, placesFor, stemIndex, viewOpen } from '../reconcile.ts';

/** Units the quick reader gives less than this are ruled out and not read again against a commitment. */
const RULED_OUT = 0.03;
/** Of the rest, so many are read against each commitment: the likeliest. */
const MOST_LIKELY = 5;

/**
 * What is left for the close reader after the quick one: for each open commitment the units that may speak of it, the
 * likeliest first.
 */
export function likelyPlaces(reading: Reading, quick: SiftModels): Map<string, number[]> {
  const natures = readNatures(reading, quick.natures);
  const index = stemIndex(reading);
  return new Map(
    viewOpen(reading).map((view) => [
      view.open.id,
      placesFor(reading, natures, view, index)
        .map((i) => ({ i, p: probability(logOdds(quick.about, aboutFeatures(reading, natures, view, i))) }))
        .filter((x) => x.p >= RULED_OUT)
        .sort((a, b) => b.p - a.p || a.i - b.i)
        .slice(0, MOST_LIKELY)
        .map((x) => x.i),
    ]),
  );
}

/** From this log-odds of stating a job, news of one, a decision or a question, a unit is asked what settles it. */
const ASKED_FROM = -0.5;

/** Units of which it is asked when and whose their matter is and what it is called, by what the encoder takes them for (`CloseReading.nature`). */
export function unsettled(nature: readonly (readonly number[])[]): number[] {
  const out: number[] = [];
  nature.forEach((row, i) => {
    if (ASKED_OF.some((k) => (row[k] ?? -9) >= ASKED_FROM)) out.push(i);
  });
  return out;
}

/** An action, a decision, a question, an update. */
const ASKED_OF = [0, 2, 3, 4] as const;
