import { readingsOf } from '../../proxy-names.js';
import type { Found, MethodInput } from './found.js';

/** Collision by the name of a child below an art node; its material slot says that it is not drawn. */
export function byChildNodes({ scene, nodes, profile, report }: MethodInput): Found {
  const found: Found = { art: [], shapes: [] };
  const taken = new Set<string>();
  const undrawn = profile.collision.by === 'child-node' ? profile.collision.slot.undrawn : '';
  for (const node of nodes) {
    if (node.mesh === null) continue;
    const isProxy = readingsOf(profile, node.name).length > 0;
    const above = node.parent === null ? null : nodes[node.parent]!;
    if (!isProxy) {
      found.art.push(node);
      continue;
    }
    if (!above || above.mesh === null || readingsOf(profile, above.name).length) {
      report.changed.push({ name: node.name, how: 'it hangs below no art node: it becomes a visible mesh' });
      found.art.push(node);
      continue;
    }
    const key = `${above.number} ${node.name}`;
    if (taken.has(key)) {
      report.ignored.push({
        name: node.name,
        why: `“${above.name}” has a shape of this name already: the second is dropped`,
      });
      continue;
    }
    taken.add(key);
    const materials = scene.meshes[node.mesh]!.mesh.groups.map(
      ({ material }) => scene.materials[material]?.name,
    );
    if (undrawn && !materials.every((name) => name?.endsWith(undrawn)))
      report.changed.push({
        name: node.name,
        how: 'its material slot is not marked as undrawn: it is seen as well',
      });
    found.shapes.push({ node, owner: above.name, kind: null });
  }
  return found;
}
