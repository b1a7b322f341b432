interface Props {
  label: string;
  value: string;
  /** values with the words that stand for them */
  options: readonly (readonly [string, string])[];
  onPick(value: string): void;
}

/** A choice that stands in a sentence. */
export function Pick({ label, value, options, onPick }: Props) {
  return (
    <label className="pick">
      <span className="vh">{label}</span>
      <select value={value} onChange={(e) => onPick(e.target.value)}>
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
