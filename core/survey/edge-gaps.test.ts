import { describe, expect, it } from 'vitest';
import { type Run, setCamera } from '../document/index.ts';
import { testPlane, testPlaneId, testScene, withCutEdges } from '../testing/scenes.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { edgeGaps, endsAt } from './index.ts';

const wide = testPlane({ id: testPlaneId('hill') }, 2000, 1200);
/** An even pan of 100 spx over 101 frames: the datum slides one px a frame. */
function panned() {
  const scene = testScene([wide], { lengthFrames: 101 });
  const from = setCamera(scene, { panX: 0 }, { frame: 1, keying: true });
  const to = setCamera(from, { panX: 100 }, { frame: 101, keying: true });
  const keys = to.camera.panX.keys.map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  return { ...to, camera: { ...to.camera, panX: { ...to.camera.panX, keys } } };
}

describe('edges in frame', () => {
  it('measures a gap as worked by hand: 40 px spare, 100 px of pan', () => {
    // The art reaches 40 px past the frame on each side; the right edge enters once the pan passes 40 px.
    const [gap, ...more] = edgeGaps(panned(), wide);
    expect(more).toEqual([]);
    expect(gap).toMatchObject({ side: 'right', worstFrame: 101, firstFrame: 42, frames: 60, paintArtPx: 60 });
    expect(gap?.worstPx).toBeCloseTo(60, 9);
  });

  it('asks for more art px where a plane is shown larger', () => {
    const { transform } = wide;
    const doubled = { ...wide, transform: { ...transform, scaleX: 2, scaleY: 2, xSpx: -1000 } };
    expect(edgeGaps(panned(), doubled)[0]).toMatchObject({ side: 'right', worstPx: 60, paintArtPx: 30 });
  });

  it('knows no end of a plane that is tiled that way', () => {
    const scene = panned();
    expect(edgeGaps(scene, { ...wide, repeat: 'across' })).toEqual([]);
    expect(edgeGaps(scene, { ...wide, repeat: 'down' })).toHaveLength(1);
    expect(endsAt({ ...wide, repeat: 'both' }, 'top')).toBe(false);
  });

  it('follows what a plane rides on, and where it has run', () => {
    const carrier = testPlane({ id: testPlaneId('carrier') }, 4000, 2000);
    const mount = { on: 'plane' as const, plane: carrier.id };
    const rider = { ...wide, mount };
    const west = { ...carrier, transform: { ...carrier.transform, xSpx: -30 } };
    const scene = { ...panned(), planes: [rider, west] };
    expect(edgeGaps(scene, rider)[0]).toMatchObject({ side: 'right', worstPx: 90 });
    const run: Run = {
      kind: 'speed',
      unit: 'datum',
      x: { value: 1, keys: [] },
      y: { value: 0, keys: [] },
    };
    // It goes along with the pan, a px a frame.
    expect(edgeGaps(panned(), { ...wide, run })).toEqual([]);
  });

  it('lets a soft end come into frame', () => {
    const soft = withCutEdges(wide, { right: false });
    expect(edgeGaps(panned(), soft)).toEqual([]);
  });

  it('swaps the sides of a flipped plane', () => {
    const flipped = { ...withCutEdges(wide, { right: false }), transform: { ...wide.transform, scaleX: -1 } };
    expect(edgeGaps(panned(), flipped)[0]?.side).toBe('right');
  });
});
