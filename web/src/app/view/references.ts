import type { Agent, Vec3 } from '@yard-brace/core';
import {
  BoxGeometry,
  type BufferGeometry,
  CapsuleGeometry,
  CylinderGeometry,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
} from 'three';

/** Something of known size to judge a piece by. */
export type Reference = { kind: 'agent'; agent: Agent } | { kind: 'door' } | { kind: 'cube' };

export const DOOR_METRES = { width: 0.9, height: 2.1, depth: 0.1 } as const;

/** Known things side by side on the ground, from `at` on along x. Drawn as outlines: they are no part of the piece. */
export function referenceRow(references: readonly Reference[], at: Vec3): Group {
  const row = new Group();
  let x = at[0];
  for (const reference of references) {
    const { figure, width } = draw(reference);
    x += width / 2;
    figure.position.set(x, at[1], at[2]);
    x += width / 2 + 0.35;
    row.add(figure);
  }
  return row;
}

function draw(reference: Reference): { figure: Group; width: number } {
  const figure = new Group();
  const put = (geometry: BufferGeometry, y: number, x = 0) => {
    const fill = new Mesh(
      geometry,
      new MeshBasicMaterial({ color: '#56636A', transparent: true, opacity: 0.14, depthWrite: false }),
    );
    const lines = new LineSegments(
      new EdgesGeometry(geometry, 28),
      new LineBasicMaterial({ color: '#56636A' }),
    );
    fill.position.set(x, y, 0);
    lines.position.set(x, y, 0);
    figure.add(fill, lines);
  };
  if (reference.kind === 'cube') {
    put(new BoxGeometry(1, 1, 1), 0.5);
    return { figure, width: 1 };
  }
  if (reference.kind === 'door') {
    const { width, height, depth } = DOOR_METRES;
    put(new BoxGeometry(width, height, depth), height / 2);
    put(new BoxGeometry(0.04, 0.14, 0.06), 1, width / 2 - 0.1);
    return { figure, width };
  }
  const { height, radius } = reference.agent;
  // As the engine sees it: a capsule of the agent's radius, with a mark at eye height.
  const straight = height - 2 * radius;
  put(
    straight > 0
      ? new CapsuleGeometry(radius, straight, 6, 16)
      : new CylinderGeometry(radius, radius, height, 20),
    height / 2,
  );
  put(new CylinderGeometry(radius * 0.6, radius * 0.6, 0.01, 20), height * 0.92);
  return { figure, width: radius * 2 };
}

export function disposeRow(row: Group): void {
  row.traverse((each) => {
    if (!(each instanceof Mesh || each instanceof LineSegments)) return;
    each.geometry.dispose();
    (each.material as MeshBasicMaterial).dispose();
  });
}
