import fc from 'fast-check';
import { pictureSize } from './picture-size.js';

/** Bytes of 64 with some put somewhere. */
const bytes = (...parts: [at: number, values: number[]][]): Uint8Array => {
  const out = new Uint8Array(64);
  for (const [at, values] of parts) out.set(values, at);
  return out;
};
const words = (text: string) => [...text].map((c) => c.charCodeAt(0));

describe('the size of a picture', () => {
  it('is read from the header of a PNG', () => {
    const png = bytes([0, [0x89, 0x50, 0x4e, 0x47]], [16, [0, 0, 2, 0, 0, 0, 1, 0]]);
    expect(pictureSize(png)).toEqual({ width: 512, height: 256 });
  });

  it('is read from the first frame of a JPEG, past tables and thumbnails', () => {
    const jpeg = bytes(
      [0, [0xff, 0xd8, 0xff, 0xe0, 0, 6, 1, 2, 3, 4]],
      [10, [0xff, 0xc4, 0, 4, 9, 9]],
      [16, [0xff, 0xc2, 0, 17, 8, 1, 0, 2, 0]],
    );
    expect(pictureSize(jpeg)).toEqual({ width: 512, height: 256 });
    const torn = bytes([0, [0xff, 0xd8, 0xff, 0xe0, 0xff, 0xff]]);
    expect(pictureSize(torn)).toEqual({ width: 0, height: 0 });
  });

  it('is read from all three kinds of WebP', () => {
    const riff = (kind: string, ...parts: [number, number[]][]) =>
      pictureSize(bytes([0, words('RIFF')], [8, words('WEBP')], [12, words(kind)], ...parts));
    expect(riff('VP8X', [24, [255, 1, 0, 255, 0, 0]])).toEqual({ width: 512, height: 256 });
    expect(riff('VP8 ', [26, [0, 2, 0, 1]])).toEqual({ width: 512, height: 256 });
    const bits = 511 | (255 << 14);
    expect(riff('VP8L', [21, [bits & 255, (bits >> 8) & 255, (bits >> 16) & 255, bits >>> 24]])).toEqual({
      width: 512,
      height: 256,
    });
  });

  it('is zero for anything else, whatever the bytes, and never fails', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 80 }), fc.boolean(), (noise, jpeg) => {
        const read = pictureSize(jpeg ? Uint8Array.from([0xff, 0xd8, ...noise]) : noise);
        expect(Number.isInteger(read.width) && Number.isInteger(read.height)).toBeTrue();
        if (noise.length < 28) expect(read).toEqual({ width: 0, height: 0 });
      }),
    ));
});
