import { Liquid } from 'liquidjs';
import { z } from 'zod';
import { LANGUAGES, type Language, LETTER_KINDS, type LetterKind } from '../../core/letters/kinds.ts';
import { type LetterTemplate, templateFor, unknownVariables, VARIABLES } from '../../core/letters/templates.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';

const liquid = new Liquid({ strictVariables: true, strictFilters: true, ownPropertyOnly: true, parseLimit: 200_000, renderLimit: 2_000, memoryLimit: 10_000_000, templates: {} });
// a wording is one text: it takes in no other, from no file
for (const tag of ['render', 'include', 'layout', 'block']) delete liquid.tags[tag];

/** What is wrong with a template, in words. */
function explain(error: unknown): string {
  const said = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error);
  if (/limit exceeded/.test(said)) return 'it takes too long or grows too large: a loop in it has no reasonable end';
  return said.replace(/, line:(\d+), col:(\d+)$/, ' (line $1, column $2)');
}

/** Fills a template; a mistake in it is told with its place. */
export function fillTemplate(template: string, values: Record<string, unknown>): string {
  try {
    return liquid.parseAndRenderSync(template, values) as string;
  } catch (error) {
    throw new Refusal('bad-input', `The letter has a variable that cannot be filled: ${explain(error)}.`, 'Variables are {{ recipient.first }} and {{ recipient.name }}; templates may use more.');
  }
}

/**
 * What is wrong with a template before anything is written with it: mistakes in the language, and variables that a
 * letter of its kind does not have.
 */
export function checkTemplate(template: LetterTemplate, kind: LetterKind): string[] {
  const wrong: string[] = [];
  for (const part of ['subject', 'body', 'short'] as const) {
    try {
      const used = liquid.globalFullVariablesSync(template[part]);
      for (const name of unknownVariables(used, kind)) wrong.push(`${PART[part]}: there is no {{ ${name} }} in a letter of this kind.`);
    } catch (error) {
      wrong.push(`${PART[part]}: ${explain(error)}.`);
    }
  }
  return wrong;
}

const PART = { subject: 'Subject', body: 'Letter', short: 'Chat message' };

export const TemplateSchema = z.object({
  kind: z.enum(LETTER_KINDS),
  language: z.enum(LANGUAGES),
  /** empty for the whole project */
  series: z.string().max(140),
  subject: z
    .string()
    .trim()
    .min(1, 'needs words')
    .max(1000)
    .refine((s) => !/[\r\n]/.test(s), 'is one line'),
  body: z.string().trim().min(1, 'needs words').max(20_000),
  short: z.string().trim().max(2000),
});
export type TemplateEdit = z.infer<typeof TemplateSchema>;

/** The template in force: the series’ own, else the project’s own, else the one Ottik comes with. */
export async function templateOf(db: Db, project: string, series: string | null, kind: LetterKind, language: Language): Promise<LetterTemplate & { from: 'series' | 'project' | 'Ottik' }> {
  const rows = await db
    .selectFrom('letter_templates')
    .select(['series_id', 'subject', 'body', 'short'])
    .where('project_id', '=', project)
    .where('kind', '=', kind)
    .where('language', '=', language)
    .where('series_id', 'in', ['', series ?? ''])
    .execute();
  const own = rows.find((r) => r.series_id !== '' && r.series_id === series) ?? rows.find((r) => r.series_id === '');
  if (own) return { subject: own.subject, body: own.body, short: own.short, from: own.series_id ? 'series' : 'project' };
  return { ...templateFor(kind, language), from: 'Ottik' };
}

/** Keeps an own template; one with a mistake is refused and the one before it stays in force. */
export async function keepTemplate(ws: Workspace, project: string, edit: TemplateEdit): Promise<void> {
  mustSee(ws, project, 'project');
  const wrong = checkTemplate(edit, edit.kind);
  if (wrong.length)
    throw new Refusal(
      'bad-input',
      wrong.join(' '),
      `Known here: ${VARIABLES.filter((v) => v.kinds.includes(edit.kind))
        .map((v) => v.name)
        .join(', ')}.`,
    );
  if (edit.series && !(await ws.db.selectFrom('series').select('id').where('id', '=', edit.series).where('project_id', '=', project).executeTakeFirst())) throw new Refusal('bad-input', 'There is no such series in this project.');
  const values = { subject: edit.subject, body: edit.body, short: edit.short, at: new Date().toISOString(), by_person: ws.asker.person };
  await ws.db
    .insertInto('letter_templates')
    .values({ project_id: project, series_id: edit.series, kind: edit.kind, language: edit.language, ...values })
    .onConflict((c) => c.columns(['project_id', 'series_id', 'kind', 'language']).doUpdateSet(values))
    .execute();
}

/** Puts the template Ottik comes with in force again. */
export async function dropTemplate(ws: Workspace, project: string, which: { series: string; kind: LetterKind; language: Language }): Promise<void> {
  mustSee(ws, project, 'project');
  await ws.db.deleteFrom('letter_templates').where('project_id', '=', project).where('series_id', '=', which.series).where('kind', '=', which.kind).where('language', '=', which.language).execute();
}
