export * from './format-error.js';
export { provideDracoWasm } from './gltf/draco.js';
export { GENERATOR, writeGlb } from './gltf/gltf-writer.js';
export { writeStlText } from './stl/stl-writer.js';
export { readGltf } from './gltf/gltf-reader.js';
export {
  checkInputFile,
  extensionOf,
  hashOfFile,
  type InputFile,
  MAX_FILE_BYTES,
  MAX_FILE_NAME_CHARACTERS,
  memoryFile,
} from './input-file.js';
export { ObjReader } from './obj/obj-reader.js';
export { type ObjFiles, writeObj } from './obj/obj-writer.js';
export { pictureStem } from './picture-file-names.js';
export { plainPng } from './plain-png.js';
export * from './read-files.js';
export * from './space.js';
export * from './write-scene.js';
