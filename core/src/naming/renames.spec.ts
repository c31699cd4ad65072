import {
  applyEdit,
  plainMaterial,
  plainNode,
  pushEdit,
  startHistory,
  undo,
  currentDocument,
  type Scene,
} from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { pieceRenamesBy, renameEdit, renamesBy } from './renames.js';

const twelve = (): Scene => ({
  ...sceneOf(boxMesh([1, 1, 1])),
  materials: [plainMaterial('Mat.001'), plainMaterial('Mat.002')],
  nodes: Array.from({ length: 12 }, (_, i) => plainNode(`Object.${i}`, 0)),
});

describe('renaming by a pattern', () => {
  const { document } = pieceOf(twelve(), 'gangway.obj');

  it('counts parts up and is one undo step', () => {
    const { renames } = renamesBy(document, { list: 'parts', pattern: '{subject:pascal}_Plank_{number:2}' });
    expect([renames[0]!.to, renames[11]!.to]).toEqual(['Gangway_Plank_01', 'Gangway_Plank_12']);
    const history = pushEdit(startHistory(document), renameEdit('parts', renames, null)!);
    expect(new Set(currentDocument(history).nodes.map(({ name }) => name)).size).toBe(12);
    expect(currentDocument(undo(history)).nodes.map(({ name }) => name)).toEqual(
      document.nodes.map(({ name }) => name),
    );
  });

  it('takes only those that are chosen, and sees what the others are called', () => {
    const parts = new Set(['n1', 'n2']);
    expect(
      renamesBy(document, { list: 'parts', pattern: 'P_{number}', parts }).renames.map(({ to }) => to),
    ).toEqual(['P_1', 'P_2']);
    const clash = renamesBy(document, { list: 'parts', pattern: 'Object.{number}', parts });
    expect(clash.renames.map(({ to, says }) => [to, says])).toEqual([
      ['Object.1', null],
      ['Object.2', 'Another one would be called “Object.2” too.'],
    ]);
  });

  it('renames materials, and pictures but for what they end in', () => {
    const painted = {
      ...document,
      pictures: [
        { name: 'IMG 1.png', type: 'image/png' as const, blob: 'a'.repeat(64), width: 1, height: 1 },
      ],
    };
    const materials = renamesBy(painted, {
      list: 'materials',
      pattern: 'M_{code}_{number:2}',
      fields: { code: 'GW' },
    });
    expect(
      applyEdit(painted, renameEdit('materials', materials.renames, null)!).materials.map(({ name }) => name),
    ).toEqual(['M_GW_01', 'M_GW_02']);
    const pictures = renamesBy(painted, { list: 'pictures', pattern: 'T_{subject:snake}_{number}' });
    expect(applyEdit(painted, renameEdit('pictures', pictures.renames, null)!).pictures[0]!.name).toBe(
      'T_gangway_1.png',
    );
  });

  it('says what is wrong with a pattern, or with one name, and leaves that as it is', () => {
    expect(renamesBy(document, { list: 'parts', pattern: '{subject' }).fault).toContain('not closed');
    const { renames } = renamesBy(document, { list: 'materials', pattern: '{code}_{number}' });
    expect([renames[0]!.says, renameEdit('materials', renames, null)]).toEqual([
      'The name needs the field “code”, and there is none.',
      null,
    ]);
  });
});

describe('renaming pieces of the shelf by a pattern', () => {
  const pieces = [
    { id: 7, name: 'quay coping', meshName: 'QuayCoping' },
    { id: 9, name: 'bollard', meshName: 'Bollard' },
  ];
  const made = (which: 'name' | 'mesh', pattern: string, others: string[] = []) =>
    pieceRenamesBy(pieces, { which, pattern, others, fields: { code: 'SG' } });

  it('takes names or mesh names, the subject from the piece', () => {
    expect(made('mesh', '{code}_{subject:pascal}_{variant:2}').renames).toEqual([
      { of: '7', from: 'QuayCoping', to: 'SG_QuayCoping_01', says: null },
      { of: '9', from: 'Bollard', to: 'SG_Bollard_01', says: null },
    ]);
    const two = pieces.map((piece) => ({ ...piece, name: 'Coping' }));
    const variants = pieceRenamesBy(two, { which: 'mesh', pattern: '{subject}_{variant:2}', others: [] });
    expect(variants.renames.map(({ to }) => to)).toEqual(['Coping_01', 'Coping_02']);
    expect(made('name', '{subject} {number}').renames.map(({ to }) => to)).toEqual([
      'quay coping 1',
      'bollard 2',
    ]);
  });

  it('sees what the others of the yard are called, what no name can be, and what a pattern cannot fill', () => {
    const says = (...of: Parameters<typeof made>) => made(...of).renames.map((rename) => rename.says);
    expect(says('name', '{code}', ['x'])).toEqual([null, 'Another one would be called “SG” too.']);
    expect(says('name', 'Piece {number}', ['piece 2'])).toEqual([
      null,
      'Another one would be called “Piece 2” too.',
    ]);
    const device = [{ id: 1, name: 'con', meshName: 'Con' }];
    expect(
      pieceRenamesBy(device, { which: 'name', pattern: '{subject}', others: [] }).renames[0]!.says,
    ).toContain('kept for a device');
    expect(says('name', '{initials}_{number}')[0]).toContain('initials');
    expect(made('name', '{nothing}').fault).toContain('nothing');
  });
});
