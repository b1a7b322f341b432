import { z } from 'zod';
import { Refusal } from '../refusal.ts';

/** OWASP ASVS 4.0.3, 2.1.1 and 2.1.2: at least twelve characters, and no more than 128. */
export const PasswordSchema = z.string().min(12, 'A password has at least twelve characters.').max(128, 'A password has at most 128 characters.');

/** What zxcvbn gives of 4: from 3 on, guessing it would take more than a hundred million tries. */
const HARD_ENOUGH = 3;

type Estimate = (password: string, own: string[]) => { score: number; known: boolean };
let estimate: Promise<Estimate> | null = null;

/** The list of passwords that were told in breaches is large: it is loaded when the first password is set. */
async function estimator(): Promise<Estimate> {
  const [{ ZxcvbnFactory }, { dictionary, adjacencyGraphs }] = await Promise.all([import('@zxcvbn-ts/core'), import('@zxcvbn-ts/language-common')]);
  const zxcvbn = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  return (password, own) => {
    const { score, sequence } = zxcvbn.check(password, own);
    return { score, known: sequence.some((part) => 'dictionaryName' in part && part.dictionaryName === 'passwords-common' && part.token.length > 4) };
  };
}

/**
 * Refuses a password that stands on lists of those told in breaches, with or without some figures behind it, or that is
 * guessed easily: repetition, rows of keys, one's own name or address (OWASP ASVS 4.0.3, 2.1.7; zxcvbn with its list of
 * 49,000 passwords, asked on this machine alone).
 * @param own words that say who it is for
 */
export async function mustBeHardToGuess(password: string, own: readonly string[] = []): Promise<void> {
  estimate ??= estimator();
  const words = own.flatMap((w) => [w, ...w.split(/[^\p{L}\p{N}]+/u)]).filter((w) => w.length > 2);
  const { score, known } = (await estimate)(PasswordSchema.parse(password), words);
  if (score >= HARD_ENOUGH) return;
  throw new Refusal('bad-input', known ? 'That password is on lists of passwords that were found out elsewhere.' : 'That password is easily guessed.', 'Take several words that do not belong together.');
}
