import { useState } from 'react';
import { post, wentWrong } from '../parts/api.ts';

/** The name of a project, which can be changed, and beginning another one. */
export default function ProjectEntry({ project, name }: { project: string; name: string }) {
  const [typed, setTyped] = useState<{ do: 'rename' | 'begin'; name: string } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = async () => {
    if (!typed) return;
    try {
      await post('/api/projects', typed.do === 'rename' ? { ...typed, project } : typed);
      location.assign('/project');
    } catch (error) {
      const { head, rest } = wentWrong(error);
      setWrong([head, rest].filter(Boolean).join(' '));
    }
  };
  if (!typed)
    return (
      <p className="acts">
        <button type="button" className="may" onClick={() => setTyped({ do: 'rename', name })}>
          Rename the project
        </button>
        <button type="button" className="may" onClick={() => setTyped({ do: 'begin', name: '' })}>
          Begin another project
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
      {wrong && (
        <span className="late" role="alert">
          {wrong}
        </span>
      )}
    </form>
  );
}
