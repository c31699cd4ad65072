import { composeMatrix, UNITS, type UnitName, type Vec3 } from '../../math/index.js';
import type { Mesh } from '../../mesh/index.js';
import type { Body, Collider, Material, PictureSlot, Scene, SceneNode, Wrap } from '../../piece/index.js';
import { pictureFileNames } from '../picture-file-names.js';
import { single, TextSink } from '../text-sink.js';
import { Identifiers } from './prim-names.js';

export interface UsdaOptions {
  /** of the scene's numbers. Default 'm' */
  unit?: UnitName;
  /** of the scene's axes. Default 'y' */
  up?: 'y' | 'z';
  /** from the layer to its pictures, with a slash at its end. Default: they are in one folder */
  picturePath?: string;
}

const quoted = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&')}"`;
const tuple = (values: ArrayLike<number>, text: (v: number) => string = String): string =>
  `(${Array.from(values, text).join(', ')})`;

/**
 * A scene as a USD layer in text: the tree as Xform prims with their meshes, materials as UsdPreviewSurface, colliders
 * and bodies by the UsdPhysics schemas. Unit, mass and up axis are stated. Pictures are named beside it.
 */
export function writeUsda(scene: Scene, options: UsdaOptions = {}): Uint8Array {
  return new UsdaWriter(scene, options).write();
}

class UsdaWriter {
  private readonly out = new TextSink();
  private readonly children = new Map<number | null, number[]>();
  private readonly colliders = new Map<number, Collider>();
  private readonly bodies = new Map<number, Body>();
  private readonly paths: { materials: string[]; surfaces: string[] } = { materials: [], surfaces: [] };
  private readonly up: 'y' | 'z';
  private readonly unit: UnitName;
  private readonly picturePath: string;

  constructor(
    private readonly scene: Scene,
    { unit = 'm', up = 'y', picturePath = '' }: UsdaOptions,
  ) {
    this.unit = unit;
    this.up = up;
    this.picturePath = picturePath;
    scene.nodes.forEach(({ parent }, i) =>
      this.children.set(parent, [...(this.children.get(parent) ?? []), i]),
    );
    for (const collider of scene.colliders ?? []) this.colliders.set(collider.node, collider);
    for (const body of scene.bodies ?? []) this.bodies.set(body.node, body);
  }

  write(): Uint8Array {
    const roots = this.children.get(null) ?? [];
    const names = new Identifiers();
    const rootNames = roots.map((i) => names.for(this.scene.nodes[i]!.name));
    const home = rootNames[0] ?? 'World';
    const { out } = this;
    out.line('#usda 1.0');
    out.line('(');
    out.line(`    defaultPrim = ${quoted(home)}`);
    out.line('    kilogramsPerUnit = 1');
    out.line(`    metersPerUnit = ${UNITS[this.unit]}`);
    out.line(`    upAxis = "${this.up.toUpperCase()}"`);
    out.line(')');
    const looks = new Identifiers();
    this.paths.materials = this.scene.materials.map(({ name }) => `/${home}/Materials/${looks.for(name)}`);
    this.paths.surfaces = (this.scene.surfaces ?? []).map(
      ({ name }) => `/${home}/Materials/${looks.for(name)}`,
    );
    roots.forEach((root, i) => this.writeNode(root, rootNames[i]!, 0, i === 0));
    return out.bytes();
  }

  private line(depth: number, text: string): void {
    this.out.line(`${'    '.repeat(depth)}${text}`);
  }

  private open(depth: number, type: string, name: string, metadata: readonly string[] = []): void {
    this.line(depth, '');
    this.line(depth, `def ${type} ${quoted(name)}${metadata.length ? ' (' : ''}`);
    for (const text of metadata) this.line(depth + 1, text);
    if (metadata.length) this.line(depth, ')');
    this.line(depth, '{');
  }

  private writeNode(i: number, name: string, depth: number, home = false): void {
    const node = this.scene.nodes[i]!;
    const collider = this.colliders.get(i);
    const below = this.children.get(i) ?? [];
    const body = this.bodies.get(i);
    if (collider && node.mesh === null && !below.length) {
      this.writeCollider(collider, node, name, depth, body);
      return;
    }
    this.open(depth, 'Xform', name, [
      ...(home ? ['kind = "component"'] : []),
      ...apis(body ? ['PhysicsRigidBodyAPI', ...massApi(body)] : []),
      ...nameKept(node.name, name),
    ]);
    this.writeBody(body, depth + 1);
    this.writePlace(node, depth + 1);
    const names = new Identifiers();
    if (home && (this.scene.materials.length || this.scene.surfaces?.length)) names.for('Materials');
    if (node.mesh !== null)
      this.writeMesh(this.scene.meshes[node.mesh]!.mesh, names.for('Geometry'), depth + 1);
    if (collider) {
      const own = names.for(`${name}_collider`);
      const still: SceneNode = {
        ...node,
        name: own,
        translation: [0, 0, 0],
        rotation: [0, 0, 0, 1],
        scale: [1, 1, 1],
      };
      this.writeCollider(collider, still, own, depth + 1, undefined);
    }
    for (const child of below) this.writeNode(child, names.for(this.scene.nodes[child]!.name), depth + 1);
    if (home) this.writeMaterials(depth + 1);
    this.line(depth, '}');
  }

  /** As one matrix, which every reader takes; rows of USD are columns of ours. */
  private writePlace(
    { translation, rotation, scale }: SceneNode,
    depth: number,
    more: readonly number[] = [1, 1, 1],
  ): void {
    const grown = scale.map((v, k) => v * more[k]!) as Vec3;
    const matrix = composeMatrix({ translation, rotation, scale: grown });
    if (matrix.every((v, k) => v === (k % 5 === 0 ? 1 : 0))) return;
    const rows = [0, 4, 8, 12].map((k) => tuple(matrix.subarray(k, k + 4)));
    this.line(depth, `matrix4d xformOp:transform = (${rows.join(', ')})`);
    this.line(depth, 'uniform token[] xformOpOrder = ["xformOp:transform"]');
  }

  private writeBody(body: Body | undefined, depth: number): void {
    if (!body) return;
    this.line(depth, 'bool physics:rigidBodyEnabled = 1');
    this.line(depth, `bool physics:kinematicEnabled = ${body.role === 'animated' ? 1 : 0}`);
    if (body.kilograms !== undefined) this.line(depth, `float physics:mass = ${single(body.kilograms)}`);
  }

  private writeCollider(
    { geometry, surface }: Collider,
    node: SceneNode,
    name: string,
    depth: number,
    body: Body | undefined,
  ): void {
    const type = { box: 'Cube', sphere: 'Sphere', capsule: 'Capsule', cylinder: 'Cylinder', mesh: 'Mesh' }[
      geometry.kind
    ];
    this.open(depth, type, name, [
      ...apis([
        'PhysicsCollisionAPI',
        ...(geometry.kind === 'mesh' ? ['PhysicsMeshCollisionAPI'] : []),
        ...(surface === undefined ? [] : ['MaterialBindingAPI']),
        ...(body ? ['PhysicsRigidBodyAPI', ...massApi(body)] : []),
      ]),
      ...nameKept(node.name, name),
    ]);
    const at = depth + 1;
    this.line(at, 'uniform token purpose = "guide"');
    this.line(at, 'bool physics:collisionEnabled = 1');
    this.writeBody(body, at);
    if (surface !== undefined)
      this.line(at, `rel material:binding:physics = <${this.paths.surfaces[surface]}>`);
    switch (geometry.kind) {
      case 'box':
        this.line(at, 'double size = 2');
        break;
      case 'sphere':
        this.line(at, `double radius = ${geometry.radius}`);
        break;
      case 'capsule':
        this.writeRound(geometry.radius, geometry.halfLength * 2, at);
        break;
      case 'cylinder':
        this.writeRound(geometry.bottomRadius, geometry.halfHeight * 2, at);
        break;
      case 'mesh':
        this.line(at, `uniform token physics:approximation = "${geometry.convex ? 'convexHull' : 'none'}"`);
        this.writeFaces(this.scene.meshes[geometry.mesh]!.mesh, at);
    }
    this.writePlace(node, at, geometry.kind === 'box' ? geometry.halfExtents : [1, 1, 1]);
    this.line(depth, '}');
  }

  private writeRound(radius: number, height: number, depth: number): void {
    this.line(depth, `uniform token axis = "${this.up.toUpperCase()}"`);
    this.line(depth, `double radius = ${radius}`);
    this.line(depth, `double height = ${height}`);
  }

  private writeFaces({ positions, indices }: Mesh, depth: number): void {
    const n = positions.length / 3;
    this.line(depth, 'uniform token subdivisionScheme = "none"');
    this.list(depth, 'point3f[] points', n, (i) => tuple(positions.subarray(i * 3, i * 3 + 3)));
    this.list(depth, 'int[] faceVertexCounts', indices.length / 3, () => '3');
    this.list(depth, 'int[] faceVertexIndices', indices.length, (i) => String(indices[i]));
  }

  /** A list is one line however long it is: readers that go line by line take it. `metadata` stands on lines of its own. */
  private list(
    depth: number,
    head: string,
    count: number,
    at: (i: number) => string,
    metadata?: string,
  ): void {
    const run = 200;
    this.out.part(`${'    '.repeat(depth)}${head} = [`);
    for (let from = 0; from < count; from += run) {
      const texts: string[] = [];
      for (let i = from; i < Math.min(count, from + run); i++) texts.push(at(i));
      this.out.part(`${from ? ', ' : ''}${texts.join(', ')}`);
    }
    this.out.line(metadata === undefined ? ']' : '] (');
    if (metadata === undefined) return;
    this.line(depth + 1, metadata);
    this.line(depth, ')');
  }

  private writeMesh(mesh: Mesh, name: string, depth: number): void {
    const { materials } = this.scene;
    const groups = mesh.groups.filter(({ count }) => count > 0);
    const only = groups.length === 1 ? groups[0]!.material : -1;
    this.open(
      depth,
      'Mesh',
      name,
      apis(groups.some(({ material }) => material >= 0) ? ['MaterialBindingAPI'] : []),
    );
    const at = depth + 1;
    const sides = groups.some(({ material }) => material >= 0 && materials[material]!.doubleSided);
    this.line(at, `uniform bool doubleSided = ${sides ? 1 : 0}`);
    if (only >= 0) this.line(at, `rel material:binding = <${this.paths.materials[only]}>`);
    this.writeFaces(mesh, at);
    const n = mesh.positions.length / 3;
    const perVertex = (head: string, data: Float32Array, width: number, text = single) =>
      this.list(
        at,
        head,
        n,
        (i) => tuple(data.subarray(i * width, i * width + width), text),
        'interpolation = "vertex"',
      );
    if (mesh.normals) perVertex('normal3f[] normals', mesh.normals, 3);
    mesh.uvs.forEach((uv, set) => {
      const fromBelow = uv.map((v, k) => (k % 2 ? 1 - v : v));
      perVertex(`texCoord2f[] primvars:st${set || ''}`, fromBelow, 2);
    });
    if (mesh.colors) {
      const rgb = new Float32Array(n * 3);
      for (let i = 0; i < n; i++) rgb.set(mesh.colors.subarray(i * 4, i * 4 + 3), i * 3);
      perVertex('color3f[] primvars:displayColor', rgb, 3);
      const alpha = mesh.colors.filter((_, k) => k % 4 === 3);
      this.list(
        at,
        'float[] primvars:displayOpacity',
        n,
        (i) => single(alpha[i]!),
        'interpolation = "vertex"',
      );
    }
    if (groups.length > 1) this.writeSubsets(groups, at);
    this.line(depth, '}');
  }

  private writeSubsets(groups: Mesh['groups'], depth: number): void {
    this.line(depth, 'uniform token subsetFamily:materialBind:familyType = "partition"');
    const names = new Identifiers();
    for (const { material, start, count } of groups) {
      const bound = material >= 0;
      const name = names.for(bound ? this.scene.materials[material]!.name : 'plain');
      this.open(depth, 'GeomSubset', name, apis(bound ? ['MaterialBindingAPI'] : []));
      this.line(depth + 1, 'uniform token elementType = "face"');
      this.line(depth + 1, 'uniform token familyName = "materialBind"');
      this.list(depth + 1, 'int[] indices', count, (i) => String(start + i));
      if (bound) this.line(depth + 1, `rel material:binding = <${this.paths.materials[material]}>`);
      this.line(depth, '}');
    }
  }

  private writeMaterials(depth: number): void {
    const { materials, surfaces = [], pictures } = this.scene;
    if (!materials.length && !surfaces.length) return;
    const names = pictureFileNames(pictures);
    this.open(depth, 'Scope', 'Materials');
    materials.forEach((material, i) =>
      this.writeMaterial(material, this.paths.materials[i]!, names, depth + 1),
    );
    surfaces.forEach(({ name, friction, restitution, density }, i) => {
      const own = lastOf(this.paths.surfaces[i]!);
      this.open(depth + 1, 'Material', own, [...apis(['PhysicsMaterialAPI']), ...nameKept(name, own)]);
      this.line(depth + 2, `float physics:staticFriction = ${single(friction)}`);
      this.line(depth + 2, `float physics:dynamicFriction = ${single(friction)}`);
      this.line(depth + 2, `float physics:restitution = ${single(restitution)}`);
      if (density !== undefined) this.line(depth + 2, `float physics:density = ${single(density)}`);
      this.line(depth + 1, '}');
    });
    this.line(depth, '}');
  }

  private writeMaterial(material: Material, path: string, pictures: readonly string[], depth: number): void {
    const own = lastOf(path);
    this.open(depth, 'Material', own, nameKept(material.name, own));
    const at = depth + 1;
    this.line(at, `token outputs:surface.connect = <${path}/Surface.outputs:surface>`);
    this.open(at, 'Shader', 'Surface');
    this.line(at + 1, 'uniform token info:id = "UsdPreviewSurface"');
    const [red, green, blue, alpha] = material.baseColor;
    const constant: [string, string, PictureSlot, string, string][] = [
      ['color3f', 'diffuseColor', 'baseColor', 'rgb', tuple([red, green, blue], single)],
      ['color3f', 'emissiveColor', 'emissive', 'rgb', tuple(material.emissive, single)],
      ['float', 'metallic', 'metallicRoughness', 'b', single(material.metalness)],
      ['float', 'roughness', 'metallicRoughness', 'g', single(material.roughness)],
      ['float', 'occlusion', 'occlusion', 'r', '1'],
      ['normal3f', 'normal', 'normal', 'rgb', '(0, 0, 1)'],
    ];
    for (const [type, input, slot, channel, value] of constant) {
      if (material.pictures[slot])
        this.line(at + 1, `${type} inputs:${input}.connect = <${path}/${slot}.outputs:${channel}>`);
      else this.line(at + 1, `${type} inputs:${input} = ${value}`);
    }
    if (material.alpha === 'blend' && material.pictures.baseColor)
      this.line(at + 1, `float inputs:opacity.connect = <${path}/baseColor.outputs:a>`);
    else this.line(at + 1, `float inputs:opacity = ${single(alpha)}`);
    if (material.alpha === 'mask')
      this.line(at + 1, `float inputs:opacityThreshold = ${single(material.alphaCutoff)}`);
    this.line(at + 1, 'token outputs:surface');
    this.line(at, '}');
    for (const [slot, use] of Object.entries(material.pictures) as [
      PictureSlot,
      NonNullable<Material['pictures'][PictureSlot]>,
    ][])
      this.writePicture(material, slot, pictures[use.picture]!, use, path, at);
    this.line(depth, '}');
  }

  private writePicture(
    material: Material,
    slot: PictureSlot,
    file: string,
    { uvSet, wrap }: { uvSet: number; wrap: readonly [Wrap, Wrap] },
    path: string,
    depth: number,
  ): void {
    this.open(depth, 'Shader', slot);
    const at = depth + 1;
    this.line(at, 'uniform token info:id = "UsdUVTexture"');
    this.line(at, `asset inputs:file = @./${this.picturePath}${file}@`);
    this.line(
      at,
      `token inputs:sourceColorSpace = "${slot === 'baseColor' || slot === 'emissive' ? 'sRGB' : 'raw'}"`,
    );
    wrap.forEach((way, k) => this.line(at, `token inputs:wrap${'ST'[k]} = "${way}"`));
    const scale = scaleOf(material, slot);
    if (scale) this.line(at, `float4 inputs:scale = ${tuple(scale, single)}`);
    if (slot === 'normal') this.line(at, 'float4 inputs:bias = (-1, -1, -1, 0)');
    this.line(at, `float2 inputs:st.connect = <${path}/${slot}_st.outputs:result>`);
    for (const output of ['rgb', 'r', 'g', 'b', 'a'])
      this.line(at, `${output === 'rgb' ? 'float3' : 'float'} outputs:${output}`);
    this.line(depth, '}');
    this.open(depth, 'Shader', `${slot}_st`);
    this.line(at, 'uniform token info:id = "UsdPrimvarReader_float2"');
    this.line(at, `string inputs:varname = "st${uvSet || ''}"`);
    this.line(at, 'float2 outputs:result');
    this.line(depth, '}');
  }
}

/** What a picture's values are multiplied by, where that is not one. */
function scaleOf({ baseColor, emissive, metalness, roughness, normalScale }: Material, slot: PictureSlot) {
  const scale = {
    baseColor,
    emissive: [...emissive, 1],
    metallicRoughness: [1, roughness, metalness, 1],
    normal: [2 * normalScale, 2 * normalScale, 2, 1],
    occlusion: [1, 1, 1, 1],
  }[slot];
  return scale.every((v) => v === 1) ? null : scale;
}

const massApi = ({ kilograms }: Body) => (kilograms === undefined ? [] : ['PhysicsMassAPI']);
const apis = (names: readonly string[]): string[] =>
  names.length ? [`prepend apiSchemas = [${names.map(quoted).join(', ')}]`] : [];
const nameKept = (name: string, own: string): string[] =>
  name === own ? [] : [`customData = { string name = ${quoted(name)} }`];
const lastOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);
