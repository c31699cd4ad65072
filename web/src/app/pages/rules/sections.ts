import type { Option } from '../../ui/choice';
import { DISPLAY_UNITS, NAMED_THINGS, type NameField } from '@yard-brace/core';
import { type Field, worded } from '../../ui/form-fields';

export const AGENT_FIELDS: Field[] = [
  { label: 'Name', path: ['name'], as: 'text' },
  { label: 'Height', path: ['height'], as: 'number', unit: 'm' },
  { label: 'Radius', path: ['radius'], as: 'number', unit: 'm' },
  { label: 'Step', path: ['step'], as: 'number', unit: 'm' },
  { label: 'Slope', path: ['slopeDegrees'], as: 'number', unit: '°', digits: 1 },
  { label: 'Jump', path: ['jump'], as: 'number', unit: 'm' },
  {
    label: 'Eye height',
    path: ['eye'],
    as: 'number',
    unit: 'm',
    note: 'a little below its height where it is not given',
  },
  {
    label: 'Detail',
    path: ['detail'],
    as: 'number',
    unit: 'm',
    note: 'below this length detail does not matter',
  },
];
export const BUDGET_FIELDS: Field[] = [
  { label: 'Longest side up to', path: ['upToMetres'], as: 'number', unit: 'm' },
  { label: 'Shapes', path: ['shapes'], as: 'number', digits: 0 },
  { label: 'Corners', path: ['corners'], as: 'number', digits: 0 },
];
export const SURFACE_FIELDS: Field[] = [
  { label: 'Name', path: ['name'], as: 'text' },
  { label: 'Friction', path: ['friction'], as: 'number' },
  { label: 'Restitution', path: ['restitution'], as: 'number' },
  { label: 'Density', path: ['density'], as: 'number', unit: 'kg/m³', digits: 1 },
];
/** @param targets the profiles that slots can have names in */
export const materialNameFields = (targets: readonly Option<string>[]): Field[] => [
  { label: 'Slot', path: ['slot'], as: 'text' },
  { label: 'Target', path: ['target'], as: 'choice', options: targets },
  { label: 'Its own name', path: ['own'], as: 'text', wide: true },
  { label: 'Only on the part', path: ['part'], as: 'text', wide: true },
];
export const GENERAL_FIELDS: Field[] = [
  { label: 'Grid step', path: ['gridMetres'], as: 'number', unit: 'm' },
  {
    label: 'Lengths are shown in',
    path: ['unit'],
    as: 'choice',
    options: DISPLAY_UNITS.map((value) => ({ label: value, value })),
  },
  { label: 'Weld distance', path: ['weldMetres'], as: 'number', unit: 'm', digits: 6 },
  { label: 'Texture density', path: ['pixelsPerMetre'], as: 'number', unit: 'px/m', digits: 1 },
  { label: 'Baked light density', path: ['bakedPixelsPerMetre'], as: 'number', unit: 'px/m', digits: 1 },
];
export const RESPONSE_FIELDS: Field[] = [
  { label: 'Responses', path: ['responses'], as: 'lines', note: 'a name on each line' },
];
export const OPENING_FIELDS: Field[] = [
  { label: 'Room beside who passes', path: ['openings', 'marginMetres'], as: 'number', unit: 'm' },
];
/** @param agents who can walk, by their ids */
export const trialFields = (agents: readonly Option<string>[]): Field[] => [
  {
    label: 'Asked of every piece',
    path: ['trials', 'asked'],
    as: 'set',
    options: [
      { label: 'Walked at from all sides', value: 'walk' },
      { label: 'Balls poured in', value: 'pour' },
      { label: 'Dropped', value: 'drop' },
      { label: 'Hinged parts swung', value: 'swing' },
      { label: 'Slid along its edges', value: 'slide' },
      { label: 'Driven over', value: 'drive' },
    ],
    note: 'the trial step is clear when these have passed',
  },
  {
    label: 'Who walks',
    path: ['trials', 'walkers'],
    as: 'set',
    options: agents,
    note: 'nobody named: the agent that the piece is judged for',
  },
  {
    label: 'A jolt is more than',
    path: ['trials', 'joltMetres'],
    as: 'number',
    unit: 'm',
    note: 'ground that rises or falls by more at once; three in a row shake who walks',
  },
];
export const PATTERN_FIELDS: Field[] = NAMED_THINGS.map((thing) => ({
  label: `Names of a ${thing}`,
  path: ['names', thing],
  as: 'text',
  wide: true,
}));
export const NAME_VALUE_FIELDS: Field[] = (
  ['type', 'origin', 'code', 'initials', 'date'] as const satisfies readonly NameField[]
).map((field) => ({ label: worded([field])[0]!.label, path: ['nameFields', field], as: 'text' }));
export const FOLDER_FIELDS: Field[] = [
  {
    label: 'Models',
    path: ['folders', 'models'],
    as: 'text',
    note: 'below the piece’s own folder; empty: in it',
  },
  { label: 'Pictures', path: ['folders', 'pictures'], as: 'text' },
  { label: 'Manifest and sheet', path: ['folders', 'papers'], as: 'text' },
];

/** The sections of the ledger, in their order. */
export const SECTIONS = [
  { id: 'general', title: 'Grid and units' },
  { id: 'agents', title: 'Agents' },
  { id: 'openings', title: 'Openings' },
  { id: 'budgets', title: 'Budgets' },
  { id: 'surfaces', title: 'Surfaces and responses' },
  { id: 'materials', title: 'Materials' },
  { id: 'trials', title: 'Trials' },
  { id: 'targets', title: 'Targets and profiles' },
  { id: 'names', title: 'Names' },
  { id: 'folders', title: 'Folders' },
  { id: 'recipes', title: 'Recipes' },
] as const;
export type SectionId = (typeof SECTIONS)[number]['id'];
