import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { setCamera } from '../edits/keys/index.ts';
import { scaling } from '../geometry/index.ts';
import { BLACK, renderLayers } from '../picture/index.ts';
import type { Plane } from '../scene/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { randomImage, testArt, testPlane, testPlaneId, testRenderer, testScene } from '../testing/index.ts';

const SIZE = { widthPx: 700, heightPx: 420 };
const painted = (n: number, part: Partial<Plane>): Plane =>
  testPlane(
    {
      id: testPlaneId(`p${n}`),
      content: { kind: 'still', art: testArt(n, SIZE.widthPx, SIZE.heightPx), made: null },
      ...part,
    },
    SIZE.widthPx,
    SIZE.heightPx,
  );
const place = (plane: Plane, part: Partial<Plane['transform']>): Plane => ({
  ...plane,
  transform: { ...plane.transform, ...part },
});

/** Straight, turned, tiled, faded and drawn planes at several depths, all made of numbers: no file, no image library. */
function scene() {
  const planes: Plane[] = [
    place(painted(1, { depthSpx: -400, opacity: 0.7 }), { xSpx: -300, ySpx: 120 }),
    place(painted(2, { depthSpx: 0 }), { rotationDeg: 23, scaleX: 1.7, scaleY: 1.2 }),
    place(painted(3, { depthSpx: 900, repeat: 'across' }), { ySpx: -200, scaleX: 0.8, scaleY: 0.8 }),
    place(painted(4, { depthSpx: 2500 }), { scaleX: -5, scaleY: 4 }),
    testPlane(
      {
        id: testPlaneId('card'),
        depthSpx: 9000,
        content: {
          kind: 'card',
          widthPx: 20_000,
          heightPx: 12_000,
          paint: {
            kind: 'linear',
            angleDeg: 160,
            space: 'srgb',
            stops: [
              { at: 0, colour: '#203050', opacity: 1 },
              { at: 1, colour: '#e0b080', opacity: 1 },
            ],
          },
        },
      },
      20_000,
      12_000,
    ),
  ];
  const staged = testScene(planes, { lengthFrames: 48 });
  const from = setCamera(staged, { panX: -120, roll: 0 }, { frame: 1, keying: true });
  const nearer = setCamera(from, { truck: 300, zoom: 1.3 }, { frame: 48, keying: false });
  return setCamera(nearer, { panX: 200, roll: 6 }, { frame: 48, keying: true });
}

describe('the kernel', () => {
  it('draws the same bytes as ever: golden hashes', async () => {
    const renderer = await testRenderer();
    for (const n of [1, 2, 3, 4])
      renderer.addImage(testArt(n).id, randomImage(n, SIZE.widthPx, SIZE.heightPx));
    // Taken from the kernel once it agreed with the oracle; another machine, browser or number of threads changes none.
    // Last taken anew when texels came to be weighed by the kernel of ../picture/filter.ts instead of two by two.
    const golden = {
      1: '1f0c28f7e9b8fba34325c3d40ef0558ea4033ac4fe021927747038587bee2e4b',
      24: '8d02c6eb1dfdcf1c23c3c377db4134c48b9c21f996acc2a46d02da850b5a400a',
      48: '7462e55949691dd03ab2cf9bfdf68d33efb8deb6ea0162fa0bc9f38867275f63',
    } as const;
    const view = { widthPx: 480, heightPx: 270, frameToImage: scaling(0.25), background: BLACK };
    const drawn: Record<string, string> = {};
    for (const frame of Object.keys(golden)) {
      const { data } = renderer.render(renderLayers(framePlan(scene(), Number(frame)), view), view);
      expect(new Set(data).size).toBeGreaterThan(100);
      drawn[frame] = createHash('sha256').update(data).digest('hex');
    }
    expect(drawn).toEqual(golden);
  });
});
