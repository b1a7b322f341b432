import { ComboField } from '../parts/ComboField.tsx';

/** The project a commitment is sent to, chosen by typing. */
export function SendTo({ what, projects, onSend, onLeave }: { what: string; projects: readonly { id: string; name: string }[]; onSend(id: string, name: string): void; onLeave(): void }) {
  return (
    <span className="sentence">
      {what} to <ComboField label={`Project ${what} goes to`} placeholder="a project" options={projects.map((p) => ({ value: p, label: p.name }))} onPick={(p) => onSend(p.id, p.name)} onLeave={onLeave} />
    </span>
  );
}
