import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Refusal } from '../refusal.ts';

const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;

/** Where the key lies: beside the database and never in it, so that a copy of the database alone opens nothing. */
const keyFile = () => process.env.OTTIK_KEY_FILE ?? join(dirname(process.env.OTTIK_DB ?? 'data/ottik.db'), 'ottik.key');

/** The key that passwords are kept with; made at first use, readable by its owner only. */
function theKey(): Buffer {
  const file = keyFile();
  if (!existsSync(file)) {
    mkdirSync(dirname(file), { recursive: true });
    // `wx`: of two that begin at once one makes it, and both read the same
    try {
      writeFileSync(file, randomBytes(KEY_BYTES).toString('base64'), { mode: 0o600, flag: 'wx' });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
  const key = Buffer.from(readFileSync(file, 'utf8'), 'base64');
  if (key.length !== KEY_BYTES) throw new Refusal('conflict', `${file} holds no key.`, 'Put the key file of your backup in its place, or delete it and enter the passwords anew.');
  return key;
}

/** Words that nobody can read without the key (AES-256 in GCM, NIST SP 800-38D, a nonce of 96 bits for each). */
export function sealed(words: string): string {
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv('aes-256-gcm', theKey(), nonce);
  return Buffer.concat([nonce, cipher.update(words, 'utf8'), cipher.final(), cipher.getAuthTag()]).toString('base64');
}

/**
 * The words again.
 * @throws Refusal where they were sealed with another key, or changed since
 */
export function unsealed(text: string): string {
  const bytes = Buffer.from(text, 'base64');
  try {
    const decipher = createDecipheriv('aes-256-gcm', theKey(), bytes.subarray(0, NONCE_BYTES), { authTagLength: TAG_BYTES });
    decipher.setAuthTag(bytes.subarray(-TAG_BYTES));
    return Buffer.concat([decipher.update(bytes.subarray(NONCE_BYTES, -TAG_BYTES)), decipher.final()]).toString('utf8');
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal('conflict', 'A password that is kept cannot be read with this key.', 'Put the key file back that belongs to this database, or enter the password anew in the settings.');
  }
}

/** Another key, for one purpose, from the one that is kept (HKDF, RFC 5869). */
export const keyFor = (purpose: string): string => Buffer.from(hkdfSync('sha256', theKey(), '', `ottik ${purpose}`, KEY_BYTES)).toString('base64url');
