import { existsSync, mkdirSync, readFileSync, realpathSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, extname, join, resolve, sep } from 'node:path';
import { isFolder } from '../../../core/routines/routine.ts';
import { Refusal } from '../../refusal.ts';

/** Where routines lay files: a folder beside the database, unless `OTTIK_EXPORTS_DIR` names another. */
export const exportsFolder = (): string => resolve(process.env.OTTIK_EXPORTS_DIR ?? join(dirname(process.env.OTTIK_DB ?? 'data/ottik.db'), 'exports'));

/** So many files of one name are kept beside each other. */
const MOST = 500;

/**
 * Lays a file into a folder below the one for exports. What lies there is not overwritten: another file of the same name gets
 * a number, and the same bytes are not laid down twice.
 * @returns its name, and whether it lay there already
 * @throws Refusal where the folder leads elsewhere, or cannot be written to
 */
export function layInto(folder: string, file: { name: string; bytes: Uint8Array }): { name: string; there: boolean } {
  if (!isFolder(folder)) throw new Refusal('bad-input', `“${folder.slice(0, 80)}” is no folder name.`, 'Use letters, figures, spaces and hyphens.');
  const root = exportsFolder();
  const into = join(root, folder);
  try {
    mkdirSync(into, { recursive: true });
    // a link somebody laid there may lead out of it
    if (!`${realpathSync(into)}${sep}`.startsWith(`${realpathSync(root)}${sep}`)) throw new Refusal('forbidden', `${folder} leads out of the folder for exports.`, 'Choose another folder.');
    const clean = basename(file.name).replace(/[^\p{L}\p{N}._ -]+/gu, '-');
    const [stem, ending] = [clean.slice(0, clean.length - extname(clean).length), extname(clean)];
    for (let n = 1; n <= MOST; n++) {
      const name = n === 1 ? clean : `${stem}-${n}${ending}`;
      const path = join(into, name);
      if (existsSync(path)) {
        if (readFileSync(path).equals(file.bytes)) return { name, there: true };
        continue;
      }
      // whole or not at all
      const beside = join(into, `.${name}.part`);
      try {
        writeFileSync(beside, file.bytes);
        renameSync(beside, path);
      } finally {
        rmSync(beside, { force: true });
      }
      return { name, there: false };
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal('conflict', `Nothing can be written to ${into}: ${(error as Error).message.slice(0, 120)}.`, 'Let Ottik write to that folder, or choose another.');
  }
  throw new Refusal('conflict', `${MOST} files called ${file.name} lie in ${folder} already.`, 'Clear the folder out.');
}
