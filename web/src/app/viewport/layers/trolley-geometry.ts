import type { Trolley } from '@yard-brace/trial';
import { BoxGeometry, type BufferGeometry, CylinderGeometry } from 'three';
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js';

/** A trolley about the middle of its floor, as it is tried: its own forward is +z. */
export function trolleyGeometry({ track, wheelbase, wheelRadius, clearance }: Trolley): BufferGeometry {
  const thick = wheelRadius * 0.6;
  const hub = wheelRadius - clearance - thick / 2;
  const wheels = [-1, 1].flatMap((x) =>
    [-1, 1].map((z) =>
      new CylinderGeometry(wheelRadius, wheelRadius, wheelRadius * 0.5, 20)
        .rotateZ(Math.PI / 2)
        .translate((x * track) / 2, hub, (z * wheelbase) / 2),
    ),
  );
  return mergeGeometries([new BoxGeometry(track * 0.8, thick, wheelbase * 1.1), ...wheels]);
}
