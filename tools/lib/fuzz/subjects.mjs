import { readFileSync } from 'node:fs';
import * as contract from '@yard-brace/contract';
import * as core from '@yard-brace/core';
import { samplePieces, takenPieces } from '@yard-brace/demo';
import * as z from 'zod';
import { inHouse } from '../house.mjs';
import { oneOf } from './random.mjs';
import { MAX_BYTES, spoiled } from './spoil-bytes.mjs';
import { spoiledValue } from './spoil-value.mjs';
import { valueOfSchema } from './value-of-schema.mjs';

const EXTENSIONS = ['obj', 'mtl', 'glb', 'gltf', 'dae', 'stl', 'ply'];
/** Sample pieces that are delivered to be spoiled: small, with parts, shapes and pictures among them. */
const DELIVERED = 4;
const DELIVERED_TRIANGLES = 4000;
/** Of what a schema makes up, so much is spoiled as well. */
const SPOILED = 0.5;

/**
 * What is fuzzed: a name, and what makes the next spoiled thing up as a task of `thread.mjs`, the same for the same numbers.
 *
 * @typedef {{ name: string, next: (next: () => number) => { label: string, task: object } }} Subject
 */

/** Every kind of subject by its name. */
export const KINDS = { readers: readerSubjects, 'read-back': readBackSubjects, schemas: schemaSubjects };

/** The sample yard's files, in every format that they come in. */
async function readerSubjects() {
  const good = new Map();
  for (const { files } of await samplePieces()) {
    const [main, ...beside] = files;
    for (const file of files) {
      const extension = /\.([^.]+)$/.exec(file.name)?.[1].toLowerCase();
      if (!EXTENSIONS.includes(extension) || file.bytes.length > MAX_BYTES) continue;
      good.set(extension, [...(good.get(extension) ?? []), { spoil: file, main, beside }]);
    }
  }
  return EXTENSIONS.filter((extension) => good.has(extension)).map((name) => ({
    name,
    next(next) {
      const { spoil, main, beside } = oneOf(good.get(name), next);
      const bytes = spoiled(spoil.bytes, next);
      const { name: file, bytes: mainBytes } = spoil === main ? { ...main, bytes } : main;
      const others = beside.map((each) => (each === spoil ? { ...each, bytes } : each));
      return { label: spoil.name, task: { kind: 'file', name: file, bytes: mainBytes, beside: others } };
    },
  }));
}

/** Deliveries of small sample pieces, for every target in every container. */
async function readBackSubjects() {
  const pieces = [];
  for await (const { document, blobs } of takenPieces()) {
    const triangles = Object.values(document.meshes).reduce((all, { facts }) => all + facts.triangles, 0);
    if (triangles <= DELIVERED_TRIANGLES && pieces.length < DELIVERED) pieces.push({ document, blobs });
  }
  const subjects = [];
  for (const profile of core.PROFILES)
    for (const container of profile.containers) {
      const good = [];
      for (const { document, blobs } of pieces) {
        const meshOf = core.meshReader(blobs);
        const sources = { meshOf, pictureOf: (id) => blobs.get(id) };
        let named = document;
        for (const { edit } of core.nameFaultsOf(core.planDelivery(named, profile, { container })).fixes)
          named = core.applyEdit(named, edit);
        const plan = await core.planToDeliver(named, profile, { container });
        good.push({
          files: await core.writePlan(plan, sources),
          expected: core.expectationOfPlan(plan, meshOf),
        });
      }
      subjects.push({
        name: `${profile.id} .${container}`,
        next(next) {
          const { files, expected } = oneOf(good, next);
          const spoil = oneOf(files, next);
          const changed = files.map((file) =>
            file === spoil ? { ...file, bytes: spoiled(file.bytes, next) } : file,
          );
          return {
            label: spoil.name,
            task: { kind: 'read-back', files: changed, expected, target: profile.id },
          };
        },
      });
    }
  return subjects;
}

/** Every schema of what is stored, sent and read, by what it describes; the larger ones by true documents as well. */
async function schemaSubjects() {
  const documents = await trueDocuments();
  const subjects = [];
  for (const [where, schemas] of Object.entries({ core, contract }))
    for (const [name, schema] of Object.entries(schemas)) {
      if (!(schema instanceof z.ZodType)) continue;
      const described = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
      const good = documents[name] ?? [];
      subjects.push({
        name,
        next(next) {
          const made = good.length && next() < 0.7 ? oneOf(good, next) : valueOfSchema(described, next);
          const value = next() < SPOILED || good.includes(made) ? spoiledValue(made, next) : made;
          return { label: JSON.stringify(value)?.slice(0, 300), task: { kind: 'value', where, name, value } };
        },
      });
    }
  return subjects;
}

/** Documents as they are stored and sent, by the name of their schema. */
async function trueDocuments() {
  const histories = [];
  for await (const { document } of takenPieces()) histories.push(core.startHistory(document));
  const small = histories.filter((history) => JSON.stringify(history).length < 60_000);
  const recipes = jsonIn(readFileSync(inHouse('docs/recipes.md'), 'utf8'));
  const rules = core.FIRST_RULES;
  return {
    historySchema: small,
    pieceDocumentSchema: small.map(({ base }) => base),
    yardRulesSchema: [rules],
    targetProfileSchema: core.PROFILES,
    recipeSchema: recipes,
    recipeStepSchema: recipes.flatMap(({ steps }) => steps),
    newPieceSchema: small.map((history) => ({ history })),
    saveHistorySchema: small.map((history) => ({ version: 1, history })),
    takeApartSchema: small.map((history) => ({ version: 1, pieces: [{ history }], remove: false })),
    saveRulesSchema: [{ version: 1, rules }],
    tryRulesSchema: [{ rules }],
    newJobSchema: recipes.map((recipe) => ({ recipe, pieces: [1, 2] })),
  };
}

/** The blocks of a page that hold JSON. */
const jsonIn = (page) => [...page.matchAll(/```json\n([^]*?)```/g)].map(([, text]) => JSON.parse(text));
