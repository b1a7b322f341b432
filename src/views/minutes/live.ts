import { createContext } from 'react';
import type { MinutesData } from '../../core/meetings/minutes.ts';
import type { Choice } from '../../server/people/people.ts';

/** What the parts of the minutes show, and how an owner or a date is changed where it stands. */
export interface Live {
  data: MinutesData;
  people: readonly Choice[];
  today: string;
  change(commitment: number, change: { owner: string[] } | { due: string | null }): void;
}

export const LiveContext = createContext<Live | null>(null);
