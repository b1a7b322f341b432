/**
 * Cuts a text into stretches of even matter.
 *
 * Method: M. Utiyama and H. Isahara, “A statistical model for domain-independent text segmentation”, ACL 2001. The
 * best cut is the one whose stretches are likeliest under Laplace-smoothed word counts of their own, with the prior
 * that n words cut into m stretches cost m·log n. It has no parameters to set; the way of least cost is found by
 * dynamic programming. Linear in the length, since a stretch has at most `longest` units.
 *
 * @param units   words (stems) of each unit, in order
 * @param options longest: most units of a stretch; ease: what is taken off the cost of a cut before a unit, for units
 *                that say themselves that something new begins (0 where nothing does)
 * @returns first unit of every stretch; always begins with 0, empty for no units
 */
export function cuts(units: readonly (readonly string[])[], options: { longest?: number; ease?: (unit: number) => number } = {}): number[] {
  const { longest = 240, ease = () => 0 } = options;
  const n = units.reduce((sum, u) => sum + u.length, 0);
  if (units.length === 0) return [];
  const distinct = new Set(units.flat()).size;
  const prior = Math.log(Math.max(2, n));
  const cost = new Float64Array(units.length + 1).fill(Number.POSITIVE_INFINITY);
  const from = new Int32Array(units.length + 1);
  cost[0] = 0;
  for (let start = 0; start < units.length; start++) {
    const sofar = cost[start]! + prior - (start > 0 ? ease(start) : 0);
    const count = new Map<string, number>();
    let size = 0;
    let likely = 0;
    for (let end = start; end < Math.min(units.length, start + longest); end++) {
      for (const w of units[end]!) {
        const f = count.get(w) ?? 0;
        // the sum over words of f·log(f + 1), kept up as the stretch grows
        likely += (f + 1) * Math.log(f + 2) - f * Math.log(f + 1);
        count.set(w, f + 1);
        size++;
      }
      const whole = sofar + size * Math.log(size + distinct) - likely;
      if (whole < cost[end + 1]!) {
        cost[end + 1] = whole;
        from[end + 1] = start;
      }
    }
  }
  const out: number[] = [];
  for (let at = units.length; at > 0; at = from[at]!) out.push(from[at]!);
  return out.reverse();
}
