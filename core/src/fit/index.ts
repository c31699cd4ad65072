export { axisAlignedBox } from './axis-aligned-box.js';
export { exactBox, exactCapsule, exactSphere } from './exact-primitives.js';
export * from './fit-shape.js';
export * from './k-directions.js';
export { boxAlong, minVolumeBox, type MinVolumeBoxOptions, uprightBox } from './min-volume-box.js';
export { smallestCircle } from './outline.js';
export { capsuleAlong, cylinderAlong } from './round-about-axis.js';
export { smallestSphere } from './smallest-sphere.js';
export * from './suggest-shape.js';
