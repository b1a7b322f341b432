/**
 * The one shape every record takes once it is read, whatever format it came in.
 * Segments are numbered from 0 in file order: one cue, or one line that is not blank.
 * Evidence points at segments by that number, so the numbering never depends on layout or on who spoke.
 */

export type RecordFormat = 'vtt' | 'srt' | 'txt' | 'md' | 'json' | 'html' | 'docx' | 'eml';

/** What part a segment plays in the record. */
export type SegmentRole =
  /** words that were said or written */
  | 'words'
  /** a line that only names the speaker or the time of the lines below it */
  | 'label'
  /** a heading of notes or minutes */
  | 'heading'
  /** date, attendance, mail header and the like */
  | 'meta'
  /** a placeholder such as `[photo]` or a ruling */
  | 'mark';

/** How a line of notes stands in its list or table. */
export interface Item {
  /** nesting, 0 for the outermost */
  depth: number;
  /** a checkbox, when the line has one */
  box: 'open' | 'done' | null;
  /** the cells of a table row */
  cells: string[] | null;
  /** the whole line is struck out */
  struck: boolean;
}

export interface Segment {
  index: number;
  /** line of the file, from 1, where the segment's words begin */
  line: number;
  /** the words alone: no speaker, no time, no list mark */
  text: string;
  /** speaker as the record names them, or null where the record does not say */
  voice: string | null;
  /** seconds from the start of the record, or null */
  start: number | null;
  end: number | null;
  role: SegmentRole;
  item: Item | null;
  /** heading the segment stands under, or null */
  section: string | null;
}

/** Something that was odd but did not keep the record from being read. */
export interface Doubt {
  line: number;
  message: string;
}

export interface MeetingRecord {
  format: RecordFormat;
  /** name of the layout that was recognised, for people to read */
  layout: string;
  segments: Segment[];
  /** speakers in order of appearance, as the record names them */
  voices: string[];
  doubts: Doubt[];
}

/** A record that cannot be read: what is wrong, where, and what to do about it. */
export class RecordError extends Error {
  constructor(
    message: string,
    readonly advice: string,
    readonly line: number | null = null,
  ) {
    super(message);
    this.name = 'RecordError';
  }
}
