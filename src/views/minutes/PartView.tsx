import { type NodeViewProps, NodeViewWrapper } from '@tiptap/react';
import { useContext, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { compileMinutes, LENGTHS, type Length, type MinutesItem, PART_NAMES, type Part } from '../../core/meetings/minutes.ts';
import { DateField } from '../parts/DateField.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { type Live, LiveContext } from './live.ts';

const LENGTH_NAMES: Record<Length, string> = { brief: 'brief', usual: 'usual', everything: 'with everything' };

/** A part of the minutes that follows what is known: it cannot be typed in, but moved, taken out, and its owners and dates changed. */
export function PartView({ node, updateAttributes, deleteNode, selected, editor, getPos }: NodeViewProps) {
  const live = useContext(LiveContext);
  const { part, length } = node.attrs as { part: Part; length: Length | null };
  const move = (by: -1 | 1) => {
    const at = getPos();
    if (at === undefined) return;
    const { doc } = editor.state;
    const index = doc.resolve(at).index(0);
    const other = index + by;
    if (other < 0 || other >= doc.childCount) return;
    const to = by < 0 ? at - doc.child(other).nodeSize : at + doc.child(other).nodeSize;
    editor.view.dispatch(editor.state.tr.delete(at, at + node.nodeSize).insert(to, node));
  };
  return (
    <NodeViewWrapper className={`part${selected ? ' is-chosen' : ''}`} data-part={part}>
      <header contentEditable={false}>
        <h2>{PART_NAMES[part]}</h2>
        <span className="tools">
          {part === 'summary' &&
            LENGTHS.map((l) => (
              <button type="button" key={l} aria-pressed={(length ?? 'usual') === l} onClick={() => updateAttributes({ length: l })}>
                {LENGTH_NAMES[l]}
              </button>
            ))}
          <button type="button" onClick={() => move(-1)} aria-label={`Move ${PART_NAMES[part]} up`}>
            up
          </button>
          <button type="button" onClick={() => move(1)} aria-label={`Move ${PART_NAMES[part]} down`}>
            down
          </button>
          <button type="button" onClick={() => deleteNode()} aria-label={`Take ${PART_NAMES[part]} out`}>
            take out
          </button>
        </span>
      </header>
      {live && <PartBody part={part} length={length ?? 'usual'} live={live} />}
    </NodeViewWrapper>
  );
}

function PartBody({ part, length, live }: { part: Part; length: Length; live: Live }) {
  if (part === 'decisions' || part === 'actions' || part === 'updates' || part === 'questions') {
    const items = live.data[part];
    return items.length ? (
      <ul className="items" contentEditable={false}>
        {items.map((i) => (
          <ItemRow key={i.ref} item={i} of={part} live={live} />
        ))}
      </ul>
    ) : (
      <Nothing />
    );
  }
  const { blocks } = compileMinutes({ type: 'doc', content: [{ type: 'part', attrs: { part, length } }] }, live.data);
  const shown = blocks.filter((b) => b.kind !== 'heading' || b.level === 3);
  if (shown.length === 0) return <Nothing />;
  return (
    <div contentEditable={false}>
      {shown.map((b, k) => {
        const key = `${part}${k}`;
        if (b.kind === 'heading') return <h3 key={key}>{b.text}</h3>;
        if (b.kind === 'text') return <p key={key}>{b.runs.map((r) => (r.bold ? <b key={r.text}>{r.text}</b> : r.text))}</p>;
        if (b.kind === 'list')
          return (
            <ul key={key} className="lines">
              {b.items.map((i) => (
                <li key={i.map((r) => r.text).join('')}>{i.map((r) => (r.bold ? <b key={r.text}>{r.text}</b> : r.text))}</li>
              ))}
            </ul>
          );
        if (b.kind === 'table')
          return (
            <table key={key}>
              <thead>
                <tr>
                  {b.head.map((h) => (
                    <th key={h}>{h}</th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {b.rows.map((r) => (
                  <tr key={r.join()}>
                    {r.map((c, at) => (
                      <td key={b.head[at]}>{c}</td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          );
        return null;
      })}
    </div>
  );
}

const Nothing = () => (
  <p className="moss nothing-yet" contentEditable={false}>
    Nothing yet; left out until there is.
  </p>
);

function ItemRow({ item, of, live }: { item: MinutesItem; of: string; live: Live }) {
  const [field, setField] = useState<'owner' | 'due' | null>(null);
  const id = item.commitment;
  const { meeting } = live.data;
  return (
    <li>
      <a className="ref" href={item.moment ?? (item.ref.startsWith('C-') ? `/ledger/${item.ref}` : undefined)} title="Where it was said">
        {item.ref}
      </a>
      <span>
        {item.text}
        {of === 'actions' && id !== null && (
          <span className="settle">
            {field === 'owner' ? (
              <OwnerField
                value={item.owner.map((n) => live.people.find((p) => p.name === n)?.id ?? n)}
                people={live.people}
                onKeep={(owner) => {
                  setField(null);
                  live.change(id, { owner });
                }}
                onLeave={() => setField(null)}
              />
            ) : (
              <button type="button" className={`set${item.owner.length ? '' : ' soon'}`} onClick={() => setField('owner')} aria-label={`Owner of ${item.ref}`}>
                {listOf(item.owner) || 'nobody yet'}
              </button>
            )}
            {field === 'due' ? (
              <DateField
                label={`Date of ${item.ref}`}
                value={item.due}
                context={{ date: meeting.date, next: meeting.next }}
                today={live.today}
                onKeep={(due) => {
                  setField(null);
                  live.change(id, { due });
                }}
                onLeave={() => setField(null)}
              />
            ) : (
              <button type="button" className={`set${item.due ? '' : ' soon'}`} onClick={() => setField('due')} aria-label={`Date of ${item.ref}`}>
                {item.due ? `by ${shortDay(item.due, live.today)}` : 'no date'}
              </button>
            )}
          </span>
        )}
        {of === 'updates' && <span className="settle moss">{item.news}</span>}
      </span>
    </li>
  );
}
