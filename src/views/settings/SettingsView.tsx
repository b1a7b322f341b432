import { useEffect, useState } from 'react';
import type { Settings } from '../../server/pages/settings.ts';
import { get, post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { BackupSection } from './BackupSection.tsx';
import { MailIn } from './MailIn.tsx';
import { MailOut } from './MailOut.tsx';
import { SignInSection } from './SignInSection.tsx';

export type Section = 'out' | 'in' | 'backup';

/** How often the page looks how the mailbox stands, in milliseconds. */
const LOOK_EVERY = 5000;

/** Everything that can be set: each as a sentence of what it is now, opened where it stands. */
export default function SettingsView({ start }: { start: Settings }) {
  const [now, setNow] = useState(start);
  const [open, setOpen] = useState<Section | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  useEffect(() => {
    const timer = setInterval(() => void get<Settings>('/api/settings').then(setNow, () => undefined), LOOK_EVERY);
    return () => clearInterval(timer);
  }, []);
  /** Sends a change; the section closes when it is kept, and stays with what was typed when it is not. */
  const change = async (body: unknown, head: string): Promise<boolean> => {
    try {
      setNow(await post<Settings>('/api/settings', body));
      setSaid({ head });
      setOpen(null);
      return true;
    } catch (error) {
      setSaid(wentWrong(error));
      return false;
    }
  };
  const backUpNow = async () => {
    setSaid({ head: 'A backup is being made and checked.' });
    try {
      const after = await post<Settings>('/api/settings', { do: 'back up now' });
      setNow(after);
      setSaid(after.backup.last?.wrong ? { head: 'No backup was made.', rest: after.backup.last.wrong, bad: true } : { head: 'A backup was made and checked.', rest: after.backup.last?.file ?? undefined });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const toggle = (section: Section) => setOpen((was) => (was === section ? null : section));
  const keys = now.mayChange
    ? [
        { key: 'o', does: 'change where letters go out', line: 'Letters out', run: () => toggle('out') },
        { key: 'i', does: 'change where answers come in', line: 'Answers in', run: () => toggle('in') },
        { key: 'b', does: 'make a backup now', line: 'Back up now', run: () => void backUpNow() },
        { key: 'p', does: 'change where backups go', run: () => toggle('backup') },
        { key: 'Escape', does: 'close what is open; nothing is kept', run: () => setOpen(null) },
      ]
    : [];
  return (
    <div className="settings">
      <section className="band" aria-label="You">
        <p className="fl">You</p>
        <p className="now">
          {now.you.name}, {now.you.mail ?? 'without a mail address'}. <span className="moss">Days and hours are those of {now.you.zone}.</span>
        </p>
        <p className="acts">
          <a className="may" href={`/people/${now.you.id}`}>
            Change your entry
          </a>
          <a className="may" href="/people">
            People of this project
          </a>
        </p>
      </section>
      <SignInSection settings={now} onChange={change} say={setSaid} />
      <MailOut settings={now} open={open === 'out'} onOpen={() => toggle('out')} onChange={change} />
      <MailIn settings={now} open={open === 'in'} onOpen={() => toggle('in')} onChange={change} />
      <section className="band" aria-label="Readers">
        <p className="fl">Readers</p>
        <p className="now">
          The quick reader gives its finds at once. {now.readers.on ? 'The close reader goes over them after it, on this machine.' : 'The close reader is switched off.'} {now.readers.model ? `The model reader asks ${now.readers.model} where a project has it switched on.` : 'No model server is set up.'}
        </p>
        <p className="acts">
          <a className="may" href="/readers">
            The readers
          </a>
          <a className="may" href="/learned">
            What this project has taught them
          </a>
        </p>
      </section>
      <section className="band" aria-label="Letters">
        <p className="fl">Letters</p>
        <p className="now">When which letter goes, in what tone and at what hour, is a rule of each project.</p>
        <p className="acts">
          <a className="may" href="/post/rules">
            Rules of the letters
          </a>
          <a className="may" href="/routines">
            Routines
          </a>
          <a className="may" href="/post/wording">
            Wording
          </a>
        </p>
      </section>
      <section className="band" aria-label="Records">
        <p className="fl">Records</p>
        <p className="now">The words of a record are kept for {now.keepDays} days in this project; then they go, and the quotes stay.</p>
        <p className="acts">
          <a className="may" href="/project">
            Change it on the project’s page
          </a>
        </p>
      </section>
      <BackupSection settings={now} open={open === 'backup'} onOpen={() => toggle('backup')} onChange={change} onNow={() => void backUpNow()} />
      {now.mayChange && (
        <section className="band" aria-label="Audit">
          <p className="fl">Audit</p>
          <p className="now">Who saw, changed, sent, shared and took away what is kept, and cannot be changed.</p>
          <p className="acts">
            <a className="may" href="/audit">
              Look at it
            </a>
          </p>
        </section>
      )}
      <section className="band" aria-label="Keys">
        <p className="fl">Keys</p>
        <p className="now">
          Every page names its keys at its foot; <kbd>?</kbd> shows all of them.
        </p>
      </section>
      <Foot said={said} keys={keys} />
    </div>
  );
}
