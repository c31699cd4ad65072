import {
  MAX_INNER_NAME_CHARACTERS,
  type LeftOutKind,
  plainMaterial,
  plainNode,
  type Scene,
} from '../../piece/index.js';
import { FormatError, shown } from '../format-error.js';
import { GrowableFloats } from '../growable.js';
import { checkInnerName } from '../input-file.js';
import { sceneFrom, type Space, spaceFromRemark } from '../space.js';
import { buildMesh, type VertexLists } from './build-mesh.js';
import { FaceList } from './face-list.js';
import { LineScanner } from './line-scanner.js';

/** What reading an OBJ gives before its material libraries are at hand. */
export interface ObjResult {
  scene: Scene;
  /** material libraries it names */
  libraries: string[];
}

const SLICE = 1 << 20;
const LEFT_OUT: Record<string, LeftOutKind> = {
  l: 'lines',
  p: 'points',
  curv: 'curve',
  curv2: 'curve',
  surf: 'curve',
};
const IGNORED = new Set([
  's',
  'mg',
  'vp',
  'cstype',
  'deg',
  'bmat',
  'step',
  'parm',
  'trim',
  'hole',
  'scrv',
  'sp',
  'end',
  'con',
  'bevel',
  'c_interp',
  'd_interp',
  'lod',
  'shadow_obj',
  'trace_obj',
  'ctech',
  'stech',
  'usemap',
  'maplib',
]);

/**
 * Reads Wavefront OBJ as it arrives: push the bytes in chunks of any size, then finish.
 *
 * Objects and groups become nodes, `usemtl` runs become surface groups, polygons of any size become
 * triangles, negative indices count back. Vertices are one per used combination of place, UV and normal.
 *
 * @throws FormatError with the line, from `push` and `finish`
 */
export class ObjReader {
  private readonly v = new GrowableFloats();
  private readonly vt = new GrowableFloats();
  private readonly vn = new GrowableFloats();
  private readonly colors = new GrowableFloats();
  private coloured = false;
  private readonly lists = new Map<string, FaceList>();
  private list: FaceList | undefined;
  private object = '';
  private group = '';
  private readonly materialNumbers = new Map<string, number>();
  private material = -1;
  private readonly libraries: string[] = [];
  private readonly leftOut = new Map<string, number>();
  private lineNumber = 0;
  private carry = new Uint8Array(0);
  private readonly scan = new LineScanner();
  /** face lines without corners */
  private readonly bareFaces = { lines: 0, first: 0 };
  /** a face named something that stood further down, or nowhere */
  private looksAhead = false;
  private firstStrange: { line: number; text: string } | undefined;

  private space: Space | null = null;

  /** @param remarks whether a remark in the first line that says the space is taken at its word. Default true */
  constructor(
    private readonly file: string,
    private readonly remarks = true,
  ) {}

  push(chunk: Uint8Array): void {
    for (let at = 0; at < chunk.length; at += SLICE) this.pushSlice(chunk.subarray(at, at + SLICE));
  }

  private pushSlice(slice: Uint8Array): void {
    // A buffer of our own: continued lines are joined in place, and the caller's bytes stay as they are.
    const buffer = new Uint8Array(this.carry.length + slice.length);
    buffer.set(this.carry);
    buffer.set(slice, this.carry.length);
    this.scan.buffer = buffer;
    let start = 0;
    for (let end = buffer.indexOf(10, this.carry.length); end >= 0; end = buffer.indexOf(10, end + 1)) {
      this.lineNumber++;
      const last = end > start && buffer[end - 1] === 13 ? end - 2 : end - 1;
      if (last >= start && buffer[last] === 92) {
        buffer.fill(32, last, end + 1);
        continue;
      }
      this.readLine(start, end);
      start = end + 1;
    }
    this.carry = buffer.slice(start);
    if (this.carry.length > 64 * SLICE) {
      this.fail('a line is longer than 64 MB', 'this is no OBJ text; export it again', this.lineNumber + 1);
    }
  }

  finish(): ObjResult {
    if (this.carry.length) {
      this.lineNumber++;
      this.scan.buffer = this.carry;
      this.readLine(0, this.carry.length);
    }
    const lists = [...this.lists.values()].filter((list) => list.sizes.length > 0);
    if (lists.length === 0) {
      if (this.firstStrange) {
        const { line, text } = this.firstStrange;
        this.fail(
          `no faces were found, and “${shown(text, 30)}” is not OBJ`,
          'export the mesh as OBJ or GLB',
          line,
        );
      }
      this.fail('the file has no faces', 'export the mesh with its faces', this.lineNumber);
    }
    const scene = this.buildScene(lists);
    return { scene: this.space ? sceneFrom(this.space, scene) : scene, libraries: this.libraries };
  }

  private fail(wrong: string, advice: string, line = this.lineNumber): never {
    throw new FormatError(this.file, wrong, advice, { line });
  }

  private readLine(start: number, end: number): void {
    const { scan } = this;
    const { buffer } = scan;
    scan.line(start, end);
    if (this.lineNumber === 1 && buffer[start] === 35 && this.remarks)
      this.space = spaceFromRemark(
        new TextDecoder().decode(buffer.subarray(start, Math.min(end, start + 200))),
      );
    if (!scan.skipBlanks()) return;
    const first = buffer[scan.at]!;
    const second = scan.at + 1 < end ? buffer[scan.at + 1]! : 32;
    if (first === 118 && (second === 32 || second === 9)) {
      scan.at++;
      this.readPlace();
    } else if (first === 102 && (second === 32 || second === 9)) {
      scan.at++;
      this.readFace();
    } else if (first === 118 && second === 116) {
      scan.at += 2;
      const u = scan.number();
      this.vt.push2(this.finite(u, 'vt'), scan.skipBlanks() ? this.finite(scan.number(), 'vt') : 0);
    } else if (first === 118 && second === 110) {
      scan.at += 2;
      this.vn.push3(
        this.finite(scan.number(), 'vn'),
        this.finite(scan.number(), 'vn'),
        this.finite(scan.number(), 'vn'),
      );
    } else this.readOther();
  }

  private finite(value: number, what: string): number {
    if (!Number.isFinite(value))
      this.fail(
        `a number of “${what}” is missing, not a number or not finite`,
        'mend the mesh and export it again',
      );
    return value;
  }

  private readPlace(): void {
    const { scan } = this;
    this.v.push3(
      this.finite(scan.number(), 'v'),
      this.finite(scan.number(), 'v'),
      this.finite(scan.number(), 'v'),
    );
    if (!scan.skipBlanks()) {
      if (this.coloured) this.colors.push3(1, 1, 1);
      return;
    }
    // Three more numbers are a colour; a fourth alone is a weight nobody uses.
    const r = this.finite(scan.number(), 'v');
    if (!scan.skipBlanks()) {
      if (this.coloured) this.colors.push3(1, 1, 1);
      return;
    }
    if (!this.coloured) {
      this.coloured = true;
      for (let i = 3; i < this.v.length; i += 3) this.colors.push3(1, 1, 1);
    }
    this.colors.push3(r, this.finite(scan.number(), 'v'), this.finite(scan.number(), 'v'));
  }

  private readFace(): void {
    const { scan } = this;
    const list = (this.list ??= this.openList());
    let size = 0;
    while (scan.skipBlanks()) {
      const v = this.index(scan.integer(), this.v.length / 3, 'vertex');
      let vt = -1;
      let vn = -1;
      if (scan.slash()) {
        const t = scan.integer();
        if (!Number.isNaN(t)) vt = this.index(t, this.vt.length / 2, 'texture coordinate');
        if (scan.slash()) vn = this.index(scan.integer(), this.vn.length / 3, 'normal');
      }
      if (!scan.atWordEnd())
        this.fail('a corner of the face cannot be read', 'mend the line or export again');
      list.corners.push3(v, vt, vn);
      size++;
    }
    if (size === 0) {
      this.bareFaces.lines++;
      this.bareFaces.first ||= this.lineNumber;
      return;
    }
    if (size < 3)
      this.fail(
        `a face has ${size} corner${size === 1 ? '' : 's'} and needs three`,
        'mend the line or export again',
      );
    const { materials, sizes } = list;
    if (materials.last !== this.material) {
      materials.push(sizes.length);
      materials.push(this.material);
    }
    sizes.push(size);
    list.lines.push(this.lineNumber);
  }

  /** From the file's counting (1 up, or -1 down from the last) to 0 up. Forward references are checked at the end. */
  private index(raw: number, count: number, what: string): number {
    const index = raw < 0 ? count + raw : raw - 1;
    if (!(index >= 0) || index > 0x7ffffffe) {
      this.fail(
        Number.isNaN(raw)
          ? `a corner of the face is no ${what} number`
          : `the face names ${what} ${raw}, and there are ${count}`,
        'mend the line or export again',
      );
    }
    if (index >= count) this.looksAhead = true;
    return index;
  }

  private readOther(): void {
    const { scan } = this;
    const keyword = scan.word();
    if (keyword === 'o' || keyword === 'g') {
      const name = this.innerName(keyword === 'o' ? 'object' : 'group', scan.rest());
      if (keyword === 'o') [this.object, this.group] = [name, ''];
      else this.group = name === 'default' ? '' : name;
      this.list = undefined;
    } else if (keyword === 'usemtl') {
      const name = this.innerName('material', scan.rest());
      if (!this.materialNumbers.has(name)) this.materialNumbers.set(name, this.materialNumbers.size);
      this.material = this.materialNumbers.get(name)!;
    } else if (keyword === 'mtllib') {
      const name = scan.rest();
      if (name && !this.libraries.includes(name) && this.libraries.length < 100) this.libraries.push(name);
    } else if (keyword in LEFT_OUT) {
      this.leftOut.set(keyword, (this.leftOut.get(keyword) ?? 0) + 1);
    } else if (!IGNORED.has(keyword)) {
      this.firstStrange ??= { line: this.lineNumber, text: keyword };
      if (keyword.includes('\u0000'))
        this.fail('binary data stands where text should be', 'export the mesh as OBJ or GLB');
    }
  }

  private innerName(what: string, name: string): string {
    return checkInnerName(this.file, what, name, { line: this.lineNumber });
  }

  private openList(): FaceList {
    const key = `${this.object}\n${this.group}`;
    let list = this.lists.get(key);
    if (!list) this.lists.set(key, (list = new FaceList(this.object, this.group)));
    return list;
  }

  private buildScene(lists: readonly FaceList[]): Scene {
    const scene: Scene = {
      unit: { metres: 1, stated: false },
      nodes: [],
      meshes: [],
      materials: [...this.materialNumbers.keys()].map(plainMaterial),
      pictures: [],
      leftOut: [...this.leftOut].map(([keyword, count]) => ({
        kind: LEFT_OUT[keyword]!,
        name: `${count} × “${keyword}”`,
      })),
      notes: this.bareFaces.lines ? [{ about: 'lines-ignored', ...this.bareFaces }] : [],
    };
    const fallback = this.file.replace(/\.[^.]*$/, '').slice(0, MAX_INNER_NAME_CHARACTERS);
    const vertexLists: VertexLists = {
      v: this.v.view(),
      vt: this.vt.view(),
      vn: this.vn.view(),
      colors: this.coloured ? this.colors.view() : undefined,
    };
    const objectNodes = new Map<string, number>();
    for (const list of lists) {
      if (this.looksAhead) this.checkForwardReferences(list);
      const mesh = scene.meshes.length;
      scene.meshes.push({ name: list.group || list.object || fallback, mesh: buildMesh(list, vertexLists) });
      if (!list.group || !list.object) {
        objectNodes.set(list.object, scene.nodes.length);
        scene.nodes.push(plainNode(list.group || list.object || fallback, mesh));
        continue;
      }
      let parent = objectNodes.get(list.object);
      if (parent === undefined) {
        parent = scene.nodes.length;
        objectNodes.set(list.object, parent);
        scene.nodes.push(plainNode(list.object, null));
      }
      scene.nodes.push(plainNode(list.group, mesh, parent));
    }
    return scene;
  }

  private checkForwardReferences(list: FaceList): void {
    const limits = [this.v.length / 3, this.vt.length / 2, this.vn.length / 3];
    const corners = list.corners.view();
    for (let i = 0; i < corners.length; i++) {
      if (corners[i]! < limits[i % 3]!) continue;
      const sizes = list.sizes.view();
      let polygon = 0;
      for (let passed = sizes[0]! * 3; passed <= i; passed += sizes[++polygon]! * 3);
      const what = ['vertex', 'texture coordinate', 'normal'][i % 3]!;
      this.fail(
        `the face names ${what} ${corners[i]! + 1}, and there are ${limits[i % 3]}`,
        'mend the line or export again',
        list.lines.view()[polygon],
      );
    }
  }
}
