import type { LetterKind } from '../src/core/letters/kinds.ts';

/** A letter Ines sent in the demo, and what came back. Days are counted back from the demo's last working day. */
export interface DemoLetter {
  ago: number;
  to: string;
  kind: Exclude<LetterKind, 'round-up' | 'invitation'>;
  /** keys of the story's commitments it is about */
  about: string[];
  reply?: {
    ago: number;
    /** what is written above the quoted letter */
    words: string;
    nature?: 'away' | 'bounce';
    /** told on the reader's own page, and not by mail: that they are still on it */
    page?: true;
    /** Ines took what was read from it */
    taken?: boolean;
  };
}

export const LETTERS: readonly DemoLetter[] = [
  { ago: 25, to: 'wim', kind: 'thanks', about: ['corner'] },
  { ago: 20, to: 'dele', kind: 'overdue', about: ['permit'], reply: { ago: 19, words: 'Hello Ines,\n\n1 still waiting for the Board, they sit once a month.\n\nDele', taken: true } },
  { ago: 13, to: 'ruth', kind: 'assignment', about: ['survey'], reply: { ago: 12, words: 'Yes, that is mine.\n\nRuth', taken: true } },
  { ago: 10, to: 'yusuf', kind: 'check', about: ['trays'], reply: { ago: 9, words: 'Coming along, two sheets of three are drawn.\n\nYusuf', taken: true } },
  { ago: 8, to: 'ruth', kind: 'digest', about: ['fireplan', 'survey'] },
  { ago: 6, to: 'hanne', kind: 'escalation', about: ['permit'] },
  { ago: 6, to: 'kit', kind: 'hand-over', about: ['noise'], reply: { ago: 5, words: 'Yes, it is mine now.\n\nKit', taken: true } },
  { ago: 5, to: 'dele', kind: 'overdue', about: ['permit'], reply: { ago: 5, words: 'I am away until Monday and read no mail. For anything urgent ask the duty desk.', nature: 'away' } },
  { ago: 4, to: 'tove', kind: 'check', about: ['spares'], reply: { ago: 3, words: '', page: true, taken: true } },
  { ago: 2, to: 'petra', kind: 'reminder', about: ['cost'], reply: { ago: 2, words: '', nature: 'bounce' } },
  { ago: 2, to: 'yusuf', kind: 'reminder', about: ['trays'], reply: { ago: 0, words: 'Hello Ines,\n\nthe drawings are finished, but Jonas still has to check two runs, so call it Monday.\n\nIs the lamp circuit mine as well?\n\nYusuf' } },
  { ago: 1, to: 'sam', kind: 'overdue', about: ['berths'], reply: { ago: 0, words: '1 done, the harbour office stamped it this morning.\n\nSam' } },
];
