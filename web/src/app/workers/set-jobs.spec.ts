import {
  addProxies,
  applyEdit,
  FIRST_AGENTS,
  type PieceDocument,
  placedAt,
  type Placement,
  PREFIX_TAGS,
  type SetOut,
  type Shape,
  type Vec3,
} from '@yard-brace/core';
import { crateScene } from '../testing/crate';
import { checkSet, isMirrored } from './jobs/check-set';
import { handDrive } from './jobs/hand-drive';
import { acrossSet, setTrialInput, walkSet } from './jobs/set-trial';

const box = (center: Vec3, halfExtents: Vec3): Shape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});

const at = (id: string, position: Vec3, more: Partial<Placement> = {}): Placement => ({
  id,
  piece: 1,
  version: null,
  ...placedAt(position),
  group: null,
  locked: false,
  materials: {},
  ...more,
});

const setOf = (...placements: Placement[]): SetOut => ({ format: 1, name: 'Slip', placements });
const quiet = () => undefined;

describe('jobs on whole sets', () => {
  const taken = crateScene();
  const boxed: PieceDocument = applyEdit(
    taken.document,
    addProxies(taken.document, [box([0, 0, 0], [1, 1, 1])]),
  );
  const documents = new Map([['1', boxed]]);
  const bare = new Map([['1', taken.document]]);

  beforeEach(() => {
    // What the server would answer for the art of the crate.
    spyOn(globalThis, 'fetch').and.callFake(async (path) => {
      const blob = String(path).split('/').at(-1)!;
      return new Response(taken.blobs.get(blob) as Uint8Array<ArrayBuffer>);
    });
  });

  it('check seams with the art of each piece fetched once', async () => {
    const found = await checkSet(
      setOf(at('p1', [0, 1, 0]), at('p2', [2.03, 1, 0])),
      documents,
      FIRST_AGENTS,
      quiet,
    );
    expect(found.faults.map(({ kind }) => kind)).toEqual(['seam']);
    const again = await checkSet(
      setOf(at('p1', [0, 1, 0]), at('p2', [2, 1, 0])),
      documents,
      FIRST_AGENTS,
      quiet,
    );
    expect([again.faults, again.meeting]).toEqual([[], 1]);
    expect((globalThis.fetch as jasmine.Spy).calls.count()).toBeLessThan(2);
  });

  it('build the world of all shapes and all art where they stand', async () => {
    const input = await setTrialInput(
      setOf(at('p1', [0, 1, 0]), at('p2', [5, 1, 0], { mirrored: true })),
      documents,
      PREFIX_TAGS,
      quiet,
    );
    expect(input.shapes.map(({ id }) => id)).toEqual(['p1 1', 'p2 1']);
    expect(input.art.indices.length).toBe(2 * taken.document.whole.triangles * 3);
    const xs = [...input.art.positions].filter((_, i) => i % 3 === 0);
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([-1, 6]);
  });

  it('walk across: who falls through art without shapes is told, and nobody over shapes; twice the same', async () => {
    const [, deckhand] = FIRST_AGENTS;
    const ask = { agent: deckhand!, limits: { joltMetres: 0.05 } };
    const set = setOf(at('p1', [0, -0.8, 0]), at('p2', [2, -0.8, 0]));
    const good = await walkSet(set, documents, PREFIX_TAGS, ask, quiet);
    expect([good.fallCount, good.blockedCount]).toEqual([0, 0]);
    expect(await walkSet(set, documents, PREFIX_TAGS, ask, quiet)).toEqual(good);
    const through = await walkSet(set, bare, PREFIX_TAGS, ask, quiet);
    expect(through.runs).toBeGreaterThan(0);
    expect(through.contacts.length + through.fallCount).toBeGreaterThan(0);
  });

  it('let a trolley be driven by hand over the ground, into a piece that catches it; twice the same', async () => {
    const trolley = { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 };
    const drive = async () => {
      const set = setOf(at('p1', [0, 1, 0]));
      const start = await handDrive.beginSetDrive(set, documents, PREFIX_TAGS, trolley, [0, 1]);
      await handDrive.startDriveAt([0, 0, -4]);
      const went = await handDrive.advanceDrive(Array.from({ length: 300 }, () => ({ pace: 1.5, turn: 0 })));
      const again = await handDrive.restartDrive();
      await handDrive.endDrive();
      return { start, went, again };
    };
    const found = await drive();
    // The piece begins a metre before its middle.
    expect(found.went!.frame.at[2]).toBeLessThan(-1);
    expect(found.went!.frame.at[2]).toBeGreaterThan(-2.2);
    expect(found.went!.marks[0]).toEqual(jasmine.objectContaining({ kind: 'caught', shape: 'p1 1' }));
    expect(found.again.at[2]).toBeCloseTo(-4, 3);
    expect(await drive()).toEqual(found);
  });

  it('tell a piece that is the mirror image of another from one that is not', async () => {
    expect(await isMirrored(boxed, boxed)).toBeTrue();
    const moved = { ...boxed, pivot: { ...boxed.pivot, position: [0.3, 0, 0] as Vec3 } };
    expect(await isMirrored(boxed, moved)).toBeFalse();
  });

  it('roll a ball across the ground at height 0 until a piece stops it', async () => {
    const ask = {
      kind: 'roll' as const,
      what: 'ball' as const,
      radius: 0.25,
      sides: null,
      way: [1, 0] as [number, number],
    };
    const { trial, played } = await acrossSet(setOf(at('p1', [0, 1, 0])), documents, PREFIX_TAGS, ask, quiet);
    // It starts 2.7 m before the middle, and the piece begins a metre before it.
    expect(trial.kind === 'roll' && trial.metres < 1.5).toBeTrue();
    const far = setOf(at('p1', [0, 1, 0]), at('p2', [30, 1, 6]));
    const past = (await acrossSet(far, documents, PREFIX_TAGS, { ...ask, way: [0, 1] }, quiet)).trial;
    // Between two pieces that stand far apart there is nothing in its way.
    expect(past.kind === 'roll' && past.metres > 20).toBeTrue();
    expect(played!.frames).toBeGreaterThan(1);
  });
});
