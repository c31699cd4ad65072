import type { Quat, Vec3 } from '../math/index.js';
import { meshNameFrom } from '../naming/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import type { Clearance, Proxy } from './document.js';
import { applyEdit, replaceProxies } from './edits/index.js';
import { extractPiece, piecesIn } from './pieces-in.js';
import { plainNode } from './scene.js';

describe('taking a piece apart', () => {
  const box = (id: string, x: number, part?: string): Proxy => ({
    id,
    shape: { kind: 'box', center: [x, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
    ...(part ? { part } : {}),
  });
  const opening = (id: string, x: number): Clearance => ({
    id,
    name: id,
    center: [x, 0, 0] as Vec3,
    halfExtents: [0.2, 0.2, 2] as Vec3,
    rotation: [0, 0, 0, 1] as Quat,
    through: 'z',
  });

  it('leaves every shape and clearance with the piece that it stands with, none is lost', () => {
    const scene = sceneOf(boxMesh([1, 1, 1]));
    scene.meshes.push({ name: 'far', mesh: boxMesh([1, 1, 1], [20, 0, 0]) });
    scene.nodes.push(plainNode('far', 1));
    const taken = pieceOf(scene);
    const proxies = [
      box('drawn here', 0.2),
      box('drawn there', 19),
      box('of a part', 0, 'n2'),
      box('between', 7),
    ];
    let document = applyEdit(taken.document, replaceProxies(proxies));
    document = applyEdit(document, {
      kind: 'set-clearances',
      clearances: [opening('a', 0), opening('b', 20)],
    });
    const pieces = piecesIn(document).map((tops) => extractPiece(document, tops, taken.meshOf, meshNameFrom));
    expect(pieces.map((piece) => piece.proxies.map(({ id }) => id))).toEqual([
      ['drawn here', 'between'],
      ['drawn there', 'of a part'],
    ]);
    expect(pieces.map((piece) => piece.clearances.map(({ id }) => id))).toEqual([['a'], ['b']]);
  });
});
