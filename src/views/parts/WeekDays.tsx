const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Weekdays that are worked on, as figures in their order: Monday is 1. The last one stays. */
export function WeekDays({ label, days, onChange }: { label: string; days: string; onChange(days: string): void }) {
  const turn = (day: string) => {
    const next = [...'1234567'].filter((d) => (d === day ? !days.includes(d) : days.includes(d))).join('');
    if (next) onChange(next);
  };
  return (
    <fieldset className="week-days">
      <legend>{label}</legend>
      {DAYS.map((name, i) => (
        <button key={name} type="button" aria-pressed={days.includes(String(i + 1))} onClick={() => turn(String(i + 1))}>
          {name}
        </button>
      ))}
    </fieldset>
  );
}
