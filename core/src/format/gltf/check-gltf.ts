import * as z from 'zod';
import { FormatError } from '../format-error.js';
import { issueDemand } from '../../piece/index.js';
import { checkInnerName } from '../input-file.js';

const index = z.number().int().nonnegative();
const numbers = (length: number) => z.array(z.number()).length(length);
const attributes = z.record(z.string(), index);

/** Where the compressed bytes of a buffer view are, and what they come to. */
const compressedView = z.looseObject({
  buffer: index,
  byteOffset: index.optional(),
  byteLength: z.number().int().positive(),
  byteStride: z.number().int().positive().max(256),
  count: z.number().int().positive(),
});

/** The parts of a glTF that decide whether it can be read at all; the rest is passed through. */
export const gltfSchema = z.looseObject({
  asset: z.looseObject({ version: z.string() }),
  scene: index.optional(),
  scenes: z.array(z.looseObject({ nodes: z.array(index).optional() })).optional(),
  nodes: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        children: z.array(index).optional(),
        mesh: index.optional(),
        camera: index.optional(),
        skin: index.optional(),
        matrix: numbers(16).optional(),
        translation: numbers(3).optional(),
        rotation: numbers(4).optional(),
        scale: numbers(3).optional(),
      }),
    )
    .optional(),
  meshes: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        primitives: z.array(
          z.looseObject({
            attributes,
            indices: index.optional(),
            material: index.optional(),
            mode: z.number().int().min(0).max(6).optional(),
            targets: z.array(attributes).optional(),
          }),
        ),
      }),
    )
    .optional(),
  accessors: z
    .array(
      z.looseObject({
        bufferView: index.optional(),
        byteOffset: index.optional(),
        componentType: z.number(),
        count: z.number().int().positive(),
        type: z.string(),
        sparse: z
          .looseObject({
            count: z.number().int().positive(),
            indices: z.looseObject({
              bufferView: index,
              byteOffset: index.optional(),
              componentType: z.number(),
            }),
            values: z.looseObject({ bufferView: index, byteOffset: index.optional() }),
          })
          .optional(),
      }),
    )
    .optional(),
  bufferViews: z
    .array(
      z.looseObject({
        buffer: index,
        byteOffset: index.optional(),
        byteLength: z.number().int().positive(),
        byteStride: index.optional(),
        extensions: z.looseObject({ EXT_meshopt_compression: compressedView.optional() }).optional(),
      }),
    )
    .optional(),
  buffers: z
    .array(
      z.looseObject({
        byteLength: z.number().int().positive(),
        uri: z.string().optional(),
        extensions: z.unknown().optional(),
      }),
    )
    .optional(),
  images: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        uri: z.string().optional(),
        bufferView: index.optional(),
        mimeType: z.string().optional(),
      }),
    )
    .optional(),
  textures: z.array(z.looseObject({ source: index.optional(), sampler: index.optional() })).optional(),
  samplers: z.array(z.looseObject({})).optional(),
  materials: z.array(z.looseObject({ name: z.string().optional() })).optional(),
  cameras: z.array(z.looseObject({ name: z.string().optional() })).optional(),
  animations: z.array(z.looseObject({ name: z.string().optional() })).optional(),
  skins: z.array(z.looseObject({ name: z.string().optional() })).optional(),
  extensionsUsed: z.array(z.string()).optional(),
  extensionsRequired: z.array(z.string()).optional(),
});

export type GltfJson = z.infer<typeof gltfSchema>;

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Record<string, number> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};
const AGAIN = 'mend the file or export it again';

/**
 * Check shape, references, names and byte ranges before anything is decoded.
 *
 * @param bufferBytes bytes at hand for each buffer, undefined where the buffer is missing
 * @throws FormatError naming the accessor, node, buffer view … that does not fit
 */
export function checkGltf(file: string, json: unknown): GltfJson {
  const stated = z.object({ asset: z.object({ version: z.string() }) }).safeParse(json).data?.asset.version;
  // An older version is built otherwise: what is wrong with it is its version.
  if (stated !== undefined && !stated.startsWith('2.')) {
    throw new FormatError(
      file,
      `the file says glTF version ${stated.slice(0, 10)}, and only version 2 is read`,
      'export it as glTF 2.0',
      { part: 'asset' },
    );
  }
  const parsed = gltfSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new FormatError(file, `this part of the glTF ${issueDemand(issue)}`, AGAIN, {
      part: issue.path.join(' ') || 'top level',
    });
  }
  const gltf = parsed.data;
  checkReferences(file, gltf);
  checkTree(file, gltf);
  return gltf;
}

function checkReferences(file: string, gltf: GltfJson): void {
  const refer = (
    part: string,
    what: string,
    value: number | undefined,
    list: readonly unknown[] | undefined,
  ) => {
    if (value !== undefined && value >= (list?.length ?? 0)) {
      throw new FormatError(file, `it names ${what} ${value}, and there are ${list?.length ?? 0}`, AGAIN, {
        part,
      });
    }
  };
  refer('scene', 'scene', gltf.scene, gltf.scenes);
  gltf.scenes?.forEach((scene, i) =>
    scene.nodes?.forEach((node) => refer(`scene ${i}`, 'node', node, gltf.nodes)),
  );
  gltf.nodes?.forEach((node, i) => {
    const part = `node ${i}`;
    checkInnerName(file, 'node', node.name ?? '', { part });
    node.children?.forEach((child) => refer(part, 'node', child, gltf.nodes));
    refer(part, 'mesh', node.mesh, gltf.meshes);
    refer(part, 'camera', node.camera, gltf.cameras);
    refer(part, 'skin', node.skin, gltf.skins);
  });
  gltf.meshes?.forEach((mesh, i) => {
    const part = `mesh ${i}`;
    checkInnerName(file, 'mesh', mesh.name ?? '', { part });
    for (const primitive of mesh.primitives) {
      refer(part, 'material', primitive.material, gltf.materials);
      refer(part, 'accessor', primitive.indices, gltf.accessors);
      for (const set of [primitive.attributes, ...(primitive.targets ?? [])]) {
        for (const accessor of Object.values(set)) refer(part, 'accessor', accessor, gltf.accessors);
      }
    }
  });
  gltf.materials?.forEach((material, i) =>
    checkInnerName(file, 'material', material.name ?? '', { part: `material ${i}` }),
  );
  gltf.textures?.forEach((texture, i) => {
    refer(`texture ${i}`, 'image', texture.source, gltf.images);
    refer(`texture ${i}`, 'sampler', texture.sampler, gltf.samplers);
  });
  gltf.images?.forEach((image, i) => {
    refer(`image ${i}`, 'buffer view', image.bufferView, gltf.bufferViews);
    if (image.bufferView === undefined && image.uri === undefined) {
      throw new FormatError(file, 'the picture has neither an address nor a buffer view', AGAIN, {
        part: `image ${i}`,
      });
    }
  });
  gltf.bufferViews?.forEach((view, i) => refer(`buffer view ${i}`, 'buffer', view.buffer, gltf.buffers));
  gltf.accessors?.forEach((accessor, i) => {
    refer(`accessor ${i}`, 'buffer view', accessor.bufferView, gltf.bufferViews);
    refer(`accessor ${i}`, 'buffer view', accessor.sparse?.indices.bufferView, gltf.bufferViews);
    refer(`accessor ${i}`, 'buffer view', accessor.sparse?.values.bufferView, gltf.bufferViews);
  });
}

/** Every node has one parent at most, and no node is its own ancestor. */
function checkTree(file: string, gltf: GltfJson): void {
  const nodes = gltf.nodes ?? [];
  const parent = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, i) =>
    node.children?.forEach((child) => {
      if (parent[child]! >= 0 || child === i) {
        throw new FormatError(file, `node ${child} is a child of two nodes or of itself`, AGAIN, {
          part: `node ${i}`,
        });
      }
      parent[child] = i;
    }),
  );
  const checked = new Uint8Array(nodes.length);
  for (let start = 0; start < nodes.length; start++) {
    const path: number[] = [];
    for (let node = start; node >= 0 && checked[node] !== 2; node = parent[node]!) {
      if (checked[node] === 1)
        throw new FormatError(file, 'the node is its own ancestor', AGAIN, { part: `node ${node}` });
      checked[node] = 1;
      path.push(node);
    }
    for (const node of path) checked[node] = 2;
  }
}

/** @throws FormatError when an accessor or buffer view reaches beyond its bytes */
export function checkRanges(file: string, gltf: GltfJson, bufferBytes: readonly number[]): void {
  gltf.buffers?.forEach((buffer, i) => {
    if (bufferBytes[i]! < buffer.byteLength) {
      throw new FormatError(
        file,
        `it claims ${buffer.byteLength} bytes and ${bufferBytes[i]} are there`,
        AGAIN,
        { part: `buffer ${i}` },
      );
    }
  });
  gltf.bufferViews?.forEach((view, i) => {
    const end = (view.byteOffset ?? 0) + view.byteLength;
    const limit = gltf.buffers![view.buffer]!.byteLength;
    if (end > limit)
      throw new FormatError(file, `it reaches to byte ${end} of a buffer of ${limit}`, AGAIN, {
        part: `buffer view ${i}`,
      });
  });
  checkCompressed(file, gltf, bufferBytes);
  const within = (
    part: string,
    view: number,
    offset: number,
    elements: number,
    elementBytes: number,
    useStride: boolean,
  ) => {
    const { byteLength, byteStride } = gltf.bufferViews![view]!;
    const stride = useStride ? byteStride || elementBytes : elementBytes;
    const end = offset + stride * (elements - 1) + elementBytes;
    if (end > byteLength) {
      throw new FormatError(file, `it reaches to byte ${end} of a buffer view of ${byteLength}`, AGAIN, {
        part,
      });
    }
  };
  gltf.accessors?.forEach((accessor, i) => {
    const part = `accessor ${i}`;
    const component = COMPONENT_BYTES[accessor.componentType];
    const components = COMPONENTS[accessor.type];
    if (!component || !components)
      throw new FormatError(file, 'its component type or type is unknown', AGAIN, { part });
    if (accessor.count > 2 ** 28)
      throw new FormatError(
        file,
        `it claims ${accessor.count} elements`,
        'split the mesh and export it again',
        { part },
      );
    const element = component * components;
    if (accessor.bufferView !== undefined)
      within(part, accessor.bufferView, accessor.byteOffset ?? 0, accessor.count, element, true);
    else if (accessor.count * element > MAX_EMPTY_ACCESSOR_VALUES)
      throw new FormatError(file, `it claims ${accessor.count} elements and has no bytes`, AGAIN, { part });
    const { sparse } = accessor;
    if (!sparse) return;
    if (sparse.count > accessor.count)
      throw new FormatError(file, 'it replaces more elements than it has', AGAIN, { part });
    const indexBytes = COMPONENT_BYTES[sparse.indices.componentType];
    if (!indexBytes) throw new FormatError(file, 'its sparse index type is unknown', AGAIN, { part });
    within(part, sparse.indices.bufferView, sparse.indices.byteOffset ?? 0, sparse.count, indexBytes, false);
    within(part, sparse.values.bufferView, sparse.values.byteOffset ?? 0, sparse.count, element, false);
  });
}

/** An accessor without bytes is all zeros; a lie about its count must not take the memory. */
const MAX_EMPTY_ACCESSOR_VALUES = 1 << 26;

/** How many times their own size compressed bytes may come to, and how much may in any case. */
const MAX_EXPANSION_FACTOR = 256;
const ANYWAY_EXPANDED_BYTES = 1 << 24;

/** Compressed views lie inside their buffers, and do not claim to come to more than bytes can be packed. */
function checkCompressed(file: string, gltf: GltfJson, bufferBytes: readonly number[]): void {
  gltf.bufferViews?.forEach((view, i) => {
    const compressed = view.extensions?.EXT_meshopt_compression;
    if (!compressed) return;
    const part = `buffer view ${i}`;
    const limit = bufferBytes[compressed.buffer];
    if (limit === undefined)
      throw new FormatError(file, `it names buffer ${compressed.buffer}, which is not there`, AGAIN, {
        part,
      });
    const end = (compressed.byteOffset ?? 0) + compressed.byteLength;
    if (end > limit)
      throw new FormatError(
        file,
        `its compressed bytes reach to byte ${end} of a buffer of ${limit}`,
        AGAIN,
        {
          part,
        },
      );
    const expanded = compressed.count * compressed.byteStride;
    if (expanded > Math.max(ANYWAY_EXPANDED_BYTES, compressed.byteLength * MAX_EXPANSION_FACTOR))
      throw new FormatError(
        file,
        `it claims to come to ${expanded} bytes, more than its own can hold`,
        AGAIN,
        {
          part,
        },
      );
  });
}
