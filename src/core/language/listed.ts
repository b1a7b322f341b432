/** Somebody as a pasted list names them. */
export interface Listed {
  name: string;
  mail: string | null;
  role: string;
  organisation: string;
  /** line of the text it stands on, from 1 */
  line: number;
}
