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

const EXTENSIONS = [...core.MESH_EXTENSIONS, 'mtl', 'bin'];
/** Good files are small where there are such: more of them are tried in the same time. */
const SMALL_BYTES = 1 << 18;
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
export const KINDS = {
  readers: readerSubjects,
  stored: storedSubjects,
  'read-back': readBackSubjects,
  schemas: schemaSubjects,
};

/** The sample yard's files as they come, and its small pieces as they leave for a target, in every format. */
async function readerSubjects() {
  const good = new Map();
  const take = ([main, ...beside]) => {
    for (const spoil of [main, ...beside]) {
      const extension = core.extensionOf(spoil.name);
      if (!EXTENSIONS.includes(extension) || spoil.bytes.length > MAX_BYTES) continue;
      good.set(extension, [...(good.get(extension) ?? []), { spoil, main, beside }]);
    }
  };
  for (const { files } of await samplePieces()) take(files);
  const pieces = await smallPieces();
  for (const { profile, container } of inEveryContainer())
    for (const { files } of await deliveriesOf(pieces, profile, container))
      take([
        files.find(({ name }) => core.extensionOf(name) === container),
        ...files.filter(({ name }) => core.isBesideFile(name)),
      ]);
  return [...good].map(([name, all]) => {
    const small = all.filter(({ main }) => main.bytes.length <= SMALL_BYTES);
    return {
      name,
      next(next) {
        const { spoil, main, beside } = oneOf(small.length ? small : all, next);
        const bytes = spoiled(spoil.bytes, next);
        const { name: file, bytes: mainBytes } = spoil === main ? { ...main, bytes } : main;
        const others = beside.map((each) => (each === spoil ? { ...each, bytes } : each));
        return { label: spoil.name, task: { kind: 'file', name: file, bytes: mainBytes, beside: others } };
      },
    };
  });
}

/** Meshes and packs of them as pages send them, manifests beside deliveries, and archives of yards. */
async function storedSubjects() {
  const meshes = [];
  const manifests = [];
  for (const { document, blobs, sources } of await smallPieces()) {
    for (const id of core.blobsOfMeshes(document.meshes)) {
      // Pieces of many parts are stored as packs.
      const bytes = blobs.get(id);
      meshes.push(...(core.unpackMeshes(bytes)?.values() ?? [bytes]));
    }
    const plan = await core.planToDeliver(document, core.PROFILES[0], {});
    const files = await core.writePlan(plan, sources);
    manifests.push(files.find(({ name }) => core.isManifestFile(name)).bytes);
  }
  const packs = [core.packMeshes(new Map(meshes.slice(0, 4).map((bytes) => [core.blobId(bytes), bytes])))];
  const bytesOf = (name, task, good) => ({
    name,
    next(next) {
      const bytes = spoiled(oneOf(good, next), next);
      return { label: `${bytes.length} bytes`, task: { kind: task, bytes } };
    },
  });
  return [
    bytesOf('mesh', 'mesh', meshes),
    bytesOf('pack', 'mesh', packs),
    bytesOf('manifest', 'manifest', manifests),
    await archiveSubject(bytesOf),
  ];
}

/** A yard of one crate as a file, taken into a database of its own. */
async function archiveSubject(bytesOf) {
  const { benchApp } = await import('../bench-app.mjs');
  const { cratePiece } = await import(inHouse('server/dist/testing/sample-piece.js'));
  const app = await benchApp();
  const yard = (await app.ask('POST', '/api/yards', { name: 'Kept in a file' })).json.id;
  const { history, blobs } = cratePiece();
  for (const [id, bytes] of blobs) await app.ask('PUT', `/api/blobs/${id}`, bytes);
  await app.ask('POST', `/api/yards/${yard}/pieces`, { history });
  const answer = await fetch(`${app.address}/api/yards/${yard}/archive`);
  const archive = new Uint8Array(await answer.arrayBuffer());
  return { ...bytesOf('archive', 'archive', [archive]), address: app.address, close: app.close };
}

/** Deliveries of small sample pieces, for every target in every container. */
async function readBackSubjects() {
  const pieces = await smallPieces();
  const subjects = [];
  for (const profile of core.PROFILES)
    for (const container of profile.containers) {
      const good = await deliveriesOf(pieces, profile, container);
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

/** Each container once, with the first target that takes it. */
const inEveryContainer = () =>
  [...new Set(core.PROFILES.flatMap(({ containers }) => containers))].map((container) => ({
    container,
    profile: core.PROFILES.find(({ containers }) => containers.includes(container)),
  }));

/** Pieces as files for a target, with what its read-back should find. */
async function deliveriesOf(pieces, profile, container) {
  const deliveries = [];
  for (const { document, sources } of pieces) {
    let named = document;
    for (const { edit } of core.nameFaultsOf(core.planDelivery(named, profile, { container })).fixes)
      named = core.applyEdit(named, edit);
    const plan = await core.planToDeliver(named, profile, { container });
    deliveries.push({
      files: await core.writePlan(plan, sources),
      expected: core.expectationOfPlan(plan, sources.meshOf),
    });
  }
  return deliveries;
}

async function smallPieces() {
  const pieces = [];
  for await (const { document, blobs } of takenPieces()) {
    const triangles = Object.values(document.meshes).reduce((all, { facts }) => all + facts.triangles, 0);
    if (triangles > DELIVERED_TRIANGLES) continue;
    const sources = { meshOf: core.meshReader(blobs), pictureOf: (id) => blobs.get(id) };
    pieces.push({ document, blobs, sources });
    if (pieces.length === DELIVERED) break;
  }
  return pieces;
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
  const savedAt = '2026-11-01T00:00:00.000Z';
  const ofYard = { id: 1, name: 'Yard', rules, rulesVersion: 1 };
  const yard = { ...ofYard, pieces: 1, changedAt: savedAt };
  return {
    yardSchema: [yard],
    yardListSchema: [[yard]],
    yardWithPiecesSchema: [{ ...yard, shelf: [], more: 0, changed: 1 }],
    shelfChangesSchema: [{ yard, pieces: [], gone: [1], changed: 2, more: false }],
    yardRulesStateSchema: [{ version: 1, rules, canUndo: true }],
    openSetOutSchema: [
      { id: 1, yard: ofYard, version: 1, savedAt, history: core.startSetOut(core.emptySetOut('Quay')) },
    ],
    pieceSchema: small.map((history) => ({
      id: 1,
      yard: ofYard,
      version: 1,
      savedAt,
      history,
      picture: null,
      lastDeliveries: [],
      otherMeshNames: [],
      family: null,
      measured: null,
    })),
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
