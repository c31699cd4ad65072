import { boxRound, crateArt } from '../testing/crate';
import { takePicture } from './picture';

const SIZE = { width: 132, height: 62 };

/** Which pixels of a picture are painted: inside, and along its border. */
async function painted(png: Uint8Array<ArrayBuffer>): Promise<{ inside: number; border: number }> {
  const bitmap = await createImageBitmap(new Blob([png], { type: 'image/png' }));
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const found = { inside: 0, border: 0 };
  for (let p = 0; p < width * height; p++) {
    if (!data[p * 4 + 3]) continue;
    const [x, y] = [p % width, Math.floor(p / width)];
    found[x === 0 || y === 0 || x === width - 1 || y === height - 1 ? 'border' : 'inside']++;
  }
  return found;
}

it('a picture with shapes has them whole in its frame, however far beyond the art they reach', async () => {
  const { art, document } = crateArt();
  const far = { ...document, proxies: [{ id: 'far', shape: boxRound([10_002, 1, 0], 3) }] };
  const { inside, border } = await painted(await takePicture(art, far, { shapes: true, ...SIZE }));
  expect(inside).toBeGreaterThan(300);
  expect(border).toBe(0);
});
