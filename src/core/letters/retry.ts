/** Minutes after each failed try; the last one repeats. */
const WAITS = [1, 2, 5, 10, 20, 40, 60, 120];
/** RFC 5321, 4.5.4.1, has a sender give up after four or five days; a letter about a due date is no use that late. */
const GIVE_UP_AFTER = 60;

/** When a message is tried again after so many tries, or null when it is given up: after about four and a half days. */
export function nextTry(tries: number, now: Date): Date | null {
  if (tries >= GIVE_UP_AFTER) return null;
  return new Date(now.getTime() + WAITS[Math.min(Math.max(tries, 1), WAITS.length) - 1]! * 60_000);
}
