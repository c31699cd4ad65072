import { routes } from '@yard-brace/contract';
import {
  artMesh,
  BlobHasher,
  decodeMesh,
  featureEdges,
  centreOf,
  FormatError,
  type InputFile,
  type Mesh,
  meshBounds,
  meshNameFrom,
  type PieceDocument,
  PREFIX_TAGS,
  readFile,
  takeIn,
  wrap,
} from '@yard-brace/core';
import { expose, transfer } from 'comlink';
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import * as z from 'zod';
import type { ArtToDraw, Progress, Wrapped, WrapRequest } from './messages';
import { takePicture } from '../view/picture';
import { putBlob } from './put-blob';

z.config({ jitless: true });

/** Heavy work off the page's own thread. Stopping it is ending the worker. */
const worker = {
  /** Read a mesh file with what stands beside it, store its bytes, answer with the new piece's document. */
  async takeIn(file: File, beside: File[], progress: Progress): Promise<PieceDocument> {
    const scene = await readFile(inputFrom(file), beside.map(inputFrom), {
      progress: (share) => progress(share * 0.5, `Reading ${file.name}`),
    });
    progress(0.5, `Looking through ${file.name}`);
    const used = [file, ...beside];
    const sources = await Promise.all(
      used.map(async (source) => ({ name: source.name, blob: await hashOf(source), bytes: source.size })),
    );
    const { document, blobs } = takeIn(scene, {
      files: sources,
      meshName: meshNameFrom,
      target: PREFIX_TAGS.id,
      progress: (share) => progress(0.5 + share * 0.2, `Looking through ${file.name}`),
    });
    const bodies = [
      ...sources.map((source, i) => [source.blob, used[i]!] as const),
      ...[...blobs].map(([id, bytes]) => [id, new Blob([bytes as Uint8Array<ArrayBuffer>])] as const),
    ];
    const total = bodies.reduce((sum, [, body]) => sum + body.size, 0);
    let sent = 0;
    for (const [id, body] of bodies) {
      await putBlob(id, body, (bytes) =>
        progress(0.7 + (0.3 * (sent + bytes)) / total, `Storing ${file.name}`),
      );
      sent += body.size;
    }
    return document;
  },

  /** The piece's art as the view draws it. */
  async draw(document: PieceDocument, progress: Progress): Promise<ArtToDraw> {
    const art = await artOf(document, (share) => progress(share * 0.6, `Fetching ${document.name}`));
    progress(0.6, `Drawing ${document.name}`);
    const drawn = toDraw(art);
    const buffers = [
      drawn.positions,
      drawn.indices,
      drawn.normals,
      drawn.uv,
      drawn.colors,
      drawn.ink,
    ].flatMap((array) => (array ? [array.buffer] : []));
    return transfer(drawn, [...buffers, ...((drawn.tree?.roots ?? []) as ArrayBuffer[])]);
  },

  /** A small picture of the piece, as PNG bytes. */
  async picture(document: PieceDocument, progress: Progress): Promise<Uint8Array<ArrayBuffer>> {
    const art = await artOf(document, (share) => progress(share * 0.6, `Drawing ${document.name}`));
    const bytes = await takePicture(toDraw(art, { pickable: false }), document);
    return transfer(bytes, [bytes.buffer]);
  },

  /** Boxes or hulls round the art. */
  async wrap(document: PieceDocument, request: WrapRequest, progress: Progress): Promise<Wrapped> {
    const art = await artOf(document, (share) => progress(share * 0.2, 'Fetching the art'));
    return wrap(art, { ...request, progress: (share) => progress(0.2 + share * 0.8, 'Wrapping') });
  },
};

export type ComputeWorker = typeof worker;
expose(worker);

/** Decoded meshes of the last piece that was asked for. */
const meshes = new Map<string, Mesh>();

async function artOf(document: PieceDocument, progress: (share: number) => void): Promise<Mesh> {
  const wanted = Object.keys(document.meshes);
  for (const id of meshes.keys()) if (!wanted.includes(id)) meshes.delete(id);
  for (const [i, id] of wanted.entries()) {
    if (!meshes.has(id)) {
      const response = await fetch(routes.blob(id));
      if (!response.ok) throw new Error('The mesh cannot be fetched from the server just now.');
      meshes.set(id, decodeMesh(new Uint8Array(await response.arrayBuffer())));
    }
    progress((i + 1) / wanted.length);
  }
  return artMesh(document, (id) => meshes.get(id)!);
}

function toDraw(art: Mesh, { pickable = true } = {}): ArtToDraw {
  const origin = art.indices.length ? centreOf(meshBounds(art)) : ([0, 0, 0] as [number, number, number]);
  const positions = Float32Array.from(art.positions, (value, i) => value - origin[i % 3]!);
  const edges = featureEdges(art);
  const ink = new Float32Array(edges.length * 3);
  edges.forEach((v, i) => ink.set(positions.subarray(v * 3, v * 3 + 3), i * 3));
  return {
    origin,
    positions,
    indices: Uint32Array.from(art.indices),
    normals: art.normals && Float32Array.from(art.normals),
    uv: art.uvs[0] && Float32Array.from(art.uvs[0]),
    colors: art.colors && Float32Array.from(art.colors),
    groups: art.groups,
    ink,
    tree: pickable && art.indices.length ? treeOf(positions, art.indices) : undefined,
  };
}

function treeOf(positions: Float32Array, indices: Uint32Array): ArtToDraw['tree'] {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(indices.slice(), 1));
  return MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
}

function inputFrom(file: File): InputFile {
  return {
    name: file.name,
    size: file.size,
    bytes: async () => new Uint8Array(await readable(file, file.arrayBuffer())),
    async *chunks() {
      const reader = file.stream().getReader();
      for (;;) {
        const { done, value } = await readable(file, reader.read());
        if (done) return;
        yield value;
      }
    },
  };
}

/** A file can go away, or turn out to be a folder, between the drop and the reading. */
async function readable<T>(file: File, reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch {
    throw new FormatError(
      file.name,
      'the file cannot be read from the disk',
      'check that it is still there and drop it again',
    );
  }
}

async function hashOf(file: File): Promise<string> {
  const hasher = new BlobHasher();
  for await (const chunk of inputFrom(file).chunks()) hasher.add(chunk);
  return hasher.id();
}
