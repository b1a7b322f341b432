import type { Language } from './kinds.ts';
import { byTone, WORDS } from './templates.ts';

/** A letter with its greeting and its signature and nothing between: what somebody begins with who writes one by hand. Liquid. */
export const letterFrame = (language: Language): string => `${byTone(WORDS[language].greeting)}\n\n\n\n{{ sender.name }}`;
