/** The GLB with a camera node added beside everything else: what people forget in their files. */
export function withStrayCamera(glb: Uint8Array): Uint8Array {
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
  json.cameras = [
    { type: 'perspective', name: 'preview', perspective: { yfov: 0.7, znear: 0.1, zfar: 100 } },
  ];
  json.nodes.push({ name: 'preview camera', camera: 0, translation: [3, 2, 4] });
  json.scenes[0].nodes.push(json.nodes.length - 1);
  const text = new TextEncoder().encode(JSON.stringify(json));
  const padded = Math.ceil(text.length / 4) * 4;
  const rest = glb.subarray(20 + length);
  const out = new Uint8Array(20 + padded + rest.length).fill(32);
  const header = new DataView(out.buffer);
  [0x46546c67, 2, out.length, padded, 0x4e4f534a].forEach((word, i) => header.setUint32(i * 4, word, true));
  out.set(text, 20);
  out.set(rest, 20 + padded);
  return out;
}
