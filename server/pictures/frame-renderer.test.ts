import { addPlanes } from '@keen-ridge/core/edits/planes';
import { BLACK } from '@keen-ridge/core/picture';
import { RenderPoolClosed } from '@keen-ridge/core/pool';
import { newScene } from '@keen-ridge/core/scene';
import { newPlane } from '@keen-ridge/core/staging/content';
import { testArt, testPlaneId } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { ArtUnreadable } from '../storage/art-levels.ts';
import { threadPool } from '../threads/thread-pool.ts';
import { ArtMissing, FrameRenderer } from './frame-renderer.ts';

const scene = newScene({ widthPx: 64, heightPx: 36, rate: { num: 24, den: 1 }, lengthFrames: 2 });
const noArt = () => {
  throw new Error('No art was to be read');
};

describe('the renderer of the server', () => {
  it('that could not start its threads tries again with the next picture', async () => {
    let tries = 0;
    const renderer = new FrameRenderer(
      () => (tries++ === 0 ? Promise.reject(new Error('no threads')) : threadPool(1)),
      1,
      noArt,
    );
    await expect(renderer.render(scene, 1, BLACK)).rejects.toThrow('no threads');
    expect((await renderer.render(scene, 1, BLACK)).data[3]).toBe(255);
    expect(tries).toBe(2);
    await renderer.close();
    await expect(renderer.render(scene, 1, BLACK)).rejects.toBeInstanceOf(RenderPoolClosed);
  });

  it('names the plane whose art cannot be read', async () => {
    const art = testArt(1);
    const source = () => ({
      levels: () => Promise.reject(new ArtUnreadable(art.id, 'is missing')),
      chunks: noArt,
    });
    const renderer = new FrameRenderer(() => threadPool(1), 1, source);
    const plane = newPlane(testPlaneId('quay'), 'Quay', { kind: 'still', art, made: null });
    const staged = addPlanes(scene, [plane]);
    const drawn = renderer.withArt(staged, () => renderer.render(staged, 1, BLACK));
    await expect(drawn).rejects.toBeInstanceOf(ArtMissing);
    await expect(drawn).rejects.toThrow('The art of “Quay” cannot be read');
    await renderer.close();
  });
});
