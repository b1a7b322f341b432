/** What somebody is in a project. Whoever set up the Ottik may do everything in every project they are in. */
export const ROLES = ['manager', 'member', 'guest'] as const;
export type Role = (typeof ROLES)[number];

/** What can be done in a project: look, change what is promised and found, and settle how the project works. */
export const RIGHTS = ['read', 'work', 'manage'] as const;
export type Right = (typeof RIGHTS)[number];

/** Which role may what. */
export const MAY: Readonly<Record<Role, readonly Right[]>> = {
  manager: ['read', 'work', 'manage'],
  member: ['read', 'work'],
  guest: ['read'],
};

/** What a role may do, in words for the page. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  manager: 'may do everything in the project',
  member: 'sees the project, and may change what is promised and found',
  guest: 'sees what they were at, and changes nothing',
};

/** Who sees a meeting and all that comes from it. */
export const VISIBILITIES = ['attendees', 'project', 'workspace'] as const;
export type Visibility = (typeof VISIBILITIES)[number];

/** Who that is, in words that follow “for”. */
export const VISIBILITY_WORDS: Readonly<Record<Visibility, string>> = {
  attendees: 'those who were at it',
  project: 'the project',
  workspace: 'everybody who works here',
};
