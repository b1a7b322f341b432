import { mergeAttributes, Node } from '@tiptap/core';
import { NodeSelection, Plugin, TextSelection } from '@tiptap/pm/state';
import { ReactNodeViewRenderer } from '@tiptap/react';
import { PartView } from './PartView.tsx';

/** A live part as a block of the document: one piece, moved and taken out whole. */
export const PartNode = Node.create({
  name: 'part',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes() {
    return { part: { default: 'actions' }, length: { default: null } };
  },
  parseHTML() {
    return [{ tag: 'div[data-part]', getAttrs: (el) => ({ part: el.getAttribute('data-part') }) }];
  },
  renderHTML({ HTMLAttributes, node }) {
    return ['div', mergeAttributes(HTMLAttributes, { 'data-part': node.attrs.part as string })];
  },
  // typing while a part is chosen begins a line below it, rather than taking its place
  addProseMirrorPlugins() {
    return [
      new Plugin({
        props: {
          handleTextInput(view, _from, _to, text) {
            const { selection, schema, tr } = view.state;
            if (!(selection instanceof NodeSelection) || selection.node.type.name !== 'part') return false;
            const at = selection.to;
            tr.insert(at, schema.nodes.paragraph!.create(null, schema.text(text)));
            view.dispatch(tr.setSelection(TextSelection.create(tr.doc, at + 1 + text.length)));
            return true;
          },
        },
      }),
    ];
  },
  addNodeView() {
    return ReactNodeViewRenderer(PartView);
  },
});
