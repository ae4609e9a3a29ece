import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine } from '../../geometry/index.ts';
import { artToCarrier } from '../../stage/index.ts';
import { newPlane } from '../../staging/content/index.ts';
import { paintedLayer, testArt, testPlaneId } from '../../testing/index.ts';
import { AS_PAINTED, FITS, fitScale, planeFromLayer } from './place-art.ts';

const FRAME = { widthPx: 1920, heightPx: 1080 };
const ID = testPlaneId('a');

describe('how a painting is put on the datum', () => {
  it.each([
    ['as-painted', 1],
    ['fit-width', 1920 / 2400],
    ['fit-height', 1080 / 900],
    // Enlarged to 1.2, and by as much more as the fading border takes: 900/899.
    ['cover', (1080 / 900) * (900 / 899)],
  ] as const)('%s', (fit, scale) => {
    expect(fitScale(fit, { widthPx: 2400, heightPx: 900 }, FRAME)).toBeCloseTo(scale, 12);
  });

  it('covers without a hair more where it is made smaller', () => {
    expect(fitScale('cover', { widthPx: 4000, heightPx: 2700 }, FRAME)).toBeCloseTo(0.48, 12);
  });

  it('keeps every px of every layer in its place to the others, whatever the fit and offset', () => {
    const coordinate = fc.integer({ min: -3000, max: 6000 });
    fc.assert(
      fc.property(
        fc.constantFrom(...FITS),
        coordinate,
        coordinate,
        fc.tuple(coordinate, coordinate),
        fc.tuple(coordinate, coordinate),
        (fit, offsetXSpx, offsetYSpx, first, second) => {
          const place = { fit, offsetXSpx, offsetYSpx };
          const size = { paintingWidthPx: 3100, paintingHeightPx: 1300 };
          // The same point of the painting, as a px of two layers that are cropped otherwise.
          const [p, q] = [first, second].map(([xPx, yPx], i) => {
            const layer = paintedLayer({ art: testArt(i + 1, 300 + 90 * i, 200), xPx, yPx, ...size });
            const plane = planeFromLayer(ID, layer, FRAME, place);
            return applyAffine(artToCarrier(plane.transform), { x: 777 - xPx, y: 333 - yPx });
          });
          expect(Math.hypot(p!.x - q!.x, p!.y - q!.y)).toBeLessThan(1e-8);
          const scale = fitScale(fit, { widthPx: 3100, heightPx: 1300 }, FRAME);
          expect(p!.x).toBeCloseTo(offsetXSpx + scale * (777 - 1550), 6);
        },
      ),
    );
  });

  it('remembers where the art came from, with its group', () => {
    const layer = paintedLayer({
      name: 'Stone',
      group: 'Quay / Wall',
      art: testArt(1),
      xPx: -5,
      yPx: 9,
      file: 'q.psd',
    });
    expect(planeFromLayer(ID, layer, FRAME, AS_PAINTED).origin).toEqual({
      file: 'q.psd',
      layer: 'Quay / Wall / Stone',
      xPx: -5,
      yPx: 9,
      paintingWidthPx: 400,
      paintingHeightPx: 300,
    });
  });

  it('puts a new plane in the middle of the frame', () => {
    const content = {
      kind: 'card',
      widthPx: 100,
      heightPx: 50,
      paint: { kind: 'solid', colour: '#000000', opacity: 1 },
    } as const;
    expect(newPlane(ID, 'Card', content).transform).toMatchObject({
      xSpx: 0,
      ySpx: 0,
      anchorXArtPx: 50,
      anchorYArtPx: 25,
    });
  });
});
