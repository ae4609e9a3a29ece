import type { Content } from '@keen-ridge/core/document';
import { testArt, testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { pictureScene } from './picture-scene.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const walking: Content = {
  kind: 'moving',
  exposures: [1, 2, 3].map((n) => ({ art: testArt(n), hold: 2 })),
  cycle: 'loop',
  startFrame: 1,
  rate: null,
};
const scene = testScene([testPlane({ id: A }), testPlane({ id: B, content: walking, opacity: 0.5 })]);
const plain = { solo: [], onion: null };

describe('the scene as the picture shows it', () => {
  it('is the scene itself when nothing is left out or laid over', () => {
    expect(pictureScene(scene, 1, plain)).toBe(scene);
  });

  it('hides all but the soloed planes', () => {
    const alone = pictureScene(scene, 1, { ...plain, solo: [B] });
    expect(alone.planes.map(({ hidden }) => hidden)).toEqual([true, false]);
    expect(scene.planes[0]?.hidden).toBe(false);
  });

  it('lays the exposures before and after over the moving plane, faintly and in its place', () => {
    const onion = pictureScene(scene, 3, { ...plain, onion: B });
    expect(onion.planes.map(({ content }) => content.kind)).toEqual(['still', 'still', 'still', 'moving']);
    const [, before, after] = onion.planes;
    const artOf = (content: Content | undefined) => (content?.kind === 'still' ? content.art.id : null);
    expect([artOf(before?.content), artOf(after?.content)]).toEqual([testArt(1).id, testArt(3).id]);
    expect(before).toMatchObject({ opacity: 0.15, transform: scene.planes[1]?.transform });
  });

  it('has no ghosts of a still plane, or of a hidden one', () => {
    expect(pictureScene(scene, 1, { ...plain, onion: A }).planes).toHaveLength(2);
    expect(pictureScene(scene, 1, { solo: [A], onion: B }).planes).toHaveLength(2);
  });
});
