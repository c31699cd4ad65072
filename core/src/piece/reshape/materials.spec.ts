import { joinMeshes } from '../../mesh/index.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import { pieceOf } from '../../testing/documents.js';
import { after } from '../../testing/reshaped.js';
import { materialUses } from '../material-use.js';
import { plainMaterial } from '../scene.js';

const three = () => {
  const box = (x: number, material: number) => ({
    ...boxMesh([1, 1, 1], [x, 0, 0]),
    groups: [{ material, start: 0, count: 12 }],
  });
  return pieceOf({
    ...sceneOf(joinMeshes([box(0, 0), box(3, 2)])),
    materials: ['oak', 'tar', 'rope'].map(plainMaterial),
  });
};
const names = ({ document }: Awaited<ReturnType<typeof after>>) => document.materials.map(({ name }) => name);

describe('who has a material', () => {
  it('is counted by faces and parts, unused ones and faces without any among them', () => {
    const { document, meshOf } = three();
    const part = document.nodes[0]!.id;
    expect(materialUses(document, meshOf)).toEqual({
      uses: [
        { faces: 12, parts: [part] },
        { faces: 0, parts: [] },
        { faces: 12, parts: [part] },
      ],
      none: 0,
    });
    expect(materialUses({ ...document, materials: [] }, meshOf).none).toBe(24);
  });
});

describe('material slots', () => {
  it('are added under a name of their own, and removed when no face has them', async () => {
    const more = await after(three(), { op: 'add-material', name: 'oak' });
    expect(names(more)).toEqual(['oak', 'tar', 'rope', 'oak_01']);
    const less = await after(more, { op: 'remove-materials', materials: [1, 3] });
    expect(names(less)).toEqual(['oak', 'rope']);
    expect(less.meshOf(less.document.nodes[0]!.mesh!).groups.map(({ material }) => material)).toEqual([0, 1]);
    await expectAsync(after(less, { op: 'remove-materials', materials: [1] })).toBeRejectedWithError(
      /“rope” is used by “Thing”; merge it/,
    );
  });

  it('are never given to what was not named', async () => {
    for (const what of [{}, { parts: [] }, { faces: [] }])
      await expectAsync(
        after(three(), { op: 'assign-material', material: 1, ...what }),
      ).toBeRejectedWithError(/Choose the parts or faces/);
  });
});
