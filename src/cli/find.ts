import { existsSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { clock } from '../core/language/days.ts';
import { catchUp } from '../server/find/index.ts';
import { type FindShown, findPage } from '../server/pages/find.ts';
import { ownerOf } from '../server/people/owner.ts';
import { workspaceOf } from '../server/people/workspace.ts';
import { openDatabase } from '../server/store/database.ts';

/**
 * `ottik find WORDS`: what the Find page shows, as text or as JSON, with the eyes of whoever owns the workspace.
 * @returns 0 where something was found or answered, 1 where nothing is on record, 2 where nothing was asked
 */
export async function runFind(argv: string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: argv, allowPositionals: true, options: { json: { type: 'boolean' }, newest: { type: 'boolean' }, database: { type: 'string' } } });
  const words = positionals.join(' ').trim();
  if (words === '') {
    process.stderr.write('Type what is to be found, or a question.\n');
    return 2;
  }
  const file = values.database ?? process.env.OTTIK_DB ?? 'data/ottik.db';
  if (!existsSync(file)) throw new Error(`There is no database ${file}. Name one with --database.`);
  const db = await openDatabase(file);
  try {
    const owner = await ownerOf(db);
    if (owner === null) throw new Error(`${file} has no owner yet. Open Ottik once and say who you are.`);
    await catchUp(db);
    const shown = await findPage(await workspaceOf(db, owner), { q: words, order: values.newest ? 'newest' : 'best', open: null, typing: false });
    process.stdout.write(values.json ? `${JSON.stringify(shown, null, 2)}\n` : asText(shown));
    return (shown.found?.total ?? 0) > 0 || (shown.answered !== null && shown.answered !== 'unread' && shown.answered.answer.lines.length > 0) ? 0 : 1;
  } finally {
    await db.destroy();
  }
}

function asText({ answered, found }: FindShown): string {
  const out: string[] = [];
  if (answered === 'unread') out.push('Ottik does not understand this question. Places with its words:', '');
  else if (answered !== null) {
    const { lines, sources, missing } = answered.answer;
    out.push(...lines.map((l) => (l.head ? `\n${l.text}` : `${l.text}${l.sources.map((s) => ` [${s + 1}]`).join('')}`)), ...(missing ? [missing] : []), '');
    out.push(...sources.map((s, i) => `[${i + 1}] ${[s.who, s.on, s.where, s.at === null ? null : clock(s.at)].filter(Boolean).join(', ')}${s.words ? `: ${s.words.replace(/\s+/g, ' ')}` : ''}`), '');
  }
  for (const g of found?.groups ?? []) {
    out.push(`${g.on}  ${g.title}`);
    for (const h of g.hits)
      out.push(
        `  ${[h.start === null ? null : clock(h.start), h.ref ?? h.who?.name].filter(Boolean).join(' ')}: ${h.pieces
          .map((p) => p.text)
          .join('')
          .replace(/\s+/g, ' ')}`,
      );
    if (g.more) out.push(`  and ${g.more} more`);
  }
  if (found?.total === 0) out.push('No place has these words.');
  return `${out.join('\n').trim()}\n`;
}
