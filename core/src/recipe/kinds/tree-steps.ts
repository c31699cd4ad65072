import * as z from 'zod';
import {
  OPERATION_LABELS,
  type Operation,
  type OperationName,
  operationSchema,
  partSelectorSchema,
} from '../../piece/index.js';
import { matchesWildcards } from '../../piece/wildcards.js';
import type { RecipeWork } from '../recipe-work.js';
import { StepError } from '../step-error.js';
import { type ChosenParts, type StepKind, stepKind } from '../step-kind.js';

/** What the parameters of an operation are not made of: it is done to the parts of its step. */
const OWN_PLACES = ['op', 'parts', 'part', 'parent', 'faces', 'edges', 'except'];

const optionOf = (op: OperationName): z.ZodObject =>
  operationSchema.options.find((option) => option.shape.op.value === op) as unknown as z.ZodObject;

/** The operation's own parameters, without those that name things by their ids. */
function parametersOf(op: OperationName): z.ZodObject {
  const { shape } = optionOf(op);
  return z.strictObject(
    Object.fromEntries(Object.entries(shape).filter(([key]) => !OWN_PLACES.includes(key))),
  );
}

const labelOf = (op: OperationName): string =>
  OPERATION_LABELS[op][0]!.toUpperCase() + OPERATION_LABELS[op].slice(1);

/** A piece that has nothing of it to mend is as good as one that was mended. */
const MENDS: readonly OperationName[] = [
  'weld',
  'fill-holes',
  'join-borders',
  'remove-faces',
  'face-outward',
  'reduce',
  'split-shells',
  'split-materials',
  'remove-uvs',
];

/** An operation that does the same to all parts together. */
const onParts = (op: OperationName): StepKind =>
  stepKind({
    label: labelOf(op),
    parts: true,
    ...(MENDS.includes(op) ? { otherwise: 'skip' as const } : {}),
    parameters: parametersOf(op),
    run: (work, parameters, parts) => work.operate(operationOf(op, parameters, parts)),
  });

/** Every part means the same as none named, for operations that take them so. */
const operationOf = (op: OperationName, parameters: object, { all, ids }: ChosenParts): Operation =>
  operationSchema.parse({ op, ...parameters, parts: all ? [] : ids });

/** As `onParts`, for those that ask for names of parts. */
const onNamedParts = (op: OperationName): StepKind =>
  stepKind({
    label: labelOf(op),
    parts: true,
    parameters: parametersOf(op),
    run: (work, parameters, { ids }) => work.operate(operationOf(op, parameters, { all: false, ids })),
  });

const ON_PARTS = [
  'weld',
  'fill-holes',
  'join-borders',
  'remove-faces',
  'face-outward',
  'flip',
  'vertices',
  'normals',
  'mark-edges',
  'reduce',
  'split-shells',
  'split-materials',
  'split-plane',
  'trim',
  'move',
  'mirror',
  'repeat',
  'bend',
  'stretch',
  'lay-along',
  'project-uvs',
  'uv-density',
  'unwrap',
  'remove-uvs',
] as const satisfies readonly OperationName[];

const ON_NAMED_PARTS = ['delete', 'duplicate', 'combine', 'set-aside', 'group'] as const;

const pattern = z.string().min(1).max(200);

/** Numbers of the materials that a pattern means. @throws StepError when it means none */
function materialsLike({ document }: RecipeWork, patterns: readonly string[]): number[] {
  const found = document.materials.flatMap(({ name }, i) =>
    patterns.some((each) => matchesWildcards(name, each)) ? [i] : [],
  );
  if (found.length) return found;
  throw new StepError(`The piece has no material like “${patterns.join('”, “')}”.`);
}

/** The number of the material of a name, made where there is none. */
async function materialNamed(work: RecipeWork, name: string): Promise<number> {
  const at = () => work.document.materials.findIndex((each) => each.name === name);
  if (at() < 0) await work.operate({ op: 'add-material', name });
  return at();
}

const bake = stepKind({
  label: 'Bake transforms',
  parts: true,
  parameters: z.strictObject({
    ...parametersOf('bake').shape,
    /** names of parts that keep their transforms, or a selector */
    except: z.union([z.array(z.string()), partSelectorSchema]).optional(),
    keepPosition: z.boolean().default(false),
    keepRotation: z.boolean().default(false),
  }),
  run(work, { except, keepPosition, keepRotation }, { all, ids }) {
    const left =
      except === undefined ? [] : work.select(Array.isArray(except) ? { by: 'name', names: except } : except);
    return work.operate({
      op: 'bake',
      parts: all ? [] : [...ids],
      ...(left.length ? { except: left } : {}),
      keepPosition,
      keepRotation,
    });
  },
});

const reparent = stepKind({
  label: 'Reparent',
  parts: true,
  parameters: z.strictObject({ parent: z.string().max(1000).nullable() }),
  async run(work, { parent }, { ids }) {
    const [under] = parent === null ? [null] : work.select({ by: 'name', names: [parent] });
    if (under === undefined) throw new StepError(`The piece has no part or group “${parent}”.`);
    const says: string[] = [];
    for (const part of ids)
      if (part !== under) says.push(await work.operate({ op: 'reparent', part, parent: under }));
    return says.join(' ');
  },
});

const mergeMaterials = stepKind({
  label: 'Merge materials',
  parts: false,
  parameters: z.strictObject({ from: z.array(pattern).min(1).max(100), to: z.string().min(1).max(255) }),
  async run(work, { from, to }) {
    const found = materialsLike(work, from).map((i) => work.document.materials[i]!.name);
    const others = new Set(found.filter((name) => name !== to));
    if (!others.size) return `All of it is “${to}” already.`;
    const into = await materialNamed(work, to);
    const numbers = work.document.materials.flatMap(({ name }, i) =>
      others.has(name) && i !== into ? [i] : [],
    );
    return work.operate({ op: 'merge-materials', from: numbers, to: into });
  },
});

const assignMaterial = stepKind({
  label: 'Assign material',
  parts: true,
  parameters: z.strictObject({ material: z.string().min(1).max(255) }),
  async run(work, { material }, { ids }) {
    return work.operate({
      op: 'assign-material',
      material: await materialNamed(work, material),
      parts: [...ids],
    });
  },
});

const addMaterial = stepKind({
  label: 'Add material',
  parts: false,
  parameters: z.strictObject({ name: z.string().min(1).max(255) }),
  run: (work, { name }) => work.operate({ op: 'add-material', name }),
});

const removeMaterials = stepKind({
  label: 'Remove materials that nothing uses',
  parts: false,
  otherwise: 'skip',
  parameters: z.strictObject({ materials: z.array(pattern).min(1).max(100).default(['*']) }),
  run(work, { materials }) {
    const used = new Set(
      work.document.nodes.flatMap(({ mesh }) =>
        mesh === null
          ? []
          : work.meshOf(mesh).groups.flatMap(({ material, count }) => (count ? [material] : [])),
      ),
    );
    const unused = materialsLike(work, materials).filter((i) => !used.has(i));
    if (!unused.length) return 'Every one of those materials is used.';
    return work.operate({ op: 'remove-materials', materials: unused });
  },
});

/** Operations on the tree and its meshes. */
export const TREE_STEPS: Readonly<Record<string, StepKind>> = {
  ...Object.fromEntries(ON_PARTS.map((op) => [op, onParts(op)])),
  ...Object.fromEntries(ON_NAMED_PARTS.map((op) => [op, onNamedParts(op)])),
  reparent,
  'merge-materials': mergeMaterials,
  'assign-material': assignMaterial,
  'add-material': addMaterial,
  'remove-materials': removeMaterials,
  bake,
};
