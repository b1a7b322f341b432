import { useState } from 'react';
import type { Visibility } from '../../core/people/rights.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { MeetingDay, useMeetingDay, type WhenItIs } from './MeetingDay.tsx';
import { SeenBy, useSeenBy } from './SeenBy.tsx';

/** What can be done with a briefing: mail it to oneself, copy it, print it; and who sees the meeting. */
export default function PrepareKeys({ meeting, text, mail, visibility, day, today, held }: { meeting: number; text: string; mail: string | null; visibility: Visibility; day: WhenItIs; today: string; held: boolean }) {
  const [said, setSaid] = useState<Said | null>(null);
  const seenBy = useSeenBy(meeting, visibility, setSaid);
  const when = useMeetingDay(meeting, day, today, setSaid);
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
        {!held && (
          <a className="do" href={`/meetings/${meeting}/live`}>
            Hold it <kbd>H</kbd>
          </a>
        )}
        {mail && (
          <button type="button" className="may" onClick={() => void send()}>
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
      {!held && <MeetingDay {...when} />}
      <SeenBy {...seenBy} />
      <Foot
        said={said}
        keys={[
          { key: 'v', does: 'change who sees the meeting', run: seenBy.look },
          ...(held
            ? []
            : [
                { key: 'h', does: 'hold the meeting: agenda with its clock, notes, read-back', line: 'Hold it', run: () => location.assign(`/meetings/${meeting}/live`) },
                { key: 'd', does: 'move it to another day or time', run: () => when.setMoving(!when.now.cancelled) },
                { key: 'x', does: 'cancel it, or hold it after all', run: when.turn },
              ]),
          {
            key: 'Escape',
            does: 'leave it as it is',
            run: () => {
              seenBy.leave();
              when.setMoving(false);
            },
          },
          ...(mail ? [{ key: 'm', does: `mail it to ${mail}`, line: 'Mail', run: () => void send() }] : []),
          { key: 'c', does: 'copy it as text', line: 'Copy', run: () => void copy() },
          { key: 'p', does: 'print it', line: 'Print', run: () => print() },
        ]}
      />
    </>
  );
}
