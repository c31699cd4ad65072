import {
  composeMatrix,
  cross,
  type Matrix,
  multiplyMatrices,
  multiplyQuats,
  NO_ROTATION,
  normalized,
  quatAbout,
  quatFromAxes,
  type Quat,
  type Transform,
  type Vec3,
} from '../../math/index.js';
import { FormatError, shown } from '../format-error.js';
import { asTransforms } from '../as-transforms.js';
import { type Element, numbers } from './xml-tree.js';

const AGAIN = 'mend the file or export it again';
const plain = (): Transform => ({
  translation: [0, 0, 0],
  rotation: [...NO_ROTATION] as Quat,
  scale: [1, 1, 1],
});

/**
 * A node's transform as one or two of ours: the second carries what is left when the steps shear, by
 * turn, scale, turn. Steps in the usual order (move, turns, scale) are taken over as they are.
 *
 * @throws FormatError when a step has the wrong count of numbers
 */
export function readTransform(file: string, node: Element): Transform[] {
  const steps = node.children.filter(({ name }) =>
    ['translate', 'rotate', 'scale', 'matrix', 'lookat', 'skew'].includes(name),
  );
  const values = (step: Element, count: number): number[] => {
    const list = [...numbers(file, step)];
    if (list.length !== count)
      throw new FormatError(file, `<${step.name}> has ${list.length} numbers instead of ${count}`, AGAIN, {
        line: step.line,
        part: `node “${shown(node.attributes['name'] ?? node.attributes['id'] ?? '', 60)}”`,
      });
    return list;
  };
  const order = steps.map(({ name }) => ({ translate: 0, rotate: 1, scale: 2 })[name as 'translate'] ?? 9);
  const usual = order.every(
    (o, i) => o < 9 && (i === 0 || o > order[i - 1]! || (o === 1 && order[i - 1] === 1)),
  );
  if (usual) {
    const out = plain();
    for (const step of steps) {
      if (step.name === 'translate') out.translation = values(step, 3) as Vec3;
      else if (step.name === 'scale') out.scale = values(step, 3) as Vec3;
      else {
        const [x, y, z, degrees] = values(step, 4) as [number, number, number, number];
        out.rotation = multiplyQuats(out.rotation, quatAbout([x, y, z], (degrees * Math.PI) / 180));
      }
    }
    return [out];
  }
  let matrix = composeMatrix(plain());
  for (const step of steps) matrix = multiplyMatrices(matrix, stepMatrix(step, values));
  return asTransforms(matrix);
}

function stepMatrix(step: Element, values: (step: Element, count: number) => number[]): Matrix {
  const t = plain();
  switch (step.name) {
    case 'translate':
      t.translation = values(step, 3) as Vec3;
      break;
    case 'scale':
      t.scale = values(step, 3) as Vec3;
      break;
    case 'rotate': {
      const [x, y, z, degrees] = values(step, 4) as [number, number, number, number];
      t.rotation = quatAbout([x, y, z], (degrees * Math.PI) / 180);
      break;
    }
    case 'matrix': {
      const rows = values(step, 16);
      return Float64Array.from({ length: 16 }, (_, i) => rows[(i % 4) * 4 + ((i / 4) | 0)]!);
    }
    case 'skew': {
      const [degrees, ax, ay, az, bx, by, bz] = values(step, 7) as [
        number,
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      const shear = Math.tan((degrees * Math.PI) / 180);
      const m = composeMatrix(t);
      [ax, ay, az].forEach((a, column) =>
        [bx, by, bz].forEach((b, row) => (m[column * 4 + row]! += shear * a * b)),
      );
      return m;
    }
    default: {
      const v = values(step, 9);
      const [eye, to, up] = [v.slice(0, 3), v.slice(3, 6), v.slice(6)] as [Vec3, Vec3, Vec3];
      const back = normalized(eye.map((x, k) => x - to[k]!) as Vec3);
      const right = normalized(cross(up, back));
      t.translation = eye;
      t.rotation = quatFromAxes(right, cross(back, right), back);
    }
  }
  return composeMatrix(t);
}
