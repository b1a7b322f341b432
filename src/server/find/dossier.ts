import { type Dossier, dossierOf, placesIn, setDossier } from '../../core/ask/dossier.ts';
import { stemsOf } from '../../core/ask/question.ts';
import { shortDay } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import { FORMATS, type MinutesFormat, setAs } from '../meetings/minutes/minutes.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { freshen } from './index.ts';
import { onRecord } from './on-record.ts';

/**
 * Everything on record about a subject, among what whoever asks may see.
 * @throws Refusal where no subject was named, or nothing is on record about it
 */
export async function dossier(ws: Workspace, about: string): Promise<Dossier> {
  const subject = about.replace(/\s+/g, ' ').trim().slice(0, 200);
  if (stemsOf(subject).length === 0) throw new Refusal('bad-input', 'A dossier needs a subject.', 'Type what it is about, such as “the plinth”.');
  await freshen(ws.db);
  const { record, question } = await onRecord(ws, { asks: 'dossier', about: subject, who: null, unknown: null, when: null, whenWords: '' });
  const made = dossierOf(question.about, record);
  if (placesIn(made) === 0) throw new Refusal('not-found', `Nothing is on record about ${subject}.`, 'Try fewer words, or another one.');
  return made;
}

/** The same as a file. */
export async function dossierFile(ws: Workspace, about: string, format: MinutesFormat): Promise<{ name: string; type: string; bytes: Uint8Array }> {
  const made = await dossier(ws, about);
  const bytes = await setAs(format, setDossier(made, `Put together by ${ws.asker.name}`), { version: null, issuedOn: null, changes: [], asOf: `${shortDay(ws.today)} ${ws.today.slice(0, 4)}` });
  const name = fold(made.about)
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);
  return { name: `dossier-${name || 'subject'}-${ws.today}.${format}`, type: FORMATS[format], bytes };
}
