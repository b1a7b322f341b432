import { useEffect, useState } from 'react';
import { typing } from './keys.ts';

/** Where a record that was dropped or pasted waits until the page that brings it in has opened, of any size. */
export const HANDED = '/handed-record';

async function hand(record: Blob | string, name: string | null): Promise<void> {
  const cache = await caches.open('ottik');
  await cache.put(HANDED, new Response(record, { headers: name ? { 'x-name': encodeURIComponent(name) } : {} }));
  location.assign('/bring-in');
}

/** The field in the top bar, and the whole window around it: a record can be dropped or pasted anywhere. */
export default function QuickEntry() {
  const [note, setNote] = useState('');
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
      const file = e.dataTransfer?.files[0];
      if (!file || location.pathname === '/bring-in') return;
      e.preventDefault();
      void hand(file, file.name);
    };
    const paste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (typing(e.target) || text.split('\n').length < 3 || location.pathname === '/bring-in') return;
      e.preventDefault();
      void hand(text, null);
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
        placeholder="Drop or paste a record here"
        value={note}
        onPaste={(e) => {
          const text = e.clipboardData.getData('text/plain');
          if (text.split('\n').length < 2) return;
          e.preventDefault();
          void hand(text, null);
        }}
        onChange={(e) => setNote(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') (e.target as HTMLInputElement).blur();
          if (e.key === 'Enter') {
            if (/^C-\d+$/i.test(note.trim())) location.assign(`/ledger/${note.trim().toUpperCase()}`);
            else if (note.trim()) void hand(note, null);
            else location.assign('/bring-in');
          }
        }}
      />
      <kbd>/</kbd>
    </label>
  );
}
