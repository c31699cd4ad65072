import { type Mesh, triangulate } from '../../mesh/index.js';
import { plainNode, type Scene } from '../../piece/index.js';
import { FormatError } from '../format-error.js';
import { GrowableInts } from '../growable.js';
import type { InputFile } from '../input-file.js';
import { type PlyElement, type PlyHeader, readPlyHeader, SCALAR_BYTES } from './ply-header.js';
import { asciiValues, binaryValues, type Values } from './ply-values.js';
import { countText } from '../../math/figures.js';

const AGAIN = 'export it again';

/**
 * PLY, text or binary of either byte order: vertices with normals, colours and UVs, polygons. Other
 * elements are passed over and said.
 *
 * @throws FormatError and nothing else
 */
export async function readPly(
  file: InputFile,
  progress: (share: number) => void = () => undefined,
): Promise<Scene> {
  const bytes = await file.bytes();
  const header = readPlyHeader(file.name, bytes);
  checkSizes(file.name, header, bytes.length);
  const values =
    header.encoding === 'ascii'
      ? asciiValues(file.name, bytes, header)
      : binaryValues(file.name, bytes, header);
  const scene: Scene = {
    unit: { metres: 1, stated: false },
    nodes: [plainNode(file.name.replace(/\.[^.]*$/, ''), 0)],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: header.strays.length
      ? [{ about: 'lines-ignored', lines: header.strays.length, first: header.strays[0]! }]
      : [],
  };
  let vertices: Mesh | undefined;
  const loops = new GrowableInts();
  const sizes = new GrowableInts();
  for (const element of header.elements) {
    if (element.name === 'vertex') vertices = readVertices(file.name, element, values);
    else if (element.name === 'face') readFaces(file.name, element, values, loops, sizes);
    else {
      for (let i = 0; i < element.count; i++)
        for (const property of element.properties) skip(values, property.list !== undefined);
      if (element.count)
        scene.notes.push({
          about: 'elements-ignored',
          element: element.name.slice(0, 40),
          count: element.count,
        });
    }
    progress(values.share());
  }
  if (!vertices) throw new FormatError(file.name, 'the file has no vertices', AGAIN);
  if (sizes.length === 0)
    throw new FormatError(
      file.name,
      'the file has points and no faces',
      'make a surface of the points first',
    );
  const n = vertices.positions.length / 3;
  const indices: number[] = [];
  let at = 0;
  const corners = loops.view();
  sizes.view().forEach((size, face) => {
    const loop = corners.subarray(at, at + size);
    at += size;
    for (const v of loop)
      if (v < 0 || v >= n)
        throw new FormatError(
          file.name,
          `face ${face + 1} names vertex ${v}, and there are ${n}`,
          'mend the file or export again',
        );
    triangulate(vertices!.positions, loop, (a, b, c) => indices.push(loop[a]!, loop[b]!, loop[c]!));
  });
  const mesh: Mesh = {
    ...vertices,
    indices: Uint32Array.from(indices),
    groups: [{ material: -1, start: 0, count: indices.length / 3 }],
  };
  scene.meshes.push({ name: scene.nodes[0]!.name, mesh });
  return scene;
}

/** Counts that the bytes cannot hold are a lie, and are found before memory is taken for them. */
function checkSizes(file: string, header: PlyHeader, size: number): void {
  const least = header.elements.reduce((sum, { count, properties }) => {
    const one = properties.reduce(
      (bytes, { type, list }) => bytes + (header.encoding === 'ascii' ? 2 : SCALAR_BYTES[list ?? type]),
      0,
    );
    return sum + count * one;
  }, header.bytes);
  if (least > size + 1)
    throw new FormatError(
      file,
      `the header promises at least ${countText(least)} bytes and the file has ${countText(size)}`,
      AGAIN,
      { byte: header.bytes },
    );
}

function skip(values: Values, list: boolean): void {
  const count = list ? values.length() : 1;
  for (let i = 0; i < count; i++) values.next();
}

const SLOTS: Record<string, readonly [kind: 'positions' | 'normals' | 'colors' | 'uv', at: number]> = {
  x: ['positions', 0],
  y: ['positions', 1],
  z: ['positions', 2],
  nx: ['normals', 0],
  ny: ['normals', 1],
  nz: ['normals', 2],
  red: ['colors', 0],
  green: ['colors', 1],
  blue: ['colors', 2],
  alpha: ['colors', 3],
  s: ['uv', 0],
  t: ['uv', 1],
  u: ['uv', 0],
  v: ['uv', 1],
  texture_u: ['uv', 0],
  texture_v: ['uv', 1],
};
const WIDTH = { positions: 3, normals: 3, colors: 4, uv: 2 } as const;

function readVertices(file: string, { count, properties }: PlyElement, values: Values): Mesh {
  const has = (...names: string[]) =>
    names.every((name) => properties.some((property) => property.name === name && !property.list));
  if (!has('x', 'y', 'z')) throw new FormatError(file, 'the vertices have no x, y and z', AGAIN);
  const columns = {
    positions: new Float64Array(count * 3),
    normals: has('nx', 'ny', 'nz') ? new Float32Array(count * 3) : undefined,
    colors: has('red', 'green', 'blue') ? new Float32Array(count * 4).fill(1) : undefined,
    uv:
      has('s', 't') || has('u', 'v') || has('texture_u', 'texture_v')
        ? new Float32Array(count * 2)
        : undefined,
  };
  const plan = properties.map((property) => {
    const slot = property.list ? undefined : SLOTS[property.name];
    const column = slot && columns[slot[0]];
    // Colours as whole numbers count to 255, as decimals to 1.
    const scale = slot?.[0] === 'colors' && !property.type.startsWith('float') ? 1 / 255 : 1;
    return {
      list: property.list !== undefined,
      column,
      width: slot ? WIDTH[slot[0]] : 0,
      at: slot?.[1] ?? 0,
      scale,
    };
  });
  for (let i = 0; i < count; i++) {
    for (const { list, column, width, at, scale } of plan) {
      if (!column) {
        skip(values, list);
        continue;
      }
      const value = values.next();
      if (!Number.isFinite(value))
        throw new FormatError(
          file,
          `vertex ${i} has a value that is not a finite number`,
          'mend the file or export again',
          values.place(),
        );
      column[i * width + at] = value * scale;
    }
  }
  // PLY counts V upwards; the neutral scene counts down from the top.
  if (columns.uv) for (let i = 1; i < columns.uv.length; i += 2) columns.uv[i] = 1 - columns.uv[i]!;
  return {
    positions: columns.positions,
    ...(columns.normals ? { normals: columns.normals } : {}),
    ...(columns.colors ? { colors: columns.colors } : {}),
    uvs: columns.uv ? [columns.uv] : [],
    indices: new Uint32Array(),
    groups: [],
  };
}

function readFaces(
  file: string,
  { count, properties }: PlyElement,
  values: Values,
  loops: GrowableInts,
  sizes: GrowableInts,
): void {
  const corners = properties.findIndex(({ name, list }) => list && /^vertex_ind(ices|ex)$/.test(name));
  if (corners < 0 && count) throw new FormatError(file, 'the faces do not name their vertices', AGAIN);
  for (let i = 0; i < count; i++) {
    properties.forEach((property, p) => {
      if (p !== corners) return skip(values, property.list !== undefined);
      const size = values.length();
      for (let k = 0; k < size; k++) {
        const v = values.next();
        if (size >= 3) loops.push(v);
      }
      if (size >= 3) sizes.push(size);
    });
  }
}
