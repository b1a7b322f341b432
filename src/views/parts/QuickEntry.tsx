import { useEffect, useRef, useState } from 'react';
import type { Askable, LoggedRun } from '../../server/routines/runs.ts';
import { get, post, Refused } from './api.ts';
import { handOver, pasted } from './handed.ts';
import { typing } from './keys.ts';

/** The field in the top bar, and the whole window around it: what is typed is jotted down, a record can be dropped or pasted anywhere. */
export default function QuickEntry() {
  const [note, setNote] = useState('');
  const [told, setTold] = useState<{ words: string; bad: boolean } | null>(null);
  const jot = async () => {
    try {
      await post('/api/jottings', { text: note });
      setNote('');
      setTold({ words: 'Jotted; it is among today’s jottings', bad: false });
    } catch (error) {
      setTold({ words: error instanceof Refused ? error.message : 'It could not be kept', bad: true });
    }
  };
  const { offer, read } = useAskable(note);
  const run = async (routine: Askable) => {
    try {
      const { run } = await post<{ run: LoggedRun }>(`/api/routines/${routine.id}`, { do: 'run', meeting: routine.meeting?.id ?? null });
      setNote('');
      const last = run.steps[Math.min(run.step, run.steps.length - 1)]?.tries.at(-1)?.said ?? '';
      setTold({ words: `${routine.name}: ${run.state === 'done' ? last || 'done' : `${run.state}${last ? `, ${last}` : ''}`}`, bad: run.state === 'failed' });
    } catch (error) {
      setTold({ words: error instanceof Refused ? error.message : 'It could not be run', bad: true });
    }
  };
  useEffect(() => {
    const hasFile = (e: DragEvent) => [...(e.dataTransfer?.types ?? [])].includes('Files');
    const over = (e: DragEvent) => {
      if (!hasFile(e)) return;
      e.preventDefault();
      document.body.classList.add('dropping');
    };
    const leave = (e: DragEvent) => {
      if (e.relatedTarget === null) document.body.classList.remove('dropping');
    };
    const drop = (e: DragEvent) => {
      document.body.classList.remove('dropping');
      const files = [...(e.dataTransfer?.files ?? [])];
      if (files.length === 0 || location.pathname === '/bring-in') return;
      e.preventDefault();
      void handOver(files.map((file) => ({ file, name: file.name })));
    };
    const paste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (typing(e.target) || text.split('\n').length < 3 || location.pathname === '/bring-in') return;
      const record = pasted(e.clipboardData);
      if (!record) return;
      e.preventDefault();
      void handOver([record]);
    };
    addEventListener('dragover', over);
    addEventListener('dragleave', leave);
    addEventListener('drop', drop);
    addEventListener('paste', paste);
    return () => {
      removeEventListener('dragover', over);
      removeEventListener('dragleave', leave);
      removeEventListener('drop', drop);
      removeEventListener('paste', paste);
    };
  }, []);
  return (
    <label className="quick">
      <span className="vh">Quick entry</span>
      <input
        type="text"
        placeholder={told && !told.bad ? told.words : 'Jot something, or ? to find'}
        value={note}
        onPaste={(e) => {
          const text = e.clipboardData.getData('text/plain');
          if (text.split('\n').length < 2) return;
          const record = pasted(e.clipboardData);
          if (!record) return;
          e.preventDefault();
          void handOver([record]);
        }}
        onChange={(e) => {
          setNote(e.target.value);
          setTold(null);
          if (/^run\b/i.test(e.target.value)) read();
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') (e.target as HTMLInputElement).blur();
          if (e.key === 'Enter') {
            if (offer && !e.shiftKey) void run(offer);
            else if (note.startsWith('?')) location.assign(`/find?q=${encodeURIComponent(note.slice(1).trim())}`);
            else if (/^C-\d+$/i.test(note.trim())) location.assign(`/ledger/${note.trim().toUpperCase()}`);
            else if (note.trim()) void jot();
            else location.assign('/jottings');
          }
        }}
      />
      {offer && (
        <span className="offer" role="status">
          <b>Enter</b> runs {offer.name}
          {offer.meeting ? ` on ${offer.meeting.words}` : ''}; <b>Shift Enter</b> jots the words down
        </span>
      )}
      {told?.bad ? <span className="late n12">{told.words}</span> : <kbd>/</kbd>}
      <span className="vh" role="status">
        {told?.words ?? ''}
      </span>
    </label>
  );
}

/** The routine that is meant by `run` and the beginning of its name; what names none is a jotting like any other. */
function useAskable(note: string): { offer: Askable | null; read(): void } {
  const [known, setKnown] = useState<Askable[] | null>(null);
  const asked = useRef(false);
  const read = () => {
    if (asked.current) return;
    asked.current = true;
    const meeting = /^\/meetings\/(\d+)\//.exec(location.pathname)?.[1];
    get<Askable[]>(`/api/routines${meeting ? `?meeting=${meeting}` : ''}`).then(setKnown, () => {
      asked.current = false;
    });
  };
  const name = note.toLowerCase().startsWith('run ') ? note.slice(4).trim().toLowerCase() : '';
  return { offer: (name.length > 1 && known?.find((r) => r.name.toLowerCase().startsWith(name) && (r.meeting !== null || !r.needs))) || null, read };
}
