import { FIRST_AGENTS, joinMeshes, plainMesh, shapeTriangles } from '@yard-brace/core';
import { HandWalk, walkTrial } from '@yard-brace/trial';

const DECKHAND = FIRST_AGENTS.find(({ id }) => id === 'deckhand');

/** So many boxes in rows on the ground, a metre apart, knee-high: what an agent walks between. */
const boxes = (count) => {
  const across = Math.ceil(Math.sqrt(count));
  return Array.from({ length: count }, (_, i) => ({
    kind: 'box',
    center: [(i % across) * 1.2, 0.3, Math.floor(i / across) * 1.2],
    halfExtents: [0.2, 0.3, 0.2],
    rotation: [0, 0, 0, 1],
  }));
};
const setOf = (shapes) => shapes.map((shape, i) => ({ id: `shape-${i + 1}`, colliders: [shape] }));
const artOf = (shapes) =>
  joinMeshes(
    shapes.map((shape) => {
      const { points, indices } = shapeTriangles(shape);
      return plainMesh(points, indices);
    }),
  );

/** A world of so many shapes is built, ready to be walked in. */
export function trialSetUp(count) {
  const shapes = boxes(count);
  const [set, art] = [setOf(shapes), artOf(shapes)];
  return async () => (await HandWalk.of(set, art, DECKHAND)).free();
}

/** Six hundred steps of an agent among so many shapes: ten seconds. */
export async function trialSteps(count) {
  const shapes = boxes(count);
  const hand = await HandWalk.of(setOf(shapes), artOf(shapes), DECKHAND);
  const input = { way: [Math.SQRT1_2, Math.SQRT1_2], jump: false, crouch: false };
  return () => {
    hand.restart();
    hand.advance(Array(600).fill(input));
  };
}

/** Everything that a deckhand is sent through by itself, at a stair of sixteen steps. */
export function trialByItself() {
  const stair = Array.from({ length: 16 }, (_, i) => ({
    kind: 'box',
    center: [i * 0.28, (i + 1) * 0.09, 0],
    halfExtents: [0.14, (i + 1) * 0.09, 0.8],
    rotation: [0, 0, 0, 1],
  }));
  const input = { shapes: setOf(stair), art: artOf(stair), clearances: [], agent: DECKHAND };
  return () => walkTrial({ ...input, limits: { joltMetres: 0.05 } });
}

/** A first route among so many shapes, corner to corner: with the ground that it is looked for on. */
export async function trialRoute(count) {
  const shapes = boxes(count);
  const hand = await HandWalk.of(setOf(shapes), artOf(shapes), DECKHAND);
  const side = Math.ceil(Math.sqrt(count)) * 1.2;
  return async () => {
    hand.startAt([-1, 0, -1]);
    await hand.goTo([side, 0, side]);
  };
}
