import * as z from 'zod';
import {
  blobId,
  clearanceSchema,
  hingeSchema,
  issueSentence,
  partBounds,
  placedMatrices,
  PROXY_ROLES,
} from '../piece/index.js';
import { quatSchema, vec3Schema } from '../math/schemas.js';
import { SHAPE_KINDS, shapeVolume } from '../shape/index.js';
import type { Plan } from './plan.js';
import { CONTAINERS } from './profile.js';

/** The version of manifests that are written today. */
export const MANIFEST_VERSION = 3;

const name = z.string().max(1000);
const kind = z.enum(SHAPE_KINDS);

/**
 * What a delivery remembers: where everything sat before it was moved to its pivot, what hung below what, and what
 * shapes were before they became what the target takes. Metres, Y up, right-handed. A mesh comes back to its place by
 * its `rotation` quaternion and then its `position`.
 */
export const manifestSchema = z.object({
  manifest: z.literal(MANIFEST_VERSION),
  target: z.string().max(60),
  piece: name,
  mesh: name,
  code: name.optional(),
  note: z.string().max(2000).optional(),
  space: z.object({ unit: z.literal('m'), up: z.literal('y'), handedness: z.literal('right') }),
  container: z.enum(CONTAINERS),
  files: z.array(z.object({ name, bytes: z.number().int().nonnegative(), sha256: z.string().length(64) })),
  pivot: z.object({ anchor: z.string(), position: vec3Schema, rotation: quatSchema }),
  family: name.nullable(),
  meshes: z.array(
    z.object({
      name,
      /** the model that holds it */
      file: name,
      /** names of the parts that are in it */
      parts: z.array(name),
      position: vec3Schema,
      rotation: quatSchema,
      pivot: z.string(),
      hinge: hingeSchema.optional(),
    }),
  ),
  proxies: z.array(
    z.object({
      name,
      owner: name,
      kind,
      drawnAs: kind.optional(),
      cubicMetres: z.number(),
      role: z.enum(PROXY_ROLES).optional(),
      surface: name.optional(),
      response: name.optional(),
      kilogramsPerCubicMetre: z.number().optional(),
    }),
  ),
  clearances: z.array(clearanceSchema.omit({ id: true })),
  hierarchy: z.array(
    z.object({
      name,
      parent: z.number().int().nullable(),
      mesh: name.nullable(),
      aside: z.boolean(),
      world: z.array(z.number()).length(16),
      /** of what has faces, in the piece; manifests of before have none */
      box: z.object({ min: vec3Schema, max: vec3Schema }).optional(),
    }),
  ),
  source: z.array(z.object({ name, sha256: z.string().length(64) })),
});
export type Manifest = z.infer<typeof manifestSchema>;

/** Whether a file is the manifest of a delivery by its name. */
export const isManifestFile = (name: string): boolean => name.toLowerCase().endsWith('.manifest.json');

/** A text that is no manifest, with a sentence that names the file. */
export class ManifestError extends Error {
  override readonly name = 'ManifestError';
}

/** The manifest that a file holds. @throws ManifestError */
export function readManifest(file: string, text: string): Manifest {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new ManifestError(`${file} is no JSON; name the manifest of a delivery.`);
  }
  const version = (value as { manifest?: unknown } | null)?.manifest;
  if (typeof version === 'number' && version > MANIFEST_VERSION)
    throw new ManifestError(
      `${file} is a manifest of version ${version}, and this program knows ${MANIFEST_VERSION}; use a newer one.`,
    );
  const read = manifestSchema.safeParse(value);
  if (read.success) return read.data;
  throw new ManifestError(`${file} is no manifest of a delivery: ${issueSentence(read.error.issues[0]!)}`);
}

/** The manifest of a plan and the files that it became. */
export function manifestOf(
  { document, profile, files, choices, code, note }: Plan,
  written: readonly { name: string; bytes: Uint8Array }[],
): Manifest {
  const world = placedMatrices(document);
  const { anchor, position, rotation } = document.pivot;
  return {
    manifest: MANIFEST_VERSION,
    target: profile.id,
    piece: document.name,
    mesh: document.meshName,
    ...(code === null ? {} : { code }),
    ...(note === null ? {} : { note }),
    space: { unit: 'm', up: 'y', handedness: 'right' },
    container: choices.container,
    files: written.map(({ name, bytes }) => ({ name, bytes: bytes.length, sha256: blobId(bytes) })),
    pivot: { anchor, position, rotation },
    family: document.family,
    meshes: files.flatMap(({ stem, nodes }) =>
      nodes
        .filter(({ parts }) => parts.length)
        .map(({ name, parts, pivot }) => ({
          name,
          file: `${stem}.${choices.container}`,
          parts: parts.map((part) => document.nodes[part]!.name),
          position: pivot.position,
          rotation: pivot.rotation,
          pivot: pivot.anchor,
          ...(pivot.hinge ? { hinge: pivot.hinge } : {}),
        })),
    ),
    proxies: files.flatMap(({ nodes }) =>
      nodes.flatMap(({ name: owner, shapes }) =>
        shapes.map(({ name, kind, drawn, proxy }) => ({
          name,
          owner,
          kind,
          ...(kind === drawn.kind ? {} : { drawnAs: drawn.kind }),
          cubicMetres: shapeVolume(drawn),
          ...(proxy.role === undefined ? {} : { role: proxy.role }),
          ...(proxy.surface === undefined ? {} : { surface: proxy.surface }),
          ...(proxy.response === undefined ? {} : { response: proxy.response }),
          ...(proxy.density === undefined ? {} : { kilogramsPerCubicMetre: proxy.density }),
        })),
      ),
    ),
    clearances: document.clearances.map(({ id: _id, ...clearance }) => clearance),
    hierarchy: document.nodes.map((node, i) => ({
      name: node.name,
      parent: node.parent,
      mesh: node.mesh === null ? null : document.meshes[node.mesh]!.name,
      aside: node.aside,
      world: [...world[i]!],
      ...(node.mesh === null || !node.bounds ? {} : { box: partBounds(document, i) }),
    })),
    source: document.source.files.map(({ name, blob }) => ({ name, sha256: blob })),
  };
}
