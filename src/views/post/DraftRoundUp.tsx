import { useState } from 'react';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

/** Follow up before its round-up is drafted: nothing is written before somebody asks for it. */
export default function DraftRoundUp({ meeting, readers, findsLeft }: { meeting: number; readers: number; findsLeft: number }) {
  const [said, setSaid] = useState<Said | null>(null);
  const [busy, setBusy] = useState(false);
  const draft = async () => {
    if (busy) return;
    setBusy(true);
    try {
      await post(`/api/meetings/${meeting}/round-up`, { do: 'draft' });
      location.reload();
    } catch (error) {
      setSaid(wentWrong(error));
      setBusy(false);
    }
  };
  return (
    <>
      <div className="empty">
        <h2>No round-up drafted yet</h2>
        <p>
          Ottik drafts it from what you took out of the record, for {readers === 1 ? 'one person' : `${readers} people`} who were invited. It waits here until you send it.
          {findsLeft > 0 && ` ${findsLeft} finds are still to be settled.`}
        </p>
        <button type="button" className="do" disabled={busy} onClick={() => void draft()}>
          Draft the round-up <kbd>D</kbd>
        </button>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'd', does: 'draft the round-up', line: 'Draft', run: () => void draft() },
          { key: 's', does: 'back to Sift', run: () => location.assign(`/meetings/${meeting}/sift`) },
          { key: 'm', does: 'back to the minutes', run: () => location.assign(`/meetings/${meeting}/minutes`) },
        ]}
      />
    </>
  );
}
