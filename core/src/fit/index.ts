export { axisAlignedBox } from './axis-aligned-box.js';
export { minVolumeBox, type MinVolumeBoxOptions } from './min-volume-box.js';
export { exactBox, exactCapsule, exactSphere } from './exact-primitives.js';
