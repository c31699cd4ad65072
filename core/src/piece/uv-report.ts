import { measureUvs, type Mesh, transformMesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { artNodes, placedMatrices } from './geometry.js';

/** How a part's UVs lie, at the size the part has. */
export interface UvReport {
  /** id of the part */
  part: string;
  /** picture widths a metre; null without UVs */
  density: number | null;
  /** pixels a metre by the part's own picture; null without one */
  pixels: number | null;
  /** picture widths a metre of the second set, which light is baked by; null without one */
  baked: number | null;
  /** shares of the part's area whose UVs are stretched, or uneven */
  stretched: number;
  uneven: number;
}

/** How the UVs of each part of the art lie. */
export function uvReports(document: PieceDocument, meshOf: (id: string) => Mesh): UvReport[] {
  const placed = placedMatrices(document);
  return artNodes(document.nodes).map((i) => {
    const node = document.nodes[i]!;
    const mesh = transformMesh(meshOf(node.mesh!), placed[i]!);
    const measure = measureUvs(mesh);
    const widths = mesh.groups.flatMap(({ material }) => {
      const use = document.materials[material]?.pictures.baseColor;
      return use ? [document.pictures[use.picture]!.width] : [];
    });
    const width = Math.max(0, ...widths);
    return {
      part: node.id,
      density: measure?.density ?? null,
      pixels: measure && width ? measure.density * width : null,
      baked: measureUvs(mesh, 1)?.density ?? null,
      stretched: measure?.stretched ?? 0,
      uneven: measure?.uneven ?? 0,
    };
  });
}
