import type { Mesh } from '../mesh/index.js';
import type { Quat, Transform, Vec3 } from '../math/index.js';
import type { SceneNote } from './scene-note.js';

/**
 * What every format is read into and written from: right-handed, Y up. Lengths are in the unit
 * given; a format that fixes its unit states it, any other leaves it to the person.
 */
export interface Scene {
  unit: { metres: number; stated: boolean };
  /** parents stand before their children */
  nodes: SceneNode[];
  meshes: { name: string; mesh: Mesh }[];
  materials: Material[];
  pictures: Picture[];
  /** what the file held and no piece needs */
  leftOut: LeftOut[];
  /** remarks of the reader, a sentence each */
  notes: SceneNote[];
  /** what is touched, in formats that say so by more than names */
  colliders?: Collider[];
  /** what moves */
  bodies?: Body[];
  surfaces?: ContactSurface[];
}

/** An exact shape about its node's origin; round ones stand along the axis that is up in the scene's space. */
export type ColliderShape =
  | { kind: 'box'; halfExtents: Vec3 }
  | { kind: 'sphere'; radius: number }
  | { kind: 'capsule'; halfLength: number; radius: number }
  | { kind: 'cylinder'; halfHeight: number; bottomRadius: number; topRadius: number };

/** What is touched of a node: an exact shape, or a mesh as it is or as its hull. Not drawn. */
export interface Collider {
  /** number in `nodes` */
  node: number;
  geometry: ColliderShape | { kind: 'mesh'; mesh: number; convex: boolean };
  /** number in `surfaces` */
  surface?: number;
}

/** A node that moves, with all below it: by an animation, or by the physics. */
export interface Body {
  node: number;
  role: 'animated' | 'simulated';
  kilograms?: number;
}

/** What something feels like to touch. */
export interface ContactSurface {
  name: string;
  friction: number;
  restitution: number;
  /** kilograms a cubic metre */
  density?: number;
}

export interface SceneNode extends Transform {
  name: string;
  /** number of the parent in `nodes`, or null for a root */
  parent: number | null;
  /** number in `meshes`, or null */
  mesh: number | null;
}

export interface Picture {
  name: string;
  type: 'image/png' | 'image/jpeg' | 'image/webp';
  bytes: Uint8Array;
}

export type LeftOutKind =
  | 'camera'
  | 'light'
  | 'animation'
  | 'skin'
  | 'morph target'
  | 'points'
  | 'lines'
  | 'curve'
  | 'scene'
  | 'extension';

export interface LeftOut {
  kind: LeftOutKind;
  name: string;
}

export const PICTURE_SLOTS = ['baseColor', 'normal', 'metallicRoughness', 'occlusion', 'emissive'] as const;
export type PictureSlot = (typeof PICTURE_SLOTS)[number];
export type Wrap = 'repeat' | 'clamp' | 'mirror';

/** A picture in a material's slot. `picture` is a number in the list of pictures. */
export interface PictureUse {
  picture: number;
  uvSet: number;
  wrap: [Wrap, Wrap];
}

/** A surface by constants and pictures; colours are linear, 0 to 1. */
export interface Material {
  name: string;
  baseColor: [number, number, number, number];
  metalness: number;
  roughness: number;
  emissive: Vec3;
  doubleSided: boolean;
  alpha: 'opaque' | 'mask' | 'blend';
  alphaCutoff: number;
  normalScale: number;
  occlusionStrength: number;
  pictures: Partial<Record<PictureSlot, PictureUse>>;
}

export const plainMaterial = (name: string): Material => ({
  name,
  baseColor: [0.8, 0.8, 0.8, 1],
  metalness: 0,
  roughness: 0.9,
  emissive: [0, 0, 0],
  doubleSided: false,
  alpha: 'opaque',
  alphaCutoff: 0.5,
  normalScale: 1,
  occlusionStrength: 1,
  pictures: {},
});

/** A node where it stands without any transform. */
export const plainNode = (name: string, mesh: number | null, parent: number | null = null): SceneNode => ({
  name,
  parent,
  mesh,
  translation: [0, 0, 0],
  rotation: [0, 0, 0, 1] satisfies Quat,
  scale: [1, 1, 1],
});
