export { axisAlignedBox } from './axis-aligned-box.js';
export { minVolumeBox, type MinVolumeBoxOptions } from './min-volume-box.js';
