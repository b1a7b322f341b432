import type { Hit } from '../../server/find/hits.ts';
import type { FindShown } from '../../server/pages/find.ts';

/** What the Find page shows and where one is in it. */
export interface FindState {
  /** what stands in the field, which may be ahead of what is shown */
  typed: string;
  shown: FindShown;
  /** number of the place one is at, among all that are shown; -1 before the first */
  at: number;
  busy: boolean;
}

export type FindDeed = { do: 'type'; text: string } | { do: 'came'; shown: FindShown } | { do: 'step'; by: 1 | -1 } | { do: 'at'; place: number } | { do: 'failed' };

/** All places that are shown, in the order in which one steps through them. */
export const placesOf = (shown: FindShown): Hit[] => shown.found?.groups.flatMap((g) => g.hits) ?? [];

export function findReducer(state: FindState, deed: FindDeed): FindState {
  switch (deed.do) {
    case 'type':
      return { ...state, typed: deed.text, busy: deed.text.trim() !== '' };
    case 'came':
      // an answer to what was typed before something else was: the later one is on its way
      if (deed.shown.q !== state.typed.trim().slice(0, 300)) return state;
      return { ...state, shown: deed.shown, at: deed.shown.q === state.shown.q ? Math.min(state.at, placesOf(deed.shown).length - 1) : -1, busy: false };
    case 'failed':
      return { ...state, busy: false };
    case 'at':
      return { ...state, at: deed.place };
    default: {
      const last = placesOf(state.shown).length - 1;
      return { ...state, at: Math.max(last < 0 ? -1 : 0, Math.min(last, state.at + deed.by)) };
    }
  }
}

/** The words of a search without what narrows it. */
export const withoutFilters = (typed: string): string =>
  typed
    .replace(/\b[a-z]{2,7}:(?:"[^"]*"|\S+)/g, '')
    .replace(/\s+/g, ' ')
    .trim();

const QUOTED = /[\s"]/;

/** What was typed, with a filter put in or taken out again. */
export function withFilter(typed: string, key: string, value: string): string {
  const term = `${key}:${QUOTED.test(value) ? `"${value.replaceAll('"', '')}"` : value}`;
  if (typed.includes(term)) return typed.replace(term, '').replace(/\s+/g, ' ').trim();
  const without = typed.replace(new RegExp(`(^|\\s)${key}:(?:"[^"]*"|\\S+)`, 'g'), ' ');
  return `${without} ${term}`.replace(/\s+/g, ' ').trim();
}

/** An answer with its sources as plain text, to be put into a letter. */
export function answerAsText(question: string, answer: { lines: { text: string; sources: number[]; head?: boolean }[]; sources: { words: string; who: string | null; on: string; where: string }[]; missing: string | null }, origin: string, hrefs: readonly string[]): string {
  const lines = answer.lines.map((l) => (l.head ? `\n${l.text}` : `${l.text}${l.sources.length ? ` [${l.sources.map((s) => s + 1).join(', ')}]` : ''}`));
  const sources = answer.sources.map((s, i) => `[${i + 1}] ${s.words ? `“${s.words}” ` : ''}${[s.who, s.on, s.where].filter(Boolean).join(', ')}, ${origin}${hrefs[i] ?? ''}`);
  return [question, '', ...lines, ...(answer.missing ? [answer.missing] : []), ...(sources.length ? ['', ...sources] : [])].join('\n');
}
