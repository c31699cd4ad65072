import { inject } from '@angular/core';
import { FacePicker } from '../../../state/face-picker';
import { Picking } from '../../../state/picking';
import { Proposals } from '../../../state/proposals';
import { Selection } from '../../../state/selection';
import { ShapeEditor } from '../../../state/shape-editor';
import { type LooksFrom, type Switch, ViewSettingsStore } from '../../../state/view-settings';
import { Keymap } from '../../../ui/keymap';

export interface ViewKeysOptions {
  fit: () => void;
  /** the veil is flipped for as long as its key is held */
  flip: (flipped: boolean) => void;
  /** the tool leaves what it is doing; true when it was doing something */
  leaveDrag: () => boolean;
}

/** Binds the keys of the view for as long as the component lives that calls this. */
export function bindViewKeys({ fit, flip, leaveDrag }: ViewKeysOptions): void {
  const keymap = inject(Keymap);
  const view = inject(ViewSettingsStore);
  const faces = inject(FacePicker);
  const editor = inject(ShapeEditor);
  const selection = inject(Selection);
  const picking = inject(Picking);
  const proposals = inject(Proposals);
  const from = (key: string, looks: LooksFrom, help = '', label?: string) => ({
    keys: [key],
    help,
    ...(label ? { label } : {}),
    act: () => view.set({ from: looks }),
  });
  const toggle = (key: string, name: Switch, help: string) => ({
    keys: [key],
    help,
    act: () => view.toggle(name),
  });
  keymap.bind([
    {
      keys: ['V'],
      label: 'V, held',
      help: 'flip the veil between art and proxies',
      act: () => flip(true),
      release: () => flip(false),
    },
    { keys: ['Home'], help: 'fit the piece to the view', act: fit },
    from('P', 'free', 'look freely, from the front, the side, the top', 'P F S T'),
    from('F', 'front'),
    from('S', 'side'),
    from('T', 'top'),
    { keys: ['C'], help: 'cut the piece open', act: () => view.toggleCut() },
    toggle('W', 'wire', 'wireframe'),
    toggle('B', 'facing', 'fronts and backs of faces'),
    toggle('K', 'checker', 'checker on the UVs'),
    toggle('D', 'deviation', 'how far the proxies lie from the art'),
    toggle('G', 'choosing', 'choose faces, or stop choosing'),
    {
      keys: ['+'],
      label: '+ − I',
      help: 'grow, shrink, invert the selection',
      act: () => faces.change('grow'),
    },
    { keys: ['Delete'], help: 'remove the chosen shapes', act: () => editor.remove() },
    { keys: ['-'], help: '', act: () => faces.change('shrink') },
    { keys: ['I'], help: '', act: () => faces.change('invert') },
  ]);
  keymap.note([
    { label: 'click, Shift, Alt', help: 'choose instead, add, take away' },
    { label: 'drag', help: 'orbit' },
    { label: 'right drag, Shift drag', help: 'pan' },
    { label: 'wheel', help: 'zoom' },
  ]);
  keymap.onEscape('pick', () => picking.cancel());
  keymap.onEscape('drag', leaveDrag);
  keymap.onEscape('selection', () => selection.clear());
  keymap.onEscape('proposal', () => proposals.discard());
}
