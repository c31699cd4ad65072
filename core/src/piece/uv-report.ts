import { measureUvs, type Mesh, transformMesh, type UvLayout, uvLayout } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { artNodes, placedMatrices } from './geometry.js';

/** How one UV set of a part lies. */
export interface UvSetReport extends UvLayout {
  /** picture widths a metre; null where nothing has UVs with an area */
  density: number | null;
  /** shares of the part's area whose UVs are stretched, or uneven */
  stretched: number;
  uneven: number;
}

/** How a part's UVs lie, at the size the part has. */
export interface UvReport {
  /** id of the part */
  part: string;
  sets: UvSetReport[];
  /** texels of the widest picture that lies on the part by its first set; null without one */
  pictureTexels: number | null;
  /** whether its vertices carry colours, such as light that was baked into them, and how bright those are: 0 to 1 */
  vertexColours: { least: number; mean: number; greatest: number } | null;
}

/**
 * How the UVs of each part of the art lie.
 *
 * @param texels side of a picture that gaps between islands are told in, where a part has no picture of its own
 */
export function uvReports(
  document: PieceDocument,
  meshOf: (id: string) => Mesh,
  { texels = 1024 }: { texels?: number } = {},
): UvReport[] {
  const placed = placedMatrices(document);
  return artNodes(document.nodes).map((i) => {
    const node = document.nodes[i]!;
    const mesh = transformMesh(meshOf(node.mesh!), placed[i]!);
    const widths = mesh.groups.flatMap(({ material }) => {
      const use = document.materials[material]?.pictures.baseColor;
      return use ? [document.pictures[use.picture]!.width] : [];
    });
    const width = Math.max(0, ...widths);
    const sets = mesh.uvs.map((_, set): UvSetReport => {
      const measure = measureUvs(mesh, set);
      return {
        ...uvLayout(mesh, set, set === 0 && width ? width : texels)!,
        density: measure && measure.density > 0 ? measure.density : null,
        stretched: measure?.stretched ?? 0,
        uneven: measure?.uneven ?? 0,
      };
    });
    return { part: node.id, sets, pictureTexels: width || null, vertexColours: brightness(mesh) };
  });
}

/** By the weights of red, green and blue in linear light (ITU-R BT.709). */
function brightness({ colors }: Mesh): UvReport['vertexColours'] {
  if (!colors || colors.length === 0) return null;
  let [least, sum, greatest] = [Infinity, 0, -Infinity];
  for (let i = 0; i < colors.length; i += 4) {
    const bright = 0.2126 * colors[i]! + 0.7152 * colors[i + 1]! + 0.0722 * colors[i + 2]!;
    least = Math.min(least, bright);
    greatest = Math.max(greatest, bright);
    sum += bright;
  }
  return { least, mean: sum / (colors.length / 4), greatest };
}
