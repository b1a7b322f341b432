import { useState } from 'react';
import { post, wentWrong } from '../parts/api.ts';

/** Tries what was typed, and says beside the button what happened. */
export function useTrying<T>(say: (outcome: T) => string, address = '/api/settings') {
  const [told, setTold] = useState<{ words: string; bad: boolean } | null>(null);
  const [busy, setBusy] = useState(false);
  const attempt = async (body: unknown) => {
    setBusy(true);
    setTold(null);
    try {
      setTold({ words: say(await post<T>(address, body)), bad: false });
    } catch (error) {
      const { head, rest } = wentWrong(error);
      setTold({ words: [head, rest].filter(Boolean).join(' '), bad: true });
    }
    setBusy(false);
  };
  return { told, busy, attempt };
}
