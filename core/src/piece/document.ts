import * as z from 'zod';
import { vec3Schema, quatSchema } from '../math/schemas.js';
import { sceneNoteSchema } from './scene-note.js';
import { upgradeDocument } from './upgrade-document.js';
import { UNITS, type UnitName } from '../math/index.js';
import { FARTHEST_COORDINATE, meshFactsSchema } from '../solid/index.js';
import { shapeSchema } from '../shape/index.js';
import { NO_PLACING, placingSchema } from './placing.js';
import { pivotSchema } from './pivot.js';
import { PICTURE_SLOTS } from './scene.js';

/** Longest name a person may give. */
export const MAX_NAME_CHARACTERS = 120;
/** Most nodes a piece may have; files with more are refused with a word. */
export const MAX_NODES = 20_000;
/** Longest name a file may carry for a node, mesh or material. */
export const MAX_INNER_NAME_CHARACTERS = 1000;

// eslint-disable-next-line no-control-regex
const CONTROL = /[\u0000-\u001f\u007f-\u009f\u2028\u2029]/;
export const hasControlCharacters = (text: string): boolean => CONTROL.test(text);
/** Something of a text that a person sees: not only spaces, joiners and marks of direction. */
const VISIBLE = /[^\p{White_Space}\p{Default_Ignorable_Code_Point}\p{Cf}\p{Cc}\p{Cs}]/u;
/** Names that file systems keep for devices, with any extension. */
const DEVICE = /^(con|prn|aux|nul|com[0-9]|lpt[0-9])(\..*)?$/i;
const CONTROL_CHARACTERS = 'A name has no control characters; remove them.';
const HALF_CHARACTER = /\p{Surrogate}/u;

export const pieceNameSchema = z
  .string()
  .trim()
  .min(1, 'A piece needs a name.')
  .max(MAX_NAME_CHARACTERS, `A name has at most ${MAX_NAME_CHARACTERS} characters; shorten it.`)
  .refine((name) => !hasControlCharacters(name), CONTROL_CHARACTERS);

/** A name that a person gives now. Stored ones were checked less and stay readable. */
export const givenNameSchema = pieceNameSchema
  .refine((name) => VISIBLE.test(name), 'A name needs a character that can be seen.')
  .refine((name) => !HALF_CHARACTER.test(name), 'A name holds half of a character; type it again.')
  .refine(
    (name) => !DEVICE.test(name),
    'That name is kept for a device by some file systems; choose another.',
  );

/** SHA-256 in hexadecimal: the name of stored bytes. */
export const blobIdSchema = z.string().regex(/^[0-9a-f]{64}$/, 'not a SHA-256 in hexadecimal');
export const innerNameSchema = z
  .string()
  .max(MAX_INNER_NAME_CHARACTERS)
  .refine((name) => !hasControlCharacters(name), CONTROL_CHARACTERS);
const index = z.number().int().nonnegative();
const wrap = z.enum(['repeat', 'clamp', 'mirror']);

export const unitNameSchema = z.enum(Object.keys(UNITS) as [UnitName, ...UnitName[]]);

/** The files as they came, and what their reader said. */
export const sourceSchema = z.object({
  files: z.array(z.object({ name: z.string().min(1).max(255), blob: blobIdSchema, bytes: index })).min(1),
  notes: z.array(sceneNoteSchema),
  leftOut: z.array(z.object({ kind: z.string(), name: z.string() })),
});

export const unitSchema = z.object({
  name: unitNameSchema,
  /** by the format itself */
  stated: z.boolean(),
  /** by the person */
  confirmed: z.boolean(),
});

export const pictureSchema = z.object({
  name: z.string().max(255),
  type: z.enum(['image/png', 'image/jpeg', 'image/webp']),
  blob: blobIdSchema,
  /** pixels; 0 where the picture's own header could not be read */
  width: index.default(0),
  height: index.default(0),
});

const pictureUseSchema = z.object({ picture: index, uvSet: index, wrap: z.tuple([wrap, wrap]) });

export const materialSchema = z.object({
  name: innerNameSchema,
  /** its name in the file, once it was renamed: new art is matched by it */
  cameAs: innerNameSchema.optional(),
  baseColor: quatSchema,
  metalness: z.number(),
  roughness: z.number(),
  emissive: vec3Schema,
  doubleSided: z.boolean(),
  alpha: z.enum(['opaque', 'mask', 'blend']),
  alphaCutoff: z.number(),
  normalScale: z.number(),
  occlusionStrength: z.number(),
  pictures: z.partialRecord(z.enum(PICTURE_SLOTS), pictureUseSchema),
});

const partId = z.string().min(1).max(40);

/** What moves a shape: nothing, an animation, or the physics. */
export const PROXY_ROLES = ['static', 'animated', 'simulated'] as const;

export const proxySchema = z.object({
  id: z.string().min(1).max(40),
  shape: shapeSchema,
  /** the part it belongs to; absent for the piece as a whole */
  part: partId.optional(),
  /** the area whose run made it: running that again replaces it */
  area: z.string().min(1).max(40).optional(),
  /** copies that follow each other: what is done to one is done to all, each in its own place */
  link: z
    .object({
      group: z.string().min(1).max(40),
      /** from where the group's shape is to this one */
      frame: z.object({ mirror: z.boolean(), rotation: quatSchema, position: vec3Schema }),
    })
    .optional(),
  /** what moves it. Absent: as the target has it, which is static */
  role: z.enum(PROXY_ROLES).optional(),
  /** what it feels like to touch, and what it does to what touches it, by the names that the target's rules have */
  surface: innerNameSchema.optional(),
  response: innerNameSchema.optional(),
  /** kilograms a cubic metre, for what is simulated */
  density: z.number().positive().max(100_000).optional(),
  /** metres that it may stand out of the art on purpose: a slope over steps, a wall that nobody sees */
  acceptedExcess: z.number().positive().max(FARTHEST_COORDINATE).optional(),
});
export type Proxy = z.infer<typeof proxySchema>;

/** Most proxies a piece may have. */
export const MAX_PROXIES = 1024;
export const proxiesSchema = z
  .array(proxySchema)
  .max(MAX_PROXIES)
  .refine(
    (proxies) => new Set(proxies.map(({ id }) => id)).size === proxies.length,
    'two shapes have one id',
  );

/** Faces by part, with the mesh they were chosen on; runs of ascending face numbers: first and how many. */
export const facesOfPartsSchema = z.array(
  z.object({ part: partId, mesh: blobIdSchema, runs: z.array(index).max(200_000) }),
);
export type FacesOfParts = z.infer<typeof facesOfPartsSchema>;

/** Chosen faces that are broken up by themselves, for an agent of their own. */
export const areaSchema = z.object({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1).max(MAX_NAME_CHARACTERS),
  faces: facesOfPartsSchema,
  /** id of who collides; null for full detail */
  agent: z.string().nullable(),
  maxShapes: z.number().int().min(1),
  maxVertices: z.number().int().min(4),
  primitives: z.boolean(),
  mayCross: z.boolean(),
});
export type Area = z.infer<typeof areaSchema>;
/** Most areas a piece may have. */
export const MAX_AREAS = 64;

/** A set of shapes beside the one in use. */
export const keptSetSchema = z.object({
  name: z.string().trim().min(1).max(MAX_NAME_CHARACTERS),
  proxies: proxiesSchema,
  /** how it lay to the art when it was kept, metres */
  measured: z
    .object({
      /** see `artKey`, as a hash */
      art: blobIdSchema,
      excess: z.number().nonnegative(),
      uncovered: z.number().nonnegative(),
    })
    .optional(),
});
export type KeptSet = z.infer<typeof keptSetSchema>;
/** Most sets a piece may have beside the one in use. */
export const MAX_SETS = 8;

const coordinate = z.number().min(-FARTHEST_COORDINATE).max(FARTHEST_COORDINATE);
const corner = z.tuple([coordinate, coordinate, coordinate]);
export const boundsSchema = z.object({ min: corner, max: corner });

/** Most clearances a piece may have. */
export const MAX_CLEARANCES = 64;

/** A volume that must stay open, in metres in the piece's space. */
export const clearanceSchema = z.object({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1).max(MAX_NAME_CHARACTERS),
  center: vec3Schema,
  halfExtents: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]),
  rotation: quatSchema,
  /** which of its own axes one passes along */
  through: z.enum(['x', 'z']),
});
export type Clearance = z.infer<typeof clearanceSchema>;

/** Most ridden edges a piece may have, and most bends of one. */
export const MAX_RIDDEN_EDGES = 64;
const MAX_BENDS = 2000;

/** An edge that something slides along or grips: a shape's edge has to lie straight along it. */
export const riddenEdgeSchema = z
  .object({
    id: z.string().min(1).max(40),
    name: z.string().trim().min(1).max(MAX_NAME_CHARACTERS),
    /** see `EdgeLine`, metres in the piece's space */
    line: z.array(corner).min(2).max(MAX_BENDS),
    sides: z.array(z.tuple([vec3Schema, vec3Schema])),
  })
  .refine(({ line, sides }) => sides.length === line.length - 1, 'an edge has two sides for each stretch');
export type RiddenEdge = z.infer<typeof riddenEdgeSchema>;

/** A place in the tree: a part when it has a mesh, a group when it has none. */
export const nodeSchema = z.object({
  /** stays the same for as long as the part lives */
  id: partId,
  name: innerNameSchema,
  /** its name in the file, once it was renamed: new art is matched by it */
  cameAs: innerNameSchema.optional(),
  parent: index.nullable(),
  mesh: blobIdSchema.nullable(),
  translation: vec3Schema,
  rotation: quatSchema,
  scale: vec3Schema,
  /** of its own mesh as it stands in the file's space, in the file's unit; null without a mesh */
  bounds: boundsSchema.nullable(),
  /** set aside: kept, and no part of the art (detail levels, what came by mistake) */
  aside: z.boolean().default(false),
  /** nothing collides with it: it needs no shapes, and is not measured against */
  noCollision: z.literal(true).optional(),
  /** its own pivot; null while it is where the node's origin is */
  pivot: pivotSchema.nullable().default(null),
});
export type PieceNode = z.infer<typeof nodeSchema>;

/** The meshes of a piece by id, with the pack their bytes are in; without one they are stored by their id. */
export const meshTableSchema = z.record(
  blobIdSchema,
  z.object({ name: innerNameSchema, facts: meshFactsSchema, pack: blobIdSchema.optional() }),
);

/**
 * Everything a person decides about one piece, without its geometry. Node transforms and mesh facts
 * are in the file's unit; pivot and proxies are in metres, in the piece's own space.
 */
const documentFields = z.object({
  format: z.literal(2),
  name: pieceNameSchema,
  source: sourceSchema,
  unit: unitSchema,
  nodes: z.array(nodeSchema).max(MAX_NODES),
  meshes: meshTableSchema,
  /** facts of all meshes together, as they stand */
  whole: meshFactsSchema,
  materials: z.array(materialSchema),
  pictures: z.array(pictureSchema),
  /** from the file's space into the piece's, beyond the unit */
  placing: placingSchema.default(NO_PLACING),
  pivot: pivotSchema,
  /** a second pivot, for a turntable: it leaves only where a delivery asks for it */
  presentation: pivotSchema.nullable().default(null),
  /** variants that replace each other in place share a family's name and its pivot */
  family: z.string().trim().min(1).max(MAX_NAME_CHARACTERS).nullable().default(null),
  /** where the piece has what all of its family have, in metres in its space; null while it keeps to its bounds */
  familyFeature: vec3Schema.nullable().default(null),
  clearances: z.array(clearanceSchema).max(MAX_CLEARANCES).default([]),
  riddenEdges: z.array(riddenEdgeSchema).max(MAX_RIDDEN_EDGES).default([]),
  proxies: proxiesSchema,
  sets: z
    .array(keptSetSchema)
    .max(MAX_SETS)
    .refine((sets) => new Set(sets.map(({ name }) => name)).size === sets.length, 'two sets have one name')
    .default([]),
  areas: z.array(areaSchema).max(MAX_AREAS).default([]),
  /** nothing collides with these faces: they need no shapes, and are not measured against */
  noCollision: facesOfPartsSchema.default([]),
  /** id of the agent that the shapes are judged for; null for the yard's usual one */
  agent: z.string().max(40).nullable().default(null),
  /** whether the parts leave as one mesh or each on its own pivot */
  leaves: z.enum(['as-one', 'each-part']).default('as-one'),
  meshName: z.string().max(200),
});

/** A stored document, in today's form. */
export const pieceDocumentSchema = z.preprocess(
  upgradeDocument,
  documentFields.superRefine((document, context) => {
    if (new Set(document.nodes.map((node) => node.id)).size < document.nodes.length)
      context.addIssue({ code: 'custom', path: ['nodes'], message: 'two parts have one id' });
    document.nodes.forEach((node, i) => {
      if (node.parent !== null && node.parent >= i)
        context.addIssue({
          code: 'custom',
          path: ['nodes', i, 'parent'],
          message: 'a parent stands before its children',
        });
      if (node.mesh !== null && !document.meshes[node.mesh])
        context.addIssue({
          code: 'custom',
          path: ['nodes', i, 'mesh'],
          message: 'names a mesh that is not listed',
        });
    });
    document.materials.forEach((material, i) => {
      for (const use of Object.values(material.pictures)) {
        if (use.picture >= document.pictures.length)
          context.addIssue({
            code: 'custom',
            path: ['materials', i, 'pictures'],
            message: 'names a picture that is not listed',
          });
      }
    });
  }),
);

export type PieceDocument = z.infer<typeof pieceDocumentSchema>;

/** Fields that are checked against each other, and so only together. */
const TOGETHER: readonly (keyof PieceDocument)[] = ['nodes', 'meshes', 'materials', 'pictures'];

/**
 * What keeps a document from being read again, as the schema finds it; null when nothing does. Fields that are the
 * very same as in one that is known to be good are not looked at: a rename costs nothing of a tree of thousands.
 */
export function documentFault(document: PieceDocument, good?: PieceDocument): z.core.$ZodIssue | null {
  // What today's documents do not have is not looked at: it is left out when they are read again.
  const changed = (Object.keys(documentFields.shape) as (keyof PieceDocument)[]).filter(
    (field) => document[field] !== good?.[field],
  );
  if (!good || changed.some((field) => TOGETHER.includes(field)))
    return pieceDocumentSchema.safeParse(document).error?.issues[0] ?? null;
  for (const field of changed) {
    const issue = documentFields.shape[field].safeParse(document[field]).error?.issues[0];
    if (issue) return { ...issue, path: [field, ...issue.path] };
  }
  return null;
}

/** Under which name the bytes of each mesh are stored: its pack's, or its own. */
export const blobsOfMeshes = (meshes: PieceDocument['meshes']): string[] => [
  ...new Set(Object.entries(meshes).map(([id, { pack }]) => pack ?? id)),
];

/** Every blob the document names, each once: they are stored before it is. */
export function blobsOf(document: PieceDocument): string[] {
  return [
    ...new Set([
      ...document.source.files.map((file) => file.blob),
      ...blobsOfMeshes(document.meshes),
      ...document.pictures.map((picture) => picture.blob),
    ]),
  ].sort();
}

export const metresPerUnit = (document: Pick<PieceDocument, 'unit'>): number => UNITS[document.unit.name];
