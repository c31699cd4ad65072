// The few names that Node and every browser share and the language library does not declare.
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}
declare function atob(base64: string): string;
