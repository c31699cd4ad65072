import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** The name under which bytes are stored: their SHA-256 in hexadecimal. */
export const blobId = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** The same for bytes that come in chunks. */
export class BlobHasher {
  private readonly hash = sha256.create();

  add(chunk: Uint8Array): this {
    this.hash.update(chunk);
    return this;
  }

  id(): string {
    return bytesToHex(this.hash.digest());
  }
}
