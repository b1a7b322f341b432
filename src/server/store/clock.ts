/** Today's date where Ottik runs, as `YYYY-MM-DD`. `OTTIK_TODAY` sets another, so that tests stand still. */
export function today(): string {
  if (process.env.OTTIK_TODAY) return process.env.OTTIK_TODAY;
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
}

/** The time of day, `12:50`. */
export function timeNow(): string {
  if (process.env.OTTIK_TODAY) return process.env.OTTIK_TIME ?? '12:50';
  const now = new Date();
  return `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`;
}
