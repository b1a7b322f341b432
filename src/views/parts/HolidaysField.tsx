import type { CountryChoice } from '../../core/dates/countries.ts';

/** Whose public holidays hold. `none` says what it means to choose no country. */
export function HolidaysField({ value, countries, none, onChange }: { value: string; countries: readonly CountryChoice[]; none: string; onChange(country: string): void }) {
  return (
    <label>
      Public holidays of
      <select value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="">{none}</option>
        {/* a region within a country is kept, though it is not offered */}
        {value.length > 2 && <option>{value}</option>}
        {countries.map((c) => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </select>
    </label>
  );
}
