import { createInterface } from 'node:readline/promises';
import { setPassword } from '../server/people/signing-in.ts';
import { openDatabase } from '../server/store/database.ts';

/**
 * `ottik password ADDRESS`: gives somebody who signs in here another password, read from the standard input, for whoever
 * has the machine and has lost the key to the house. Gives the exit code.
 */
export async function runPassword(argv: string[]): Promise<number> {
  const [address] = argv;
  if (!address) throw new Error('name the mail address of whoever it is for');
  const db = await openDatabase(process.env.OTTIK_DB ?? 'data/ottik.db');
  try {
    const person = await db
      .selectFrom('people')
      .select(['id', 'name'])
      .where((eb) => eb(eb.fn<string>('lower', ['mail']), '=', address.toLowerCase()))
      .where('account', '=', 1)
      .executeTakeFirst();
    if (!person) throw new Error(`nobody signs in here by ${address}`);
    const input = createInterface({ input: process.stdin });
    process.stderr.write(`A password for ${person.name}, of at least twelve characters: `);
    const { value } = await input[Symbol.asyncIterator]().next();
    input.close();
    try {
      await setPassword(db, person.id, value ?? '');
    } catch (error) {
      const [issue] = (error as { issues?: { message: string }[] }).issues ?? [];
      throw issue ? new Error(issue.message) : error;
    }
    process.stdout.write(`${person.name} signs in with it from now on, and is signed out everywhere\n`);
    return 0;
  } finally {
    await db.destroy();
  }
}
