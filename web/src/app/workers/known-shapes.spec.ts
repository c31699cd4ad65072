import type { Shape } from '@yard-brace/core';
import { KnownShapes } from './known-shapes';

const ball = (radius: number): Shape => ({ kind: 'sphere', center: [0, 0, 0], radius });

describe('KnownShapes', () => {
  it('takes a copy for the shape that came before, as long as it is remembered', () => {
    const known = new KnownShapes();
    const first = known.same(ball(1));
    expect(known.same(ball(2))).not.toBe(first);
    expect(known.same(structuredClone(first))).toBe(first);
    for (let i = 0; i < 5000; i++) known.same(ball(10 + i));
    expect(known.same(ball(1))).not.toBe(first);
  });
});
