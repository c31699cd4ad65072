import { computed, effect, inject, type Signal } from '@angular/core';
import { idsBelow, type Vec3 } from '@yard-brace/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ArtStore } from '../../../state/art-store';
import { FacePicker } from '../../../state/face-picker';
import { type DragPlace, PartDrag } from '../../../state/part-drag';
import { Picking } from '../../../state/picking';
import { Selection } from '../../../state/selection';
import { ShapeEditor } from '../../../state/shape-editor';
import { ViewSettingsStore } from '../../../state/view-settings';
import type { FaceHit } from '../../../viewport/layers/art-layer';
import type { Tool } from '../../../viewport/tool';
import { AreaTool } from '../../../viewport/tools/area-tool';
import { DragTool } from '../../../viewport/tools/drag-tool';
import { LookTool } from '../../../viewport/tools/look-tool';
import { PickPointTool } from '../../../viewport/tools/pick-point-tool';
import { SelectFacesTool } from '../../../viewport/tools/select-faces-tool';
import type { BenchScene, Hit } from './bench-scene';

export interface BoundTool {
  scene: Signal<BenchScene | null>;
  /** what of the art is under the pointer */
  read: (hit: FaceHit | null) => void;
}

/** Gives the pointer to the tool that is asked for. Called where a component is made. */
export function bindTool({ scene, read }: BoundTool): void {
  const picking = inject(Picking);
  const selection = inject(Selection);
  const faces = inject(FacePicker);
  const editor = inject(ShapeEditor);
  const drag = inject(PartDrag);
  const arts = inject(ArtStore);
  const asked = toSignal(picking.asked$, { requireSync: true });
  const view = inject(ViewSettingsStore);
  const settings = toSignal(view.settings$, { requireSync: true });
  const wanted = computed(() => {
    if (asked()) return 'pick';
    const { choosing, chooseBy, boxingShapes, draggingParts } = settings();
    if (draggingParts) return 'parts';
    if (boxingShapes) return 'shapes';
    if (!choosing) return 'look';
    return chooseBy === 'box' || chooseBy === 'lasso' ? chooseBy : 'faces';
  });

  const hover = (hit: Hit) => {
    selection.point(hit && 'shape' in hit ? hit.shape : null);
    read(hit && 'art' in hit ? hit.art : null);
  };
  /** Parts are grabbed where they are pointed at: the grabbed vertex, edge or face lands on what is caught. */
  const dragParts = (s: BenchScene): Tool => {
    let from: Vec3 | null = null;
    return new DragTool<DragPlace>({
      where: (at, begins) => {
        if (!begins) return from && s.dragTo(at, from);
        from = null;
        const grabbed = s.grabAt(at);
        const parts = [...selection.selected.parts];
        const drawn = arts.art?.document;
        const node = grabbed && drawn?.nodes[grabbed.part];
        if (!grabbed || !drawn || !node) return null;
        const moves = view.settings.partsAlone ? parts : idsBelow(drawn, parts);
        if (!moves.includes(node.id)) return null;
        from = grabbed.at;
        return { at: grabbed.at, caught: null };
      },
      move: (start, to, free) => drag.move(start.at, to, free),
      drop: () => {
        from = null;
        void drag.drop();
      },
      cancel: () => {
        from = null;
        drag.cancel();
      },
      drags: true,
    });
  };
  const toolFor = (s: BenchScene): Tool => {
    const kind = wanted();
    const look = { pick: (at: readonly [number, number]) => s.pick(at), hover };
    switch (kind) {
      case 'pick':
        return new PickPointTool({
          snap: (at) => s.snap(at) ?? (picking.onGround ? s.snapToGround(at) : null),
          hover: (point) =>
            picking.hover(point?.at ?? null, [point?.beside, point?.kind].filter(Boolean).join(', ')),
          pick: ({ part, ...point }) => {
            const node = arts.art?.document.nodes[part];
            if (node || point.beside || point.kind === 'ground')
              picking.pick({ ...point, part: node?.id ?? '' });
          },
        });
      case 'box':
      case 'lasso':
        return new AreaTool({
          shape: kind,
          mark: (area, how) => {
            const found = s.facesIn(area);
            if (found) void faces.area(found.faces, found.sight, how);
          },
        });
      case 'parts':
        return dragParts(s);
      case 'shapes':
        return new AreaTool({
          shape: 'box',
          mark: (area, how) => {
            editor.chooseAll(s.shapesIn(area), how);
            view.set({ boxingShapes: false });
          },
        });
      case 'faces':
        return new SelectFacesTool({
          ...look,
          face: s.face,
          choose: (face, how) => void faces.click(face, how),
        });
      default:
        return new LookTool({
          ...look,
          click: (hit, { shift }) => editor.choose(hit && 'shape' in hit ? hit.shape : null, { more: shift }),
        });
    }
  };
  effect(() => {
    const ready = scene();
    if (ready) ready.viewport.use(toolFor(ready));
  });
}
