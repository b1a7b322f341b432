/** What a step said, with its lines under it. */
export function SaidLines({ said, details }: { said: string; details: readonly string[] }) {
  return (
    <span>
      {said}
      {details.map((d) => (
        <span key={d} className="detail">
          {d}
        </span>
      ))}
    </span>
  );
}
