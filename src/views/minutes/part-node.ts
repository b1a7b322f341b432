import { mergeAttributes, Node } from '@tiptap/core';
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
  addNodeView() {
    return ReactNodeViewRenderer(PartView);
  },
});
