import { type Mesh, plainMesh } from '../mesh/index.js';

/** A box by its two corners: least x, y, z, greatest x, y, z. */
export type Block = [number, number, number, number, number, number];

/** One closed surface round everything that any of the blocks fills, with no faces between them. */
export function blocks(filled: readonly Block[], empty: readonly Block[] = []): Mesh {
  const lines = [0, 1, 2].map((k) =>
    [...new Set([...filled, ...empty].flatMap((b) => [b[k]!, b[k + 3]!]))].sort((a, b) => a - b),
  ) as [number[], number[], number[]];
  const counts = lines.map((l) => l.length - 1);
  const has = (list: readonly Block[], m: number[]) =>
    list.some((b) => m.every((v, k) => v > b[k]! && v < b[k + 3]!));
  const full = (cell: number[]): boolean => {
    if (cell.some((c, k) => c < 0 || c >= counts[k]!)) return false;
    const middle = cell.map((c, k) => (lines[k]![c]! + lines[k]![c + 1]!) / 2);
    return has(filled, middle) && !has(empty, middle);
  };
  const positions: number[] = [];
  const numbers = new Map<string, number>();
  const vertex = (place: number[]): number => {
    const key = place.join();
    let v = numbers.get(key);
    if (v === undefined) {
      numbers.set(key, (v = positions.length / 3));
      positions.push(...place.map((c, k) => lines[k]![c]!));
    }
    return v;
  };
  const indices: number[] = [];
  for (let x = 0; x < counts[0]!; x++)
    for (let y = 0; y < counts[1]!; y++)
      for (let z = 0; z < counts[2]!; z++) {
        const cell = [x, y, z];
        if (!full(cell)) continue;
        for (let k = 0; k < 3; k++)
          for (const way of [0, 1]) {
            const next = cell.map((c, i) => (i === k ? c + (way ? 1 : -1) : c));
            if (full(next)) continue;
            const [s, t] = [(k + 1) % 3, (k + 2) % 3];
            const corner = (ds: number, dt: number) =>
              vertex(cell.map((c, i) => (i === k ? c + way : i === s ? c + ds : i === t ? c + dt : c)));
            const loop = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
            if (!way) loop.reverse();
            indices.push(loop[0]!, loop[1]!, loop[2]!, loop[0]!, loop[2]!, loop[3]!);
          }
      }
  return plainMesh(positions, indices);
}

/** Clean cases: what a person would break each into is plain. */
export const SOLIDS = {
  ell: () =>
    blocks([
      [0, 0, 0, 3, 1, 1],
      [0, 0, 0, 1, 4, 1],
    ]),
  you: () =>
    blocks([
      [0, 0, 0, 4, 1, 2],
      [0, 0, 0, 1, 3, 2],
      [3, 0, 0, 4, 3, 2],
    ]),
  tee: () =>
    blocks([
      [0, 3, 0, 5, 4, 1],
      [2, 0, 0, 3, 4, 1],
    ]),
  plus: () =>
    blocks([
      [0, 2, 0, 5, 3, 1],
      [2, 0, 0, 3, 5, 1],
    ]),
  table: () =>
    blocks([
      [0, 2, 0, 4, 2.3, 3],
      [0, 0, 0, 0.3, 2, 0.3],
      [3.7, 0, 0, 4, 2, 0.3],
      [0, 0, 2.7, 0.3, 2, 3],
      [3.7, 0, 2.7, 4, 2, 3],
    ]),
  stair: (n = 6) =>
    blocks(Array.from({ length: n }, (_, i): Block => [i * 0.3, 0, 0, (i + 1) * 0.3, (i + 1) * 0.18, 2])),
  door: () => blocks([[0, 0, 0, 4, 3, 0.3]], [[1.5, 0, 0, 2.5, 2.1, 0.3]]),
  twoDoors: () =>
    blocks(
      [[0, 0, 0, 7, 3, 0.3]],
      [
        [1, 0, 0, 2, 2.1, 0.3],
        [4, 0, 0, 5.5, 2.4, 0.3],
      ],
    ),
  window: () => blocks([[0, 0, 0, 4, 3, 0.3]], [[1.5, 1, 0, 2.5, 2, 0.3]]),
  tray: () => blocks([[0, 0, 0, 4, 1, 3]], [[0.1, 0.1, 0.1, 3.9, 1, 2.9]]),
  beam: () =>
    blocks([
      [0, 0, 0, 2, 0.2, 6],
      [0, 1.8, 0, 2, 2, 6],
      [0.9, 0, 0, 1.1, 2, 6],
    ]),
  apart: () =>
    blocks([
      [0, 0, 0, 3, 1, 1],
      [0, 0, 0, 1, 4, 1],
      [6, 0, 0, 7, 1, 1],
    ]),
};

/** A closed tube: rings of `sides` corners round each place of a line, capped at both ends unless it closes. */
export function tube(line: readonly (readonly number[])[], radius: number, sides = 12, closes = false): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  const n = line.length;
  const at = (i: number) => line[((i % n) + n) % n]!;
  for (let i = 0; i < n; i++) {
    const [p, q] = closes
      ? [at(i - 1), at(i + 1)]
      : [line[Math.max(0, i - 1)]!, line[Math.min(n - 1, i + 1)]!];
    const along = [0, 1, 2].map((k) => q[k]! - p[k]!);
    const l = Math.hypot(...along);
    const t = along.map((v) => v / l);
    const aside = Math.abs(t[1]!) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const u = [
      t[1]! * aside[2]! - t[2]! * aside[1]!,
      t[2]! * aside[0]! - t[0]! * aside[2]!,
      t[0]! * aside[1]! - t[1]! * aside[0]!,
    ];
    const m = Math.hypot(...u);
    const x = u.map((v) => v / m);
    const y = [t[1]! * x[2]! - t[2]! * x[1]!, t[2]! * x[0]! - t[0]! * x[2]!, t[0]! * x[1]! - t[1]! * x[0]!];
    for (let s = 0; s < sides; s++) {
      const a = (s / sides) * 2 * Math.PI;
      for (let k = 0; k < 3; k++)
        positions.push(line[i]![k]! + radius * (Math.cos(a) * x[k]! + Math.sin(a) * y[k]!));
    }
  }
  for (let i = 0; i + (closes ? 0 : 1) < n; i++)
    for (let s = 0; s < sides; s++) {
      const [a, b] = [i * sides + s, i * sides + ((s + 1) % sides)];
      const [c, d] = [((i + 1) % n) * sides + s, ((i + 1) % n) * sides + ((s + 1) % sides)];
      indices.push(a, b, d, a, d, c);
    }
  if (!closes)
    for (const [ring, turn] of [
      [0, true],
      [n - 1, false],
    ] as const)
      for (let s = 1; s + 1 < sides; s++) {
        const corners = [ring * sides, ring * sides + s, ring * sides + s + 1];
        indices.push(...(turn ? corners.reverse() : corners));
      }
  return plainMesh(positions, indices);
}
