import { hindsight, hindsightInWords, isSure } from '../../../core/routines/hindsight.ts';
import { closingOf } from '../../meetings/closing.ts';
import { Refusal } from '../../refusal.ts';
import { readingOf } from '../../sift/close-reading.ts';
import { findsOf } from '../../sift/finds.ts';
import { takeFind } from '../../sift/judging.ts';
import { CODECS } from '../../store/codecs.ts';
import { DOUBTED } from '../../store/schema.ts';
import type { Doers, Doing } from '../doing.ts';

export const finds = (n: number): string => `${n} ${n === 1 ? 'find' : 'finds'}`;

const recordsOf = ({ ws, meeting }: Doing) => ws.db.selectFrom('records').select(['id']).where('meeting_id', '=', meeting!).where('gone_at', 'is', null).where('replaced_by', 'is', null).orderBy('id').execute();

/** Has the close reader go over every record of the meeting; where there is none yet, waits for it. */
export const sift: Doers['sift'] = async (_, doing) => {
  const records = await recordsOf(doing);
  if (records.length === 0) return { waits: 'the record' };
  const alone: string[] = [];
  if (!doing.dry)
    for (const { id } of records) {
      const { state, done, all, why } = await readingOf(doing.ws, id);
      if (state === 'waiting' || state === 'reading') return { waits: all > 0 ? `the close reader, ${done} of ${all} parts read` : 'the close reader' };
      if (state === 'quick only' && why) alone.push(why);
    }
  const there = await findsOf(doing.ws, doing.meeting!);
  return { said: `${finds(there.length)}${alone.length ? ` of the quick reader alone (${alone[0]})` : ''}, ${there.filter((f) => f.verdict === 'open').length} to settle` };
};

/** Waits until a meeting has a record and nothing of it is left to settle, or until somebody says go on. */
export const wait: Doers['wait'] = async ({ until }, doing) => {
  if (until === 'word') return doing.dry ? { said: 'would wait until somebody says go on' } : { waits: 'somebody to say go on', word: true };
  if ((await recordsOf(doing)).length === 0) return { waits: 'the record' };
  const { left } = await closingOf(doing.ws, doing.meeting!);
  return left > 0 ? { waits: `${finds(left)} to be settled` } : { said: 'every find is settled' };
};

/** Takes the open finds Sift is so sure of. One that cannot be taken stays, and is named with why. */
export const take: Doers['take'] = async ({ sure }, { ws, meeting, dry }) => {
  const all = await findsOf(ws, meeting!);
  if (dry) {
    const seen = hindsight(await settledFinds(ws, all), sure);
    return { said: hindsightInWords(seen), details: seen.passed.map((text) => `You passed: ${text}`) };
  }
  const took: number[] = [];
  const details: string[] = [];
  for (const f of all.filter((f) => f.verdict === 'open' && f.reader !== DOUBTED && isSure(f.confidence, sure))) {
    try {
      const { ref } = await takeFind(ws, f.id, { seen: f.seen });
      took.push(f.id);
      details.push(`${ref ?? ''} ${f.text}`.trim());
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      details.push(`Left: ${f.text} (${error.message})`);
    }
  }
  const left = all.filter((f) => f.verdict === 'open').length - took.length;
  return { said: took.length ? `took ${finds(took.length)}; ${left} left to settle` : `none of ${left} open finds is ${sure} % sure`, details, took };
};

/** Finds with what became of them; somebody who changed one before taking it left another text, owner or day. */
async function settledFinds(ws: Doing['ws'], all: Awaited<ReturnType<typeof findsOf>>) {
  if (all.length === 0) return [];
  const before = await ws.db
    .selectFrom('find_changes')
    .select(['find_id', 'before'])
    .where(
      'find_id',
      'in',
      all.map((f) => f.id),
    )
    .where('verdict', '=', 'taken')
    .where('before', 'is not', null)
    .orderBy('id')
    .execute();
  const proposed = new Map(before.map((b) => [b.find_id, CODECS.find.read(b.before!)]));
  return all.map((f) => {
    const p = proposed.get(f.id);
    return { find: { text: f.text, confidence: p?.confidence ?? f.confidence }, verdict: f.verdict, changed: p !== undefined && (p.text !== f.text || p.due !== f.due || p.owner.join() !== f.owner.join()) };
  });
}
