import { type FormEvent, useState } from 'react';
import { wentWrong } from './api.ts';

/** Sends a form that is the whole of its page: not twice at once, and with what went wrong in words. */
export function useSubmit(send: () => Promise<unknown>) {
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setWrong(null);
    try {
      await send();
    } catch (error) {
      const { head, rest } = wentWrong(error);
      setWrong([head, rest].filter(Boolean).join(' '));
    }
    setBusy(false);
  };
  return { wrong, setWrong, busy, submit: (e: FormEvent) => void submit(e) };
}
