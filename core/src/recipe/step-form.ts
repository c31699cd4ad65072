import * as z from 'zod';
import { stepKindOf } from './step-kinds.js';

/** One parameter of a step, as a form asks for it. */
export interface StepField {
  name: string;
  label: string;
  /** json: a list or a value of several numbers, typed as text */
  as: 'number' | 'text' | 'choice' | 'flag' | 'json';
  unit: string;
  options: readonly unknown[];
  required: boolean;
  default: unknown;
}

/** What parameters are called, and the unit of those that are measured. */
const WORDS: Readonly<Record<string, readonly [label: string, unit?: string]>> = {
  about: ['Centre'],
  agent: ['Agent'],
  agents: ['Agents'],
  alone: ['Without what is below'],
  anchor: ['Anchor'],
  as: ['As'],
  asOne: ['As one part'],
  aside: ['Set aside'],
  axes: ['Axes'],
  axis: ['Axis'],
  bores: ['Leave bores open'],
  by: ['By'],
  cell: ['Point of the bounds'],
  close: ['Close the cut'],
  collides: ['Collides'],
  container: ['Format'],
  copy: ['Keep the original'],
  count: ['Count'],
  degrees: ['Angle', '°'],
  density: ['Density', 'kg/m³'],
  divisions: ['Divisions'],
  ends: ['Walls at the ends'],
  except: ['All but'],
  factor: ['Factor'],
  files: ['Files'],
  from: ['From'],
  height: ['Height', 'm'],
  held: ['End that stays'],
  hinges: ['Hinges too'],
  keepPosition: ['Keep positions'],
  keepRotation: ['Keep rotations'],
  kind: ['Kind'],
  line: ['Line'],
  list: ['Names of'],
  longest: ['Borders up to', 'm'],
  material: ['Material'],
  materials: ['Materials'],
  maxExcessMetres: ['Excess at most', 'm'],
  maxRounds: ['Rounds at most'],
  maxShapes: ['Shapes at most'],
  maxUncoveredMetres: ['Uncovered at most', 'm'],
  maxVertices: ['Corners of a hull at most'],
  mayCross: ['Shapes may overlap'],
  metres: ['Distance', 'm'],
  metresPerPicture: ['Width of a picture', 'm'],
  module: ['Module'],
  name: ['Name'],
  normal: ['Normal'],
  paddingTexels: ['Padding', 'px'],
  parent: ['Parent'],
  pattern: ['Pattern'],
  per: ['One for each'],
  perMetre: ['Pictures a metre'],
  pictures: ['Pictures'],
  plane: ['Plane'],
  point: ['Point'],
  primitives: ['Prefer primitives'],
  replaces: ['Replaces'],
  response: ['Response'],
  role: ['Role'],
  rule: ['Rule'],
  scale: ['Scale'],
  set: ['UV set'],
  severity: ['Stops at'],
  shapes: ['Shapes'],
  share: ['Share that is kept'],
  side: ['Side'],
  sides: ['Sides'],
  sill: ['With a sill'],
  smallest: ['Shells of at least', 'm'],
  step: ['Step'],
  surface: ['Surface'],
  target: ['Target'],
  texelsPerMetre: ['Texels a metre'],
  thickness: ['Thickness', 'm'],
  to: ['To'],
  tolerance: ['Tolerance', 'm'],
  turn: ['Turn'],
  unit: ['Unit'],
  variant: ['Variant'],
  where: ['Edges'],
  which: ['Which'],
  width: ['Width', 'm'],
  withinBudget: ['Within the budget'],
};

interface JsonSchema {
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  anyOf?: JsonSchema[];
  properties?: Record<string, JsonSchema>;
  required?: string[];
  default?: unknown;
}

/** What a form asks for a step: read off the very schema that its parameters are checked by. */
export function stepFields(op: string): StepField[] {
  const kind = stepKindOf(op);
  if (!kind) return [];
  const { properties = {}, required = [] } = z.toJSONSchema(kind.parameters, {
    io: 'input',
    unrepresentable: 'any',
  }) as JsonSchema;
  return Object.entries(properties).map(([name, schema]) => {
    const [label = name, unit = ''] = WORDS[name] ?? [];
    return {
      name,
      label,
      unit,
      ...formOf(schema),
      required: required.includes(name),
      default: schema.default,
    };
  });
}

function formOf(schema: JsonSchema): Pick<StepField, 'as' | 'options'> {
  const { type, enum: values, anyOf } = schema;
  if (values) return { as: 'choice', options: values };
  if (type === 'boolean') return { as: 'flag', options: [] };
  if (type === 'number' || type === 'integer') return { as: 'number', options: [] };
  if (type === 'string') return { as: 'text', options: [] };
  const some = anyOf?.filter((each) => each.type !== 'null') ?? [];
  if (some.length && some.every((each) => each.const !== undefined))
    return { as: 'choice', options: some.map((each) => each.const) };
  if (some.length === 1) return formOf(some[0]!);
  return { as: 'json', options: [] };
}

/** What a typed text stands for: a number or JSON where it is some, or the text itself; nothing for an empty one. */
export function typedValue(text: string): unknown {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  try {
    return JSON.parse(trimmed);
  } catch {
    return trimmed;
  }
}

/** Parameters that a new step begins with: what has to be given, with something that can be read. */
export function firstParameters(op: string): Record<string, unknown> {
  return Object.fromEntries(
    stepFields(op)
      .filter((field) => field.required)
      .map((field) => [field.name, firstValue(field)]),
  );
}

function firstValue({ as, options, name }: StepField): unknown {
  if (as === 'choice') return options[0];
  if (as === 'flag') return false;
  if (as === 'number') return FIRST_NUMBERS[name] ?? 1;
  if (as === 'json') return FIRST_LISTS[name] ?? null;
  return name in FIRST_TEXTS ? FIRST_TEXTS[name] : 'name';
}

const FIRST_NUMBERS: Readonly<Record<string, number>> = {
  count: 2,
  metres: 0.0002,
  degrees: 30,
  smallest: 0.05,
  thickness: 0.1,
  width: 0.1,
  texelsPerMetre: 64,
  paddingTexels: 2,
  set: 0,
  share: 0.5,
  sides: 12,
};
const FIRST_TEXTS: Readonly<Record<string, string | null>> = {
  agent: null,
  pattern: '{subject:pascal}_{number:2}',
  target: 'prefix-tags',
};
const FIRST_LISTS: Readonly<Record<string, unknown>> = {
  which: ['doubled', 'zero-area', 'unused'],
  from: ['*'],
  count: null,
  tolerance: null,
  thickness: null,
  normal: [0, 1, 0],
  point: [0, 0, 0],
  plane: { point: [0, 0, 0], normal: [1, 0, 0] },
  by: [0, 0, 0],
  turn: [0, 0, 0, 1],
  about: [0, 0, 0],
  step: [1, 0, 0],
  module: { origin: [0, 0, 0], along: [1, 0, 0], from: 0, to: 1 },
  line: [
    [0, 0, 0],
    [1, 0, 0],
  ],
};
