import type { Mesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { applyEdit, replaceProxies } from './edits/index.js';
import { idsBelow, nodesBelow } from './nodes.js';
import { piecesIn } from './pieces-in.js';
import { operate } from './reshape/operate.js';

/** Something that a file holds beside the art that it was imported for. */
export interface Extra {
  id: string;
  /** one of several pieces, a coarser detail level or a stray proxy that is set aside, or a shape that collides */
  kind: 'piece' | 'aside' | 'shape';
  name: string;
  /** null for a shape */
  triangles: number | null;
}

/** So many of a piece's parts are named. */
const NAMED_TOPS = 2;

/** What a file holds that can be left out, one by one: several pieces, what is set aside, shapes that came along. */
export function extrasOf(document: PieceDocument): Extra[] {
  const { nodes, meshes, proxies } = document;
  const triangles = (i: number) => (nodes[i]!.mesh === null ? 0 : meshes[nodes[i]!.mesh!]!.facts.triangles);
  const pieces = piecesIn(document);
  const names = new Map(nodes.map(({ id, name }) => [id, name]));
  return [
    ...(pieces.length > 1
      ? pieces.map((tops, i): Extra => {
          const below = nodesBelow(document, tops);
          const more = tops.length - NAMED_TOPS;
          return {
            id: `piece ${i}`,
            kind: 'piece',
            name:
              tops
                .slice(0, NAMED_TOPS)
                .map((id) => names.get(id))
                .join(', ') + (more > 0 ? ` and ${more} more` : ''),
            triangles: nodes.reduce(
              (sum, { aside }, n) => (below[n] && !aside ? sum + triangles(n) : sum),
              0,
            ),
          };
        })
      : []),
    ...nodes.flatMap(({ id, name, aside }, i): Extra[] =>
      aside ? [{ id: `node ${id}`, kind: 'aside', name, triangles: triangles(i) }] : [],
    ),
    ...proxies.map(({ id, part, shape }): Extra => ({
      id: `shape ${id}`,
      kind: 'shape',
      name: `${shape.kind} of ${(part !== undefined && names.get(part)) || 'the piece'}`,
      triangles: null,
    })),
  ];
}

/**
 * The document without some of its extras, as if the file had not held them.
 *
 * @param ids of `extrasOf` this document
 */
export async function withoutExtras(
  document: PieceDocument,
  ids: ReadonlySet<string>,
  meshOf: (blob: string) => Mesh,
): Promise<PieceDocument> {
  const tops = piecesIn(document).flatMap((piece, i) => (ids.has(`piece ${i}`) ? piece : []));
  const aside = document.nodes.flatMap(({ id }) => (ids.has(`node ${id}`) ? [id] : []));
  const gone = new Set(idsBelow(document, [...tops, ...aside]));
  const kept = document.proxies.filter(
    ({ id, part }) => !ids.has(`shape ${id}`) && (part === undefined || !gone.has(part)),
  );
  const bare = kept.length < document.proxies.length ? applyEdit(document, replaceProxies(kept)) : document;
  if (gone.size === 0) return bare;
  return applyEdit(bare, (await operate(bare, { op: 'delete', parts: [...tops, ...aside] }, meshOf)).edit);
}
