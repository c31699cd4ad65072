import { type Mesh, type SurfaceGroup, triangulate } from '../../mesh/index.js';
import { FormatError, shown } from '../format-error.js';
import { GrowableInts } from '../growable.js';
import { CornerTable } from '../obj/corner-table.js';
import { child, childrenOf, type Element, numbers } from './xml-tree.js';

const AGAIN = 'mend the file or export it again';

/** A geometry as read: its groups name materials by symbol, which each instance binds anew. */
export interface Geometry {
  mesh: Mesh;
  /** symbol of each group's number; -1 has none */
  symbols: string[];
  /** primitives that are no surface, by kind */
  leftOut: string[];
}

interface Source {
  values: Float64Array;
  stride: number;
  count: number;
}
interface Input {
  semantic: string;
  offset: number;
  set: number;
  source: Source;
}

/** @throws FormatError with the line of what is wrong */
export function readGeometry(file: string, geometry: Element): Geometry | null {
  const mesh = child(geometry, 'mesh');
  if (!mesh) return null;
  const name = geometry.attributes['name'] ?? geometry.attributes['id'] ?? '';
  const fail = (wrong: string, at: Element): never => {
    throw new FormatError(file, wrong, AGAIN, { line: at.line, part: `geometry “${shown(name, 60)}”` });
  };
  const sources = new Map<string, Source>();
  for (const source of childrenOf(mesh, 'source')) {
    const array = child(source, 'float_array');
    if (!array) continue;
    const accessor = source.children.find((each) => each.name === 'technique_common')?.children[0];
    const stride = Number(accessor?.attributes['stride'] ?? 3);
    const values = numbers(file, array);
    if (!Number.isInteger(stride) || stride < 1 || stride > 64)
      fail('a source has no stride that makes sense', source);
    sources.set(source.attributes['id'] ?? '', { values, stride, count: Math.floor(values.length / stride) });
  }
  const sourceOf = (input: Element): Source =>
    sources.get((input.attributes['source'] ?? '').replace(/^#/, '')) ??
    fail(
      `an input names the source “${shown(input.attributes['source'] ?? '', 40)}”, which is not there`,
      input,
    );
  const vertices = child(mesh, 'vertices');
  const vertexInputs = childrenOf(vertices, 'input');

  const loops = new GrowableInts();
  const sizes = new GrowableInts();
  const groups: { symbol: string; polygons: number }[] = [];
  const leftOut: string[] = [];
  let layout: string | undefined;
  let kinds: Input[] = [];
  for (const primitive of mesh.children) {
    if (['lines', 'linestrips'].includes(primitive.name)) leftOut.push(primitive.name);
    if (!['triangles', 'polylist', 'polygons', 'trifans', 'tristrips'].includes(primitive.name)) continue;
    const inputs = childrenOf(primitive, 'input').flatMap((input): Input[] => {
      const offset = Number(input.attributes['offset'] ?? 0);
      if (!Number.isInteger(offset) || offset < 0 || offset > 64)
        fail('an input has no offset that makes sense', input);
      const each = (semantic: string, element: Element) => ({
        semantic,
        offset,
        set: Number(input.attributes['set'] ?? 0),
        source: sourceOf(element),
      });
      if (input.attributes['semantic'] !== 'VERTEX') return [each(input.attributes['semantic'] ?? '', input)];
      return vertexInputs.map((inner) => each(inner.attributes['semantic'] ?? '', inner));
    });
    const wanted = pickInputs(inputs);
    const shape = wanted.map(({ semantic, set }) => `${semantic}${set}`).join();
    if (!wanted.length || wanted[0]!.semantic !== 'POSITION') fail('a primitive has no positions', primitive);
    if (layout !== undefined && layout !== shape)
      fail('its primitives carry different inputs, which cannot share one vertex list', primitive);
    kinds = wanted;
    layout = shape;
    const stride =
      Math.max(...childrenOf(primitive, 'input').map((input) => Number(input.attributes['offset'] ?? 0))) + 1;
    const before = sizes.length;
    readPolygons(file, primitive, stride, fail, (corners, from, count) => {
      for (let c = 0; c < count; c++)
        for (const { offset, source } of wanted) {
          const index = corners[(from + c) * stride + offset]!;
          if (!(index >= 0 && index < source.count))
            fail(`a corner names entry ${index} of a source with ${source.count}`, primitive);
          loops.push(index);
        }
      sizes.push(count);
    });
    groups.push({ symbol: primitive.attributes['material'] ?? '', polygons: sizes.length - before });
  }
  if (sizes.length === 0) return { mesh: emptyMesh(), symbols: [], leftOut };
  return { ...build(loops.view(), sizes.view(), kinds, groups), leftOut };
}

const emptyMesh = (): Mesh => ({
  positions: new Float64Array(),
  indices: new Uint32Array(),
  uvs: [],
  groups: [],
});

/** Positions first, then what a vertex carries besides, UV sets in order. */
function pickInputs(inputs: readonly Input[]): Input[] {
  const first = (semantic: string) => inputs.filter((input) => input.semantic === semantic).slice(0, 1);
  const uvs = inputs.filter((input) => input.semantic === 'TEXCOORD').sort((a, b) => a.set - b.set);
  return [...first('POSITION'), ...first('NORMAL'), ...first('COLOR'), ...uvs];
}

/** Calls `polygon` with packed corners, the first corner and how many. */
function readPolygons(
  file: string,
  primitive: Element,
  stride: number,
  fail: (wrong: string, at: Element) => never,
  polygon: (corners: Float64Array, from: number, count: number) => void,
): void {
  const lists = childrenOf(primitive, 'p').map((p) => numbers(file, p));
  if (primitive.name === 'polygons') {
    for (const p of lists) polygon(p, 0, Math.floor(p.length / stride));
    // A polygon with holes: its outline is taken, the hole is closed.
    for (const ph of childrenOf(primitive, 'ph')) {
      const outline = child(ph, 'p');
      if (outline) {
        const p = numbers(file, outline);
        polygon(p, 0, Math.floor(p.length / stride));
      }
    }
    return;
  }
  for (const p of lists) {
    const corners = Math.floor(p.length / stride);
    if (primitive.name === 'triangles') for (let c = 0; c + 2 < corners; c += 3) polygon(p, c, 3);
    else if (primitive.name === 'polylist') {
      const counts = child(primitive, 'vcount');
      if (!counts) fail('a polylist has no vcount', primitive);
      let at = 0;
      for (const count of numbers(file, counts!)) {
        if (!Number.isInteger(count) || count < 0 || at + count > corners)
          fail('vcount promises more corners than there are', counts!);
        if (count >= 3) polygon(p, at, count);
        at += count;
      }
    } else {
      const turned = new Float64Array(stride * 3);
      for (let c = 0; c + 2 < corners; c++) {
        const odd = primitive.name === 'tristrips' && c % 2 === 1;
        const order =
          primitive.name === 'trifans' ? [0, c + 1, c + 2] : odd ? [c + 1, c, c + 2] : [c, c + 1, c + 2];
        order.forEach((corner, k) =>
          turned.set(p.subarray(corner * stride, (corner + 1) * stride), k * stride),
        );
        polygon(turned, 0, 3);
      }
    }
  }
}

function build(
  corners: Int32Array,
  sizes: Int32Array,
  inputs: readonly Input[],
  groups: readonly { symbol: string; polygons: number }[],
): { mesh: Mesh; symbols: string[] } {
  const width = inputs.length;
  const total = corners.length / width;
  // Inputs are folded two at a time into one number a corner: equal corners end as equal numbers.
  let ids = new Int32Array(total);
  for (let c = 0; c < total; c++) ids[c] = corners[c * width]!;
  for (let k = 1; k < width; k++) {
    const table = new CornerTable(total);
    const key = new Int32Array(3);
    const folded = new Int32Array(total);
    for (let c = 0; c < total; c++) {
      key[0] = ids[c]!;
      key[1] = corners[c * width + k]!;
      folded[c] = table.vertex(key, 0);
    }
    ids = folded;
  }
  const { vertexOf, picks } = numbered(ids);
  const column = (k: number, size: number, fill: number): Float64Array => {
    const { values, stride } = inputs[k]!.source;
    const out = new Float64Array(picks.length * size).fill(fill);
    for (let v = 0; v < picks.length; v++) {
      const from = corners[picks[v]! * width + k]! * stride;
      for (let i = 0; i < size && i < stride; i++) out[v * size + i] = values[from + i]!;
    }
    return out;
  };
  const at = (semantic: string) => inputs.findIndex((input) => input.semantic === semantic);
  const positions = column(0, 3, 0);
  const indices = new GrowableInts();
  const symbols: string[] = [];
  const surface: SurfaceGroup[] = [];
  let polygon = 0;
  let corner = 0;
  for (const group of groups) {
    const start = indices.length / 3;
    for (let i = 0; i < group.polygons; i++, polygon++) {
      const size = sizes[polygon]!;
      const loop = vertexOf.subarray(corner, corner + size);
      triangulate(positions, loop, (a, b, c) => indices.push3(loop[a]!, loop[b]!, loop[c]!));
      corner += size;
    }
    if (indices.length / 3 === start) continue;
    surface.push({ material: symbols.push(group.symbol) - 1, start, count: indices.length / 3 - start });
  }
  const mesh: Mesh = { positions, indices: Uint32Array.from(indices.view()), uvs: [], groups: surface };
  if (at('NORMAL') >= 0) mesh.normals = unit(Float32Array.from(column(at('NORMAL'), 3, 0)));
  if (at('COLOR') >= 0) mesh.colors = Float32Array.from(column(at('COLOR'), 4, 1));
  inputs.forEach((input, k) => {
    if (input.semantic !== 'TEXCOORD') return;
    const uv = Float32Array.from(column(k, 2, 0));
    // COLLADA counts V upwards; the neutral scene counts down from the top.
    for (let i = 1; i < uv.length; i += 2) uv[i] = 1 - uv[i]!;
    mesh.uvs.push(uv);
  });
  return { mesh, symbols };
}

/** Equal numbers as one vertex each, in the order they come up, and the corner each comes up at first. */
function numbered(ids: Int32Array): { vertexOf: Uint32Array; picks: Uint32Array } {
  let most = -1;
  for (let c = 0; c < ids.length; c++) most = Math.max(most, ids[c]!);
  const known = new Int32Array(most + 1).fill(-1);
  const vertexOf = new Uint32Array(ids.length);
  const picks = new Uint32Array(ids.length);
  let count = 0;
  for (let c = 0; c < ids.length; c++) {
    const id = ids[c]!;
    if (known[id]! < 0) {
      known[id] = count;
      picks[count++] = c;
    }
    vertexOf[c] = known[id]!;
  }
  return { vertexOf, picks: picks.slice(0, count) };
}

function unit(normals: Float32Array): Float32Array {
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!);
    if (l === 0) normals[i + 1] = 1;
    else if (Math.abs(l - 1) > 1e-6) for (let k = 0; k < 3; k++) normals[i + k]! /= l;
  }
  return normals;
}
