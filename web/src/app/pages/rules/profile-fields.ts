import {
  type Collision,
  CONSTANT_WAYS,
  CONTAINER_NAMES,
  CONTAINERS,
  FILE_SPLITS,
  HIERARCHY_WAYS,
  MATERIAL_WAYS,
  PICTURE_PLACES,
  PROXY_ROLES,
  SHAPE_KINDS,
  SOLID_WAYS,
  UNITS,
} from '@yard-brace/core';
import { type Field, worded } from '../../ui/form-fields';

/** A group of a profile's values under a heading. */
export interface FieldGroup {
  title: string;
  fields: Field[];
}

const numbering: Field[] = [
  { label: 'Separator', path: ['collision', 'separator'], as: 'text' },
  { label: 'Digits', path: ['collision', 'digits'], as: 'number', digits: 0 },
  { label: 'First number', path: ['collision', 'first'], as: 'number', digits: 0 },
  {
    label: 'A single shape',
    path: ['collision', 'single'],
    as: 'choice',
    options: worded(['numbered', 'plain']),
  },
];
const tokens: Field[] = SHAPE_KINDS.map((kind) => ({
  label: `Token of a ${kind}`,
  path: ['collision', 'tokens', kind],
  as: 'text',
}));
const place: Field = {
  label: 'Shapes hang',
  path: ['collision', 'place'],
  as: 'choice',
  options: [
    { label: 'Beside the art node', value: 'beside' },
    { label: 'Below the art node', value: 'below' },
  ],
};

/** What each way of telling collision from art asks for. */
const COLLISION: Record<Collision['by'], Field[]> = {
  'name-prefix': [...tokens, place, ...numbering],
  'name-suffix': [
    ...tokens,
    {
      label: 'Token of drawn art',
      path: ['collision', 'drawn'],
      as: 'text',
      note: 'art that is its own surface',
    },
    place,
    ...numbering,
  ],
  'child-node': [
    { label: 'Node name', path: ['collision', 'token'], as: 'text' },
    { label: 'Name of a single one', path: ['collision', 'singleToken'], as: 'text' },
    { label: 'Material slot', path: ['collision', 'slot', 'name'], as: 'text' },
    { label: 'Undrawn mark', path: ['collision', 'slot', 'undrawn'], as: 'text' },
    ...numbering,
  ],
  'second-file': [{ label: 'Behind the name', path: ['collision', 'suffix'], as: 'text' }],
  'gltf-extension': [
    {
      label: 'Key of a mesh',
      path: ['collision', 'meshKey'],
      as: 'choice',
      options: worded(['mesh', 'node']),
    },
    { label: 'Word in names', path: ['collision', 'word'], as: 'text' },
    ...numbering,
  ],
  'usd-schema': [{ label: 'Word in names', path: ['collision', 'word'], as: 'text' }, ...numbering],
};

/** What a profile has to say about its collision when another way is chosen. */
export const FRESH_COLLISION: Record<Collision['by'], Collision> = {
  'name-prefix': {
    by: 'name-prefix',
    tokens: { hull: 'HULL_' },
    place: 'beside',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
  'name-suffix': {
    by: 'name-suffix',
    tokens: { hull: '-hull' },
    drawn: null,
    place: 'below',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'plain',
  },
  'child-node': {
    by: 'child-node',
    token: 'collision',
    singleToken: null,
    slot: { name: 'collision', undrawn: '_hidden' },
    separator: '',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
  'second-file': { by: 'second-file', suffix: '_collision' },
  'gltf-extension': {
    by: 'gltf-extension',
    meshKey: 'mesh',
    word: 'collider',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
  'usd-schema': {
    by: 'usd-schema',
    word: 'collider',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
};

const kinds = worded(SHAPE_KINDS);

/** Every value of a profile, as its way of telling collision asks. */
export const profileGroups = (by: Collision['by']): FieldGroup[] => [
  {
    title: 'Name',
    fields: [
      { label: 'Name', path: ['name'], as: 'text', wide: true },
      { label: 'Id', path: ['id'], as: 'text', note: 'on the command line' },
      { label: 'What it reads', path: ['help', 'says'], as: 'sentence' },
    ],
  },
  {
    title: 'Space',
    fields: [
      {
        label: 'Unit',
        path: ['space', 'unit'],
        as: 'choice',
        options: Object.keys(UNITS).map((value) => ({ label: value, value })),
      },
      {
        label: 'Up',
        path: ['space', 'up'],
        as: 'choice',
        options: [
          { label: 'Y', value: 'y' },
          { label: 'Z', value: 'z' },
        ],
      },
      {
        label: 'Forward',
        path: ['space', 'forward'],
        as: 'choice',
        options: ['+x', '-x', '+y', '-y', '+z', '-z'].map((value) => ({ label: value.toUpperCase(), value })),
        note: 'where our Z lands',
      },
      {
        label: 'Handedness',
        path: ['space', 'handedness'],
        as: 'choice',
        options: worded(['left', 'right']),
      },
    ],
  },
  {
    title: 'Files',
    fields: [
      {
        label: 'Formats',
        path: ['containers'],
        as: 'set',
        options: CONTAINERS.map((value) => ({ label: CONTAINER_NAMES[value], value })),
        note: 'the one ticked first is the default',
      },
      { label: 'One file a', path: ['files', 'split'], as: 'choice', options: worded(FILE_SPLITS) },
      { label: 'Hierarchy', path: ['hierarchy'], as: 'choice', options: worded(HIERARCHY_WAYS) },
      { label: 'Pictures', path: ['pictures'], as: 'choice', options: worded(PICTURE_PLACES) },
      { label: 'Materials', path: ['materials'], as: 'choice', options: worded(MATERIAL_WAYS) },
      { label: 'Values without picture', path: ['constants'], as: 'choice', options: worded(CONSTANT_WAYS) },
    ],
  },
  { title: 'Collision', fields: COLLISION[by] },
  {
    title: 'Kinds of shapes',
    fields: [
      { label: 'Knows', path: ['kinds', 'known'], as: 'set', options: kinds },
      ...SHAPE_KINDS.map((kind): Field => ({
        label: `A ${kind} becomes`,
        path: ['kinds', 'nearest', kind],
        as: 'choice',
        options: [{ label: 'itself', value: undefined }, ...kinds.filter(({ value }) => value !== kind)],
      })),
      { label: 'Cylinders may taper', path: ['kinds', 'tapered'], as: 'flag' },
      { label: 'Sides of rounds', path: ['kinds', 'sides'], as: 'number', digits: 0 },
      {
        label: 'A surface made convex',
        path: ['kinds', 'concave'],
        as: 'choice',
        options: [
          { label: 'Is filled', value: 'fill' },
          { label: 'Is broken up', value: 'break-up' },
        ],
      },
    ],
  },
  {
    title: 'Solids',
    fields: [
      { label: 'Solids', path: ['solids', 'as'], as: 'choice', options: worded(SOLID_WAYS) },
      { label: 'Corners a hull', path: ['solids', 'maxHullVertices'], as: 'number', digits: 0 },
      { label: 'Shapes a piece', path: ['solids', 'maxShapes'], as: 'number', digits: 0 },
    ],
  },
  {
    title: 'Names',
    fields: [
      {
        label: 'Legal characters',
        path: ['names', 'legalCharacters'],
        as: 'lines',
        note: 'a character or a range, such as A-Z, on each line',
      },
      {
        label: 'Longest',
        path: ['names', 'longest'],
        as: 'number',
        digits: 0,
        note: 'token and number included',
      },
      { label: 'May start with a digit', path: ['names', 'mayStartWithDigit'], as: 'flag' },
      { label: 'Capitals matter', path: ['names', 'caseMatters'], as: 'flag' },
    ],
  },
  {
    title: 'Physics',
    fields: [
      { label: 'Roles', path: ['physics', 'roles'], as: 'set', options: worded(PROXY_ROLES) },
      { label: 'Takes responses', path: ['physics', 'responses'], as: 'flag' },
      { label: 'Takes surfaces', path: ['physics', 'surfaces'], as: 'flag' },
      { label: 'Takes masses', path: ['physics', 'mass'], as: 'flag' },
    ],
  },
  {
    title: 'Import sheet',
    fields: [
      { label: 'Route', path: ['sheet', 'route'], as: 'sentence' },
      { label: 'Appears unasked', path: ['sheet', 'appears'], as: 'lines' },
      { label: 'A refresh brings', path: ['sheet', 'refreshBrings'], as: 'lines' },
      { label: 'Only a fresh import', path: ['sheet', 'freshOnly'], as: 'lines' },
    ],
  },
];

export const SETTING_FIELDS: Field[] = [
  { label: 'Setting', path: ['name'], as: 'sentence' },
  { label: 'Value', path: ['value'], as: 'text' },
  { label: 'Why', path: ['why'], as: 'sentence' },
];
export const WARNING_FIELDS: Field[] = [
  { label: 'Warning', path: ['says'], as: 'sentence' },
  { label: 'It matters', path: ['matters'], as: 'flag' },
];
