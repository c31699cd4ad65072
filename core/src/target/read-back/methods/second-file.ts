import type { Found, MethodInput } from './found.js';

/** Collision by a second file: everything in it is collision of the file that it is named after. */
export function bySecondFile({ stem, nodes, profile, report }: MethodInput): Found {
  const suffix = profile.collision.by === 'second-file' ? profile.collision.suffix : '';
  const meshes = nodes.filter(({ mesh }) => mesh !== null);
  if (!stem.endsWith(suffix)) return { art: meshes, shapes: [] };
  const found: Found = { art: [], shapes: [] };
  for (const node of meshes) {
    if (node.name === stem && !found.shapes.length)
      found.shapes.push({ node, owner: stem.slice(0, -suffix.length), kind: 'surface' });
    else
      report.ignored.push({ name: node.name, why: `the file ${stem} is read for its mesh “${stem}” alone` });
  }
  return found;
}
