export { type Sources } from './art-scene.js';
export { massOf, roleOf } from './colliders.js';
export { express, type ExpressedFile } from './express.js';
export { joinScenes } from './join-scenes.js';
