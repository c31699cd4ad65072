import { NO_ROTATION, type Quat, type Vec3 } from '../../math/index.js';
import { plainMesh } from '../../mesh/index.js';
import {
  type Body,
  type Collider,
  type ColliderShape,
  type ContactSurface,
  plainNode,
  type Scene,
} from '../../piece/index.js';
import { type Shape, shapeTriangles, shapeVolume } from '../../shape/index.js';
import type { Plan, PlannedFile, PlannedNode, PlannedShape } from '../plan.js';
import type { TargetProfile } from '../profile.js';

/** What a surface feels like that the yard's rules do not know. */
const USUAL_SURFACE = { friction: 0.6, restitution: 0 };

/** A collider node below its owner for each shape, with what it feels like, and what moves. */
export function addColliders(plan: Plan, file: PlannedFile, scene: Scene): void {
  const { profile, surfaces } = plan;
  const colliders: Collider[] = (scene.colliders = []);
  const bodies: Body[] = (scene.bodies = []);
  const used: ContactSurface[] = (scene.surfaces = []);
  const surfaceOf = (name: string): number => {
    const at = used.findIndex((each) => each.name === name);
    if (at >= 0) return at;
    return used.push(surfaces.find((each) => each.name === name) ?? { name, ...USUAL_SURFACE }) - 1;
  };
  file.nodes.forEach((owner, i) => {
    const shared = sharedRole(owner, profile);
    const numbers = owner.shapes.map((each) => {
      const { position, rotation, geometry } = exactly(each.shape);
      const node =
        scene.nodes.push({ ...plainNode(each.name, null, i), translation: position, rotation }) - 1;
      const { surface } = each.proxy;
      colliders.push({
        node,
        geometry: geometry ?? meshGeometry(each, scene),
        ...(surface !== undefined && profile.physics.surfaces ? { surface: surfaceOf(surface) } : {}),
      });
      return node;
    });
    if (shared === 'static') return;
    const weigh = (shapes: readonly PlannedShape[]) => massOf(shapes, plan);
    if (shared !== null) bodies.push({ node: i, role: shared, ...weigh(owner.shapes) });
    else
      owner.shapes.forEach((each, k) => {
        const role = roleOf(each, profile);
        if (role !== 'static') bodies.push({ node: numbers[k]!, role, ...weigh([each]) });
      });
  });
}

/** What moves a shape, as far as the target knows that. */
export const roleOf = (
  { proxy }: PlannedShape,
  { physics }: TargetProfile,
): 'static' | 'animated' | 'simulated' => {
  const role = proxy.role ?? 'static';
  return physics.roles.includes(role) ? role : 'static';
};

/** The role of all shapes of a node; null where they differ. */
function sharedRole({ shapes }: PlannedNode, profile: TargetProfile) {
  const roles = new Set(shapes.map((shape) => roleOf(shape, profile)));
  return roles.size === 0 ? 'static' : roles.size === 1 ? [...roles][0]! : null;
}

/** Kilograms of shapes that all have a volume, and a density of their own or of their surface of contact. */
export function massOf(
  shapes: readonly PlannedShape[],
  { profile, surfaces }: Pick<Plan, 'profile' | 'surfaces'>,
): { kilograms?: number } {
  const densityOf = ({ density, surface }: PlannedShape['proxy']) =>
    density ?? surfaces.find(({ name }) => name === surface)?.density ?? NaN;
  const kilograms = shapes.reduce((sum, { proxy, shape }) => sum + densityOf(proxy) * shapeVolume(shape), 0);
  return profile.physics.mass && kilograms > 0 ? { kilograms } : {};
}

/** Where an exact shape stands, and what it is there; a mesh stands where it is. */
function exactly(shape: Shape): { position: Vec3; rotation: Quat; geometry: ColliderShape | null } {
  const still = [...NO_ROTATION] as Quat;
  switch (shape.kind) {
    case 'box':
      return {
        position: shape.center,
        rotation: shape.rotation,
        geometry: { kind: 'box', halfExtents: shape.halfExtents },
      };
    case 'sphere':
      return { position: shape.center, rotation: still, geometry: { kind: 'sphere', radius: shape.radius } };
    case 'capsule': {
      const { center, rotation, halfLength, radius } = shape;
      return { position: center, rotation, geometry: { kind: 'capsule', halfLength, radius } };
    }
    case 'cylinder': {
      const { center, rotation, halfHeight, bottomRadius, topRadius } = shape;
      return {
        position: center,
        rotation,
        geometry: { kind: 'cylinder', halfHeight, bottomRadius, topRadius },
      };
    }
    default:
      return { position: [0, 0, 0], rotation: still, geometry: null };
  }
}

function meshGeometry({ name, shape }: PlannedShape, scene: Scene) {
  const { points, indices } = shapeTriangles(shape);
  const mesh = scene.meshes.push({ name, mesh: plainMesh(points, indices) }) - 1;
  return { kind: 'mesh' as const, mesh, convex: shape.kind === 'hull' };
}
