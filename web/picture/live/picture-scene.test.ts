import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { applyAffine } from '@keen-ridge/core/geometry';
import type { Content } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { standInFigure } from '@keen-ridge/core/shapes';
import { cameraPoseAt, channelId } from '@keen-ridge/core/staging';
import { readScene } from '@keen-ridge/core/staging/check';
import { framePlan } from '@keen-ridge/core/staging/frame';
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
const plain = {
  solo: [],
  onion: null,
  figure: null,
  soloChannels: [],
  ghosts: { planes: [], frames: [] },
  figureSize: { heightPx: 480, heads: 6 },
};

describe('the scene as the picture shows it', () => {
  it('is the scene itself when nothing is left out or laid over', () => {
    expect(pictureScene(scene, 1, plain)).toBe(scene);
  });

  it('hides all but the soloed planes', () => {
    const alone = pictureScene(scene, 1, { ...plain, solo: [B] });
    expect(planesOf(alone).map(({ hidden }) => hidden)).toEqual([true, false]);
    expect(planesOf(scene)[0]?.hidden).toBe(false);
  });

  it('lays the exposures before and after over the moving plane, faintly and in its place', () => {
    const onion = pictureScene(scene, 3, { ...plain, onion: B });
    expect(planesOf(onion).map(({ content }) => content.kind)).toEqual(['still', 'still', 'still', 'moving']);
    const [, before, after] = planesOf(onion);
    const artOf = (content: Content | undefined) => (content?.kind === 'still' ? content.art.id : null);
    expect([artOf(before?.content), artOf(after?.content)]).toEqual([testArt(1).id, testArt(3).id]);
    expect(before).toMatchObject({ opacity: 0.15, transform: planesOf(scene)[1]?.transform });
  });

  it('puts the stand-in figure just before its plane, as far away, its feet where they are at home', () => {
    const far = testScene([testPlane({ id: A }), testPlane({ id: B, depthSpx: 1920 })]);
    const figure = { planeId: B, feet: { x: 100, y: 200 } };
    const staged = pictureScene(far, 1, { ...plain, figure });
    expect(planesOf(staged).map(({ id }) => id)).toEqual([A, 'stand-in', B]);
    // At twice the distance it is half as tall on screen: 240 px over its feet.
    const { artToFrame } = framePlan(staged, 1).planes.find(({ planeId }) => planeId === 'stand-in')!;
    const { widthPx, heightPx } = standInFigure(480, 6);
    const feet = applyAffine(artToFrame!, { x: widthPx / 2, y: heightPx });
    const crown = applyAffine(artToFrame!, { x: widthPx / 2, y: 0 });
    expect([feet.x, feet.y, feet.y - crown.y]).toEqual([1060, 740, 240]);
    expect(readScene(staged).ok).toBe(true);
  });

  it('has no ghosts of a still plane, or of a hidden one', () => {
    expect(planesOf(pictureScene(scene, 1, { ...plain, onion: A }))).toHaveLength(2);
    expect(planesOf(pictureScene(scene, 1, { ...plain, solo: [A], onion: B }))).toHaveLength(2);
  });

  it('lays a plane over the picture as the camera sees it at other frames, whatever the camera does', () => {
    const moving = [1, 41].reduce(
      (s, frame) =>
        setCamera(s, { panX: frame * 9, zoom: 1 + frame / 80, roll: frame / 4 }, { frame, keying: true }),
      setPlaneDepth(scene, A, { depthSpx: 700, atFrame: 1, holdPicture: false }),
    );
    const ghosted = pictureScene(moving, 20, { ...plain, ghosts: { planes: [A], frames: [10, 30] } });
    expect(planesOf(ghosted)).toHaveLength(4);
    for (const [i, frame] of [10, 30].entries()) {
      const there = framePlan(moving, frame).planes.find((plane) => plane.planeId === A)!.artToFrame!;
      const ghost = framePlan(ghosted, 20).planes.find(
        (plane) => plane.planeId === planesOf(ghosted)[i]!.id,
      )!;
      for (const name of ['a', 'b', 'c', 'd', 'e', 'f'] as const)
        expect(ghost.artToFrame![name]).toBeCloseTo(there[name], 6);
      expect(ghost.opacity).toBeCloseTo(0.3, 9);
      // Drawn after the plane itself, far to near.
      const order = framePlan(ghosted, 20).planes.map((plane) => plane.planeId);
      expect(order.indexOf(ghost.planeId)).toBeGreaterThan(order.indexOf(A));
    }
  });

  it('lets only the soloed channels move', () => {
    const moving = setCamera(
      setCamera(scene, { panX: 0, zoom: 1 }, { frame: 1, keying: true }),
      { panX: 100, zoom: 3 },
      { frame: 24, keying: true },
    );
    const solo = pictureScene(moving, 24, {
      ...plain,
      soloChannels: [channelId({ on: 'camera', name: 'panX' })],
    });
    expect(cameraPoseAt(solo, 24)).toMatchObject({ xSpx: 100, zoom: 1 });
  });
});
