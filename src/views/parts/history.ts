import { useRef } from 'react';

/** Something that was done and can be taken back, and then done again. */
export interface Step {
  head: string;
  undo(): Promise<void>;
  /** leaves out what cannot be done a second time */
  redo?: () => Promise<void>;
}

/** Steps of one page, the last one first to be taken back. A new step forgets what was taken back before it. */
export class History {
  private readonly done: Step[] = [];
  private undone: Step[] = [];

  push(step: Step): void {
    this.done.push(step);
    this.undone = [];
  }

  /** Takes the last step back; gives its name, or null where there is none. A step that fails stays where it was. */
  async undo(): Promise<string | null> {
    const step = this.done.at(-1);
    if (!step) return null;
    await step.undo();
    this.done.splice(this.done.indexOf(step), 1);
    if (step.redo) this.undone.push(step);
    return step.head;
  }

  /** Does again what was last taken back. */
  async redo(): Promise<string | null> {
    const step = this.undone.at(-1);
    if (!step) return null;
    await step.redo!();
    this.undone.splice(this.undone.indexOf(step), 1);
    this.done.push(step);
    return step.head;
  }

  get canUndo(): boolean {
    return this.done.length > 0;
  }
}

export function useHistory(): History {
  const kept = useRef<History>(null);
  kept.current ??= new History();
  return kept.current;
}
