declare module 'draco3d' {
  interface DracoModules {
    createDecoderModule(options?: { wasmBinary?: ArrayBuffer }): Promise<unknown>;
    createEncoderModule(options?: { wasmBinary?: ArrayBuffer }): Promise<unknown>;
  }
  const draco: DracoModules;
  export default draco;
}
