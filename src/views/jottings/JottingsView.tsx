import { useMemo, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import { readEntry } from '../../core/ledger/entry.ts';
import type { About, Jotting } from '../../server/day/jottings.ts';
import type { Choice } from '../../server/people/people.ts';
import { post, wentWrong } from '../parts/api.ts';
import { ComboField, type Option } from '../parts/ComboField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';

interface Props {
  jottings: Jotting[];
  today: string;
  people: Choice[];
  /** what a jotting can be attached to, beside people */
  meetings: { id: number; title: string; date: string }[];
  commitments: { id: number; ref: string; text: string }[];
}

/** Scraps of the days: typed or pasted at any time, found again, attached, sifted, or made into a commitment. */
export default function JottingsView({ jottings: given, today, people, meetings, commitments }: Props) {
  const [all, setAll] = useState(given);
  const [text, setText] = useState('');
  const [words, setWords] = useState('');
  const [id, setId] = useState(given[0]?.id ?? 0);
  const [doing, setDoing] = useState<'attach' | 'commit' | 'edit' | null>(null);
  const [line, setLine] = useState('');
  const [said, setSaid] = useState<Said | null>(null);
  const shown = useMemo(() => {
    const wanted = fold(words).split(/\s+/).filter(Boolean);
    return all.filter((j) => wanted.every((w) => fold(`${j.text} ${j.about?.name ?? ''}`).includes(w)));
  }, [all, words]);
  const at = Math.max(
    0,
    shown.findIndex((j) => j.id === id),
  );
  const current = shown[at];
  const roster = useMemo(() => people.map((p) => ({ ...p, aliases: [] })), [people]);
  const read = readEntry(line, roster, { date: today, next: null });
  const wrong = (error: unknown) => setSaid(wentWrong(error));
  const put = (j: Jotting) => setAll((old) => old.map((o) => (o.id === j.id ? j : o)));
  const keep = async () => {
    if (!text.trim()) return;
    try {
      const made = await post<Jotting>('/api/jottings', { text });
      setAll([made, ...all]);
      setId(made.id);
      setText('');
      setSaid({ head: 'Jotted', rest: made.text.slice(0, 60) });
    } catch (error) {
      wrong(error);
    }
  };
  const change = async (body: object, head: string) => {
    if (!current) return;
    setDoing(null);
    try {
      put(await post<Jotting>(`/api/jottings/${current.id}`, body));
      setSaid({ head, rest: current.text.slice(0, 60) });
    } catch (error) {
      wrong(error);
    }
  };
  const remove = async () => {
    if (!current) return;
    const was = current;
    try {
      await post(`/api/jottings/${was.id}`, { do: 'remove' });
      setAll((old) => old.filter((o) => o.id !== was.id));
      setSaid({ head: 'Taken off', rest: was.text.slice(0, 60), undo: () => void post<Jotting>(`/api/jottings/${was.id}`, { do: 'put back' }).then((back) => setAll((old) => [back, ...old].sort((a, b) => b.id - a.id)), wrong) });
    } catch (error) {
      wrong(error);
    }
  };
  const sift = async () => {
    if (!current) return;
    const cache = await caches.open('ottik');
    await cache.put('/handed-record', new Response(current.text));
    location.assign('/bring-in');
  };
  const begin = (what: 'attach' | 'commit' | 'edit') => {
    if (!current) return;
    setLine(current.text.replace(/\s+/g, ' ').slice(0, 300));
    setDoing(what);
  };
  const abouts = useMemo<Option<About | null>[]>(
    () => [
      ...people.map((p) => ({ value: { kind: 'person' as const, id: p.id }, label: p.name, note: [p.role, p.organisation].filter(Boolean).join(', ') })),
      ...meetings.map((m) => ({ value: { kind: 'meeting' as const, id: String(m.id) }, label: m.title, note: shortDay(m.date, today) })),
      ...commitments.map((c) => ({ value: { kind: 'commitment' as const, id: c.ref }, label: c.ref, note: c.text })),
      { value: null, label: 'nothing in particular' },
    ],
    [people, meetings, commitments, today],
  );
  const days = [...new Set(shown.map((j) => j.on))];
  return (
    <>
      <div className="jot">
        <label>
          <span className="vh">New jotting</span>
          <textarea
            id="jot"
            className="said"
            rows={2}
            value={text}
            placeholder="Anything worth keeping. Enter keeps it, Shift+Enter begins a new line."
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && !e.shiftKey) {
                e.preventDefault();
                void keep();
              }
              if (e.key === 'Escape') (e.target as HTMLElement).blur();
            }}
          />
        </label>
        <label className="in">
          <span className="vh">Words in them</span>
          <input id="jot-words" value={words} placeholder="Words in them" onChange={(e) => setWords(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
          <kbd>F</kbd>
        </label>
      </div>
      <ol className="jottings">
        {shown.length === 0 && <li className="moss none">{all.length === 0 ? 'Nothing is jotted down yet. What you type here, or into the field above on any page, is kept with its day.' : 'Nothing fits.'}</li>}
        {days.map((day) =>
          shown
            .filter((j) => j.on === day)
            .map((j, i) => (
              <li key={j.id} className={j.id === current?.id ? 'at' : ''} onClick={() => setId(j.id)}>
                {i === 0 && <p className="fl">{day === today ? 'today' : shortDay(day, today)}</p>}
                <p className="said">{j.text}</p>
                <p className="moss n13">
                  {j.about && (
                    <>
                      about <a href={j.about.href}>{j.about.name}</a>
                      {j.standing ? ', stays in sight' : ''}{' '}
                    </>
                  )}
                  {j.became && (
                    <>
                      became <a href={`/ledger/${j.became}`}>{j.became}</a>
                    </>
                  )}
                </p>
                {j.id === current?.id && doing === 'commit' && (
                  <p className="typed entry">
                    <input
                      // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                      autoFocus
                      aria-label="The commitment"
                      value={line}
                      onChange={(e) => setLine(e.target.value)}
                      onKeyDown={(e) => {
                        if (e.key === 'Enter' && read.text.length > 1) void change({ do: 'commit', ...read }, 'It is a commitment now');
                        if (e.key === 'Escape') setDoing(null);
                      }}
                    />
                    <span className="read">
                      <b>{read.text || 'what?'}</b> {read.owner.map((o) => people.find((p) => p.id === o)?.name ?? o).join(' and ') || 'nobody yet'}, {read.due ? shortDay(read.due, today) : 'no date'}
                    </span>
                  </p>
                )}
                {j.id === current?.id && doing === 'edit' && (
                  <textarea
                    // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                    autoFocus
                    className="said edit"
                    aria-label="Edit the jotting"
                    rows={3}
                    defaultValue={j.text}
                    onKeyDown={(e) => {
                      const value = (e.target as HTMLTextAreaElement).value.trim();
                      if (e.key === 'Enter' && !e.shiftKey && value) {
                        e.preventDefault();
                        void change({ do: 'edit', text: value }, 'Edited');
                      }
                      if (e.key === 'Escape') setDoing(null);
                    }}
                  />
                )}
                {j.id === current?.id && doing === 'attach' && (
                  <p className="attach">
                    About <ComboField label="What it is about" placeholder="a name, a meeting, a commitment" options={abouts} onPick={(about) => void change({ do: 'attach', about, standing: j.standing }, about ? 'Attached' : 'Attached to nothing')} onLeave={() => setDoing(null)} />
                  </p>
                )}
              </li>
            )),
        )}
      </ol>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next', run: () => setId(shown[Math.min(shown.length - 1, at + 1)]?.id ?? 0) },
          { key: 'k', does: 'the one before', run: () => setId(shown[Math.max(0, at - 1)]?.id ?? 0) },
          { key: 'n', does: 'jot something down', line: 'Jot', run: () => document.getElementById('jot')?.focus() },
          { key: 'c', does: 'make a commitment of it', line: 'Commit', run: () => !current?.became && begin('commit') },
          { key: 's', does: 'sift it like a record', line: 'Sift', run: () => void sift() },
          { key: 'a', does: 'attach it to a person, a meeting or a commitment', line: 'Attach', run: () => begin('attach') },
          { key: 'e', does: 'edit it', run: () => begin('edit') },
          { key: 'x', does: 'take it off the list', run: () => void remove() },
          { key: 'f', does: 'find words in them', run: () => document.getElementById('jot-words')?.focus() },
        ]}
      />
    </>
  );
}
