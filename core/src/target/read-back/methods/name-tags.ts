import { readingsOf } from '../../proxy-names.js';
import type { PlacedNode } from '../placed-nodes.js';
import type { Found, MethodInput } from './found.js';

/**
 * Collision by a tag before or behind the name of the art mesh: exact, capitals and all. A node that hangs below art is
 * that art's; else the whole rest of its name is tried as a mesh name before its number is cut off.
 */
export function byNameTags({ nodes, profile, report }: MethodInput): Found {
  const { collision } = profile;
  const tree = profile.hierarchy === 'kept';
  const tagged = new Map<PlacedNode, ReturnType<typeof readingsOf>>();
  for (const node of nodes) {
    const readings = node.mesh === null ? [] : readingsOf(profile, node.name);
    if (readings.length) tagged.set(node, readings);
  }
  const drawn = (node: PlacedNode) => tagged.get(node)?.some((reading) => reading.drawn) === true;
  const art = nodes.filter((node) => node.mesh !== null && (!tagged.has(node) || drawn(node)));
  const names = new Set(art.map(({ name }) => name));
  const groups = new Set(nodes.filter(({ mesh }) => mesh === null).map(({ name }) => name));
  const found: Found = { art, shapes: [] };
  const taken = new Set<string>();
  for (const [node, readings] of tagged) {
    const [first] = readings;
    if (drawn(node)) {
      found.shapes.push({ node, owner: node.name, kind: 'surface' });
      continue;
    }
    const above = node.parent === null ? null : nodes[node.parent]!;
    const below = above && !tagged.has(above) && (above.mesh !== null || tree) ? above.name : null;
    const named = readings.find(
      ({ owner }) => owner !== null && (names.has(owner) || (tree && groups.has(owner))),
    );
    // The target that goes by names alone looks for a mesh of that name, wherever the node hangs.
    const owner = collision.by === 'name-prefix' ? named?.owner : (below ?? named?.owner);
    if (owner === undefined || owner === null) {
      report.changed.push({
        name: node.name,
        how: 'its name holds no whole mesh name and number: it becomes a visible mesh',
      });
      found.art.push(node);
    } else if (taken.has(node.name))
      report.ignored.push({
        name: node.name,
        why: 'a shape of this name was read already: the second is dropped',
      });
    else {
      taken.add(node.name);
      found.shapes.push({ node, owner, kind: first!.kind });
    }
  }
  for (const { name } of found.art)
    sayNearly(name, Object.values('tokens' in collision ? collision.tokens : {}), report);
  return found;
}

/** A tag in other capitals is none, and that is easily overlooked. */
function sayNearly(name: string, tokens: readonly string[], report: MethodInput['report']): void {
  const loud = name.toUpperCase();
  const near = tokens.find((token) => {
    const wanted = token.toUpperCase();
    return (
      (loud.startsWith(wanted) || loud.endsWith(wanted)) && !name.startsWith(token) && !name.endsWith(token)
    );
  });
  if (near)
    report.changed.push({
      name,
      how: `it is almost tagged ${near}: capitals count, so it becomes a visible mesh`,
    });
}
