import { clock, shortDay } from '../language/days.ts';
import type { Block, Minutes, MinutesItem } from '../meetings/minutes.ts';
import { about, share } from './fits.ts';
import type { CommitmentOnRecord, OnRecord, PassageOnRecord } from './on-record.ts';
import { stemsOf } from './question.ts';
import { byUrgency, standing } from './standing.ts';

/** So much of a subject a passage has to have. */
const ENOUGH = 0.6;

/** What a dossier holds, before it is set. */
export interface Dossier {
  about: string;
  on: string;
  commitments: CommitmentOnRecord[];
  decisions: OnRecord['statements'][number][];
  questions: OnRecord['statements'][number][];
  /** everything that was said and written, the oldest first */
  passages: PassageOnRecord[];
}

/** Everything on record about a subject. */
export function dossierOf(subject: string, r: OnRecord): Dossier {
  const stems = stemsOf(subject);
  const statements = about(r.statements, subject, r.weight);
  return {
    about: subject,
    on: r.today,
    commitments: about(r.commitments, subject, r.weight).sort(byUrgency),
    decisions: statements.filter((s) => s.kind === 'decision').sort((a, b) => (a.on < b.on ? -1 : 1)),
    questions: statements.filter((s) => s.kind === 'question').sort((a, b) => (a.on < b.on ? -1 : 1)),
    passages: r.passages.filter((p) => p.kind !== 'minutes' && share(stems, p.words, r.weight) >= ENOUGH).sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : (a.at ?? 0) - (b.at ?? 0))),
  };
}

/** How many places a dossier has. */
export const placesIn = (d: Dossier): number => d.commitments.length + d.decisions.length + d.questions.length + d.passages.length;

/** A dossier as a document, in the shape that every way out is made from. */
export function setDossier(d: Dossier, from: string): Minutes {
  const blocks: Block[] = [];
  const part = (heading: string, content: Block[]) => {
    if (content.length) blocks.push({ kind: 'heading', level: 2, text: heading }, ...content);
  };
  const item = (x: { ref: string; text: string }, news: string): MinutesItem => ({ ref: x.ref, commitment: null, text: x.text, owner: [], due: null, news, moment: null });
  part('Decided', d.decisions.length ? [{ kind: 'items', of: 'updates', items: d.decisions.map((s) => item(s, `${shortDay(s.on, d.on)}${s.closed === null ? '' : `; replaced by ${s.closed}`}`)) }] : []);
  part('Promised', d.commitments.length ? [{ kind: 'items', of: 'updates', items: d.commitments.map((c) => item(c, `${c.owner.map((o) => o.name).join(', ') || 'nobody'}; ${standing(c, d.on)}`)) }] : []);
  part('Asked', d.questions.length ? [{ kind: 'items', of: 'updates', items: d.questions.map((s) => item(s, `${shortDay(s.on, d.on)}; ${s.open ? 'open' : `answered: ${s.closed}`}`)) }] : []);
  part('What was said and written', quotes(d.passages, d.on));
  return { title: `Dossier: ${d.about}`, under: [from, placesIn(d) === 1 ? 'One place' : `${placesIn(d)} places`], blocks };
}

/** Quotes under the meeting or letter they stand in. */
function quotes(passages: readonly PassageOnRecord[], today: string): Block[] {
  const out: Block[] = [];
  let under = '';
  for (const p of passages) {
    const head = `${shortDay(p.on, today)}, ${p.where}`;
    if (head !== under) out.push({ kind: 'heading', level: 3, text: head });
    under = head;
    out.push({ kind: 'text', runs: [{ text: `${p.who ?? 'Nobody named'}${p.at === null ? '' : `, ${clock(p.at)}`}: `, bold: true }, { text: p.words.replace(/\n/g, ' ') }] });
  }
  return out;
}
