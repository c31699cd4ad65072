/** One file of the sample kit, as anyone's file would lie on a disk. */
export interface SampleFile {
  name: string;
  bytes: Uint8Array;
}
