/**
 * An id made of a name, as it stands in addresses: `Brücke Nord` gives `brucke-nord`.
 * @param fallback what a name without Latin letters gives
 * @param taken whether an id is somebody else's already; then a number is added
 */
export async function idFrom(name: string, fallback: string, taken: (id: string) => Promise<boolean>): Promise<string> {
  const stem =
    name
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || fallback;
  let id = stem;
  for (let n = 2; await taken(id); n++) id = `${stem}-${n}`;
  return id;
}
