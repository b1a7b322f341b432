import { useState } from 'react';
import type { ProjectChanged } from '../../server/people/beginning.ts';
import { post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';

/** The name of a project, which can be changed; archiving it; and beginning another one. */
export function ProjectEntry({ project, name, archived, say }: { project: string; name: string; archived: boolean; say(said: Said): void }) {
  const [typed, setTyped] = useState<{ do: 'rename' | 'begin'; name: string } | null>(null);
  const ask = (body: unknown) => post<ProjectChanged>('/api/projects', body);
  const keep = async () => {
    if (!typed) return;
    try {
      await ask(typed.do === 'rename' ? { ...typed, project } : typed);
      location.assign('/project');
    } catch (error) {
      say(wentWrong(error));
    }
  };
  const turn = async (how: 'archive' | 'take out') => {
    try {
      await ask({ do: how, project });
      location.assign('/project');
    } catch (error) {
      say(wentWrong(error));
    }
  };
  if (archived)
    return (
      <p className="acts">
        <span>This project is archived: everything in it can be read, nothing changes, and no letter goes by itself.</span>
        <button type="button" className="do" onClick={() => void turn('take out')}>
          Take it out of the archive
        </button>
      </p>
    );
  if (!typed)
    return (
      <p className="acts">
        <button type="button" className="may" onClick={() => setTyped({ do: 'rename', name })}>
          Rename the project
        </button>
        <button type="button" className="may" onClick={() => setTyped({ do: 'begin', name: '' })}>
          Begin another project
        </button>
        <button type="button" className="may" onClick={() => void turn('archive')}>
          Archive it
        </button>
      </p>
    );
  return (
    <form
      className="acts"
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <span className="typed">
        <input
          // biome-ignore lint/a11y/noAutofocus: the field opens because somebody asked for it
          autoFocus
          required
          maxLength={80}
          aria-label={typed.do === 'rename' ? 'Name of the project' : 'Name of the new project'}
          placeholder="New ferry terminal"
          value={typed.name}
          onChange={(e) => setTyped({ ...typed, name: e.target.value })}
          onKeyDown={(e) => e.key === 'Escape' && setTyped(null)}
        />
      </span>
      <button type="submit" className="do">
        {typed.do === 'rename' ? 'Rename' : 'Begin'}
      </button>
    </form>
  );
}
