/** Where this application is reached by people who read its letters. */
export const publicAddress = () => (process.env.OTTIK_URL ?? `http://localhost:${process.env.PORT ?? 4324}`).replace(/\/$/, '');

/** A mailbox that letters are answered to. `plus`: mail for `name+token@` comes to it as well (RFC 5233). */
export interface AnswersBox {
  address: string;
  plus: boolean;
}

/** The address a letter is answered to: the mailbox, with the letter's token where it takes one. */
export function answerAddress(box: AnswersBox, token: string): string {
  if (!box.plus) return box.address;
  const at = box.address.lastIndexOf('@');
  return `${box.address.slice(0, at)}+${token}${box.address.slice(at)}`;
}

/**
 * The right side of identifiers that Ottik gives out (RFC 5322, 3.6.4; RFC 5545, 3.8.4.7). It stays when the mailbox
 * becomes another one: a calendar that is subscribed to would else show everything twice.
 */
export const ourDomain = (): string => process.env.OTTIK_ANSWERS?.split('@').at(-1) ?? new URL(publicAddress()).hostname;

/** The token in an address answers come to, or null. */
export function tokenOf(address: string): string | null {
  return /\+([0-9a-f]{32})@/i.exec(address)?.[1]?.toLowerCase() ?? null;
}
