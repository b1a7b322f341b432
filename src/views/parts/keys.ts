import { useEffect, useRef } from 'react';

export interface Key {
  key: string;
  /** what it does, for the list of keys */
  does: string;
  /** shown in the bottom line as well */
  line?: string;
  run(event: KeyboardEvent): void;
}

/** True while somebody types into a field, so that letters are letters. */
export function typing(target: EventTarget | null): boolean {
  // a box that is ticked takes Space and no letter
  if (target instanceof HTMLInputElement && /^(?:checkbox|radio|button|submit|file)$/.test(target.type)) return false;
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.closest('[role=listbox],[role=combobox]') !== null);
}

/** Listens for the keys of a screen. Upper and lower case are one; keys with Ctrl, Alt or Meta are left to the browser. */
export function useKeys(keys: readonly Key[]): void {
  const now = useRef(keys);
  now.current = keys;
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target) || e.defaultPrevented) return;
      // an open dialog has the keys to itself, and closes by Esc of itself
      if (document.querySelector('dialog[open]')) return;
      if (e.key === 'Enter' && e.target instanceof HTMLElement && /^(A|BUTTON|INPUT|SUMMARY)$/.test(e.target.tagName)) return;
      if (e.key === ' ' && e.target instanceof HTMLElement && /^(BUTTON|INPUT|SUMMARY)$/.test(e.target.tagName)) return;
      const wanted = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      const found = now.current.find((k) => k.key === wanted || (wanted === 'ArrowDown' && k.key === 'j') || (wanted === 'ArrowUp' && k.key === 'k'));
      if (!found) return;
      e.preventDefault();
      found.run(e);
    };
    addEventListener('keydown', down);
    // whoever drives the page from outside can tell that it listens
    document.documentElement.dataset.keys = 'on';
    return () => removeEventListener('keydown', down);
  }, []);
}
