/** How fields that were opened in place are closed: kept, or left as they were. */
export function SaveOrLeave({ onLeave }: { onLeave(): void }) {
  return (
    <p className="acts">
      <button type="submit" className="do">
        Save <kbd>Enter</kbd>
      </button>
      <button type="button" className="may" onClick={onLeave}>
        Leave <kbd>Esc</kbd>
      </button>
    </p>
  );
}
