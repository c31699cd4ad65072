import {
  applyEdit,
  areaFaces,
  crossingPairs,
  type FacesOfParts,
  facesOfPartsSchema,
  fixSet,
  judgeSet,
  lensBetween,
  type PieceDocument,
  type TargetProfile,
  type SetFacts,
  type SetFix,
  setFactsOf,
  setFactsSchema,
  setFixSchema,
  setOf,
  takesOf,
  TOUCH_METRES,
} from '@yard-brace/core';
import { type FixedSet, type Progress, type SetPlaces, setRequestSchema, type SetRequest } from '../messages';
import { asItLeaves, figuresOf, measuredArt, shapesAsTheyLeave, withKnownShapes } from './art';

/** The set of shapes judged against the art, as it is kept with the piece. */
export async function judgeShapes(
  document: PieceDocument,
  profile: TargetProfile,
  toleranceMetres: number,
  progress: Progress,
): Promise<SetFacts> {
  const art = await measuredArt(document, profile, (share) => progress(share * 0.5, 'Measuring the shapes'));
  const { placed, comparer } = art;
  const judged = judgeSet(comparer, {
    ...setOf(asItLeaves(withKnownShapes(document, art), art)),
    partOfFace: (face) => document.nodes[placed.node[face]!]!.id,
    toleranceMetres,
  });
  return setFactsSchema.parse(setFactsOf(document, toleranceMetres, takesOf(profile), judged));
}

/** Pairs whose lens is worked out, at most: the deepest. */
const MAX_LENSES = 256;

/** What is drawn of a judged set: the faces that no shape covers, and what shapes share. */
export async function setPlaces(
  document: PieceDocument,
  profile: TargetProfile,
  toleranceMetres: number,
  progress: Progress,
): Promise<SetPlaces> {
  const shapes = new Map(document.proxies.map(({ id, shape }) => [id, shape]));
  const lenses = crossingPairs(setOf(document).members)
    .slice(0, MAX_LENSES)
    .flatMap(({ a, b }) => {
      const lens = lensBetween(shapes.get(a)!, shapes.get(b)!, TOUCH_METRES);
      return lens ? [{ pair: [a, b] as [string, string], ...lens }] : [];
    });
  return { bare: await bareFaces(document, profile, toleranceMetres, progress), lenses };
}

/** The faces of the art that no shape covers. */
export async function bareFaces(
  document: PieceDocument,
  profile: TargetProfile,
  toleranceMetres: number,
  progress: Progress,
): Promise<FacesOfParts> {
  const art = await measuredArt(document, profile, (share) => progress(share, 'Measuring the shapes'));
  const { placed, comparer } = art;
  const shapes = shapesAsTheyLeave(document, art);
  const byPart = new Map<string, number[]>();
  for (const face of comparer.bareFaces(shapes, toleranceMetres).flat()) {
    const part = document.nodes[placed.node[face]!]!.id;
    const own = byPart.get(part) ?? [];
    own.push(placed.face[face]!);
    byPart.set(part, own);
  }
  return facesOfPartsSchema.parse(
    areaFaces(
      document,
      [...byPart].map(([part, faces]) => ({ part, faces })),
    ),
  );
}

/** What mends a set of shapes, and its figures before and after. */
export async function fixShapes(
  document: PieceDocument,
  profile: TargetProfile,
  fix: SetFix,
  request: SetRequest,
  progress: Progress,
): Promise<FixedSet | null> {
  const wanted = setFixSchema.parse(fix);
  const art = await measuredArt(document, profile, (share) => progress(share * 0.3, 'Fetching the art'));
  const { placed, comparer } = art;
  progress(0.3, 'Fitting shapes');
  const edit = fixSet(wanted, { document, placed, comparer, ...setRequestSchema.parse(request) });
  if (!edit) return null;
  return { edit, before: figuresOf(document, art), after: figuresOf(applyEdit(document, edit), art) };
}
