import { useState } from 'react';
import type { Settings } from '../../server/pages/settings.ts';
import { backupInWords } from './words.ts';

interface Props {
  settings: Settings;
  open: boolean;
  onOpen(): void;
  onChange(body: unknown, head: string): Promise<boolean>;
  onNow(): void;
}

/** When backups are made, and where they go. */
export function BackupSection({ settings, open, onOpen, onChange, onNow }: Props) {
  const { now, bad } = backupInWords(settings);
  const [typed, setTyped] = useState({ folder: settings.backup.folder ?? '', keep: String(settings.backup.keep), nightly: settings.backup.nightly });
  return (
    <section className="band" aria-label="Backups">
      <p className="fl">Backups</p>
      <p className="now">{now}</p>
      {bad && <p className="told bad">{bad}</p>}
      {settings.mayChange && open && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void onChange({ do: 'backup', folder: typed.folder || null, keep: Number(typed.keep), nightly: typed.nightly }, 'Backups are made like this from now on.');
          }}
          onKeyDown={(e) => e.key === 'Escape' && onOpen()}
        >
          <div className="fields">
            <label className="wide">
              Folder on this machine
              {/* biome-ignore lint/a11y/noAutofocus: the form opens because somebody asked for it */}
              <input autoFocus value={typed.folder} maxLength={500} placeholder="beside the database" onChange={(e) => setTyped({ ...typed, folder: e.target.value })} />
            </label>
            <label>
              How many are kept
              <input required inputMode="numeric" value={typed.keep} onChange={(e) => setTyped({ ...typed, keep: e.target.value.replace(/\D/g, '').slice(0, 3) })} />
            </label>
          </div>
          <label className="tick">
            <input type="checkbox" checked={typed.nightly} onChange={(e) => setTyped({ ...typed, nightly: e.target.checked })} />
            Make one each night, or when Ottik is next started
          </label>
          <p className="acts">
            <button type="submit" className="do">
              Save <kbd>Enter</kbd>
            </button>
            <button type="button" className="may" onClick={onOpen}>
              Leave it <kbd>Esc</kbd>
            </button>
          </p>
        </form>
      )}
      {settings.mayChange && !open && (
        <p className="acts">
          <button type="button" className="may" onClick={onNow}>
            Back up now <kbd>B</kbd>
          </button>
          <button type="button" className="may" onClick={onOpen}>
            Change the place <kbd>P</kbd>
          </button>
        </p>
      )}
    </section>
  );
}
