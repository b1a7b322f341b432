/** What the server refused: what is wrong, where, and what to do about it. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly advice: string | null,
    readonly line: number | null,
    /** it goes through when it is asked for once more, and says so */
    readonly insist = false,
  ) {
    super(message);
  }
}

/** What went wrong in words for the bottom line: what the server refused and why, or that this page failed. */
export function wentWrong(error: unknown): { head: string; rest: string | undefined; bad: true } {
  const e = error instanceof Refused ? error : new Refused('Something went wrong in this page.', 'Load it again.', null);
  return { head: e.message, rest: e.advice ?? undefined, bad: true };
}

async function answerOf<T>(response: Response): Promise<T> {
  const value = await response.json().catch(() => null);
  if (response.ok && value !== null) return value as T;
  const said = (value as { error?: { message: string; advice: string | null; line: number | null; code?: string } } | null)?.error;
  throw new Refused(said?.message ?? 'The server did not answer as expected.', said?.advice ?? 'Nothing was lost; try once more.', said?.line ?? null, said?.code === 'insist');
}

/** Sends JSON and gives the answer; throws {@link Refused} with words to show. */
export async function post<T>(path: string, body: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  } catch {
    throw new Refused('Ottik cannot be reached.', 'Check that it is running; what you typed is still here.', null);
  }
  return answerOf<T>(response);
}

export async function postForm<T>(path: string, form: FormData, signal?: AbortSignal): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method: 'POST', body: form, ...(signal ? { signal } : {}) });
  } catch {
    throw new Refused('Ottik cannot be reached.', 'Check that it is running; the text is still here.', null);
  }
  return answerOf<T>(response);
}

/** Asks for JSON; throws {@link Refused} with words to show. */
export async function get<T>(path: string): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path);
  } catch {
    throw new Refused('Ottik cannot be reached.', 'Check that it is running.', null);
  }
  return answerOf<T>(response);
}
