import * as core from '@yard-brace/core';
import { CLEAN, UNSEEN, yardPieces } from './convex-pieces.mjs';
import { lumpy } from './lumpy.mjs';

/** Counts of shapes that the table tells. */
export const COUNTS = [4, 8, 16, 32];

/** Every piece broken up once, after a first one to warm up: ms for the whole ladder, figures at some counts. */
export async function benchConvex(say) {
  await core.decompose(CLEAN[0].mesh(), {});
  const pieces = [
    ...CLEAN.map(({ name, mesh }) => ({ name, mesh: mesh() })),
    ...(await yardPieces()),
    ...UNSEEN.map(({ name, mesh }) => ({ name, mesh: mesh() })),
  ];
  const rows = [];
  for (const { name, mesh } of pieces) {
    say(`Breaking up ${name}`);
    const start = performance.now();
    const ladder = await core.decompose(mesh, { maxShapes: 32 });
    const ms = performance.now() - start;
    const comparer = new core.Comparer(mesh);
    const told = new Map();
    for (const count of COUNTS) {
      const rung = core.rungWithin(ladder, count);
      if (rung && !told.has(rung)) told.set(rung, comparer.compare(rung.shapes));
    }
    rows.push({
      name,
      triangles: mesh.indices.length / 3,
      ms,
      rungs: COUNTS.map((count) => core.rungWithin(ladder, count)).map(
        (rung) => rung && figures(told.get(rung)),
      ),
    });
  }
  return rows;
}

function figures({ cost, proxyOutside, artOutside, overfill, underfill, overlap, artVolume }) {
  const share = (volume) => (artVolume > 0 ? volume / artVolume : 0);
  return {
    shapes: cost.shapes,
    vertices: cost.vertices,
    out: proxyOutside.max,
    bare: artOutside.max,
    over: share(overfill),
    under: share(underfill),
    overlap: share(overlap),
  };
}

const COLUMNS = 'shapes, corners, mm proxies out / art out, over / under / overlap in % of the art';

/** The table as Markdown; `before` is one that was recorded, by piece. */
export function convexTable(rows, before = new Map()) {
  const cell = (rung) =>
    rung
      ? `${rung.shapes}, ${rung.vertices}, ${mm(rung.out)} / ${mm(rung.bare)}, ${percent(rung.over)} / ${percent(rung.under)} / ${percent(rung.overlap)}`
      : 'more are needed';
  return [
    `Each cell: ${COLUMNS}. At most so many shapes:`,
    '',
    `| piece | triangles | ms | ms before | ${COUNTS.join(' | ')} |`,
    `|---|--:|--:|--:|${COUNTS.map(() => '---').join('|')}|`,
    ...rows.map(
      ({ name, triangles, ms, rungs }) =>
        `| ${name} | ${triangles} | ${ms.toFixed(0)} | ${before.get(name) ?? ''} | ${rungs.map(cell).join(' | ')} |`,
    ),
  ].join('\n');
}

/** Less than a millionth is rounding. */
const rounded = (value, digits) => (Math.abs(value) < 1e-6 ? '0' : String(Number(value.toPrecision(digits))));
export const mm = (metres) => rounded(metres * 1000, 3);
export const percent = (share) => rounded(share * 100, 2);

/** Milliseconds by piece from a table written earlier. */
export function recordedTimes(markdown) {
  const times = new Map();
  for (const [, name, ms] of markdown.matchAll(/^\| ([^|]+?) \| \d+ \| (\d+) \|/gm)) times.set(name, ms);
  return times;
}

/** One measuring of shapes against art of 50 000 triangles. */
/** A grid of boxes through art of 51 200 triangles, judged again after one of them was moved. */
export function judgeTask(perSide) {
  const art = lumpy(160, 160);
  const comparer = new core.Comparer(art);
  const size = 2.2 / perSide;
  const at = (i) => -1.1 + size * (i + 0.5);
  const boxes = Array.from({ length: perSide ** 3 }, (_, i) => ({
    kind: 'box',
    center: [at(i % perSide), at(Math.floor(i / perSide) % perSide), at(Math.floor(i / perSide ** 2))],
    halfExtents: [size / 2, size / 2, size / 2],
    rotation: [0, 0, 0, 1],
  }));
  const judged = (shapes) =>
    core.judgeSet(comparer, {
      members: shapes.map((shape, i) => ({ id: String(i), shape, owner: null })),
      openings: [],
      partOfFace: () => 'art',
      toleranceMetres: 0.02,
    });
  let moves = 0;
  judged(boxes);
  return () => judged(boxes.with(9, core.moveShape(boxes[9], [0.01 * ++moves, 0, 0])));
}

export function compareTask() {
  const art = lumpy(160, 160);
  const shapes = Array.from({ length: 16 }, (_, i) => {
    const turn = (i / 16) * 2 * Math.PI;
    return {
      kind: 'box',
      center: [Math.cos(turn) * 0.7, (i % 4) * 0.4 - 0.6, Math.sin(turn) * 0.7],
      halfExtents: [0.35, 0.4, 0.35],
      rotation: [0, Math.sin(turn / 2), 0, Math.cos(turn / 2)],
    };
  });
  return () => core.compareShapes(art, shapes);
}
