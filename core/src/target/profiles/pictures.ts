import type { TargetProfile } from '../profile.js';

type Picture = TargetProfile['help']['allowed'][number];
type Outline = Picture['outlines'][number];

const art = (...points: number[]): Outline => ({ as: 'art', points });
const shape = (...points: number[]): Outline => ({ as: 'shape', points });
const fault = (...points: number[]): Outline => ({ as: 'fault', points });

const bent = [20, 10, 44, 10, 44, 42, 98, 42, 98, 62, 20, 62];

/** Rules that several targets share, drawn. */
export const CONVEX: Picture = {
  title: 'Convex',
  says: 'No part of the shape caves in. Two of them stand for a bend.',
  outlines: [art(...bent), shape(18, 8, 46, 8, 46, 64, 18, 64), shape(46, 40, 100, 40, 100, 64, 46, 64)],
};
export const CAVES_IN: Picture = {
  title: 'Caves in',
  says: 'The bend is filled: one walks into air where the art is open.',
  outlines: [art(...bent), shape(18, 8, 46, 8, 100, 40, 100, 64, 18, 64), fault(46, 12, 94, 40, 46, 40)],
};
export const OPEN: Picture = {
  title: 'Open',
  says: 'A shape with a missing face has no inside and is refused.',
  outlines: [art(24, 16, 96, 16, 96, 58, 24, 58), fault(24, 58, 24, 16, 96, 16, 96, 58)],
};
export const TURNED_BOX: Picture = {
  title: 'Turned box',
  says: 'A box may stand at any angle; it has six square corners and eight vertices.',
  outlines: [art(36, 14, 94, 30, 84, 62, 26, 46), shape(34, 12, 97, 29, 86, 65, 24, 48)],
};
export const NOT_A_BOX: Picture = {
  title: 'Box tag on another body',
  says: 'A body that is no box is taken as a hull, whatever its tag says.',
  outlines: [art(20, 58, 60, 12, 100, 58), fault(16, 60, 60, 8, 104, 60)],
};
export const SURFACE: Picture = {
  title: 'Open surface',
  says: 'Triangles are taken as they are, hollows and all; they do not move.',
  outlines: [
    art(12, 48, 40, 30, 70, 44, 108, 22, 108, 62, 12, 62),
    shape(12, 46, 40, 28, 70, 42, 108, 20, 108, 24, 70, 46, 40, 32, 12, 50),
  ],
};
export const INSIDE_OUT: Picture = {
  title: 'Faces turned in',
  says: 'Only the front of a triangle is touched: flipped, one falls through.',
  outlines: [art(12, 40, 108, 40, 108, 58, 12, 58), fault(60, 40, 60, 62, 56, 54, 60, 62, 64, 54)],
};
export const SCALED: Picture = {
  title: 'Scaled node',
  says: 'A scale on a node deforms exact shapes; it is applied before the piece leaves.',
  outlines: [art(30, 24, 90, 24, 90, 58, 30, 58), fault(42, 32, 78, 32, 78, 50, 42, 50)],
};
