/** Where this application is reached by people who read its letters. */
export const publicAddress = () => (process.env.OTTIK_URL ?? `http://localhost:${process.env.PORT ?? 4324}`).replace(/\/$/, '');

/** The mail address answers come to: the mailbox Ottik reads, with the letter's token after a plus sign (RFC 5233). */
export function answerAddress(token: string): string {
  const [box, host] = (process.env.OTTIK_ANSWERS ?? 'answers@ottik.example').split('@');
  return `${box}+${token}@${host}`;
}

/** The token in an address answers come to, or null. */
export function tokenOf(address: string): string | null {
  return /\+([0-9a-f]{32})@/i.exec(address)?.[1]?.toLowerCase() ?? null;
}
