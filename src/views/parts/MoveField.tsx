/** Where a meeting moves to, as people say it. */
export function MoveField({ onKeep, onLeave }: { onKeep(when: string): void; onLeave(): void }) {
  return (
    <span className="typed">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        aria-label="Move to"
        placeholder="Friday at 9:00"
        maxLength={200}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && e.currentTarget.value.trim()) onKeep(e.currentTarget.value);
          if (e.key === 'Escape') onLeave();
        }}
      />
    </span>
  );
}
