import { scaled, type Transform, UNITS, type Vec3 } from '../../math/index.js';
import type { Mesh } from '../../mesh/index.js';
import { MAX_NODES, type Scene } from '../../piece/index.js';
import { FormatError, shown } from '../format-error.js';
import { checkInnerName, type InputFile } from '../input-file.js';
import { type Geometry, readGeometry } from './geometry.js';
import { readMaterials } from './materials.js';
import { readTransform } from './nodes.js';
import { child, childrenOf, type Element, path, readXml, hasDecimalCommas } from './xml-tree.js';

const AGAIN = 'mend the file or export it again';

/**
 * COLLADA 1.4 and 1.5: geometry, materials, the tree of the scene that is shown. Unit and up axis are
 * taken from the file; an up axis other than Y is turned into every node, so that no quarter turn is left.
 *
 * @throws FormatError and nothing else
 */
export async function readCollada(
  file: InputFile,
  beside: readonly InputFile[] = [],
  progress: (share: number) => void = () => undefined,
): Promise<Scene> {
  const root = await readXml(file.name, file.chunks(), (bytes) => progress((bytes / file.size) * 0.7));
  if (root.name !== 'COLLADA')
    throw new FormatError(
      file.name,
      `the file is XML, and <${shown(root.name, 30)}> is not COLLADA`,
      'export the mesh as COLLADA',
    );
  const asset = child(root, 'asset');
  const meter = Number(child(asset, 'unit')?.attributes['meter'] ?? NaN);
  const stated = Number.isFinite(meter) && meter > 0;
  const scene: Scene = {
    unit: { metres: stated ? meter : 1, stated },
    nodes: [],
    meshes: [],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const materials = await readMaterials(file.name, root, beside, scene);
  scene.materials.forEach(({ name }) => checkInnerName(file.name, 'material', name, {}));
  new TreeReader(file.name, root, materials, scene).read();
  if (scene.meshes.length === 0)
    throw new FormatError(file.name, 'its scene shows no triangles', 'export the mesh with its faces');
  turnUp(scene, child(asset, 'up_axis')?.text.trim() ?? 'Y_UP');
  settleUnit(scene);
  if (hasDecimalCommas(root)) scene.notes.push({ about: 'decimal-commas' });
  for (const clip of childrenOf(child(root, 'library_animations'), 'animation'))
    scene.leftOut.push({
      kind: 'animation',
      name: clip.attributes['name'] ?? clip.attributes['id'] ?? 'animation',
    });
  progress(1);
  return scene;
}

class TreeReader {
  private readonly geometries = new Map<string, Element>();
  private readonly opened = new Map<string, Geometry | null>();
  private readonly meshNumbers = new Map<string, number>();
  private readonly library = new Map<string, Element>();
  private readonly controllers = new Map<string, Element>();

  constructor(
    private readonly file: string,
    private readonly root: Element,
    private readonly materials: Map<string, number>,
    private readonly scene: Scene,
  ) {
    for (const geometry of childrenOf(child(root, 'library_geometries'), 'geometry'))
      this.geometries.set(geometry.attributes['id'] ?? '', geometry);
    for (const controller of childrenOf(child(root, 'library_controllers'), 'controller'))
      this.controllers.set(controller.attributes['id'] ?? '', controller);
    const waiting = [child(root, 'library_nodes'), child(root, 'library_visual_scenes')].flatMap(
      (l) => l?.children ?? [],
    );
    for (let element = waiting.pop(); element; element = waiting.pop()) {
      if (element.name === 'node' && element.attributes['id'])
        this.library.set(element.attributes['id'], element);
      waiting.push(...childrenOf(element, 'node'));
    }
  }

  read(): void {
    const scenes = childrenOf(child(this.root, 'library_visual_scenes'), 'visual_scene');
    const url = path(this.root, 'scene', 'instance_visual_scene')?.attributes['url']?.replace(/^#/, '');
    const shownScene = scenes.find((each) => each.attributes['id'] === url) ?? scenes[0];
    for (const other of scenes)
      if (other !== shownScene)
        this.scene.leftOut.push({
          kind: 'scene',
          name: other.attributes['name'] ?? other.attributes['id'] ?? 'scene',
        });
    /** what is being opened: the element, its parent's number, and the nodes brought in by name that it is inside of */
    const waiting = childrenOf(shownScene, 'node')
      .reverse()
      .map((element) => ({ element, parent: null as number | null, inside: null as Chain | null }));
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { element, parent, inside } = next;
      const own = this.addNode(element, parent);
      for (const instance of childrenOf(element, 'instance_geometry', 'instance_controller'))
        this.addMesh(instance, own);
      if (child(element, 'instance_camera'))
        this.scene.leftOut.push({ kind: 'camera', name: nameOf(element) });
      if (child(element, 'instance_light')) this.scene.leftOut.push({ kind: 'light', name: nameOf(element) });
      const below = element.children.flatMap((each): { element: Element; inside: Chain | null }[] => {
        if (each.name === 'node') return [{ element: each, inside }];
        if (each.name !== 'instance_node') return [];
        const target = this.library.get((each.attributes['url'] ?? '').replace(/^#/, ''));
        if (!target)
          throw new FormatError(
            this.file,
            `it names the node “${shown(each.attributes['url'] ?? '', 40)}”, which is not there`,
            AGAIN,
            { line: each.line },
          );
        // Only a node that is brought in by its name can come to contain itself.
        for (let up = inside; up; up = up.outer)
          if (up.element === target)
            throw new FormatError(this.file, 'the node contains itself', AGAIN, {
              line: target.line,
              part: `node “${shown(nameOf(target), 60)}”`,
            });
        return [{ element: target, inside: { element: target, outer: inside } }];
      });
      for (const each of below.reverse()) waiting.push({ ...each, parent: own });
      // Nodes instanced in nodes can grow without end: what is too much anyway is not built to its end.
      if (this.scene.nodes.length > MAX_NODES * 4) return;
    }
  }

  private addNode(element: Element, parent: number | null): number {
    const name = checkInnerName(this.file, 'node', nameOf(element), { line: element.line });
    let at = parent;
    readTransform(this.file, element).forEach((transform, i) => {
      at =
        this.scene.nodes.push({
          name: i === 0 ? name : `${name} (sheared)`,
          parent: at,
          mesh: null,
          ...transform,
        }) - 1;
    });
    return at!;
  }

  /** A second geometry on one node gets a node of its own below it. */
  private addMesh(instance: Element, node: number): void {
    let url = (instance.attributes['url'] ?? '').replace(/^#/, '');
    const controller = this.controllers.get(url);
    if (controller) {
      const inner = child(controller, 'skin') ?? child(controller, 'morph');
      this.scene.leftOut.push({
        kind: inner?.name === 'morph' ? 'morph target' : 'skin',
        name: controller.attributes['name'] ?? url,
      });
      url = (inner?.attributes['source'] ?? '').replace(/^#/, '');
    }
    const element = this.geometries.get(url);
    if (!element)
      throw new FormatError(
        this.file,
        `it names the geometry “${shown(url, 40)}”, which is not there`,
        AGAIN,
        { line: instance.line },
      );
    if (!this.opened.has(url)) {
      const read = readGeometry(this.file, element);
      this.opened.set(url, read);
      const name = element.attributes['name'] ?? url;
      if (!read) this.scene.leftOut.push({ kind: 'curve', name });
      for (const _ of read?.leftOut ?? []) this.scene.leftOut.push({ kind: 'lines', name });
    }
    const geometry = this.opened.get(url);
    if (!geometry || geometry.mesh.indices.length === 0) return;
    const mesh = this.boundMesh(url, element, geometry, instance);
    if (this.scene.nodes[node]!.mesh === null) this.scene.nodes[node]!.mesh = mesh;
    else
      this.scene.nodes.push({
        name: this.scene.meshes[mesh]!.name,
        parent: node,
        mesh,
        translation: [0, 0, 0],
        rotation: [0, 0, 0, 1],
        scale: [1, 1, 1],
      });
  }

  /** Symbols stand for other materials in each instance; the same binding gives the same mesh. */
  private boundMesh(url: string, element: Element, { mesh, symbols }: Geometry, instance: Element): number {
    const binds = new Map(
      childrenOf(path(instance, 'bind_material', 'technique_common'), 'instance_material').map((bind) => [
        bind.attributes['symbol'] ?? '',
        (bind.attributes['target'] ?? '').replace(/^#/, ''),
      ]),
    );
    const bound = symbols.map((symbol) => this.materials.get(binds.get(symbol) ?? symbol) ?? -1);
    const key = `${url} ${bound.join()}`;
    let number = this.meshNumbers.get(key);
    if (number === undefined) {
      const groups = mesh.groups.map((group) => ({ ...group, material: bound[group.material]! }));
      const name = checkInnerName(this.file, 'geometry', element.attributes['name'] ?? url, {
        line: element.line,
      });
      number = this.scene.meshes.push({ name, mesh: { ...mesh, groups } }) - 1;
      this.meshNumbers.set(key, number);
    }
    return number;
  }
}

interface Chain {
  element: Element;
  outer: Chain | null;
}

const nameOf = (element: Element): string => element.attributes['name'] ?? element.attributes['id'] ?? 'node';

/** Turn what stands on another axis onto Y: places, normals and nodes, each in its own space. */
function turnUp(scene: Scene, up: string): void {
  if (up !== 'Z_UP' && up !== 'X_UP') return;
  // A quarter turn as a swap of coordinates: it does not round.
  const swap = (v: Vec3): Vec3 => (up === 'Z_UP' ? [v[0], v[2], 0 - v[1]] : [0 - v[1], v[0], v[2]]);
  const scale = (v: Vec3): Vec3 => (up === 'Z_UP' ? [v[0], v[2], v[1]] : [v[1], v[0], v[2]]);
  for (const node of scene.nodes) {
    node.translation = swap(node.translation);
    node.rotation = [...swap([node.rotation[0], node.rotation[1], node.rotation[2]]), node.rotation[3]];
    node.scale = scale(node.scale);
  }
  const all = <A extends Float32Array | Float64Array>(data: A, width: number): A => {
    const out = data.slice() as A;
    for (let i = 0; i < data.length; i += width) out.set(swap([data[i]!, data[i + 1]!, data[i + 2]!]), i);
    return out;
  };
  scene.meshes = scene.meshes.map(({ name, mesh }) => ({
    name,
    mesh: {
      ...mesh,
      positions: all(mesh.positions, 3),
      ...(mesh.normals ? { normals: all(mesh.normals, 3) } : {}),
    } as Mesh,
  }));
  scene.notes.push({ about: 'up-axis', axis: up[0] as 'X' | 'Z' });
}

/** A unit without a name of its own goes into places and vertices, so that no scale is left on a node. */
function settleUnit(scene: Scene): void {
  const { metres, stated } = scene.unit;
  if (!stated || Object.values(UNITS).some((unit) => unit === metres)) return;
  scene.nodes = scene.nodes.map((node): Scene['nodes'][number] & Transform => ({
    ...node,
    translation: scaled(node.translation, metres),
  }));
  scene.meshes = scene.meshes.map(({ name, mesh }) => ({
    name,
    mesh: { ...mesh, positions: mesh.positions.map((v) => v * metres) },
  }));
  scene.unit = { metres: 1, stated: true };
  scene.notes.push({ about: 'unit', metres });
}
