import { useEffect, useRef, useState } from 'react';
import { readTypedPastDate } from '../../core/dates/read.ts';
import { readRhythm } from '../../core/meetings/rhythm.ts';
import type { BringInProps } from '../../server/pages/bring-in.ts';
import type { FirstFind } from '../../server/records/first-look.ts';
import type { Preview } from '../../server/records/preview.ts';
import { postForm, Refused } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import { type Handed as Held, pasted, takeOver } from '../parts/handed.ts';

/** What became of one of several files. */
export interface Done {
  name: string;
  /** the meeting it went to, or null where it was left out */
  meeting: number | null;
  why: string | null;
}

/** What is said of a record before it is kept. */
export interface Answers {
  target: string;
  title: string;
  date: string;
  author: string;
  /** who speaks under each name, and who is named without speaking: an id, `new:Name`, `-` for left, '' for not said yet */
  voices: Record<string, string>;
  named: Record<string, string>;
  /** how often a series meets that begins with the record, as people say it */
  when: string;
  layout: string | null;
  replaces: number | null;
}

const NONE: Answers = { target: '', title: '', date: '', author: '', voices: {}, named: {}, when: '', layout: null, replaces: null };

/** Answers as the server takes them; what was left or not said is nobody. */
const whoIs = (said: Record<string, string>) => Object.fromEntries(Object.entries(said).map(([label, v]) => [label, v.startsWith('new:') ? { person: null, name: v.slice(4) } : { person: v === '-' ? null : v || null, name: null }]));

/** Records on their way in, one after the other: each is read, shown, and kept when everything about it is said. */
export function useBringIn({ project, today, startedOn, me, series, meetings, meeting }: BringInProps) {
  const [held, setHeld] = useState<Held | null>(null);
  const [waiting, setWaiting] = useState<Held[]>([]);
  const [done, setDone] = useState<Done[]>([]);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [wrong, setWrong] = useState<{ message: string; advice: string | null; line: number | null } | null>(null);
  const [answers, setAnswers] = useState<Answers>({ ...NONE, target: meeting === null ? '' : `m${meeting}` });
  const [busy, setBusy] = useState<'reading' | 'keeping' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [firstFinds, setFirstFinds] = useState<FirstFind[] | null>(null);
  const going = useRef<AbortController | null>(null);
  const say = (some: Partial<Answers>) => setAnswers((a) => ({ ...a, ...some }));

  const refused = (e: unknown) => {
    const r = e instanceof Refused ? e : new Refused('Something went wrong in this page.', 'Load it again; the file itself is untouched.', null);
    setWrong({ message: r.message, advice: r.advice, line: r.line });
    return r;
  };
  const form = (h: Held, layout: string | null) => {
    const f = new FormData();
    f.set('file', h.file);
    f.set('name', h.name ?? '');
    f.set('project', project);
    if (layout) f.set('layout', layout);
    return f;
  };

  /** The first finds are read beside the questions; where they fail, the record is sifted when it is kept in any case. */
  const sift = async (h: Held, layout: string | null, date: string) => {
    setFirstFinds(null);
    const f = form(h, layout);
    f.set('date', date);
    const own = going.current;
    const got = await postForm<{ finds: FirstFind[] }>('/api/records/first-finds', f, own?.signal).catch(() => null);
    if (going.current === own) setFirstFinds(got?.finds ?? []);
  };

  /** Reads one; gives what was understood with the answers that follow from it, or null where it was refused. */
  const read = async (h: Held, layout: string | null = null): Promise<{ preview: Preview; answers: Answers } | null> => {
    setBusy('reading');
    setWrong(null);
    if (layout === null) setPreview(null);
    setHeld(h);
    going.current = new AbortController();
    try {
      const p = await postForm<Preview>('/api/records/preview', form(h, layout), going.current.signal);
      const first: Answers = {
        target: meeting !== null ? `m${meeting}` : p.meeting !== null ? `m${p.meeting}` : p.series ? `s${p.series}` : p.newSeries ? 'series' : 'new',
        title: p.newSeries?.title ?? p.guess.title ?? '',
        when: p.newSeries?.when ?? '',
        named: Object.fromEntries(p.named.map((n) => [n.name, ''])),
        date: p.guess.date ?? today,
        author: p.voices.length === 0 && !p.layout.startsWith('[time]') && !p.layout.includes('cues') ? me : '',
        voices: Object.fromEntries(p.voices.map((v) => [v.label, v.person ?? ''])),
        layout,
        replaces: null,
      };
      const all = layout === null ? first : { ...answers, voices: first.voices, named: first.named, author: first.author, layout };
      setPreview(p);
      setAnswers(all);
      void sift(h, layout, all.date);
      return { preview: p, answers: all };
    } catch (e) {
      if (!going.current.signal.aborted) refused(e);
      return null;
    } finally {
      setBusy(null);
    }
  };

  const known = answers.target.startsWith('m') ? meetings.find((m) => m.id === Number(answers.target.slice(1))) : undefined;
  const dayOf = (a: Answers, k: typeof known) => k?.date ?? readTypedPastDate(a.date, today) ?? (/^\d{4}-\d\d-\d\d$/.test(a.date) ? a.date : null);
  const day = dayOf(answers, known);
  const tooEarly = day !== null && day < startedOn;
  const ahead = day !== null && day > today;
  const named = answers.target.startsWith('s') ? series.find((s) => s.id === answers.target.slice(1))?.title : known?.title;
  const rhythm = answers.target === 'series' ? readRhythm(answers.when, today) : null;
  const ready = preview !== null && (answers.target !== 'series' || rhythm !== null) && day !== null && !tooEarly && !ahead && (named ?? answers.title).trim() !== '';

  /** Keeps one with its answers; gives its meeting, or null where it was refused. */
  const keepOne = async (h: Held, a: Answers): Promise<number | null> => {
    const to = a.target.startsWith('m') ? meetings.find((m) => m.id === Number(a.target.slice(1))) : undefined;
    const title = a.target.startsWith('s') ? series.find((s) => s.id === a.target.slice(1))?.title : to?.title;
    setBusy('keeping');
    const f = form(h, null);
    f.set(
      'keep',
      JSON.stringify({
        project,
        meeting: to?.id ?? null,
        series: a.target.startsWith('s') ? a.target.slice(1) : (to?.series ?? null),
        title: (title ?? a.title).trim(),
        date: dayOf(a, to),
        author: a.author || null,
        layout: a.layout,
        replaces: a.replaces,
        voices: whoIs(a.voices),
        named: whoIs(a.named),
        newSeries: a.target === 'series' ? { title: a.title.trim(), when: a.when, minutes: 60, place: '', people: [] } : null,
      }),
    );
    try {
      return (await postForm<{ meeting: number }>('/api/records', f)).meeting;
    } catch (e) {
      refused(e);
      return null;
    } finally {
      setBusy(null);
    }
  };

  const clear = () => {
    setPreview(null);
    setFirstFinds(null);
    setHeld(null);
    setWrong(null);
    setAnswers({ ...NONE, target: meeting === null ? '' : `m${meeting}` });
  };

  /** The next of the files that wait; with none left, the page that follows. */
  const goOn = async (rest: readonly Held[], all: readonly Done[]) => {
    const [next, ...after] = rest;
    setWaiting(after);
    setDone([...all]);
    if (next) {
      await read(next);
      return;
    }
    const only = all.length === 1 ? all[0] : undefined;
    if (only?.meeting) location.assign(`/meetings/${only.meeting}/sift`);
    else clear();
  };

  const open = (files: readonly Held[]) => {
    const [first, ...rest] = files;
    if (!first) return;
    setDone([]);
    setWaiting(rest);
    void read(first);
  };
  const name = (h: Held | null) => h?.name ?? 'the pasted text';

  const keep = async () => {
    if (!ready || !held || busy) return;
    const to = await keepOne(held, answers);
    if (to !== null) await goOn(waiting, [...done, { name: name(held), meeting: to, why: null }]);
  };

  /** Keeps this one and then every one that leaves no question; stops at the first that does. */
  const keepAll = async () => {
    if (!ready || !held || busy) return;
    let [one, a, rest, all]: [Held, Answers, readonly Held[], readonly Done[]] = [held, answers, waiting, done];
    for (;;) {
      const to = await keepOne(one, a);
      if (to === null) return;
      all = [...all, { name: name(one), meeting: to, why: null }];
      const [next, ...after] = rest;
      if (!next) return goOn([], all);
      setWaiting(after);
      setDone([...all]);
      const r = await read(next);
      if (!r || !leavesNoQuestion(r.preview, r.answers)) return;
      [one, a, rest] = [next, r.answers, after];
    }
  };

  const leave = () => {
    going.current?.abort();
    setSaid({ head: 'Left', rest: `nothing was kept of ${name(held)}` });
    const all = [...done, { name: name(held), meeting: null, why: wrong?.message ?? null }];
    if (waiting.length || done.length) void goOn(waiting, all);
    else clear();
  };
  const stop = () => {
    going.current?.abort();
    setWaiting([]);
    setSaid({ head: 'Stopped', rest: waiting.length ? `${waiting.length + 1} files were not brought in` : 'nothing was kept' });
    clear();
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what was handed over by the page before
  useEffect(() => {
    void takeOver().then(open);
    const drop = (e: DragEvent) => {
      const files = [...(e.dataTransfer?.files ?? [])];
      if (files.length === 0) return;
      e.preventDefault();
      document.body.classList.remove('dropping');
      open(files.map((file) => ({ file, name: file.name })));
    };
    const paste = (e: ClipboardEvent) => {
      const record = pasted(e.clipboardData);
      if (e.target instanceof HTMLTextAreaElement || e.target instanceof HTMLInputElement || !record) return;
      e.preventDefault();
      open([record]);
    };
    addEventListener('drop', drop);
    addEventListener('paste', paste);
    return () => {
      removeEventListener('drop', drop);
      removeEventListener('paste', paste);
    };
  }, []);

  return { held, waiting, done, preview, firstFinds, wrong, answers, busy, said, known, day, tooEarly, ahead, rhythm, ready, say, open, keep, keepAll, leave, stop, readAs: (layout: string) => held && void read(held, layout) };
}

/** Whether a record can be kept unseen: its day and meeting are told, every voice is somebody known, and nothing is doubtful. */
export function leavesNoQuestion(p: Preview, a: Answers): boolean {
  return p.doubts.length === 0 && p.guess.date !== null && (a.target.startsWith('m') || a.target.startsWith('s')) && p.voices.every((v) => a.voices[v.label]);
}
