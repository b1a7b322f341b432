/** Where each note stands in the margin and the line that joins it to its words. Pure geometry, in pixels. */
export interface Placed {
  id: number;
  /** end of the last line of the find's words */
  x: number;
  y: number;
  height: number;
  open: boolean;
  passed: boolean;
}

export interface Join {
  id: number;
  top: number;
  path: string;
  dot: { x: number; y: number } | null;
  from: { x: number; y: number };
  open: boolean;
  passed: boolean;
}

export interface Geometry {
  /** right edge of the leaf */
  leaf: number;
  /** where notes begin, and where the open slip begins */
  note: number;
  slip: number;
}

/**
 * Notes stand level with their words, pushed down where they would cover each other; the open one is centred on its
 * line where there is room. A note pushed down more than 20 px gets a lane of its own, 4 px from the next, so that no
 * two lines cross.
 *
 * @param list in order of the words in the record
 */
export function joinNotes(list: readonly Placed[], g: Geometry): Join[] {
  const gap = (p: Placed) => (p.open ? 16 : 8);
  const tops = list.map((p) => p.y - (p.open ? Math.min(104, p.height / 2) : 16));
  const at = list.findIndex((p) => p.open);
  const place = (from: number, low: number) => {
    let floor = low;
    for (let i = from; i < list.length; i++) {
      tops[i] = Math.max(tops[i]!, floor + (list[i]!.open ? 4 : 0));
      floor = tops[i]! + list[i]!.height + gap(list[i]!);
    }
  };
  place(0, 8);
  if (at > 0) {
    // the open slip keeps its line: notes above it give way upwards as far as there is room, then all settle once more
    const wanted = Math.max(8, list[at]!.y - Math.min(104, list[at]!.height / 2));
    let ceiling = wanted;
    for (let i = at - 1; i >= 0; i--) {
      tops[i] = Math.min(tops[i]!, ceiling - list[i]!.height - gap(list[i]!));
      ceiling = tops[i]!;
    }
    tops[at] = wanted;
    place(0, 8);
  }
  let lane = 0;
  return list.map((p, i) => {
    const top = tops[i]!;
    const y0 = Math.round(p.y) - 0.5;
    const y1 = p.open ? Math.min(Math.max(y0, top + 16), top + p.height - 16) : Math.round(top + 10) + 0.5;
    const end = p.open ? g.slip : g.note - 4;
    const x = Math.round(p.x + 1);
    const drop = y1 - y0;
    let path = `M${x} ${y0}`;
    if (Math.abs(drop) < 20) path += `H${g.leaf}C${g.leaf + 24} ${y0} ${end - 15} ${y1} ${end} ${y1}`;
    else {
      const turn = Math.max(g.leaf + 10, g.slip - 3 - 4 * (lane++ % 6));
      const r = 8;
      const s = drop > 0 ? 1 : -1;
      path += `H${turn - r}q${r} 0 ${r} ${r * s}V${y1 - r * s}q0 ${r * s} ${Math.min(r, end - turn)} ${r * s}H${end}`;
    }
    return { id: p.id, top, path, dot: p.open ? { x: end, y: y1 } : null, from: { x, y: y0 }, open: p.open, passed: p.passed };
  });
}
