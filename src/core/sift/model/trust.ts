import type { FindKind } from '../find.ts';
import kept from '../weights/model.json' with { type: 'json' };

/**
 * How likely finds are right, by kind: those the model reader alone has, and those it shares with Sift's own reader.
 * `measured` says on how many finds that rests. Written by `npm run bench -- --server URL --model NAME --keep`, which asks a
 * model about the annotated meetings; as shipped it is an estimate from nothing but prudence, and says so.
 */
export interface Trust {
  measured: number;
  alone: Record<FindKind, number>;
  both: Record<FindKind, number>;
}

export const TRUST: Trust = kept;
