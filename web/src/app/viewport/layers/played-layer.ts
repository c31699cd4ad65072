import { type Bounds, floatsAbout, type Proxy, shapeTriangles, type Vec3 } from '@yard-brace/core';
import type { Played } from '@yard-brace/trial';
import {
  BufferGeometry,
  CylinderGeometry,
  Float32BufferAttribute,
  InstancedMesh,
  Matrix4,
  MeshLambertMaterial,
  Quaternion,
  SphereGeometry,
  Vector3,
} from 'three';
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js';
import { Group } from 'three';
import type { Moving } from '../../workers/jobs/body-trial';
import type { Layer } from '../layer';
import { trolleyGeometry } from './trolley-geometry';

export const BRASS = '#94661C';

export interface RunToDraw {
  played: Played;
  moves: Moving;
  /** metres */
  aside: Readonly<Vec3>;
  /** the set, where it is that which moves */
  proxies: readonly Proxy[];
}

/** Bodies of a trial where they were at one frame: one mesh, drawn once for each. */
export class PlayedLayer implements Layer {
  readonly object = new Group();
  private drawn: InstancedMesh | null = null;
  private run: RunToDraw | null = null;

  constructor(private readonly changed: () => void) {}

  set(run: RunToDraw | null): void {
    if (run?.played === this.run?.played) return;
    this.dispose();
    this.run = run;
    const geometry = run && geometryOf(run);
    if (run && geometry) {
      this.drawn = new InstancedMesh(geometry, new MeshLambertMaterial({ color: BRASS }), run.played.bodies);
      this.drawn.frustumCulled = false;
      this.object.add(this.drawn);
      const { origin } = run.played;
      this.object.position.set(origin[0] + run.aside[0], origin[1] + run.aside[1], origin[2] + run.aside[2]);
    }
    this.changed();
  }

  showFrame(frame: number): void {
    if (!this.run || !this.drawn) return;
    const { bodies, poses } = this.run.played;
    const [matrix, at, turned, one] = [new Matrix4(), new Vector3(), new Quaternion(), new Vector3(1, 1, 1)];
    for (let i = 0; i < bodies; i++) {
      const p = (frame * bodies + i) * 7;
      at.set(poses[p]!, poses[p + 1]!, poses[p + 2]!);
      turned.set(poses[p + 3]!, poses[p + 4]!, poses[p + 5]!, poses[p + 6]!);
      this.drawn.setMatrixAt(i, matrix.compose(at, turned, one));
    }
    this.drawn.instanceMatrix.needsUpdate = true;
    this.changed();
  }

  /** of where they start */
  bounds(): Bounds | null {
    if (!this.run || !this.drawn) return null;
    const { poses, bodies } = this.run.played;
    this.drawn.geometry.computeBoundingSphere();
    const reach = this.drawn.geometry.boundingSphere?.radius ?? 0;
    const min: Vec3 = [Infinity, Infinity, Infinity];
    const max: Vec3 = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < bodies; i++)
      for (let k = 0; k < 3; k++) {
        const v = poses[i * 7 + k]! + this.object.position.getComponent(k);
        min[k] = Math.min(min[k]!, v - reach);
        max[k] = Math.max(max[k]!, v + reach);
      }
    return { min, max };
  }

  dispose(): void {
    if (!this.drawn) return;
    this.object.remove(this.drawn);
    this.drawn.geometry.dispose();
    (this.drawn.material as MeshLambertMaterial).dispose();
    this.drawn.dispose();
    this.drawn = null;
  }
}

function geometryOf({ moves, proxies }: RunToDraw): BufferGeometry | null {
  switch (moves.kind) {
    case 'balls':
      return new SphereGeometry(moves.radius, 16, 12);
    case 'barrel': {
      const { radius, length, sides } = moves;
      return new CylinderGeometry(radius, radius, length, sides ?? 40).rotateX(Math.PI / 2);
    }
    case 'trolley':
      return trolleyGeometry(moves);
    case 'set': {
      const parts = proxies.map(({ shape }) => {
        const { points, indices } = shapeTriangles(shape);
        const local = floatsAbout(points, moves.middle);
        const part = new BufferGeometry();
        part.setAttribute('position', new Float32BufferAttribute(local, 3));
        part.setIndex([...indices]);
        const flat = part.toNonIndexed();
        flat.computeVertexNormals();
        return flat;
      });
      return parts.length ? mergeGeometries(parts) : null;
    }
    case 'nothing':
      return null;
  }
}
