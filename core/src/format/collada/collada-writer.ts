import { UNITS, type UnitName } from '../../math/index.js';
import type { Mesh } from '../../mesh/index.js';
import type { Material, Scene } from '../../piece/index.js';
import { pictureFileNames } from '../picture-file-names.js';
import { single, TextSink } from '../text-sink.js';

/** Text that may stand in an element or an attribute. */
const xml = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

export interface ColladaOptions {
  /** of the scene's numbers. Default 'm' */
  unit?: UnitName;
  /** of the scene's axes. Default 'y' */
  up?: 'y' | 'z';
  /** from the file to its pictures, with a slash at its end. Default: they are in one folder */
  picturePath?: string;
}

const UNIT_NAMES: Record<UnitName, string> = {
  m: 'meter',
  cm: 'centimeter',
  mm: 'millimeter',
  in: 'inch',
  ft: 'foot',
};

/**
 * A scene as COLLADA 1.4.1, its unit and up axis stated: the tree with its transforms, one geometry a mesh, materials as
 * Phong. Pictures are named beside the file, not written. No time stands in it: same scene, same bytes.
 */
export function writeCollada(
  scene: Scene,
  { unit = 'm', up = 'y', picturePath = '' }: ColladaOptions = {},
): Uint8Array {
  const out = new TextSink();
  const names = pictureFileNames(scene.pictures);
  out.line('<?xml version="1.0" encoding="utf-8"?>');
  out.line('<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">');
  out.line(
    `<asset><contributor><authoring_tool>Yard Brace</authoring_tool></contributor><created>2000-01-01T00:00:00Z</created><modified>2000-01-01T00:00:00Z</modified><unit name="${UNIT_NAMES[unit]}" meter="${UNITS[unit]}"/><up_axis>${up.toUpperCase()}_UP</up_axis></asset>`,
  );
  if (scene.pictures.length) {
    out.line('<library_images>');
    names.forEach((name, i) =>
      out.line(
        `<image id="image-${i}" name="${xml(name)}"><init_from>${xml(encodeURI(picturePath + name))}</init_from></image>`,
      ),
    );
    out.line('</library_images>');
  }
  if (scene.materials.length) {
    out.line('<library_effects>');
    scene.materials.forEach((material, i) => writeEffect(out, material, i));
    out.line('</library_effects>');
    out.line('<library_materials>');
    scene.materials.forEach(({ name }, i) =>
      out.line(
        `<material id="material-${i}" name="${xml(name)}"><instance_effect url="#effect-${i}"/></material>`,
      ),
    );
    out.line('</library_materials>');
  }
  out.line('<library_geometries>');
  scene.meshes.forEach(({ name, mesh }, i) => writeGeometry(out, `mesh-${i}`, name, mesh));
  out.line('</library_geometries>');
  out.line('<library_visual_scenes><visual_scene id="scene" name="scene">');
  writeNodes(out, scene);
  out.line('</visual_scene></library_visual_scenes>');
  out.line('<scene><instance_visual_scene url="#scene"/></scene>');
  out.line('</COLLADA>');
  return out.bytes();
}

function writeEffect(out: TextSink, { baseColor, emissive, roughness, pictures }: Material, i: number): void {
  out.line(`<effect id="effect-${i}"><profile_COMMON>`);
  const slots = { diffuse: pictures.baseColor, emission: pictures.emissive };
  for (const [slot, use] of Object.entries(slots)) {
    if (!use) continue;
    out.line(
      `<newparam sid="${slot}-surface"><surface type="2D"><init_from>image-${use.picture}</init_from></surface></newparam>`,
    );
    out.line(
      `<newparam sid="${slot}-sampler"><sampler2D><source>${slot}-surface</source></sampler2D></newparam>`,
    );
  }
  const paint = (slot: 'diffuse' | 'emission', color: readonly number[]) =>
    slots[slot]
      ? `<${slot}><texture texture="${slot}-sampler" texcoord="UVSET${slots[slot].uvSet}"/></${slot}>`
      : `<${slot}><color>${color.join(' ')}</color></${slot}>`;
  out.line('<technique sid="common"><phong>');
  out.line(paint('emission', [...emissive, 1]));
  out.line(paint('diffuse', [...baseColor.slice(0, 3), 1]));
  out.line(`<shininess><float>${2 / Math.max(1e-6, roughness ** 2) - 2}</float></shininess>`);
  if (baseColor[3] < 1)
    out.line(
      `<transparent opaque="A_ONE"><color>0 0 0 1</color></transparent><transparency><float>${baseColor[3]}</float></transparency>`,
    );
  out.line('</phong></technique></profile_COMMON></effect>');
}

function writeGeometry(out: TextSink, id: string, name: string, mesh: Mesh): void {
  const n = mesh.positions.length / 3;
  out.line(`<geometry id="${id}" name="${xml(name)}"><mesh>`);
  const source = (
    kind: string,
    data: Float32Array | Float64Array,
    width: number,
    params: string,
    text: (value: number, k: number) => string,
  ) => {
    out.line(`<source id="${id}-${kind}"><float_array id="${id}-${kind}-array" count="${n * width}">`);
    for (let v = 0; v < n; v++) {
      let line = '';
      for (let k = 0; k < width; k++) line += (k ? ' ' : '') + text(data[v * width + k]!, k);
      out.line(line);
    }
    const list = [...params].map((param) => `<param name="${param}" type="float"/>`).join('');
    out.line(
      `</float_array><technique_common><accessor source="#${id}-${kind}-array" count="${n}" stride="${width}">${list}</accessor></technique_common></source>`,
    );
  };
  source('positions', mesh.positions, 3, 'XYZ', String);
  if (mesh.normals) source('normals', mesh.normals, 3, 'XYZ', single);
  mesh.uvs.forEach((uv, set) => source(`uv${set}`, uv, 2, 'ST', (value, k) => single(k ? 1 - value : value)));
  if (mesh.colors) source('colors', mesh.colors, 4, 'RGBA', single);
  out.line(`<vertices id="${id}-vertices"><input semantic="POSITION" source="#${id}-positions"/></vertices>`);
  for (const group of mesh.groups.filter(({ count }) => count > 0)) {
    out.line(
      `<triangles count="${group.count}"${group.material >= 0 ? ` material="m${group.material}"` : ''}>`,
    );
    // Every input shares one offset: a vertex is the same number in all of them.
    out.line(`<input semantic="VERTEX" source="#${id}-vertices" offset="0"/>`);
    if (mesh.normals) out.line(`<input semantic="NORMAL" source="#${id}-normals" offset="0"/>`);
    if (mesh.colors) out.line(`<input semantic="COLOR" source="#${id}-colors" offset="0"/>`);
    mesh.uvs.forEach((_, set) =>
      out.line(`<input semantic="TEXCOORD" source="#${id}-uv${set}" offset="0" set="${set}"/>`),
    );
    out.line('<p>');
    for (let t = group.start; t < group.start + group.count; t++)
      out.line(`${mesh.indices[t * 3]} ${mesh.indices[t * 3 + 1]} ${mesh.indices[t * 3 + 2]}`);
    out.line('</p></triangles>');
  }
  out.line('</mesh></geometry>');
}

/** Ids made of names, as far as an id may hold them, each different: some readers show the id. */
function idsFrom(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name, i) => {
    const legal = name.replace(/[^\p{L}\p{N}_.-]/gu, '_').replace(/^(?!\p{L})/u, 'n_');
    const id = taken.has(legal) ? `${legal}-${i}` : legal;
    taken.add(id);
    return id;
  });
}

/** Depth first without recursion: a tree may be as deep as it likes. */
function writeNodes(out: TextSink, scene: Scene): void {
  const children = new Map<number | null, number[]>();
  scene.nodes.forEach(({ parent }, i) => children.set(parent, [...(children.get(parent) ?? []), i]));
  const ids = idsFrom(scene.nodes.map(({ name }) => name));
  const waiting: (number | null)[] = [...(children.get(null) ?? [])].reverse();
  while (waiting.length) {
    const i = waiting.pop()!;
    if (i === null) {
      out.line('</node>');
      continue;
    }
    const { name, translation, rotation, scale, mesh } = scene.nodes[i]!;
    out.line(`<node id="${ids[i]}" name="${xml(name)}">`);
    if (translation.some((v) => v !== 0)) out.line(`<translate>${translation.join(' ')}</translate>`);
    const [x, y, z, w] = rotation;
    const sine = Math.hypot(x, y, z);
    if (sine > 0)
      out.line(
        `<rotate>${x / sine} ${y / sine} ${z / sine} ${(2 * Math.atan2(sine, w) * 180) / Math.PI}</rotate>`,
      );
    if (scale.some((v) => v !== 1)) out.line(`<scale>${scale.join(' ')}</scale>`);
    if (mesh !== null) writeInstance(out, scene, mesh);
    waiting.push(null, ...[...(children.get(i) ?? [])].reverse());
  }
}

function writeInstance(out: TextSink, scene: Scene, mesh: number): void {
  const used = [...new Set(scene.meshes[mesh]!.mesh.groups.map(({ material }) => material))].filter(
    (m) => m >= 0,
  );
  const binds = used.map((m) => {
    const sets = new Set(Object.values(scene.materials[m]!.pictures).map((use) => use.uvSet));
    const inputs = [...sets]
      .map(
        (set) => `<bind_vertex_input semantic="UVSET${set}" input_semantic="TEXCOORD" input_set="${set}"/>`,
      )
      .join('');
    return `<instance_material symbol="m${m}" target="#material-${m}">${inputs}</instance_material>`;
  });
  const bind = binds.length
    ? `<bind_material><technique_common>${binds.join('')}</technique_common></bind_material>`
    : '';
  out.line(`<instance_geometry url="#mesh-${mesh}">${bind}</instance_geometry>`);
}
