import Holidays from 'date-holidays';

/** A country whose public holidays are known. */
export interface CountryChoice {
  /** ISO 3166-1 alpha-2 */
  code: string;
  name: string;
}

/** Countries with known public holidays, by their English names. */
export function countryChoices(): CountryChoice[] {
  const names = new Intl.DisplayNames('en', { type: 'region' });
  return Object.keys(new Holidays().getCountries('en'))
    .filter((code) => /^[A-Z]{2}$/.test(code))
    .map((code) => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name));
}
