import {
  composeMatrix,
  invertMatrix,
  type Matrix,
  multiplyMatrices,
  multiplyQuats,
  NO_ROTATION,
  type Quat,
  quatAbout,
  type Transform,
  type Vec3,
} from '../../math/index.js';
import { plainMesh } from '../../mesh/index.js';
import type { Body, Collider, ColliderShape, Scene, SceneNode } from '../../piece/index.js';
import { type Shape, shapeTriangles } from '../../shape/index.js';
import { asTransforms } from '../as-transforms.js';
import { FormatError, shown } from '../format-error.js';
import { checkInnerName, type InputFile } from '../input-file.js';
import { sceneFrom } from '../space.js';
import { readMaterial } from './usda-materials.js';
import { readMesh } from './usda-mesh.js';
import {
  numberOf,
  numbersOf,
  parseUsda,
  targetOf,
  textOf,
  textsIn,
  type UsdaLayer,
  type UsdaPrim,
  type UsdaValue,
} from './usda-text.js';

const AGAIN = 'mend the layer or export it again';
const SOLIDS = ['Cube', 'Sphere', 'Capsule', 'Cylinder'];
/** Where a mesh hangs that belongs to the node above it. */
const OWN_GEOMETRY = 'Geometry';

/**
 * A USD layer in text: the tree of Xform and Mesh prims, preview surfaces, and what UsdPhysics says of contact and
 * motion. Unit and up axis are taken from the layer. References, variants and animation are left out.
 *
 * @throws FormatError and nothing else
 */
export async function readUsda(file: InputFile, beside: readonly InputFile[] = []): Promise<Scene> {
  const layer = parseUsda(file.name, new TextDecoder().decode(await file.bytes()));
  return new LayerReader(file.name, layer, beside).read();
}

class LayerReader {
  private readonly prims = new Map<string, UsdaPrim>();
  private readonly materials = new Map<string, number>();
  private readonly surfaces = new Map<string, number>();
  private readonly colliders: Collider[] = [];
  private readonly bodies: Body[] = [];
  private readonly scene: Scene = {
    unit: { metres: 0.01, stated: false },
    nodes: [],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };

  constructor(
    private readonly file: string,
    private readonly layer: UsdaLayer,
    private readonly beside: readonly InputFile[],
  ) {}

  async read(): Promise<Scene> {
    const { scene } = this;
    const metres = this.layer.metadata.get('metersPerUnit');
    if (typeof metres === 'number' && metres > 0) scene.unit = { metres, stated: true };
    this.index(this.layer.prims);
    for (const prim of this.prims.values()) if (prim.type === 'Material') await this.takeMaterial(prim);
    for (const prim of this.layer.prims) this.takePrim(prim, null);
    if (!scene.nodes.some((node) => node.mesh !== null))
      throw new FormatError(this.file, 'it holds no drawn mesh', 'export the mesh with its faces');
    if (this.colliders.length || this.bodies.length)
      Object.assign(scene, { colliders: this.colliders, bodies: this.bodies });
    const up = this.layer.metadata.get('upAxis') === 'Z' ? 'z' : 'y';
    if (up === 'y') return scene;
    scene.notes.push({ about: 'up-axis', axis: 'Z' });
    return {
      ...sceneFrom({ unit: 'm', up, forward: '-y', handedness: 'right' }, scene),
      unit: scene.unit,
    };
  }

  private index(prims: readonly UsdaPrim[]): void {
    for (const prim of prims) {
      this.prims.set(prim.path, prim);
      this.index(prim.children);
    }
  }

  private async takeMaterial(prim: UsdaPrim): Promise<void> {
    const { scene } = this;
    const name = this.nameOf(prim);
    if (schemasOf(prim).includes('PhysicsMaterialAPI')) {
      const said = (which: string) => numberOf(prim.attributes.get(`physics:${which}`));
      const density = said('density');
      scene.surfaces ??= [];
      this.surfaces.set(
        prim.path,
        scene.surfaces.push({
          name,
          friction: said('dynamicFriction') ?? said('staticFriction') ?? 0.6,
          restitution: said('restitution') ?? 0,
          ...(density !== null && density > 0 ? { density } : {}),
        }) - 1,
      );
      if (!prim.attributes.has('outputs:surface')) return;
    }
    const material = await readMaterial(prim, name, this.prims, this.beside, scene);
    this.materials.set(prim.path, scene.materials.push(material) - 1);
  }

  /** Its name before it was made to fit, where that was kept. */
  private nameOf(prim: UsdaPrim): string {
    const data = prim.metadata.get('customData');
    const kept = typeof data === 'object' && data && 'fields' in data ? data.fields.get('name') : undefined;
    const name = typeof kept === 'string' ? kept : prim.name;
    return checkInnerName(this.file, 'prim', name, { line: prim.line });
  }

  private takePrim(prim: UsdaPrim, parent: number | null): void {
    const { scene } = this;
    if (prim.type === 'Material' || prim.type === 'Shader' || prim.type === 'GeomSubset') return;
    if (textOf(prim.attributes.get('visibility')) === 'invisible') return;
    if (prim.metadata.has('references') || prim.metadata.has('payload'))
      scene.leftOut.push({ kind: 'extension', name: `reference of ${shown(prim.name, 60)}` });
    if (prim.type === 'Camera' || /Light$/.test(prim.type)) {
      scene.leftOut.push({ kind: prim.type === 'Camera' ? 'camera' : 'light', name: prim.name });
      return;
    }
    if (prim.type === 'Scope' && prim.children.every(({ type }) => type === 'Material')) return;
    const node = this.addNode(prim, parent);
    this.takePhysics(prim, node);
    const collides = schemasOf(prim).includes('PhysicsCollisionAPI');
    const purpose = textOf(prim.attributes.get('purpose'));
    const drawn = purpose === null || purpose === 'default' || purpose === 'render';
    const mesh = this.meshOf(prim);
    if (mesh !== null && drawn) scene.nodes[node]!.mesh = mesh;
    if (collides) this.takeCollider(prim, node, mesh);
    for (const child of prim.children) {
      if (
        child.name === OWN_GEOMETRY &&
        child.type === 'Mesh' &&
        scene.nodes[node]!.mesh === null &&
        isPlain(child)
      )
        scene.nodes[node]!.mesh = this.meshOf(child);
      else this.takePrim(child, node);
    }
  }

  private meshOf(prim: UsdaPrim): number | null {
    const mesh =
      prim.type === 'Mesh'
        ? readMesh(this.file, prim, (path) => this.materials.get(path) ?? -1)
        : SOLIDS.includes(prim.type) && !schemasOf(prim).includes('PhysicsCollisionAPI')
          ? solidMesh(this.shapeOf(prim))
          : null;
    return mesh ? this.scene.meshes.push({ name: this.nameOf(prim), mesh }) - 1 : null;
  }

  private addNode(prim: UsdaPrim, parent: number | null): number {
    const name = this.nameOf(prim);
    let at = parent;
    this.placeOf(prim).forEach((transform, i) => {
      const node: SceneNode = {
        name: i === 0 ? name : `${name} (sheared)`,
        parent: at,
        mesh: null,
        ...transform,
      };
      at = this.scene.nodes.push(node) - 1;
    });
    return at!;
  }

  private takePhysics(prim: UsdaPrim, node: number): void {
    if (!schemasOf(prim).includes('PhysicsRigidBodyAPI')) return;
    if (isFalse(prim.attributes.get('physics:rigidBodyEnabled')?.value)) return;
    const kinematic = prim.attributes.get('physics:kinematicEnabled')?.value;
    const mass = numberOf(prim.attributes.get('physics:mass'));
    this.bodies.push({
      node,
      role: kinematic === 1 || kinematic === true ? 'animated' : 'simulated',
      ...(mass !== null && mass > 0 ? { kilograms: mass } : {}),
    });
  }

  private takeCollider(prim: UsdaPrim, node: number, mesh: number | null): void {
    if (isFalse(prim.attributes.get('physics:collisionEnabled')?.value)) return;
    const approximation = textOf(prim.attributes.get('physics:approximation')) ?? 'none';
    const geometry: Collider['geometry'] | null =
      mesh === null
        ? this.shapeOf(prim)
        : { kind: 'mesh', mesh, convex: !['none', 'meshSimplification'].includes(approximation) };
    const surface = this.surfaces.get(targetOf(prim.attributes.get('material:binding:physics')) ?? '');
    if (geometry) this.colliders.push({ node, geometry, ...(surface === undefined ? {} : { surface }) });
    if (geometry && geometry.kind === 'box') this.bakeScale(node, geometry);
  }

  /** A cube gets its sides by the scale of its prim: that is its size, and no scale of a node. */
  private bakeScale(node: number, box: Extract<ColliderShape, { kind: 'box' }>): void {
    const at = this.scene.nodes[node]!;
    box.halfExtents = box.halfExtents.map((v, k) => Math.abs(v * at.scale[k]!)) as Vec3;
    at.scale = [1, 1, 1];
  }

  private shapeOf(prim: UsdaPrim): ColliderShape | null {
    const said = (name: string, usual: number) => numberOf(prim.attributes.get(name)) ?? usual;
    const radius = said('radius', prim.type === 'Capsule' ? 0.5 : 1);
    switch (prim.type) {
      case 'Cube': {
        const half = said('size', 2) / 2;
        return { kind: 'box', halfExtents: [half, half, half] };
      }
      case 'Sphere':
        return { kind: 'sphere', radius };
      case 'Capsule':
        return { kind: 'capsule', halfLength: said('height', 1) / 2, radius };
      case 'Cylinder':
        return {
          kind: 'cylinder',
          halfHeight: said('height', 2) / 2,
          bottomRadius: radius,
          topRadius: radius,
        };
      default:
        return null;
    }
  }

  /** Transforms of a prim, in the order it gives; a round solid along another axis than up is turned onto it. */
  private placeOf(prim: UsdaPrim): Transform[] {
    const order = textsIn(prim.attributes.get('xformOpOrder')?.value).filter(
      (op) => op !== '!resetXformStack!',
    );
    const turn = this.axisTurn(prim);
    const usual = ['xformOp:translate', 'xformOp:orient', 'xformOp:scale'];
    const plain = order.every((op, i) => usual.indexOf(op) > (i ? usual.indexOf(order[i - 1]!) : -1));
    const values = (op: string, count: number): number[] => {
      const list = numbersOf(prim.attributes.get(op)) ?? [];
      if (list.length !== count)
        throw new FormatError(
          this.file,
          `${shown(op, 40)} has ${list.length} numbers instead of ${count}`,
          AGAIN,
          {
            line: prim.line,
            part: `prim “${shown(prim.name, 60)}”`,
          },
        );
      return list;
    };
    if (plain) {
      const [w, x, y, z] = order.includes(usual[1]!) ? values(usual[1]!, 4) : [1, 0, 0, 0];
      const rotation: Quat = [x!, y!, z!, w!];
      return [
        {
          translation: (order.includes(usual[0]!) ? values(usual[0]!, 3) : [0, 0, 0]) as Vec3,
          rotation: turn ? multiplyQuats(rotation, turn) : rotation,
          scale: (order.includes(usual[2]!) ? values(usual[2]!, 3) : [1, 1, 1]) as Vec3,
        },
      ];
    }
    let matrix = composeMatrix(still());
    for (const op of order) matrix = multiplyMatrices(matrix, opMatrix(op, prim, values));
    if (turn) matrix = multiplyMatrices(matrix, composeMatrix({ ...still(), rotation: turn }));
    return asTransforms(matrix);
  }

  private axisTurn(prim: UsdaPrim): Quat | null {
    if (prim.type !== 'Capsule' && prim.type !== 'Cylinder') return null;
    const axis = textOf(prim.attributes.get('axis')) ?? 'Z';
    const up = this.layer.metadata.get('upAxis') === 'Z' ? 'Z' : 'Y';
    if (axis === up) return null;
    const quarter = Math.PI / 2;
    if (axis === 'X') return up === 'Y' ? quatAbout([0, 0, 1], -quarter) : quatAbout([0, 1, 0], quarter);
    return axis === 'Z' ? quatAbout([1, 0, 0], quarter) : quatAbout([1, 0, 0], -quarter);
  }
}

const still = (): Transform => ({
  translation: [0, 0, 0],
  rotation: [...NO_ROTATION] as Quat,
  scale: [1, 1, 1],
});
const isFalse = (value: UsdaValue | undefined): boolean => value === 0 || value === false;
const schemasOf = ({ metadata }: UsdaPrim): string[] => textsIn(metadata.get('apiSchemas'));
const isPlain = (prim: UsdaPrim): boolean =>
  !prim.attributes.has('xformOpOrder') &&
  !prim.children.some(({ type }) => type !== 'GeomSubset') &&
  !schemasOf(prim).includes('PhysicsCollisionAPI');

function opMatrix(op: string, prim: UsdaPrim, values: (op: string, count: number) => number[]): Matrix {
  const inverse = op.startsWith('!invert!');
  const name = op.replace('!invert!', '');
  const kind = name.split(':')[1] ?? '';
  const t = still();
  let matrix: Matrix | null = null;
  if (kind === 'translate') t.translation = values(name, 3) as Vec3;
  else if (kind === 'scale') t.scale = values(name, 3) as Vec3;
  else if (kind === 'orient') {
    const [w, x, y, z] = values(name, 4) as [number, number, number, number];
    t.rotation = [x, y, z, w];
  } else if (kind === 'transform') matrix = Float64Array.from(values(name, 16));
  else if (/^rotate[XYZ]$/.test(kind)) {
    const degrees = numberOf(prim.attributes.get(name)) ?? 0;
    t.rotation = about(kind[6]!, degrees);
  } else if (/^rotate[XYZ]{3}$/.test(kind)) {
    const angles = values(name, 3);
    // Named in the order in which the turns are applied, so the last stands outermost.
    for (const axis of kind.slice(6))
      t.rotation = multiplyQuats(about(axis, angles['XYZ'.indexOf(axis)]!), t.rotation);
  }
  const own = matrix ?? composeMatrix(t);
  return inverse ? (invertMatrix(own) ?? own) : own;
}

const about = (axis: string, degrees: number): Quat =>
  quatAbout([axis === 'X' ? 1 : 0, axis === 'Y' ? 1 : 0, axis === 'Z' ? 1 : 0], (degrees * Math.PI) / 180);

/** A solid that is drawn: round ones with 24 sides. */
function solidMesh(shape: ColliderShape | null) {
  if (!shape) return null;
  const { points, indices } = shapeTriangles({
    ...shape,
    center: [0, 0, 0],
    rotation: [...NO_ROTATION],
  } as Shape);
  return plainMesh(points, indices);
}
