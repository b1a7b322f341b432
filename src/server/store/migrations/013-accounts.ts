import { type Kysely, sql } from 'kysely';

/**
 * Accounts: who may sign in, where they are signed in, and by what they prove it. The tables are those of better-auth,
 * by the names its settings give them. An invitation leads one person to an account; a membership says what they may do.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const statements = [
    `CREATE TABLE users (id TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, email TEXT NOT NULL UNIQUE, emailVerified INTEGER NOT NULL, image TEXT,
      createdAt DATE NOT NULL, updatedAt DATE NOT NULL, twoFactorEnabled INTEGER, personId TEXT NOT NULL UNIQUE REFERENCES people (id))`,
    `CREATE TABLE sessions (id TEXT NOT NULL PRIMARY KEY, expiresAt DATE NOT NULL, token TEXT NOT NULL UNIQUE, createdAt DATE NOT NULL, updatedAt DATE NOT NULL,
      ipAddress TEXT, userAgent TEXT, userId TEXT NOT NULL REFERENCES users (id) ON DELETE CASCADE)`,
    `CREATE TABLE credentials (id TEXT NOT NULL PRIMARY KEY, accountId TEXT NOT NULL, providerId TEXT NOT NULL, userId TEXT NOT NULL REFERENCES users (id) ON DELETE CASCADE,
      accessToken TEXT, refreshToken TEXT, idToken TEXT, accessTokenExpiresAt DATE, refreshTokenExpiresAt DATE, scope TEXT, password TEXT, createdAt DATE NOT NULL, updatedAt DATE NOT NULL)`,
    'CREATE TABLE verifications (id TEXT NOT NULL PRIMARY KEY, identifier TEXT NOT NULL, value TEXT NOT NULL, expiresAt DATE NOT NULL, createdAt DATE NOT NULL, updatedAt DATE NOT NULL)',
    `CREATE TABLE twoFactor (id TEXT NOT NULL PRIMARY KEY, secret TEXT NOT NULL, backupCodes TEXT NOT NULL, userId TEXT NOT NULL REFERENCES users (id) ON DELETE CASCADE,
      verified INTEGER, failedVerificationCount INTEGER, lockedUntil DATE)`,
    'CREATE INDEX sessions_by_user ON sessions (userId)',
    'CREATE INDEX credentials_by_user ON credentials (userId)',
    'CREATE INDEX verifications_by_identifier ON verifications (identifier)',
    'CREATE INDEX two_factor_by_user ON twoFactor (userId)',
    `CREATE TABLE invitations (id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, person_id TEXT NOT NULL REFERENCES people (id), project_id TEXT NOT NULL REFERENCES projects (id),
      role TEXT NOT NULL CHECK (role IN ('manager', 'member', 'guest')), by_person TEXT NOT NULL REFERENCES people (id), at TEXT NOT NULL, expires_at TEXT NOT NULL, used_at TEXT)`,
    `ALTER TABLE memberships ADD COLUMN access TEXT NOT NULL DEFAULT 'member' CHECK (access IN ('manager', 'member', 'guest'))`,
    `UPDATE memberships SET access = 'manager' WHERE person_id = (SELECT manager_id FROM projects WHERE id = memberships.project_id)`,
    `ALTER TABLE meetings ADD COLUMN visibility TEXT NOT NULL DEFAULT 'project' CHECK (visibility IN ('attendees', 'project'))`,
  ];
  for (const s of statements) await sql.raw(s).execute(db);
}
