let loadWasm: (() => Promise<ArrayBuffer>) | undefined;
let decoder: Promise<unknown> | undefined;

/**
 * Where the decoder's WebAssembly comes from. In Node it finds its own file; a browser has to fetch it, once a
 * file that needs it is read.
 */
export function provideDracoWasm(load: () => Promise<ArrayBuffer>): void {
  loadWasm = load;
  decoder = undefined;
}

/** The decoder of `KHR_draco_mesh_compression`, loaded when it is first needed. */
export function dracoDecoder(): Promise<unknown> {
  decoder ??= (async () => {
    const { default: draco } = await import('draco3d');
    return draco.createDecoderModule(loadWasm ? { wasmBinary: await loadWasm() } : {});
  })();
  return decoder;
}
