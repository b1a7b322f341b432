import { useState } from 'react';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

/** What can be done with a briefing: mail it to oneself, copy it, print it. */
export default function PrepareKeys({ meeting, text, mail }: { meeting: number; text: string; mail: string | null }) {
  const [said, setSaid] = useState<Said | null>(null);
  const send = async () => {
    try {
      const { to } = await post<{ to: string }>(`/api/meetings/${meeting}/briefing`, { do: 'mail' });
      setSaid({ head: 'Mailed', rest: `to ${to}` });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setSaid({ head: 'Copied', rest: 'the briefing as text' });
    } catch {
      setSaid({ head: 'This browser does not let it be copied', rest: 'print it instead', bad: true });
    }
  };
  return (
    <>
      <p className="acts">
        {mail && (
          <button type="button" className="do" onClick={() => void send()}>
            Mail it to me <kbd>M</kbd>
          </button>
        )}
        <button type="button" className="may" onClick={() => void copy()}>
          Copy <kbd>C</kbd>
        </button>
        <button type="button" className="may" onClick={() => print()}>
          Print <kbd>P</kbd>
        </button>
      </p>
      <Foot said={said} keys={[...(mail ? [{ key: 'm', does: `mail it to ${mail}`, line: 'Mail', run: () => void send() }] : []), { key: 'c', does: 'copy it as text', line: 'Copy', run: () => void copy() }, { key: 'p', does: 'print it', line: 'Print', run: () => print() }]} />
    </>
  );
}
