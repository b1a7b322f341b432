/** The projects a commitment can be sent to. */
export function SendTo({ what, projects, onSend, onLeave }: { what: string; projects: readonly { id: string; name: string }[]; onSend(id: string, name: string): void; onLeave(): void }) {
  return (
    <span className="sentence">
      {what} to{' '}
      {projects.map((p) => (
        <button key={p.id} type="button" className="set" onClick={() => onSend(p.id, p.name)}>
          {p.name}
        </button>
      ))}{' '}
      <button type="button" className="may" onClick={onLeave}>
        Leave it <kbd>Esc</kbd>
      </button>
    </span>
  );
}
