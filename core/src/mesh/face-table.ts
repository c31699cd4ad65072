import { EdgeTable } from './edge-table.js';

/** Faces by their corners in turning order, in order of first use. */
export class FaceTable {
  /** an edge by its ends … */
  private readonly edges: EdgeTable;
  /** … and that edge with the third corner */
  private readonly faces: EdgeTable;

  /** @param most the most faces that will be put in */
  constructor(most: number) {
    this.edges = new EdgeTable(most);
    this.faces = new EdgeTable(most);
  }

  /** how many faces there are */
  get count(): number {
    return this.faces.count;
  }

  /** The number of the face with these corners that turns the same way; it is put in when it is new. */
  face(a: number, b: number, c: number): number {
    const least = Math.min(a, b, c);
    const [next, last] = least === a ? [b, c] : least === b ? [c, a] : [a, b];
    // The two numbers of the second edge must never meet those of the first: one grows from above.
    return this.faces.edge(this.edges.edge(least, next), 0x7fffffff - last);
  }

  /** False when the same face, turning the same way, was added before. */
  add(a: number, b: number, c: number): boolean {
    const before = this.count;
    this.face(a, b, c);
    return this.count > before;
  }
}
