import type { KeptAnswer, TakeAnswer } from '../../server/letters/replies.ts';

/** What was read from an answer, as a person has changed it before taking it. */
export interface AnswerDraft {
  kind: KeptAnswer['kind'];
  due: string | null;
  owner: string[] | null;
}

export const draftOf = (a: KeptAnswer): AnswerDraft => ({ kind: a.kind, due: a.due, owner: a.owner });

/** With another kind. What was typed for the kind before stays, should it be wanted after all. */
export const withKind = (d: AnswerDraft, kind: AnswerDraft['kind']): AnswerDraft => ({ ...d, kind });

/** With a date: a hand-over keeps being one and carries it, anything else is moved to it. */
export const withDue = (d: AnswerDraft, due: string | null): AnswerDraft => ({ ...d, due, kind: d.kind === 'reassigned' || due === null ? d.kind : 'moved' });

/** With an owner: it is handed over. */
export const withOwner = (d: AnswerDraft, owner: string[]): AnswerDraft => ({ ...d, owner, kind: 'reassigned' });

/** What is sent when it is taken: by key and by button alike, all that the slip shows. */
export function takeOf(d: AnswerDraft): TakeAnswer {
  return { kind: d.kind, ...(d.kind === 'moved' || (d.kind === 'reassigned' && d.due) ? { due: d.due } : {}), ...(d.kind === 'reassigned' && d.owner ? { owner: d.owner } : {}) };
}
