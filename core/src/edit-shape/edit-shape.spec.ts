import fc from 'fast-check';
import { shapeDistance } from '../compare/index.js';
import { convexHull, hullShape } from '../hull/index.js';
import { dot, normalized, rotate, subtract, type Vec3 } from '../math/index.js';
import {
  boxCorners,
  type BoxShape,
  MIN_THICKNESS_METRES,
  mirrorPoint,
  mirrorShape,
  type Shape,
  shapeBounds,
  shapePolygons,
  shapeSchema,
  shapeVolume,
} from '../shape/index.js';
import { anyBox, anyCylinder, anyHull, anyShape, place, turn } from '../testing/shapes.js';
import {
  cutShape,
  dragHandle,
  facetsOf,
  growShape,
  joinShapes,
  ownFrame,
  placeShape,
  asPrism,
  repeatAlong,
  repeatRound,
  resizeShape,
  ringShape,
  shapeHandles,
  withCorners,
} from './index.js';

const cube: BoxShape = { kind: 'box', center: [1, 2, 3], halfExtents: [0.5, 1, 2], rotation: [0, 0, 0, 1] };
const asHull = (shape: Shape): Shape => {
  const result = convexHull(shapePolygons(shape).points);
  if (result.span !== 'solid') throw new Error('flat');
  return hullShape(result.hull);
};
const pointsOf = (shape: Shape): Vec3[] => {
  const { points } = shapePolygons(shape, { segments: 16 });
  return Array.from({ length: points.length / 3 }, (_, i) => [...points.slice(i * 3, i * 3 + 3)] as Vec3);
};
/** Both lie where the other does, within so many metres. */
const alike = (a: Shape, b: Shape, within = 1e-9): boolean => {
  const [inA, inB] = [shapeDistance(a), shapeDistance(b)];
  return pointsOf(a).every((p) => inB(...p) <= within) && pointsOf(b).every((p) => inA(...p) <= within);
};
const holds = (shape: Shape, points: readonly Vec3[], within = 1e-9): boolean => {
  const distance = shapeDistance(shape);
  return points.every((p) => distance(...p) <= within);
};
const check = <T>(of: fc.Arbitrary<T>, holdsFor: (value: T) => boolean, numRuns = 150) =>
  fc.assert(fc.property(of, holdsFor), { numRuns });

describe('handles of a shape', () => {
  it('lie on its surface and look outwards', () =>
    check(anyShape, (shape) => {
      const distance = shapeDistance(shape);
      const handles = shapeHandles(shape);
      // Faces that are one to the hand lie in no plane exactly: its middle is a degree's rise below them at most.
      const merged = shape.kind === 'hull' && handles.length < shape.faces.length;
      const off = merged ? Math.max(...ownFrame(shape).size) * 0.02 : 1e-7;
      return handles.every(({ at, normal }) => {
        const out = (far: number) => distance(...(at.map((v, k) => v + normal[k]! * far) as Vec3));
        return Math.abs(out(0)) < off && out(off + 0.01) > 1e-4 && Math.abs(Math.hypot(...normal) - 1) < 1e-9;
      });
    }));

  it('are six of a box, also of one that came as a hull with slivers', () => {
    expect(shapeHandles(cube).map(({ id }) => id)).toEqual(['+x', '-x', '+y', '-y', '+z', '-z']);
    const corners = boxCorners([0, 0, 0], [1, 1, 1], [0, 0, 0, 1]).flat();
    // A point a micron off two of the faces: twelve slivers to the machine.
    const hull = convexHull([...corners, 1.000001, 0.2, 0.1, 0.3, 1.000001, -0.4]);
    if (hull.span !== 'solid') throw new Error('flat');
    expect(hull.hull.faces.length).toBeGreaterThan(6);
    const facets = facetsOf(hull.hull.points, hull.hull.faces);
    expect(facets.length).toBe(6);
    for (const { area } of facets) expect(area).toBeCloseTo(4, 4);
  });

  it('move one face of a box by what they are dragged, and leave the opposite one', () =>
    check(fc.tuple(anyBox, fc.nat(5), fc.double({ min: -0.05, max: 1, noNaN: true })), ([box, n, by]) => {
      const handle = shapeHandles(box)[n]!;
      const after = dragHandle(box, handle.id, by);
      const axis = n >> 1;
      const grown = (2 * box.halfExtents[axis]! + by) / (2 * box.halfExtents[axis]!);
      const opposite = shapeHandles(box)[n ^ 1]!.at;
      const stays = shapeHandles(after)[n ^ 1]!.at;
      return (
        Math.abs(shapeVolume(after) / shapeVolume(box) - grown) < 1e-9 &&
        Math.hypot(...subtract(stays, opposite)) < 1e-9
      );
    }));

  it('do the same to a hull as to a box of its corners', () =>
    check(fc.tuple(anyBox, fc.nat(5), fc.double({ min: -0.05, max: 1, noNaN: true })), ([box, n, by]) => {
      const hull = asHull(box);
      const { normal, id } = shapeHandles(box)[n]!;
      const same = shapeHandles(hull).find((handle) => dot(handle.normal, normal) > 0.999_99)!;
      return alike(dragHandle(hull, same.id, by), dragHandle(box, id, by), 1e-7);
    }));

  it('dragged out and back give back the same', () =>
    check(
      fc.tuple(anyShape, fc.nat(), fc.double({ min: 0.001, max: 0.04, noNaN: true })),
      ([shape, n, by]) => {
        const handles = shapeHandles(shape);
        const handle = handles[n % handles.length]!;
        const out = dragHandle(shape, handle.id, by);
        const again = shapeHandles(out).find(({ normal, id }) =>
          shape.kind === 'hull' ? dot(normal, handle.normal) > 1 - 1e-9 : id === handle.id,
        );
        // A corner that was dragged off lets go of its face.
        if (!again) return shape.kind === 'hull';
        const back = dragHandle(out, again.id, -by);
        const moved = dot(subtract(again.at, handle.at), handle.normal);
        return Math.abs(moved - by) > 1e-9 || alike(back, shape, 1e-6);
      },
    ));

  it('never turn a shape inside out, however far they are dragged in', () =>
    check(fc.tuple(anyShape, fc.nat(), fc.double({ min: -50, max: -1, noNaN: true })), ([shape, n, by]) => {
      const handles = shapeHandles(shape);
      const after = dragHandle(shape, handles[n % handles.length]!.id, by);
      return (
        shapeSchema.safeParse(after).success &&
        shapeVolume(after) > 0 &&
        shapeVolume(after) <= shapeVolume(shape) * (1 + 1e-9) &&
        ownFrame(after).size.every((extent) => extent >= MIN_THICKNESS_METRES * 0.5)
      );
    }));

  it('leave a shape alone that has no such handle', () => {
    const hull = asHull(cube);
    expect(dragHandle(hull, 'face99', 1)).toBe(hull);
    expect(
      shapeHandles({ kind: 'surface', points: [0, 0, 0, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2] }),
    ).toEqual([]);
  });
});

describe('mirroring a shape', () => {
  const plane = fc.record({ point: place, normal: place.filter((n) => Math.hypot(...n) > 0.1) });

  it('puts every point of it on the other side', () =>
    check(fc.tuple(anyShape, plane), ([shape, over]) => {
      const mirrored = mirrorShape(shape, over);
      return (
        holds(
          mirrored,
          pointsOf(shape).map((p) => mirrorPoint(p, over)),
          1e-8,
        ) && Math.abs(shapeVolume(mirrored) / shapeVolume(shape) - 1) < 1e-9
      );
    }));

  it('twice over one plane gives back the same', () =>
    check(fc.tuple(anyShape, plane), ([shape, over]) =>
      alike(mirrorShape(mirrorShape(shape, over), over), shape),
    ));

  it('turns the faces of a surface round', () => {
    const surface: Shape = { kind: 'surface', points: [0, 0, 0, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2] };
    expect(mirrorShape(surface, { point: [0, 0, 0], normal: [1, 0, 0] })).toEqual({
      kind: 'surface',
      points: [0, 0, 0, -1, 0, 0, 0, 1, 0],
      indices: [0, 2, 1],
    });
  });
});

describe('another size', () => {
  const axis = fc.constantFrom(0, 1, 2) as fc.Arbitrary<0 | 1 | 2>;
  const held = fc.constantFrom(-1, 0, 1) as fc.Arbitrary<-1 | 0 | 1>;

  it('is taken on its own axis, and the held side stays', () =>
    check(
      fc.tuple(anyShape, axis, held, fc.double({ min: 4.2, max: 9, noNaN: true })),
      ([shape, k, side, metres]) => {
        const after = resizeShape(shape, k, metres, side);
        const [from, to] = [ownFrame(shape), ownFrame(after)];
        const along: Vec3 = [0, 0, 0];
        along[k] = 1;
        const at = ({ center, size }: typeof from) =>
          dot(center, rotate(from.rotation, along)) + (side * size[k]) / 2;
        return Math.abs(to.size[k] - metres) < 1e-9 && Math.abs(at(to) - at(from)) < 1e-8;
      },
    ));

  it('keeps round kinds round, and a cylinder its taper', () => {
    const cone: Shape = {
      kind: 'cylinder',
      center: [0, 0, 0],
      rotation: [0, 0, 0, 1],
      halfHeight: 1,
      bottomRadius: 0.4,
      topRadius: 0.2,
    };
    expect(resizeShape(cone, 0, 1.6)).toEqual({ ...cone, bottomRadius: 0.8, topRadius: 0.4 });
    const capsule: Shape = {
      kind: 'capsule',
      center: [0, 0, 0],
      rotation: [0, 0, 0, 1],
      halfLength: 1,
      radius: 0.25,
    };
    // Thicker, and as long as before.
    expect(ownFrame(resizeShape(capsule, 2, 1)).size).toEqual([1, 2.5, 1]);
  });

  it('of nothing is the least there may be', () =>
    check(fc.tuple(anyShape, axis, held), ([shape, k, side]) => {
      const after = resizeShape(shape, k, 0, side);
      return shapeSchema.safeParse(after).success && shapeVolume(after) > 0;
    }));

  it('has its middle where it is put', () =>
    check(fc.tuple(anyShape, place), ([shape, middle]) =>
      ownFrame(placeShape(shape, middle)).center.every((v, k) => Math.abs(v - middle[k]!) < 1e-9),
    ));
});

describe('growing and shrinking', () => {
  it('moves every face by as much, and back again', () =>
    check(fc.tuple(anyShape, fc.double({ min: 0.001, max: 0.5, noNaN: true })), ([shape, by]) => {
      const grown = growShape(shape, by)!;
      const distance = shapeDistance(grown);
      const deep = pointsOf(shape).every((p) => distance(...p) <= -by * 0.999_9);
      return deep && alike(growShape(grown, -by)!, shape, 1e-6);
    }));

  it('leaves nothing of what is thinner than twice that', () =>
    check(anyShape, (shape) => growShape(shape, -Math.min(...ownFrame(shape).size)) === null));
});

describe('cutting by a plane', () => {
  const through = (shape: Shape, normal: Vec3) => ({ point: ownFrame(shape).center, normal });
  const normal = place.filter((n) => Math.hypot(...n) > 0.1);

  it('loses nothing: both halves fill what the whole filled, each on its side', () =>
    check(fc.tuple(fc.oneof(anyBox, anyHull), normal), ([shape, n]) => {
      const plane = through(shape, n);
      const { below, above } = cutShape(shape, plane);
      const side = (p: Vec3) => dot(subtract(p, plane.point), normalized(n));
      const volume = (half: Shape | null) => (half ? shapeVolume(half) : 0);
      return (
        Math.abs((volume(below) + volume(above)) / shapeVolume(shape) - 1) < 0.02 &&
        (!below || pointsOf(below).every((p) => side(p) <= 1e-5)) &&
        (!above || pointsOf(above).every((p) => side(p) >= -1e-5)) &&
        (!below || holds(shape, pointsOf(below), 1e-8))
      );
    }));

  it('across its own axis a box stays two boxes and a cylinder two cylinders', () => {
    check(fc.tuple(anyBox, fc.constantFrom(0, 1, 2), fc.boolean()), ([box, k, flipped]) => {
      const axis: Vec3 = [0, 0, 0];
      axis[k] = flipped ? -1 : 1;
      const { below, above } = cutShape(box, through(box, rotate(box.rotation, axis)));
      return (
        below?.kind === 'box' &&
        above?.kind === 'box' &&
        Math.abs(shapeVolume(below) - shapeVolume(above)) < 1e-9
      );
    });
    check(anyCylinder, (cylinder) => {
      const { below, above } = cutShape(cylinder, through(cylinder, rotate(cylinder.rotation, [0, 1, 0])));
      if (below?.kind !== 'cylinder' || above?.kind !== 'cylinder') return false;
      const whole = shapeVolume(below) + shapeVolume(above);
      return (
        Math.abs(below.topRadius - above.bottomRadius) < 1e-9 &&
        Math.abs(whole / shapeVolume(cylinder) - 1) < 1e-9
      );
    });
  });

  it('beside a shape leaves it as it is, on the side where it is', () =>
    check(fc.tuple(anyShape, normal), ([shape, n]) => {
      const far = shapeBounds(shape).max.map((v) => v + 20) as Vec3;
      const { below, above } = cutShape(shape, { point: [far[0], 0, 0], normal: [1, 0, 0] });
      const turned = cutShape(shape, { point: [far[0], 0, 0], normal: [-1, 0, 0] });
      return (
        below === shape && above === null && turned.above === shape && turned.below === null && n.length === 3
      );
    }));
});

describe('joining', () => {
  it('is a hull that holds them all, within the corners that are allowed', () =>
    check(
      fc.tuple(fc.array(anyShape, { minLength: 1, maxLength: 4 }), fc.integer({ min: 8, max: 40 })),
      ([shapes, max]) => {
        const joined = joinShapes(shapes, { maxCorners: max, segments: 16 })!;
        return (
          joined.points.length / 3 <= max && shapes.every((shape) => holds(joined, pointsOf(shape), 1e-6))
        );
      },
      60,
    ));
});

describe('a ring', () => {
  const pole: Shape = {
    kind: 'cylinder',
    center: [3, 0, 0],
    rotation: [0, 0, 0, 1],
    halfHeight: 1,
    bottomRadius: 0.5,
    topRadius: 0.5,
  };

  it('that is wider makes a belly of one hull', () => {
    const belly = ringShape(pole, { at: 0.5, factor: 1.2, sides: 12 })!;
    expect([belly.caves, belly.shapes.length]).toEqual([false, 1]);
    const [hull] = belly.shapes as [Shape];
    expect(hull.kind === 'hull' && [hull.points.length / 3, hull.faces.length]).toEqual([36, 26]);
    // Two cut-off pyramids of twelve sides, base to base.
    const area = (r: number) => 12 * 0.5 * r * r * Math.sin(Math.PI / 6);
    const frustum = (r: number, s: number) => (area(r) + area(s) + Math.sqrt(area(r) * area(s))) / 3;
    const wider = 1 / Math.cos(Math.PI / 12);
    expect(shapeVolume(hull)).toBeCloseTo(2 * frustum(0.5 * wider, 0.6 * wider), 9);
    expect(holds(hull, pointsOf(pole))).toBeTrue();
  });

  it('that is narrower is answered with two shapes that meet at it', () => {
    const waist = ringShape(pole, { at: 0.25, factor: 0.6, sides: 12 })!;
    expect([waist.caves, waist.shapes.length]).toEqual([true, 2]);
    const [lower, upper] = waist.shapes as [Shape, Shape];
    expect([shapeBounds(lower).min[1], shapeBounds(lower).max[1]]).toEqual([-1, -0.5]);
    expect([shapeBounds(upper).min[1], shapeBounds(upper).max[1]]).toEqual([-0.5, 1]);
    const atRing = pointsOf(lower).filter(([, y]) => y === -0.5);
    expect(atRing.length).toBe(12);
    for (const [x, , z] of atRing) expect(Math.hypot(x - 3, z)).toBeCloseTo(0.3 / Math.cos(Math.PI / 12), 9);
  });

  it('holds of boxes and hulls turned anyhow', () =>
    check(
      fc.tuple(
        fc.oneof(anyBox, anyCylinder),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 1.05, max: 2, noNaN: true }),
      ),
      ([shape, at, factor]) => {
        const belly = ringShape(shape, { at, factor })!;
        return holds(belly.shapes[0]!, [...shapePolygonsOf(shape, 12)], 1e-8);
      },
    ));

  it('at an end, or of no width, or round a ball, is none', () => {
    expect(ringShape({ kind: 'sphere', center: [0, 0, 0], radius: 1 }, { at: 0.5, factor: 2 })).toBeNull();
    for (const ring of [
      { at: 0, factor: 2 },
      { at: 1, factor: 2 },
      { at: NaN, factor: 2 },
      { at: 0.5, factor: 0 },
    ])
      expect(ringShape(pole, ring)).withContext(JSON.stringify(ring)).toBeNull();
  });
});

const shapePolygonsOf = (shape: Shape, segments: number): Vec3[] => {
  const { points } = shapePolygons(shape, { segments });
  return Array.from({ length: points.length / 3 }, (_, i) => [...points.slice(i * 3, i * 3 + 3)] as Vec3);
};

describe('repeating', () => {
  it('along a line stands in even steps', () => {
    const copies = repeatAlong(cube, [0, 0, 5], 3);
    expect(copies.map((copy) => 'center' in copy && copy.center)).toEqual([
      [1, 2, 8],
      [1, 2, 13],
      [1, 2, 18],
    ]);
  });

  it('round an axis comes back to where it began', () =>
    check(fc.tuple(anyShape, turn, fc.integer({ min: 2, max: 12 })), ([shape, axis, count]) => {
      const round = { point: [10, 0, 0] as Vec3, axis: rotate(axis, [0, 1, 0]), degrees: 360 / count };
      return alike(repeatRound(shape, round, count).at(-1)!, shape, 1e-7);
    }));
});

describe('corners', () => {
  it('of a cylinder are those of a prism of its volume, whatever it tapers to', () =>
    check(fc.tuple(anyCylinder, fc.integer({ min: 3, max: 32 })), ([cylinder, sides]) => {
      const prism = asPrism(cylinder, sides)!;
      return (
        prism.kind === 'hull' &&
        prism.points.length / 3 <= 2 * sides &&
        Math.abs(shapeVolume(prism) / shapeVolume(cylinder) - 1) < 1e-6
      );
    }));

  it('of a hull become fewer and keep its volume, and other kinds have none to lose', () => {
    check(
      fc.tuple(anyHull, fc.integer({ min: 4, max: 12 })),
      ([hull, corners]) => {
        const fewer = withCorners(hull, corners);
        if (!fewer) return hull.kind !== 'hull' || hull.points.length / 3 <= corners;
        return (
          fewer.kind === 'hull' &&
          fewer.points.length / 3 <= corners &&
          Math.abs(shapeVolume(fewer) / shapeVolume(hull) - 1) < 1e-6
        );
      },
      60,
    );
    expect([withCorners(cube, 4), asPrism(cube, 12)]).toEqual([null, null]);
  });
});
