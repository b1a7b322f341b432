/** Something that is refused (`insist`: unless it is asked for once more), said so that a person knows what is wrong, where, and what to do. */
export class Refusal extends Error {
  constructor(
    readonly code: 'not-found' | 'bad-input' | 'conflict' | 'unreachable' | 'insist' | 'forbidden' | 'signed-out',
    message: string,
    readonly advice: string | null = null,
    readonly line: number | null = null,
  ) {
    super(message);
    this.name = 'Refusal';
  }

  get status(): number {
    return { 'not-found': 404, 'bad-input': 422, conflict: 409, unreachable: 502, insist: 409, forbidden: 403, 'signed-out': 401 }[this.code];
  }
}
