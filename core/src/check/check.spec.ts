import type { Vec3 } from '../math/index.js';
import { joinMeshes } from '../mesh/index.js';
import {
  applyEdit,
  familyPlace,
  familyShare,
  memberOf,
  type PieceDocument,
  type PivotAnchor,
  pivotAt,
  plainNode,
  type Proxy,
  type Scene,
  pivotEdit,
  replaceProxies,
} from '../piece/index.js';
import { checkRulesOf, PREFIX_TAGS } from '../target/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { findingsOf } from './findings.js';
import { proxyKey } from './proxy-key.js';
import { stampsOf } from './stamps.js';

const rules = checkRulesOf(PREFIX_TAGS);
const unstated = (mesh = boxMesh([100, 60, 60])) =>
  pieceOf({ ...sceneOf(mesh), unit: { metres: 1, stated: false } }).document;

describe('findings', () => {
  it('ask for the unit, and their fix settles it', () => {
    const document = unstated();
    const finding = findingsOf(document, rules).find(({ id }) => id === 'unit-unconfirmed')!;
    expect(finding.says).toBe('The file does not say its unit; read in cm its longest side is 2.00 m.');
    const after = applyEdit(document, finding.fix!.edit);
    expect(
      findingsOf(after, rules).some(({ step, severity }) => step === 'intake' && severity !== 'info'),
    ).toBeFalse();
  });

  it('say what is wrong with surface, nodes and pivot', () => {
    const box = boxMesh([1, 1, 1]);
    const open = moved({ ...box, indices: box.indices.slice(3) }, [50, 0, 0]);
    const scene = sceneOf(open);
    scene.nodes[0]!.scale = [-0.5, 0.5, 0.5];
    scene.leftOut.push({ kind: 'camera', name: 'Camera' }, { kind: 'camera', name: 'Other' });
    const { document } = pieceOf(scene);
    const ids = findingsOf(document, rules).map(({ id }) => id);
    expect(ids).toEqual(
      jasmine.arrayContaining([
        'node-scale',
        'node-mirrored',
        'open-edges',
        'left-out',
        'pivot-outside',
        'no-proxies',
      ]),
    );
    const pivot = findingsOf(document, rules).find(({ id }) => id === 'pivot-outside')!;
    expect(findingsOf(applyEdit(document, pivot.fix!.edit), rules).map(({ id }) => id)).not.toContain(
      'pivot-outside',
    );
  });

  it('stop an illegal mesh name and offer a legal one', () => {
    const document = applyEdit(unstated(), { kind: 'rename-mesh', name: 'Quay wall' });
    const finding = findingsOf(document, rules).find(({ id }) => id === 'name-illegal')!;
    expect(stampsOf(document, findingsOf(document, rules)).names).toBe('stopped');
    expect(applyEdit(document, finding.fix!.edit).meshName).toBe('Quay_wall');
  });

  it('warn when another piece has the name, a kind is unknown, or the level has an older one', () => {
    const document = applyEdit(
      unstated(),
      replaceProxies([
        {
          id: 'a',
          shape: {
            kind: 'cylinder',
            center: [0, 0, 0],
            rotation: [0, 0, 0, 1],
            halfHeight: 1,
            bottomRadius: 1,
            topRadius: 1,
          },
        },
      ]),
    );
    const ids = findingsOf(document, rules, {
      otherMeshNames: [document.meshName],
      deliveries: [{ target: 'prefix tags', agreed: true, changes: ['The pivot moved.'] }],
    }).map(({ id }) => id);
    expect(ids).toEqual(
      jasmine.arrayContaining(['name-taken', 'kind-cylinder', 'delivery-stale prefix tags']),
    );
  });
});

describe('stamps', () => {
  it('are none before anything is done, clear when nothing is left to say', () => {
    let document = unstated();
    expect(stampsOf(document, findingsOf(document, rules))).toEqual({
      intake: 'look',
      parts: 'clear',
      size: 'clear',
      pivot: 'clear',
      proxies: 'none',
      names: 'clear',
      trial: 'none',
      delivery: 'none',
    });
    document = applyEdit(document, { kind: 'set-unit', unit: 'cm' });
    document = applyEdit(
      document,
      replaceProxies([{ id: 'a', shape: { kind: 'sphere', center: [0, 0, 0], radius: 1 } }]),
    );
    const measured = { key: proxyKey(document), artOutside: 0.001, proxyOutside: 0.02 };
    const around = { deliveries: [{ target: 'prefix tags', agreed: true, changes: [] }], measured };
    expect(Object.values(stampsOf(document, findingsOf(document, rules, around), around))).toEqual([
      'clear',
      'clear',
      'clear',
      'clear',
      'clear',
      'clear',
      'none',
      'clear',
    ]);
    const failed = { deliveries: [{ target: 'prefix tags', agreed: false, changes: [] }] };
    expect(stampsOf(document, findingsOf(document, rules, failed), failed).delivery).toBe('stopped');
  });

  it('are clear for shapes only when they were measured on the art as it is and lie close enough', () => {
    const box = (half: number, at = 0): Proxy => ({
      id: `b${half}`,
      shape: { kind: 'box', center: [at, 0, 0], halfExtents: [half, half, half], rotation: [0, 0, 0, 1] },
    });
    const put = (...proxies: Proxy[]) =>
      applyEdit(pieceOf(sceneOf(boxMesh([1, 1, 1]))).document, replaceProxies(proxies));
    const said = (document: PieceDocument, off: number | null) =>
      findingsOf(
        document,
        { ...rules, agent: { name: 'deckhand', detail: 0.04 } },
        { measured: off === null ? null : { key: proxyKey(document), artOutside: 0, proxyOutside: off } },
      ).flatMap(({ id, step, says }) => (step === 'proxies' ? [`${id}: ${says}`] : []));
    expect(said(put(box(1)), null)).toEqual([jasmine.stringMatching(/^proxies-unmeasured/)]);
    expect(said(put(box(1)), 0.03)).toEqual([]);
    expect(said(put(box(1.06)), 0.0601)).toEqual([
      jasmine.stringMatching(
        /^proxies-off: The shapes lie up to 60\.1 mm off .* a deckhand feels all above 40\.0 mm/,
      ),
    ]);
    const measuredBefore = { key: proxyKey(put(box(1))), artOutside: 0, proxyOutside: 0 };
    const moved = findingsOf(put(box(1, 0.5)), rules, { measured: measuredBefore });
    expect(moved.map(({ id }) => id)).toContain('proxies-unmeasured');
    expect(said(put(box(100)), 0)).toEqual([jasmine.stringMatching(/shapes-size: .* 100 times as large/)]);
    expect(said(put(box(0.01)), 0)).toEqual([jasmine.stringMatching(/shapes-size: .* times as small/)]);
    const opening = {
      id: 'c1',
      name: 'hatch',
      center: [0, 0, 0] as Vec3,
      halfExtents: [0.2, 0.2, 2] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    };
    const blocked = applyEdit(put(box(1)), { kind: 'set-clearances', clearances: [opening] });
    expect(said(blocked, 0)).toEqual(['opening-blocked: 1 opening is blocked by shapes: “hatch”.']);
    const free = applyEdit(put(box(0.9, 5)), { kind: 'set-clearances', clearances: [opening] });
    expect(said(free, 0)).toEqual([]);
  });

  it('say what hides inside, what is loose, what seems to be several pieces, and offer the mend', () => {
    const lump = joinMeshes([
      boxMesh([1, 1, 1]),
      boxMesh([0.5, 0.5, 0.5]),
      boxMesh([0.001, 0.001, 0.001], [0, 1.5, 0]),
    ]);
    const scene: Scene = {
      ...sceneOf(lump, 'crate'),
      nodes: [
        plainNode('crate', 0),
        { ...plainNode('crate', 0), translation: [9, 0, 0] },
        { ...plainNode('a b', 0), translation: [18, 0, 0], scale: [2, 1, 1] },
      ],
    };
    const { document } = pieceOf(scene);
    const found = findingsOf(document, rules);
    expect(found.map(({ id }) => id)).toEqual(
      jasmine.arrayContaining([
        'hidden-faces',
        'specks',
        'several-pieces',
        'no-uvs',
        'doubled-names',
        'part-names-illegal',
        'node-scale',
      ]),
    );
    expect(found.find(({ id }) => id === 'hidden-faces')).toEqual(
      jasmine.objectContaining({
        places: 'hidden-faces',
        mend: jasmine.objectContaining({ label: 'Delete hidden faces' }),
      }),
    );
    for (const id of ['doubled-names', 'part-names-illegal']) {
      const after = applyEdit(document, found.find((finding) => finding.id === id)!.fix!.edit);
      expect(findingsOf(after, rules).map((finding) => finding.id)).not.toContain(id);
    }
  });

  it('see a tree that shears, and a pivot that has drifted from its family', () => {
    const sheared: Scene = {
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [
        { ...plainNode('root', null), scale: [3, 1, 1] },
        { ...plainNode('leaf', 0, 0), rotation: [0, 0, 0.5, Math.sqrt(0.75)] },
      ],
    };
    expect(findingsOf(pieceOf(sheared).document, rules).map(({ id }) => id)).toContain('sheared');
    const founder = applyEdit(
      pieceOf(sceneOf(boxMesh([2, 1, 1]))).document,
      pivotEdit('base-centre', [0, -1, 0]),
    );
    const other = applyEdit(pieceOf(sceneOf(boxMesh([2, 1.2, 1], [10, 0.2, 0]))).document, {
      kind: 'set-family',
      family: 'coping',
    });
    const around = {
      family: { from: 'Coping 01', share: familyShare({ ...memberOf(founder), feature: null }) },
    };
    const drift = findingsOf(other, rules, around).find(({ id }) => id === 'family-drift')!;
    const after = applyEdit(other, drift.fix!.edit);
    expect(after.pivot.position).toEqual([10, -1, 0]);
    expect(findingsOf(after, rules, around).map(({ id }) => id)).not.toContain('family-drift');
  });

  it('matches a family by the point of the bounds that its pivot is at, or by the common origin', () => {
    const small = { min: [0, 0, 0] as Vec3, max: [2, 1, 1] as Vec3 };
    const large = { min: [-1, 0, 0] as Vec3, max: [2, 3, 4] as Vec3 };
    const at = (anchor: PivotAnchor, position: Vec3) =>
      familyPlace(
        { bounds: large, pivot: pivotAt('numeric', [0, 0, 0]), feature: null },
        familyShare({ bounds: small, pivot: pivotAt(anchor, position), feature: null }),
      ).position;
    // At the far upper end of one it is at the far upper end of the other, not the same way from the least corner.
    expect(at('vertex', [2, 1, 1])).toEqual([2, 3, 4]);
    expect(at('base-centre', [1, 0, 0.5])).toEqual([0.5, 0, 2]);
    expect(at('numeric', [2.1, 1, 1])).toEqual([2.1, 3, 4]);
    expect(at('origin', [0, 0, 0])).toEqual([0, 0, 0]);
    expect(at('as-it-came', [0, 0, 0])).toEqual([0, 0, 0]);
  });
});
