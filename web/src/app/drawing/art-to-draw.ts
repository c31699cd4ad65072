import type { PieceDocument, RoughSurface, Vec3 } from '@yard-brace/core';
import type { SerializedBVH } from 'three-mesh-bvh';

/** What the view draws: single precision about an origin, so that far pieces do not tremble. */
export interface ArtToDraw {
  /** the same for two arts exactly when they are drawn the same, materials apart: see `artKey` */
  key: string;
  /** metres, in the piece's space */
  origin: Vec3;
  /** [3n], from the origin */
  positions: Float32Array<ArrayBuffer>;
  /** [3t] */
  indices: Uint32Array<ArrayBuffer>;
  /** [3n]; absent where the art has none, and is drawn with flat faces */
  normals?: Float32Array<ArrayBuffer>;
  /** [2n] each of the first four sets */
  uvs: Float32Array<ArrayBuffer>[];
  /** [4n] */
  colors?: Float32Array<ArrayBuffer>;
  groups: { material: number; start: number; count: number }[];
  /** stands for all of it while it moves and a whole frame would come late; absent for what is small */
  rough?: RoughSurface;
  /** [6e]: inked edges as pairs of points */
  ink: Float32Array<ArrayBuffer>;
  /** [t]: number of the node, and of the face in that node's own mesh */
  part: Uint32Array<ArrayBuffer>;
  face: Uint32Array<ArrayBuffer>;
  /** [3t]: the face across each side, see `faceNeighbours` */
  neighbours: Int32Array<ArrayBuffer>;
  /** serialized bounding volume hierarchy for picking; absent for art without triangles */
  tree?: SerializedBVH;
}

/** Art with the document it was drawn from: names, materials and pictures are the document's. */
export interface ArtOfPiece {
  art: ArtToDraw;
  document: PieceDocument;
}
