/** What the audit tells apart. */
export const DEEDS = ['saw', 'changed', 'sent', 'shared', 'took away'] as const;
export type Deed = (typeof DEEDS)[number];

/** An entry of the audit before it is kept. `about` is an id or a reference, as the address had it. */
export interface Entry {
  did: Deed;
  what: string;
  about: string | null;
}

/** What is changed through an address, by the first part of its path, in words for the page. */
const SUBJECTS: Readonly<Record<string, string>> = {
  answers: 'an answer',
  'close-out': 'the close-out of a day',
  commitments: 'a commitment',
  events: 'an event of a trail',
  finds: 'a find',
  jottings: 'a jotting',
  'keep-days': 'how long records are kept',
  learned: 'what Sift has learned',
  'ledger-import': 'a list of commitments',
  'ledger-views': 'a view of the Ledger',
  letters: 'a letter',
  meetings: 'a meeting',
  series: 'a series',
  people: 'a person’s entry',
  plan: 'the letter plan',
  projects: 'a project',
  readers: 'the readers',
  records: 'a record',
  registers: 'a decision or a question',
  replies: 'what came back',
  'routine-runs': 'a run of a routine',
  routines: 'a routine',
  rules: 'rules of letters',
  settings: 'the settings',
  'step-into': 'who they act as',
  templates: 'the wording of letters',
};

/** Acts that let something out of the house, by what they are called in a request. */
const SENDS = new Set(['send', 'write back', 'mail', 'go']);
const SHARES = new Set(['invite', 'role', 'share', 'revoke']);
/** What only looks, or only tries, changes nothing. */
const LOOKS = new Set(['look', 'preview', 'try out', 'try in', 'try model', 'read', 'try']);

/**
 * What a request that was carried out did.
 * @param path    of its address, as `/api/letters/12`
 * @param act     what its body asks for, where it says
 * @returns null where nothing was changed
 */
export function deedOf(path: string, act: string | null): Entry | null {
  const [part, ...rest] = path.replace(/^\/api\//, '').split('/');
  const subject = SUBJECTS[part ?? ''];
  if (subject === undefined || (act !== null && LOOKS.has(act))) return null;
  const did: Deed = act !== null && SHARES.has(act) ? 'shared' : act !== null && SENDS.has(act) ? 'sent' : 'changed';
  const about = rest.find((r) => r !== '') ?? null;
  return { did, what: [subject, act].filter(Boolean).join(': '), about };
}

/**
 * What looking at an address tells of, where that is worth keeping: the words of meetings, letters, people's pages, and
 * every file that leaves.
 */
export function sightOf(path: string, isFile: boolean): Entry | null {
  const m = /^\/(meetings|people|post\/letters|ledger)\/([^/]{1,80})(?:\/([\w.-]{1,40}))?$/.exec(path);
  if (isFile) return { did: 'took away', what: path.slice(0, 200), about: m?.[2] ?? null };
  if (!m) return null;
  const [, kind, about, part] = m;
  const what = kind === 'meetings' ? `a meeting${part ? `: ${part}` : ''}` : kind === 'people' ? 'a person’s page' : kind === 'post/letters' ? 'a letter' : /^C-\d+$/.test(about!) ? 'a trail' : null;
  return what === null ? null : { did: 'saw', what, about: about! };
}
