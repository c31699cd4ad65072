import { GrowableInts } from '../growable.js';

/** The faces under one `o` and `g`. Corners are packed v, vt, vn, counted from 0, -1 where there is none. */
export class FaceList {
  readonly corners = new GrowableInts();
  readonly sizes = new GrowableInts();
  readonly lines = new GrowableInts();
  /** material of each run of polygons: first polygon, material */
  readonly materials = new GrowableInts();

  constructor(
    readonly object: string,
    readonly group: string,
  ) {}
}
