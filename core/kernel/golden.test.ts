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
    // Last taken anew when texels came to be weighed by the kernel of ../picture/filter/filter.ts instead of two by two, and art of low alpha to be held in lanes.
    const golden = {
      1: '698b4a98b62bfe7f37952c1f9c8ed64f9353c46c3aaac3a42e7f818a6b2b02de',
      24: 'f2ac348d431f4798a74b24a68568d1cd6a8d6b86c7dc6ab2cc55c08c4ea57c8c',
      48: 'b9c8d481e3fc319a4595219b07fe08823c3ed9e77b9919aed1e20e5d52661aea',
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
