import { EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { useEffect, useMemo, useRef, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { type Draft, DraftSchema, PART_NAMES, PARTS, type Part, partsOf } from '../../core/meetings/minutes.ts';
import type { MinutesPageProps } from '../../server/pages/minutes.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { type Live, LiveContext } from './live.ts';
import { PartNode } from './part-node.ts';
import { Shares } from './Shares.tsx';

/** After the last change of a draft it is kept by itself, in milliseconds. */
const KEEP_AFTER = 700;
const FORMATS = [
  ['pdf', 'PDF'],
  ['docx', 'Word'],
  ['html', 'HTML'],
  ['md', 'Markdown'],
] as const;

/** What the editor holds as a draft: `null` lengths and what else the editor adds are left out. */
function draftFrom(json: unknown): Draft | null {
  const clean = JSON.parse(JSON.stringify(json, (key, value: unknown) => (value === null && key === 'length' ? undefined : value))) as unknown;
  const read = DraftSchema.safeParse(clean);
  return read.success ? read.data : null;
}

export default function MinutesView({ meeting, state: given, people, today, audience, shares }: MinutesPageProps) {
  const [state, setState] = useState(given);
  const [said, setSaid] = useState<Said | null>(null);
  const [unkept, setUnkept] = useState(false);
  const [inside, setInside] = useState<Part[]>(() => partsOf(given.draft).map((p) => p.part));
  const latest = useRef(state);
  latest.current = state;
  const timer = useRef(0);
  const path = `/api/meetings/${meeting}/minutes`;

  const refused = (error: unknown) => {
    setSaid(wentWrong(error));
  };

  const editor = useEditor({
    extensions: [StarterKit.configure({ heading: { levels: [2, 3] }, blockquote: false, code: false, codeBlock: false, horizontalRule: false, strike: false, link: false, underline: false }), PartNode],
    content: given.draft,
    immediatelyRender: false,
    // its few rules stand in minutes.css: a page runs no styles that it does not name
    injectCSS: false,
    editorProps: { attributes: { class: 'writing', 'aria-label': 'Minutes', role: 'textbox', 'aria-multiline': 'true' } },
    onUpdate: ({ editor: e }) => {
      setUnkept(true);
      const draft = draftFrom(e.getJSON());
      if (draft) setInside(partsOf(draft).map((p) => p.part));
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void keep(), KEEP_AFTER);
    },
  });

  // one change after the other, each based on what the one before left
  const inTurn = useRef<Promise<unknown>>(Promise.resolve());
  const send = (body: (revision: number) => object): Promise<typeof state> => {
    const next = inTurn.current
      .catch(() => undefined)
      .then(async () => {
        const now = await post<typeof state>(path, body(latest.current.revision));
        latest.current = now;
        setState(now);
        return now;
      });
    inTurn.current = next;
    return next;
  };

  const keep = async (): Promise<boolean> => {
    clearTimeout(timer.current);
    const draft = editor ? draftFrom(editor.getJSON()) : null;
    if (!draft) {
      setSaid({ head: 'This cannot be kept', rest: 'The minutes are too long, or hold something that minutes cannot.', bad: true });
      return false;
    }
    try {
      await send((revision) => ({ do: 'write', draft, revision }));
      setUnkept(false);
      return true;
    } catch (error) {
      refused(error);
      return false;
    }
  };

  const issue = async () => {
    if (unkept && !(await keep())) return;
    try {
      const now = await send((revision) => ({ do: 'issue', revision }));
      const step = document.querySelector('.spine a[href$="/minutes"] span');
      if (step) step.textContent = `version ${now.versions.length} issued`;
      setSaid({ head: `Version ${now.versions.length} issued`, rest: 'it does not change any more; a correction makes the next one' });
    } catch (error) {
      refused(error);
    }
  };

  const template = async () => {
    if (unkept && !(await keep())) return;
    try {
      await send(() => ({ do: 'template' }));
      setSaid({ head: 'Kept for the series', rest: 'its next minutes begin with these parts, in this order' });
    } catch (error) {
      refused(error);
    }
  };

  const change: Live['change'] = (commitment, what) => {
    const before = latest.current.data.actions.find((a) => a.commitment === commitment);
    void (async () => {
      try {
        const { event } = await post<{ event: number }>(`/api/commitments/${commitment}`, 'due' in what ? { do: 'move', due: what.due } : { do: 'hand over', owner: what.owner });
        await send(() => ({ do: 'look' }));
        setSaid({
          head: `${before?.ref} changed`,
          rest: 'here and in the Ledger',
          undo: () => {
            void (async () => {
              try {
                await post(`/api/events/${event}`, { do: 'undo' });
                await send(() => ({ do: 'look' }));
                setSaid(null);
              } catch (error) {
                refused(error);
              }
            })();
          },
        });
      } catch (error) {
        refused(error);
      }
    })();
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: what a change does goes by the latest state, whichever render it is from
  const live = useMemo<Live>(() => ({ data: state.data, people, today, change }), [state.data, people, today]);
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (unkept) e.preventDefault();
    };
    addEventListener('beforeunload', leave);
    return () => removeEventListener('beforeunload', leave);
  }, [unkept]);

  const last = state.versions[state.versions.length - 1];
  /** Puts a part at the end, and the cursor into a line of its own below it: what stands there is never replaced. */
  const put = (part: Part) => {
    if (!editor) return;
    const size = editor.state.doc.content.size;
    editor
      .chain()
      .insertContentAt(size, [{ type: 'part', attrs: { part } }, { type: 'paragraph' }])
      .focus('end')
      .run();
  };
  const write = () => {
    if (!editor) return;
    // after a part, which cannot be typed in, begins a line that can
    if (editor.state.doc.lastChild?.type.name === 'part') editor.commands.insertContentAt(editor.state.doc.content.size, { type: 'paragraph' });
    editor.commands.focus('end');
  };
  return (
    <>
      <div className="minutes">
        <div className="mpage">
          <p className="moss">{last ? (state.pending.length || unkept ? `Draft of version ${last.version + 1}` : `As issued in version ${last.version}`) : 'Draft of version 1'}</p>
          <LiveContext.Provider value={live}>
            <EditorContent editor={editor} />
          </LiveContext.Provider>
        </div>
        <div className="mside">
          <section aria-label="Issue">
            <h2 className="lh">
              Issue <span>{unkept ? 'being kept' : 'kept'}</span>
            </h2>
            {last && state.pending.length > 0 && (
              <ul className="pending">
                {state.pending.slice(0, 8).map((c) => (
                  <li key={c}>{c}</li>
                ))}
                {state.pending.length > 8 && <li className="moss">and {state.pending.length - 8} more</li>}
              </ul>
            )}
            <p className="acts">
              <button type="button" className="do" onClick={() => void issue()} disabled={last !== undefined && state.pending.length === 0 && !unkept}>
                Issue version {state.versions.length + 1} <kbd>I</kbd>
              </button>
              {state.series && (
                <button type="button" className="may" onClick={() => void template()}>
                  Keep these parts for the series
                </button>
              )}
            </p>
          </section>
          <Shares meeting={meeting} version={null} start={shares} today={today} say={setSaid} />
          {last && <Shares meeting={meeting} version={last.version} start={shares} today={today} say={setSaid} />}
          <section aria-label="Who will see it">
            <h2 className="lh">
              Who will see it <span>{audience.readers.length}</span>
            </h2>
            <p>
              {audience.readers.length ? `The round-up goes to ${listOf(audience.readers)}.` : 'Nobody has an address yet.'}
              {audience.outside.length > 0 && ` ${listOf(audience.outside)} cannot open this project in Ottik.`}
            </p>
            {audience.fresh.length > 0 && <p className="moss">New to those who were not there or cannot look it up: {listOf(audience.fresh)}.</p>}
          </section>
          <section aria-label="Take away">
            <h2 className="lh">
              Take away <span>needs nothing of ours to be read</span>
            </h2>
            <table className="away">
              <tbody>
                {[...state.versions].reverse().map((v) => (
                  <tr key={v.version}>
                    <th scope="row">
                      <a href={`/meetings/${meeting}/minutes?version=${v.version}`}>Version {v.version}</a>
                    </th>
                    <td className="moss">
                      {shortDay(v.issuedOn, today)}, {v.by}
                    </td>
                    {FORMATS.map(([f, name]) => (
                      <td key={f}>
                        <a href={`/meetings/${meeting}/minutes.${f}?version=${v.version}`} download>
                          {name}
                        </a>
                      </td>
                    ))}
                  </tr>
                ))}
                <tr>
                  <th scope="row">Draft</th>
                  <td className="moss">as it stands</td>
                  {FORMATS.map(([f, name]) => (
                    <td key={f}>
                      <a href={`/meetings/${meeting}/minutes.${f}`} download>
                        {name}
                      </a>
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          </section>
          <section aria-label="Parts">
            <h2 className="lh">
              Parts to put in <span>they follow what is known</span>
            </h2>
            <p className="puts">
              {PARTS.filter((p) => !inside.includes(p)).map((p) => (
                <button type="button" key={p} className="may line" onClick={() => put(p)}>
                  {PART_NAMES[p]}
                </button>
              ))}
              {PARTS.every((p) => inside.includes(p)) && <span className="moss">All of them are in.</span>}
            </p>
          </section>
        </div>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'i', does: 'issue the next version', line: 'Issue', run: () => void issue() },
          { key: 'e', does: 'write in the minutes', line: 'Write', run: write },
          { key: 's', does: 'back to Sift', run: () => location.assign(`/meetings/${meeting}/sift`) },
          { key: 'f', does: 'go on to Follow up', line: 'Follow up', run: () => location.assign(`/meetings/${meeting}/follow-up`) },
        ]}
      />
    </>
  );
}
