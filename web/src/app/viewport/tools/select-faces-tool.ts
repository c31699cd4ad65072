import type { ChooseHow } from '../../drawing/face-selection';
import type { PointerAt, Tool } from '../tool';
import { LookTool, type LookToolOptions } from './look-tool';

export interface SelectFacesOptions<Hit, Face> extends LookToolOptions<Hit> {
  /** the face under a point, proxies looked through */
  face: (at: readonly [number, number]) => Face | null;
  choose: (face: Face | null, how: ChooseHow) => void;
}

/** What a click or drag does to what is chosen: Shift adds, Alt takes away. */
export const howOf = ({ shift, alt }: Pick<PointerAt, 'shift' | 'alt'>): ChooseHow =>
  alt ? 'take' : shift ? 'add' : 'only';

/** Chooses faces by clicks; otherwise the view is turned and read as ever. */
export class SelectFacesTool<Hit, Face> extends LookTool<Hit> implements Tool {
  readonly cursor = 'crosshair';

  constructor(private readonly select: SelectFacesOptions<Hit, Face>) {
    super(select);
  }

  override up(pointer: PointerAt): void {
    if (pointer.still) this.select.choose(this.select.face(pointer.at), howOf(pointer));
  }
}
