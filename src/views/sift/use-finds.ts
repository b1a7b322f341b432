import { useRef, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { seenIn } from '../../core/sift/twins.ts';
import type { SiftProps } from '../../server/pages/sift.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import type { Reshape } from '../../server/sift/reshaping.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import { type Step, useHistory } from '../parts/history.ts';
import { edgeOf } from './RecordColumn.tsx';
import { type Counts, countsInWords, readingWords, refine, useReading } from './reading.ts';
import { type Edits, NEWS } from './Slip.tsx';
import { canBeTakenUnseen, nextOpen } from './sure.ts';
import { changedElsewhere, useLive } from './use-live.ts';
import { useModel } from './use-model.ts';

/** What a find says on the screen, in the form a take is sent in. */
function shownParts(f: KeptFind) {
  if (f.update) return { kind: f.update.kind, ...(f.update.kind === 'moved' ? { due: f.due } : {}), ...(f.update.kind === 'reassigned' ? { owner: f.owner } : {}) };
  return f.kind === 'action' ? { text: f.text, owner: f.owner, due: f.due } : { text: f.text };
}

/** The finds of a record and all that can be done with them; every change can be taken back. */
export function useFinds({ meeting, record, finds: given, people: known, next, today, model: offered }: SiftProps, go: (id: number | null) => void, current: number | null) {
  const [finds, setFinds] = useState(given);
  const [people, setPeople] = useState(known);
  const [edits, setEdits] = useState<Record<number, Edits>>({});
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const [made, setMade] = useState(next);
  const latest = useRef({ finds, edits, current, busy });
  latest.current = { finds, edits, current, busy };

  const ordered = [...finds].sort((a, b) => edgeOf(a) - edgeOf(b) || a.id - b.id);
  const find = ordered.find((f) => f.id === current) ?? null;

  const refused = (error: unknown) => {
    setSaid(wentWrong(error));
  };
  /** Puts finds as the server gives them in the place of those shown, or beside them where they are new. */
  const replace = (...now: readonly (KeptFind | null)[]) => {
    const here = now.flatMap((f) => (f ? [seenIn(f, record.id)] : []));
    setFinds((all) => [...all.map((x) => here.find((f) => f.id === x.id) ?? x), ...here.filter((f) => f.record === record.id && !all.some((x) => x.id === f.id))]);
  };
  const drop = (id: number) => setFinds((all) => all.filter((x) => x.id !== id));
  const history = useHistory();
  const undo = async () => {
    try {
      const head = await history.undo();
      setSaid(head ? { head: 'Undone', rest: head, undo: history.canUndo ? () => void undo() : undefined } : { head: 'Nothing to undo' });
    } catch (error) {
      refused(error);
    }
  };
  const redo = async () => {
    try {
      const head = await history.redo();
      setSaid(head ? { head: 'Done again', rest: head, undo: () => void undo() } : { head: 'Nothing to do again' });
    } catch (error) {
      refused(error);
    }
  };
  const did = (words: Omit<Said, 'undo'>, step: Omit<Step, 'head'>) => {
    history.push({ head: [words.head, words.rest].filter(Boolean).join(', '), ...step });
    setSaid({ ...words, undo: () => void undo() });
  };
  const after = (id: number): number | null => {
    const at = ordered.findIndex((f) => f.id === id);
    return nextOpen([...ordered.slice(at + 1), ...ordered.slice(0, Math.max(0, at))])?.id ?? null;
  };
  const counted = (kept: KeptFind) => {
    if (!kept.update && kept.ref) setMade((m) => ({ ...m, [kept.kind]: Math.max(m[kept.kind as 'action'], Number(kept.ref!.slice(2)) + 1) }));
  };

  const send = (id: number, body: object) => post<KeptFind>(`/api/finds/${id}`, body);
  const bringBack = async (id: number) => {
    replace(await send(id, { do: 'reopen' }));
    go(id);
  };
  const reopen = async (id: number) => {
    try {
      await bringBack(id);
      setSaid(null);
    } catch (error) {
      refused(error);
    }
  };

  const judge = async (what: 'take' | 'pass') => {
    if (!find || busy || find.verdict === 'taken') return;
    const { named, ...changes } = edits[find.id] ?? {};
    const before = find;
    // what is shown is what is taken, whatever a reader thinks of it meanwhile
    const body = what === 'take' ? { do: 'take', ...shownParts(find), ...changes } : { do: 'pass' };
    setBusy(true);
    replace({ ...find, ...(changes.text ? { text: changes.text } : {}), verdict: what === 'take' ? 'taken' : 'passed' });
    go(after(find.id));
    try {
      const kept = await send(find.id, { ...body, seen: find.seen });
      replace(kept);
      if (named) setPeople((all) => [...all, ...kept.owner.filter((o) => !all.some((p) => p.id === o)).map((o, i) => ({ id: o, name: Object.values(named)[i] ?? o, aliases: [], me: false, role: '', organisation: '' }))]);
      if (what === 'take') counted(kept);
      const who = kept.kind === 'action' ? [listOf(kept.owner.map((o) => named?.[o] ?? people.find((p) => p.id === o)?.name ?? Object.values(named ?? {})[0] ?? o)) || 'nobody yet', kept.due ? shortDay(kept.due, today) : 'no date'].join(', ') : kept.update ? NEWS[kept.update.kind] : kept.text;
      did({ head: what === 'take' ? `${kept.ref} taken` : 'Passed', rest: what === 'take' ? who : kept.text }, { undo: () => bringBack(kept.id), redo: async () => replace(await send(kept.id, body)) });
    } catch (error) {
      replace(before);
      go(before.id);
      refused(error);
    } finally {
      setBusy(false);
    }
  };

  /** Takes everything that is sure and complete, one after the other; undo takes all of it back. */
  const takeSure = async () => {
    const sure = ordered.filter((f) => canBeTakenUnseen(f) && !edits[f.id]);
    if (busy || sure.length === 0) {
      setSaid({ head: 'Nothing to take unseen', rest: 'no open find is sure and has owner and date' });
      return;
    }
    setBusy(true);
    const taken: KeptFind[] = [];
    try {
      for (const f of sure) {
        const kept = await send(f.id, { do: 'take', seen: f.seen });
        taken.push(kept);
        replace(kept);
        counted(kept);
      }
    } catch (error) {
      refused(error);
    } finally {
      setBusy(false);
    }
    const last = taken.at(-1);
    if (!last) return;
    go(after(last.id));
    if (taken.length === sure.length)
      did(
        { head: `${taken.length} taken`, rest: listOf(taken.map((f) => f.ref ?? '')) },
        {
          undo: async () => {
            for (const f of taken.toReversed()) await bringBack(f.id);
          },
        },
      );
  };

  const reshape = async (id: number, change: Reshape, words: string) => {
    if (busy) return;
    setBusy(true);
    const shape = async (c: Reshape) => {
      const { find: now, other } = await post<{ find: KeptFind; other: KeptFind | null }>(`/api/finds/${id}`, { ...c, ...(c === change ? { seen: finds.find((f) => f.id === id)?.seen } : {}) });
      replace(now, other);
      setEdits(({ [id]: _, ...rest }) => rest);
      go(id);
      return { now, other };
    };
    try {
      const { now, other } = await shape(change);
      const split = change.do === 'split' && other ? other.id : null;
      if (change.do === 'merge' && !other) drop(change.with);
      did(
        { head: words, rest: split === null ? now.text : other!.text },
        {
          undo: async () => {
            await shape({ do: 'put back', ...(split === null ? {} : { split }) });
            if (split !== null) drop(split);
          },
        },
      );
    } catch (error) {
      refused(error);
    } finally {
      setBusy(false);
    }
  };

  /** Makes a find of its own of the selected words, which are taken out of the open one. */
  const split = async (place: { segment: number; from: number; to: number; text: string } | null) => {
    if (find?.verdict !== 'open') return;
    if (!place) setSaid({ head: 'Nothing is selected', rest: 'Select the words that are a find of their own, then press S.', bad: true });
    else await reshape(find.id, { do: 'split', ...place }, 'Split');
  };

  /** Says of a find that it is right or wrong, which later finds are weighed by; said twice, it is taken back. */
  const call = async (f: KeptFind, right: boolean) => {
    try {
      const kept = await send(f.id, { do: 'judge', right: f.right === right ? null : right });
      replace(kept);
      setSaid({ head: kept.right === null ? 'Not judged' : kept.right ? 'Right' : 'Wrong', rest: 'later finds like it are weighed by this' });
    } catch (error) {
      refused(error);
    }
  };

  const mark = async (kind: 'action' | 'decision' | 'question', place: { segment: number; from: number; to: number; text: string } | null) => {
    if (!place) {
      setSaid({ head: 'Nothing is selected', rest: 'Select words in the record first, then press H.', bad: true });
      return;
    }
    try {
      const f = await post<KeptFind>(`/api/meetings/${meeting.id}/finds`, { record: record.id, kind, ...place });
      replace(f);
      getSelection()?.removeAllRanges();
      setSaid({ head: 'Marked', rest: f.text, undo: undefined });
      go(f.id);
    } catch (error) {
      refused(error);
    }
  };

  const show = (now: KeptFind[]) => {
    setFinds(now);
    const looked = latest.current.current;
    if (looked !== null && !now.some((f) => f.id === looked)) go(now.find((f) => f.verdict === 'open')?.id ?? null);
  };
  // the find that is looked at does not change under the reader's eyes
  const read = (now: KeptFind[]) => refine(latest.current.finds, now, new Set([...Object.keys(latest.current.edits).map(Number), ...(latest.current.current === null ? [] : [latest.current.current])]));
  // finds that were read closely may arrive with word of a change before the reader is asked how far it is
  const early = useRef<Counts[]>([]);
  useLive(
    meeting.id,
    record.id,
    () => !latest.current.busy,
    (now) => {
      const words = changedElsewhere(latest.current.finds, now);
      if (words) setSaid({ head: 'Changed elsewhere', rest: words });
      else early.current.push(read(now));
      show(now);
    },
  );
  const reading = useReading(
    record.id,
    given.some((f) => f.verdict === 'open' && f.reader === 'quick'),
    (now) => {
      const r = read(now);
      show(r.finds);
      // a change that can still be undone there keeps its place
      setSaid((before) => (before?.undo || before?.bad ? before : { head: 'Read closely', rest: countsInWords(...early.current, r) }));
    },
  );

  const model = useModel(
    meeting.id,
    record.id,
    offered,
    reading?.state === 'waiting' || reading?.state === 'reading' || reading?.state === 'done',
    (now) => {
      const r = read(now);
      show(r.finds);
      setSaid((before) => (before?.undo || before?.bad ? before : { head: 'Read by the model', rest: countsInWords(...early.current, r) }));
    },
    refused,
  );

  const edit = (id: number, e: Edits) => setEdits((all) => ({ ...all, [id]: { ...all[id], ...e } }));
  return { finds, ordered, find, people, edits, edit, busy, said, made, reading: readingWords(reading), model, judge, reopen, takeSure, reshape, split, call, mark, undo, redo, say: setSaid };
}
