import {
  agreesInAll,
  applyEdit,
  artMesh,
  artNodes,
  compareReadBack,
  expectationOfPlan,
  memoryFile,
  meshNameFrom,
  meshReader,
  nameFaultsOf,
  type PieceDocument,
  planToDeliver,
  PROFILES,
  readBack,
  readFile,
  replaceProxies,
  setApart,
  takeIn,
  wrap,
  writePlan,
} from '@yard-brace/core';
import { samplePieces } from './sample-yard.js';

/** Each piece of the yard as it comes, with a hull round each of its shells where it brings no shapes. */
async function pieces() {
  return Promise.all(
    (await samplePieces()).map(async ({ name, files }) => {
      const [main, ...beside] = files.map((file) => memoryFile(file.name, file.bytes));
      const { scene, proxies, aside } = setApart(await readFile(main!, beside));
      const sources = files.map((file) => ({
        name: file.name,
        blob: 'a'.repeat(64),
        bytes: file.bytes.length,
      }));
      const taken = takeIn(scene, { proxies, aside, files: sources, name, meshName: meshNameFrom });
      const meshOf = meshReader(taken.blobs);
      return {
        document: withShapes(taken.document, meshOf),
        meshOf,
        pictureOf: (id: string) => taken.blobs.get(id)!,
      };
    }),
  );
}

function withShapes(document: PieceDocument, meshOf: ReturnType<typeof meshReader>): PieceDocument {
  if (document.proxies.length) return document;
  const { shapes } = wrap(artMesh(document, meshOf), { kind: 'hull', per: 'piece' });
  const [part] = artNodes(document.nodes);
  const proxies = shapes.map((shape, i) => ({ id: `s${i}`, shape, part: document.nodes[part!]!.id }));
  return applyEdit(document, replaceProxies(proxies));
}

describe('the sample yard, delivered for six targets', () => {
  it('reads back as planned, piece by piece, once names are mended as proposed', async () => {
    for (const { document, ...sources } of await pieces())
      for (const profile of PROFILES)
        for (const container of profile.containers) {
          let named = document;
          let plan = await planToDeliver(named, profile, { container });
          for (const { edit } of nameFaultsOf(plan).fixes) named = applyEdit(named, edit);
          plan = await planToDeliver(named, profile, { container });
          const label = `${document.name} for ${profile.id} as ${container}`;
          expect(nameFaultsOf(plan).says).withContext(label).toEqual([]);
          const files = await writePlan(plan, sources);
          const comparison = compareReadBack(
            expectationOfPlan(plan, sources.meshOf),
            await readBack(files, profile),
          );
          expect(agreesInAll(comparison))
            .withContext(
              `${label}: ${JSON.stringify(comparison.filter((p) => !p.agrees && !p.substituted).slice(0, 3))}`,
            )
            .toBeTrue();
        }
  });
});
