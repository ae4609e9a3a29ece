import { type Content, readScene } from '@keen-ridge/core/document';
import { applyAffine } from '@keen-ridge/core/geometry';
import { standInFigure } from '@keen-ridge/core/shapes';
import { framePlan } from '@keen-ridge/core/shot';
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
const plain = { solo: [], onion: null, figure: null, figureSize: { heightPx: 480, heads: 6 } };

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

  it('puts the stand-in figure just before its plane, as far away, its feet where they are at home', () => {
    const far = testScene([testPlane({ id: A }), testPlane({ id: B, depthSpx: 1920 })]);
    const figure = { planeId: B, feet: { x: 100, y: 200 } };
    const staged = pictureScene(far, 1, { ...plain, figure });
    expect(staged.planes.map(({ id }) => id)).toEqual([A, 'stand-in', B]);
    // At twice the distance it is half as tall on screen: 240 px over its feet.
    const { artToFrame } = framePlan(staged, 1).planes.find(({ planeId }) => planeId === 'stand-in')!;
    const { widthPx, heightPx } = standInFigure(480, 6);
    const feet = applyAffine(artToFrame!, { x: widthPx / 2, y: heightPx });
    const crown = applyAffine(artToFrame!, { x: widthPx / 2, y: 0 });
    expect([feet.x, feet.y, feet.y - crown.y]).toEqual([1060, 740, 240]);
    expect(readScene(staged).ok).toBe(true);
  });

  it('has no ghosts of a still plane, or of a hidden one', () => {
    expect(pictureScene(scene, 1, { ...plain, onion: A }).planes).toHaveLength(2);
    expect(pictureScene(scene, 1, { ...plain, solo: [A], onion: B }).planes).toHaveLength(2);
  });
});
