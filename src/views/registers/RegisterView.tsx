import { useEffect, useMemo, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { fold } from '../../core/language/fold.ts';
import type { RegisterRow } from '../../server/ledger/registers.ts';
import { post, Refused } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { KindShape } from '../parts/Shapes.tsx';

/** The decision log, or the parking lot: each entry with the words it rests on and what became of it. */
export default function RegisterView({ rows: given, kind, today }: { rows: RegisterRow[]; kind: 'decision' | 'question'; today: string }) {
  const [rows, setRows] = useState(given);
  const [words, setWords] = useState('');
  const [closed, setClosed] = useState(kind === 'decision');
  const [id, setId] = useState(given[0]?.id ?? 0);
  const [typing, setTyping] = useState<'close' | 'replace' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const shown = useMemo(() => {
    const wanted = fold(words).split(/\s+/).filter(Boolean);
    return rows.filter((r) => (closed || r.open) && wanted.every((w) => fold(`${r.ref} ${r.text} ${r.meeting.title} ${r.said.map((s) => s.words).join(' ')}`).includes(w)));
  }, [rows, words, closed]);
  useEffect(() => {
    // a link may lead to one of them, also to one that is over
    const wanted = given.find((r) => `#${r.ref}` === location.hash);
    if (!wanted) return;
    setClosed(true);
    setId(wanted.id);
    requestAnimationFrame(() => document.getElementById(wanted.ref)?.scrollIntoView({ block: 'center' }));
  }, [given]);
  const at = Math.max(
    0,
    shown.findIndex((r) => r.id === id),
  );
  const row = shown[at];
  const change = async (body: { do: string; note?: string; by?: string }) => {
    setTyping(null);
    if (!row) return;
    try {
      const kept = await post<RegisterRow>(`/api/registers/${row.id}`, body);
      setRows((all) => all.map((r) => (r.id === kept.id ? kept : r)));
      setSaid({
        head: `${kept.ref} ${body.do === 'close' ? 'answered' : body.do === 'replace' ? `replaced by ${kept.closed}` : 'open again'}`,
        rest: kept.text,
        undo: body.do === 'open' ? undefined : () => void post<RegisterRow>(`/api/registers/${kept.id}`, { do: 'open' }).then((back) => setRows((all) => all.map((r) => (r.id === back.id ? back : r)))),
      });
    } catch (error) {
      setSaid({ head: error instanceof Refused ? error.message : 'Something went wrong.', bad: true });
    }
  };
  return (
    <>
      <div className="say">
        <span className="sentence">
          {shown.length} {kind === 'decision' ? (shown.length === 1 ? 'decision' : 'decisions') : shown.length === 1 ? 'question' : 'questions'},{' '}
          <button type="button" className="set" onClick={() => setClosed(!closed)}>
            {closed ? (kind === 'decision' ? 'also replaced ones' : 'also answered ones') : kind === 'decision' ? 'those in force' : 'those still open'}
          </button>
        </span>
        <label className="in">
          <span className="vh">Words in them</span>
          <input id="words" value={words} placeholder="Words in them" onChange={(e) => setWords(e.target.value)} onKeyDown={(e) => e.key === 'Escape' && (e.target as HTMLElement).blur()} />
          <kbd>F</kbd>
        </label>
      </div>
      <ol className="register">
        {shown.length === 0 && <li className="moss none">{rows.length === 0 ? 'Nothing is in this register yet; it fills when meetings are sifted.' : 'Nothing fits.'}</li>}
        {shown.map((r) => (
          <li key={r.id} id={r.ref} className={`${r.id === row?.id ? 'at' : ''}${r.open ? '' : ' over'}`} onClick={() => setId(r.id)}>
            <p className="fl">
              {r.ref}
              <span>{shortDay(r.on, today)}</span>
            </p>
            <h2>
              <KindShape kind={kind} hollow={!r.open} /> {r.text}
            </h2>
            {r.closed !== null && <p className={kind === 'decision' ? 'moss' : 'ok'}>{kind === 'decision' ? `replaced by ${r.closed}` : `answered: ${r.closed}`}</p>}
            {r.said.slice(0, r.id === row?.id ? 4 : 1).map((s, i) => (
              <p key={`${s.record}${s.segment}${i}`} className="said">
                “{s.words}” {s.who && <span className="moss">{s.who}</span>}
              </p>
            ))}
            <p className="moss n13">
              <a className="may line" href={`/meetings/${r.meeting.id}/gist`}>
                {r.meeting.title}
                {r.meeting.number ? ` no. ${r.meeting.number}` : ''}
              </a>
              {r.follow.map((f) => (
                <span key={f.ref} className="follow">
                  follows: <a href={`/ledger/${f.ref}`}>{f.ref}</a> {f.text} <span className={f.state === 'done' ? 'ok' : 'moss'}>{f.state}</span>
                </span>
              ))}
            </p>
            {r.id === row?.id && typing && (
              <p className="typed">
                <input
                  // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                  autoFocus
                  aria-label={typing === 'close' ? 'The answer' : 'The decision that replaces it'}
                  placeholder={typing === 'close' ? 'the answer, and who gave it' : 'D-9'}
                  onKeyDown={(e) => {
                    const value = (e.target as HTMLInputElement).value.trim();
                    if (e.key === 'Enter' && value) void change(typing === 'close' ? { do: 'close', note: value } : { do: 'replace', by: value });
                    if (e.key === 'Escape') setTyping(null);
                  }}
                />
              </p>
            )}
          </li>
        ))}
      </ol>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next', line: 'Next', run: () => setId(shown[Math.min(shown.length - 1, at + 1)]?.id ?? 0) },
          { key: 'k', does: 'the one before', run: () => setId(shown[Math.max(0, at - 1)]?.id ?? 0) },
          kind === 'question' ? { key: 'a', does: 'it is answered: type the answer', line: 'Answer', run: () => row?.open && setTyping('close') } : { key: 'r', does: 'it is replaced: type the later decision', line: 'Replace', run: () => row?.open && setTyping('replace') },
          { key: 'u', does: 'open again', run: () => row && !row.open && void change({ do: 'open' }) },
          { key: 'h', does: 'show or hide what is over', run: () => setClosed(!closed) },
          { key: 'f', does: 'find words in them', run: () => document.getElementById('words')?.focus() },
        ]}
      />
    </>
  );
}
