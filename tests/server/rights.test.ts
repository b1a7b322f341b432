import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Right } from '../../src/core/people/rights.ts';

/** What each address that changes something needs in the project it touches; `open` ones know their visitor by a link alone. */
const NEEDS: Readonly<Record<string, Right | 'open'>> = {
  'answer/[link]': 'open',
  'answers/[id]': 'work',
  begin: 'open',
  'close-out': 'work',
  'commitments/[id]': 'work',
  'commitments/index': 'work',
  'events/[id]': 'work',
  'find/worded': 'work',
  'finds/[id]': 'work',
  'invited/[token]': 'open',
  'jottings/[id]': 'read',
  'jottings/index': 'read',
  'keep-days': 'manage',
  learned: 'manage',
  ledger: 'read',
  'ledger-import': 'work',
  'ledger-views': 'read',
  'letters/[id]': 'work',
  'meetings/[id]/agenda': 'work',
  'meetings/[id]/briefing': 'read',
  'meetings/[id]/closing': 'work',
  'meetings/[id]/day': 'work',
  'meetings/[id]/finds': 'work',
  'meetings/[id]/minutes': 'work',
  'meetings/[id]/room': 'work',
  'meetings/[id]/round-up': 'work',
  'meetings/[id]/shares': 'work',
  'meetings/[id]/visibility': 'work',
  'meetings/calendar': 'work',
  'meetings/index': 'work',
  'people/[id]/access': 'manage',
  'people/[id]/details': 'work',
  'people/[id]/index': 'manage',
  'people/[id]/links': 'read',
  'people/index': 'work',
  plan: 'work',
  projects: 'work',
  readers: 'read',
  'records/[id]/keeping': 'work',
  'records/[id]/model': 'work',
  'records/[id]/voices': 'work',
  'registers/[id]': 'work',
  'replies/[id]': 'work',
  'routine-runs/[id]': 'work',
  'routines/[id]': 'work',
  'routines/index': 'manage',
  'routines/try': 'work',
  rules: 'manage',
  settings: 'read',
  'series/[id]': 'work',
  'step-into': 'read',
  templates: 'manage',
};
/** They take bytes, and ask for what they need themselves. */
const BYTES = ['auth/[...all]', 'records/first-finds', 'records/index', 'records/preview', 'records/[id]/media'];

const API = join(import.meta.dirname, '../../src/pages/api');

describe('what an address needs', () => {
  it('is what this table says, for every one of them', async () => {
    const found: Record<string, string> = {};
    for (const file of readdirSync(API, { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.ts'))) {
      const name = file.replaceAll('\\', '/').replace(/\.ts$/, '');
      if (BYTES.includes(name)) continue;
      const { POST } = (await import(join(API, file))) as { POST?: { needs?: Right } };
      if (POST) found[name] = POST.needs ?? 'open';
    }
    expect(found).toEqual(NEEDS);
  });
});
