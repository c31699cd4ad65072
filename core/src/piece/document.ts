import * as z from 'zod';
import { UNITS, type UnitName } from '../math/index.js';
import { meshFactsSchema } from '../mesh/index.js';
import { shapeSchema } from '../shape/index.js';
import { PICTURE_SLOTS } from './scene.js';

/** Longest name a person may give. */
export const LONGEST_NAME = 120;
/** Longest name a file may carry for a node, mesh or material. */
export const LONGEST_INNER_NAME = 1000;

// eslint-disable-next-line no-control-regex
const CONTROL = /[\u0000-\u001f\u007f-\u009f\u2028\u2029]/;
export const hasControlCharacters = (text: string): boolean => CONTROL.test(text);

export const pieceNameSchema = z
  .string()
  .trim()
  .min(1, 'A piece needs a name.')
  .max(LONGEST_NAME, `A name has at most ${LONGEST_NAME} characters; shorten it.`)
  .refine((name) => !hasControlCharacters(name), 'A name has no control characters; remove them.');

/** SHA-256 in hexadecimal: the name of stored bytes. */
export const blobIdSchema = z.string().regex(/^[0-9a-f]{64}$/, 'not a SHA-256 in hexadecimal');
const innerName = z
  .string()
  .max(LONGEST_INNER_NAME)
  .refine((name) => !hasControlCharacters(name));
const vec3 = z.tuple([z.number(), z.number(), z.number()]);
const quat = z.tuple([z.number(), z.number(), z.number(), z.number()]);
const index = z.number().int().nonnegative();
const wrap = z.enum(['repeat', 'clamp', 'mirror']);

export const unitNameSchema = z.enum(Object.keys(UNITS) as [UnitName, ...UnitName[]]);

const pictureUseSchema = z.object({ picture: index, uvSet: index, wrap: z.tuple([wrap, wrap]) });

export const materialSchema = z.object({
  name: innerName,
  baseColor: quat,
  metalness: z.number(),
  roughness: z.number(),
  emissive: vec3,
  doubleSided: z.boolean(),
  alpha: z.enum(['opaque', 'mask', 'blend']),
  alphaCutoff: z.number(),
  normalScale: z.number(),
  occlusionStrength: z.number(),
  pictures: z.partialRecord(z.enum(PICTURE_SLOTS), pictureUseSchema),
});

export const pivotAnchorSchema = z.enum(['as-it-came', 'base-centre', 'centre', 'origin', 'numeric']);
export type PivotAnchor = z.infer<typeof pivotAnchorSchema>;

export const proxySchema = z.object({ id: z.string().min(1).max(40), shape: shapeSchema });
export type Proxy = z.infer<typeof proxySchema>;

const nodeSchema = z.object({
  name: innerName,
  parent: index.nullable(),
  mesh: blobIdSchema.nullable(),
  translation: vec3,
  rotation: quat,
  scale: vec3,
});
export type PieceNode = z.infer<typeof nodeSchema>;

/**
 * Everything a person decides about one piece, without its geometry. Node transforms and mesh facts
 * are in the file's unit; pivot and proxies are in metres, in the piece's own space.
 */
export const pieceDocumentSchema = z
  .object({
    format: z.literal(1),
    name: pieceNameSchema,
    source: z.object({
      files: z.array(z.object({ name: z.string().min(1).max(255), blob: blobIdSchema, bytes: index })).min(1),
      notes: z.array(z.string()),
      leftOut: z.array(z.object({ kind: z.string(), name: z.string() })),
    }),
    unit: z.object({
      name: unitNameSchema,
      /** by the format itself */
      stated: z.boolean(),
      /** by the person */
      confirmed: z.boolean(),
    }),
    nodes: z.array(nodeSchema),
    meshes: z.record(blobIdSchema, z.object({ name: innerName, facts: meshFactsSchema })),
    /** facts of all meshes together, as they stand */
    whole: meshFactsSchema,
    materials: z.array(materialSchema),
    pictures: z.array(
      z.object({
        name: z.string().max(255),
        type: z.enum(['image/png', 'image/jpeg', 'image/webp']),
        blob: blobIdSchema,
      }),
    ),
    pivot: z.object({ anchor: pivotAnchorSchema, position: vec3 }),
    proxies: z.array(proxySchema).max(1024),
    meshName: z.string().max(200),
    target: z.string().max(60),
  })
  .superRefine((document, context) => {
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
  });

export type PieceDocument = z.infer<typeof pieceDocumentSchema>;

/** Every blob the document names, each once: they are stored before it is. */
export function blobsOf(document: PieceDocument): string[] {
  return [
    ...new Set([
      ...document.source.files.map((file) => file.blob),
      ...Object.keys(document.meshes),
      ...document.pictures.map((picture) => picture.blob),
    ]),
  ].sort();
}

export const metresPerUnit = (document: PieceDocument): number => UNITS[document.unit.name];
