import {
  type Agent,
  artMesh,
  checkSet as check,
  isMirrorOf,
  type Mesh,
  type PieceDocument,
  type SetCheck,
  setCheckSchema,
  type SetOut,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { meshes } from './art';

/** The art of the set that was asked about last: most questions are of the same pieces. */
let last = new Map<string, { text: string; art: Mesh }>();

/** The art of what stands in a set, by `sourceKey`, each in its own space. */
export async function artOfSources(
  documents: ReadonlyMap<string, PieceDocument>,
  progress: (share: number) => void,
): Promise<(source: string) => Mesh> {
  const arts = new Map<string, { text: string; art: Mesh }>();
  let done = 0;
  for (const [key, document] of documents) {
    const text = JSON.stringify([document.nodes, document.placing, document.unit]);
    const before = last.get(key);
    arts.set(
      key,
      before?.text === text ? before : { text, art: artMesh(document, await meshes.hold(document)) },
    );
    progress(++done / documents.size);
  }
  last = arts;
  return (source) => arts.get(source)!.art;
}

/** Whether the pieces of a set meet. */
export async function checkSet(
  setOut: SetOut,
  documents: ReadonlyMap<string, PieceDocument>,
  agents: readonly Agent[],
  progress: Progress,
): Promise<SetCheck> {
  const artOf = await artOfSources(documents, (share) => progress(share * 0.3, 'Fetching the art'));
  const found = check({
    setOut,
    documents,
    artOf,
    agents,
    progress: (share) => progress(0.3 + share * 0.7, 'Looking whether they meet'),
  });
  return setCheckSchema.parse(found);
}

/** Whether one piece is the mirror image of the other, vertex by vertex, by their pivots. */
export async function isMirrored(one: PieceDocument, other: PieceDocument): Promise<boolean> {
  const withArt = async (document: PieceDocument) => ({
    document,
    art: artMesh(document, await meshes.hold(document)),
  });
  return isMirrorOf(await withArt(one), await withArt(other));
}
