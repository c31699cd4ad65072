import { manifestOf, planDelivery, PROFILES } from '@yard-brace/core';
import { postDocument } from '../testing/post';
import { claimedFiles } from './claimed-files';

const manifest = () => {
  const plan = planDelivery(postDocument(), PROFILES[0]!, {});
  return JSON.stringify(manifestOf(plan, [{ name: 'models/Post.glb', bytes: new Uint8Array(1) }]));
};
const file = (name: string, text = 'x') => new File([text], name);
const names = (files: readonly File[]) => files.map(({ name }) => name);

describe('the files of a delivery', () => {
  it('go with their manifest, wherever the yard keeps models; what it does not name stays by itself', async () => {
    const { wholes, refused, others } = await claimedFiles([
      file('post.GLB'),
      file('other.glb'),
      file('Post.manifest.json', manifest()),
      file('Post.import.md'),
    ]);
    expect(wholes.map((whole) => [whole.file.name, ...names(whole.beside)])).toEqual([
      ['Post.manifest.json', 'post.GLB'],
    ]);
    expect([names(others), refused]).toEqual([['other.glb', 'Post.import.md'], []]);
  });

  it('stay by themselves when the manifest cannot be read, and that is said', async () => {
    const { wholes, refused, others } = await claimedFiles([file('a.glb'), file('a.manifest.json', '{}')]);
    expect([wholes, names(others)]).toEqual([[], ['a.glb']]);
    expect(refused[0]!.why).toContain('a.manifest.json is no manifest of a delivery');
  });
});
