import type { Crossings, Runs } from '../solid/index.js';

/** The crossings with some of the triangles only. */
export function only(crossings: Crossings, counts: (face: number) => boolean): Crossings {
  const { start, at, way, face } = crossings;
  const keep = new Uint32Array(face.length);
  const starts = new Uint32Array(start.length);
  let kept = 0;
  for (let r = 0; r + 1 < start.length; r++) {
    for (let k = start[r]!; k < start[r + 1]!; k++) if (counts(face[k]!)) keep[kept++] = k;
    starts[r + 1] = kept;
  }
  if (kept === face.length) return crossings;
  const found = {
    start: starts,
    at: new Float64Array(kept),
    way: new Int8Array(kept),
    face: new Uint32Array(kept),
  };
  for (let i = 0; i < kept; i++) {
    found.at[i] = at[keep[i]!]!;
    found.way[i] = way[keep[i]!]!;
    found.face[i] = face[keep[i]!]!;
  }
  return found;
}

/** Lengths along all rays: in the art, in any shape, in both, and the sum over single shapes. */
export function alongRays(art: Runs, spans: readonly Float64Array[]): number[] {
  const rays = art.start.length - 1;
  let inArt = 0;
  let inAny = 0;
  let inBoth = 0;
  let single = 0;
  const lows = new Float64Array(spans.length);
  const highs = new Float64Array(spans.length);
  for (let r = 0; r < rays; r++) {
    const [first, past] = [art.start[r]!, art.start[r + 1]!];
    for (let k = first; k < past; k++) inArt += art.ends[k * 2 + 1]! - art.ends[k * 2]!;
    let n = 0;
    for (let i = 0; i < spans.length; i++) {
      const from = spans[i]![r * 2]!;
      if (from !== from) continue;
      const to = spans[i]![r * 2 + 1]!;
      single += to - from;
      let at = n++;
      for (; at > 0 && lows[at - 1]! > from; at--) {
        lows[at] = lows[at - 1]!;
        highs[at] = highs[at - 1]!;
      }
      lows[at] = from;
      highs[at] = to;
    }
    let end = -Infinity;
    for (let i = 0; i < n; i++) {
      const start = lows[i]! > end ? lows[i]! : end;
      const to = highs[i]!;
      if (to <= start) continue;
      inAny += to - start;
      for (let k = first; k < past; k++) {
        const low = art.ends[k * 2]! > start ? art.ends[k * 2]! : start;
        const high = art.ends[k * 2 + 1]! < to ? art.ends[k * 2 + 1]! : to;
        if (high > low) inBoth += high - low;
      }
      end = to;
    }
  }
  return [inArt, inAny, inBoth, single];
}
