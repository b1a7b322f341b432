import { useEffect, useRef, useState } from 'react';
import { listOf } from '../../core/language/days.ts';
import type { Added, ListedPerson } from '../../server/people/details.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { linkSteps } from '../parts/links.ts';

interface Read {
  people: ListedPerson[];
  wrong: { line: number; why: string }[];
}

/** So long after the last letter a list is read, in milliseconds. */
const PAUSE = 250;

/** The words of a file: UTF-8 where it is that, and else Windows-1252, which holds Latin-1 (WHATWG Encoding, 4.2). */
async function wordsOf(file: File): Promise<string> {
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Adding people from a list, one a line: read while it is typed, kept when somebody says so. */
export default function AddPeople({ open: asked }: { open: boolean }) {
  const [open, setOpen] = useState(asked);
  const [text, setText] = useState('');
  const [read, setRead] = useState<Read | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [step] = useState(linkSteps);
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (!text.trim()) return setRead(null);
    let over = false;
    const timer = setTimeout(() => {
      post<Read>('/api/people', { do: 'read', text }).then(
        (now) => !over && setRead(now),
        (error: unknown) => setSaid(wentWrong(error)),
      );
    }, PAUSE);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [text]);
  const begin = () => {
    setOpen(true);
    requestAnimationFrame(() => field.current?.focus());
  };
  const add = async () => {
    try {
      const { added, filled } = await post<Added>('/api/people', { do: 'add', text });
      const head = [added.length ? `${added.length} added` : '', filled.length ? `${filled.length} completed` : ''].filter(Boolean).join(', ') || 'All of them were here already';
      sessionStorage.setItem('ottik-added', JSON.stringify({ head, done: { added, filled } }));
      location.assign('/people');
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const takeBack = async (done: Added) => {
    try {
      const { stay } = await post<{ stay: string[] }>('/api/people', { do: 'take back', ...done });
      sessionStorage.setItem('ottik-added', JSON.stringify({ head: stay.length ? `Taken back, but for ${listOf(stay.slice(0, 6))}, who ${stay.length > 1 ? 'have' : 'has'} something to do here by now` : 'Taken back' }));
      location.assign('/people');
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what was added right before the page was loaded
  useEffect(() => {
    const told = sessionStorage.getItem('ottik-added');
    sessionStorage.removeItem('ottik-added');
    if (!told) return;
    const { head, done } = JSON.parse(told) as { head: string; done?: Added };
    setSaid({ head, ...(done && done.added.length + done.filled.length > 0 ? { undo: () => void takeBack(done) } : {}) });
  }, []);
  const fresh = read?.people.filter((p) => p.known === null).length ?? 0;
  return (
    <>
      {open && (
        <form
          className="add-people"
          onSubmit={(e) => {
            e.preventDefault();
            void add();
          }}
        >
          <label>
            <span className="strong">Add people</span> <span className="moss">one a line, a table with a heading from an address book, or address cards (vCard)</span>
            <textarea ref={field} rows={5} value={text} placeholder={'Bram Osei <bram@example.org>, welder, Marrow Sound\nRuth Adair'} onChange={(e) => setText(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && setOpen(false)} />
          </label>
          {read && (
            <ul aria-label="Who was read">
              {read.people.map((p) => (
                <li key={p.line + p.name}>
                  <b>{p.name}</b>
                  <span className="moss">{[p.mail ?? 'no address', p.role, p.organisation].filter(Boolean).join(', ')}</span>
                  <span className={p.known ? 'moss' : 'ok'}>{p.known ? 'here already' : 'new'}</span>
                </li>
              ))}
              {read.wrong.map((x) => (
                <li key={`line ${x.line} ${x.why}`} className="soon">
                  Line {x.line} {x.why}
                </li>
              ))}
            </ul>
          )}
          <p className="acts">
            <button type="submit" className="do" disabled={!read?.people.length}>
              {fresh === 1 ? 'Add 1 person' : `Add ${fresh} people`}
            </button>
            <label className="may file">
              Choose a file
              <input type="file" className="vh" accept=".csv,.tsv,.txt,.vcf,text/*" onChange={(e) => void (e.target.files?.[0] && wordsOf(e.target.files[0]).then(setText))} />
            </label>
            <button type="button" className="may" onClick={() => setOpen(false)}>
              Leave <kbd>Esc</kbd>
            </button>
          </p>
        </form>
      )}
      {!open && (
        <p className="add-people">
          <button type="button" className="may" onClick={begin}>
            Add people <kbd>A</kbd>
          </button>
        </p>
      )}
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next person (or arrow down)', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'previous person (or arrow up)', run: () => step(-1) },
          { key: 'a', does: 'add people', line: 'Add people', run: begin },
          { key: 'Escape', does: 'leave adding', run: () => setOpen(false) },
          { key: 'i', does: 'bring in a record', line: 'Bring in', run: () => location.assign('/bring-in') },
        ]}
      />
    </>
  );
}
