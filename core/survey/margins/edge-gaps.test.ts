import { describe, expect, it } from 'vitest';
import { setCamera } from '../../edits/keys/index.ts';
import type { Run } from '../../scene/index.ts';
import { keysOf, recordOf, withPlaneList } from '../../scene/records/index.ts';
import { testArt, testPlane, testPlaneId, testScene, withCutEdges } from '../../testing/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { edgeGaps } from './edge-gaps.ts';

const wide = testPlane({ id: testPlaneId('hill') }, 2000, 1200);
/** An even pan of 100 spx over 101 frames: the datum slides one px a frame. */
function panned() {
  const scene = testScene([wide], { lengthFrames: 101 });
  const from = setCamera(scene, { panX: 0 }, { frame: 1, keying: true });
  const to = setCamera(from, { panX: 100 }, { frame: 101, keying: true });
  const keys = keysOf(to.camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  return { ...to, camera: { ...to.camera, panX: recordOf({ ...to.camera.panX, keys }) } };
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
  });

  it('follows what a plane rides on, and where it has run', () => {
    const carrier = testPlane({ id: testPlaneId('carrier') }, 4000, 2000);
    const mount = { on: 'plane' as const, plane: carrier.id };
    const rider = { ...wide, mount };
    const west = { ...carrier, transform: { ...carrier.transform, xSpx: -30 } };
    const scene = withPlaneList(panned(), [rider, west]);
    expect(edgeGaps(scene, rider)[0]).toMatchObject({ side: 'right', worstPx: 90 });
    const run: Run = {
      kind: 'speed',
      unit: 'datum',
      x: { value: 1, keys: {} },
      y: { value: 0, keys: {} },
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
    expect(edgeGaps(panned(), flipped)[0]).toMatchObject({ side: 'right', artSide: 'left' });
  });

  it('measures above and below by the height’s own scale', () => {
    // Half as high as it was painted: 1000 px of 2000 art px; 40 spx short of the frame above and below.
    const low = testPlane({ id: testPlaneId('low') }, 4000, 2000);
    const squashed = { ...low, transform: { ...low.transform, scaleX: 1, scaleY: 0.5 } };
    const gaps = edgeGaps(testScene([squashed], { lengthFrames: 3 }), squashed);
    expect(gaps.map(({ side }) => side).sort()).toEqual(['bottom', 'top']);
    for (const gap of gaps) {
      expect(gap.worstPx).toBeCloseTo(40, 9);
      expect(gap.paintArtPx).toBe(80);
    }
  });

  it.each([
    // Clockwise on screen: at 90° the art's right looks down, at 180° left, at 270° up.
    [0, 'right'],
    [90, 'bottom'],
    [180, 'left'],
    [270, 'top'],
  ] as const)('names the sides of a plane that is turned by %i°', (rotationDeg, side) => {
    // 4000 px square with its right side 500 px from the anchor: every turn shows that side and no other.
    const art = testPlane({ id: testPlaneId('turned') }, 4000, 4000);
    const transform = { ...art.transform, rotationDeg, anchorXArtPx: 3500 };
    const turned = { ...art, transform };
    const [gap, ...more] = edgeGaps(testScene([turned], { lengthFrames: 2 }), turned);
    expect(more).toEqual([]);
    expect(gap).toMatchObject({ side, artSide: 'right', firstFrame: 1, frames: 2 });
    const half = side === 'left' || side === 'right' ? 960 : 540;
    expect(gap?.worstPx).toBeCloseTo(half - 500, 9);
  });

  it('sees that a painting turned by 12° leaves corners bare though its bounds cover the frame', () => {
    // By hand: 2200 × 1600 turned by 12°: the farthest corner of the frame lies 960·cos 12° + 540·sin 12° = 1051.29 px
    // along the art's axis, inside its half width of 1100; 540·cos 12° + 960·sin 12° = 727.79 px down, inside 800.
    const art = testPlane({ id: testPlaneId('turned') }, 2200, 1600);
    const turnedBy = (widthPx: number) => {
      const plane = testPlane({ id: testPlaneId('turned') }, widthPx, 1600);
      return { ...plane, transform: { ...plane.transform, rotationDeg: 12 } };
    };
    expect(edgeGaps(testScene([art], { lengthFrames: 1 }), turnedBy(2200))).toEqual([]);
    // 2000 px wide it is 51.29 px short on either side, where its bounds on screen reach 1144 px.
    const gaps = edgeGaps(testScene([art], { lengthFrames: 1 }), turnedBy(2000));
    expect(gaps.map(({ artSide }) => artSide).sort()).toEqual(['left', 'right']);
    for (const gap of gaps) {
      expect(gap.worstPx).toBeCloseTo(960 * Math.cos(Math.PI / 15) + 540 * Math.sin(Math.PI / 15) - 1000, 6);
      expect(gap.paintArtPx).toBe(52);
    }
  });

  it('looks at the drawing that stands there, not at the first one alone', () => {
    const exposures = [2000, 1900, 2000].map((widthPx, i) => ({
      art: testArt(i + 1, widthPx, 1200),
      hold: 2,
    }));
    const content = { kind: 'moving', exposures, cycle: 'once', startFrame: 1, rate: null } as const;
    const moving = { ...wide, content };
    const scene = testScene([moving], { lengthFrames: 6 });
    // The second drawing is 100 px narrower on its right: 1000 px of it lie left of the anchor, 900 right of it.
    expect(edgeGaps(scene, moving)).toEqual([
      {
        side: 'right',
        artSide: 'right',
        worstPx: 60,
        worstFrame: 3,
        firstFrame: 3,
        frames: 2,
        paintArtPx: 60,
      },
    ]);
  });
});
