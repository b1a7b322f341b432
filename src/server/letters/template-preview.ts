import { composeLetter, type LetterItem } from '../../core/letters/compose.ts';
import { letterHtml } from '../../core/letters/html.ts';
import type { Language, LetterKind, LetterLength, Tone } from '../../core/letters/kinds.ts';
import { composeRoundUp } from '../../core/letters/round-up.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import { meetingRows } from '../meetings/meetings.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { letterAs } from './letters.ts';
import { roundUpInput } from './round-up.ts';
import { checkTemplate, fillTemplate } from './templates.ts';

export interface TemplatePreview {
  /** what is wrong with the template; then there is no letter */
  wrong: string[];
  subject: string;
  text: string;
  html: string;
  short: string;
  /** what the letter shown is about */
  about: string;
}

/** A template filled with what is open in the project now, so that it is judged on real words. */
export async function previewTemplate(ws: Workspace, project: string, t: { kind: LetterKind; language: Language; series: string; tone: Tone; length: LetterLength; subject: string; body: string; short: string }): Promise<TemplatePreview> {
  mustSee(ws, project, 'project');
  const none = { subject: '', text: '', html: '', short: '', about: '' };
  const wrong = checkTemplate(t, t.kind);
  if (wrong.length) return { wrong, ...none };
  try {
    return { wrong: [], ...(await filled(ws, project, t)) };
  } catch (error) {
    return { wrong: [error instanceof Error ? error.message : String(error)], ...none };
  }
}

async function filled(ws: Workspace, project: string, t: Parameters<typeof previewTemplate>[2]): Promise<Omit<TemplatePreview, 'wrong'>> {
  if (t.kind === 'round-up') {
    const meeting = (await meetingRows(ws, { project })).filter((m) => m.records > 0 && (t.series === '' || m.series === t.series)).at(-1);
    if (!meeting) return { subject: '', text: '', html: '', short: '', about: 'no meeting has a record yet' };
    const out = composeRoundUp({ ...(await roundUpInput(ws, meeting.id)), language: t.language, tone: t.tone, length: t.length }, fillTemplate, t);
    const view = letterAs({ kind: 'round-up', ...out }, { name: 'Bram Osei', mail: '' });
    return { subject: view.subject, text: view.text, html: view.html, short: out.short, about: meeting.title };
  }
  const rows = (await ledgerRows(ws, { project, state: t.kind === 'thanks' ? 'ended' : 'open', lives: false, limit: 200 })).filter((r) => r.owner.length > 0 && r.owner[0]!.id !== ws.asker.person && (t.series === '' || r.series === t.series));
  const owner = rows[0]?.owner[0];
  const own = rows.filter((r) => r.owner[0]?.id === owner?.id).slice(0, 3);
  const sitting = (await meetingRows(ws, { project, from: ws.today })).find((m) => m.records === 0);
  const { name } = await ws.db.selectFrom('projects').select('name').where('id', '=', project).executeTakeFirstOrThrow();
  const items = own.map((r): LetterItem => ({ commitment: r.id, ref: r.ref, text: r.text, owner: r.owner.map((o) => o.name), due: r.due, state: r.state, madeOn: r.madeOn, meeting: r.from, moved: r.moved, carried: r.carried, kind: t.kind }));
  const out = composeLetter(
    {
      kind: t.kind,
      items: t.kind === 'invitation' ? [] : items,
      sitting: sitting ? { title: sitting.title, date: sitting.date, time: sitting.time, place: sitting.place } : null,
      recipient: { name: owner?.name ?? ws.asker.name },
      sender: { name: ws.asker.name },
      project: { name },
      today: ws.today,
      link: 'https://ottik.example/answer/…',
      language: t.language,
      tone: t.tone,
      length: t.length,
    },
    fillTemplate,
    t,
  );
  return { subject: out.subject, text: out.body, html: letterHtml(out.body), short: out.short, about: t.kind === 'invitation' ? (sitting?.title ?? 'no sitting is planned') : own.map((r) => r.ref).join(', ') || 'nothing is open' };
}
