import { describe, expect, it } from 'vitest';
import { applyAffine } from '../../geometry/index.ts';
import type { PinId, Plane, Scene } from '../../scene/index.ts';
import { pinsOf, planeOf, planesOf } from '../../scene/records/index.ts';
import { framePlan, pinsOnFrame } from '../../staging/frame/index.ts';
import { paintedLayer, testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { applyNewVersion, type CutResult, cutPlane, planeFromLayer } from '../art/index.ts';
import {
  addPin,
  addPlanes,
  deletePin,
  movePin,
  renamePin,
  setPlaneContent,
  setPlaneTransform,
} from './index.ts';

const QUAY = testPlaneId('quay');
const LAMP = 'lamp' as PinId;
const POST = 'post' as PinId;

/** A layer of a painting, moved, turned and made smaller, with two pins on it. */
function pinned(): Scene {
  const layer = paintedLayer({
    name: 'Quay',
    art: testArt(1, 400, 300),
    xPx: 20,
    yPx: 10,
    paintingWidthPx: 800,
    paintingHeightPx: 600,
  });
  const scene = addPlanes(testScene(), [planeFromLayer(QUAY, layer)]);
  const { transform } = planeOf(scene, QUAY)!;
  const turned = setPlaneTransform(scene, QUAY, { ...transform, rotationDeg: 20, scaleX: 0.7, xSpx: 90 });
  return addPin(addPin(turned, QUAY, LAMP, 'Lamp', { x: 100, y: 40 }), QUAY, POST, 'Post', {
    x: 310,
    y: 250,
  });
}

const places = (scene: Scene) =>
  new Map(
    pinsOnFrame(scene, framePlan(scene, 1)).map(({ plane, pin, at }) => [`${plane.name}/${pin.name}`, at]),
  );
const near = (p: { x: number; y: number }, q: { x: number; y: number }) => Math.hypot(p.x - q.x, p.y - q.y);

describe('pins', () => {
  it('are named apart, moved, renamed and taken off, and are nowhere else', () => {
    const two = addPin(pinned(), QUAY, 'again' as PinId, 'Lamp', { x: 1, y: 2 });
    expect(pinsOf(planeOf(two, QUAY)!).map(({ name }) => name)).toEqual(['Lamp', 'Lamp 2', 'Post']);
    expect(addPin(two, QUAY, LAMP, 'Other', { x: 5, y: 5 })).toBe(two);
    expect(addPin(two, testPlaneId('gone'), POST, 'Other', { x: 5, y: 5 })).toBe(two);
    const moved = renamePin(movePin(two, QUAY, LAMP, { x: 7, y: 8 }), QUAY, LAMP, '  Lantern ');
    expect(planeOf(moved, QUAY)!.pins?.[LAMP]).toEqual({ name: 'Lantern', xArtPx: 7, yArtPx: 8 });
    expect(planeOf(renamePin(moved, QUAY, LAMP, ' '), QUAY)!.pins?.[LAMP]?.name).toBe('Lantern');
    const none = ['again', LAMP, POST].reduce((scene, id) => deletePin(scene, QUAY, id as PinId), moved);
    expect(planeOf(none, QUAY)).not.toHaveProperty('pins');
    expect(deletePin(none, QUAY, LAMP)).toBe(none);
  });

  it('stand where the plane’s own map takes their art px', () => {
    const scene = pinned();
    const { artToFrame } = framePlan(scene, 1).planes[0]!;
    expect(places(scene).get('Quay/Lamp')).toEqual(applyAffine(artToFrame!, { x: 100, y: 40 }));
  });

  it('stay on their paint when a next version comes in, finer and cropped otherwise', () => {
    const scene = pinned();
    const layer = paintedLayer({
      name: 'Quay',
      art: testArt(2, 1000, 800),
      xPx: 30,
      yPx: 5,
      paintingWidthPx: 1600,
      paintingHeightPx: 1200,
    });
    const next = applyNewVersion(scene, {
      layers: [layer],
      matches: [{ kind: 'same-name', planeId: QUAY, layerIndex: 0 }],
      idOf: () => testPlaneId('new'),
      removeLost: false,
    });
    // By hand: px 100 of a layer at 20 is px 120 of the painting, 240 of one twice as fine, 210 of a layer at 30.
    expect(planeOf(next, QUAY)!.pins?.[LAMP]).toMatchObject({ xArtPx: 210, yArtPx: 95 });
    for (const [name, at] of places(scene)) expect(near(places(next).get(name)!, at)).toBeLessThan(1e-9);
  });

  it('go with the piece that they lie in when a plane is cut, each in its place', () => {
    const scene = pinned();
    const plane = planesOf(scene)[0] as Plane & { content: { kind: 'still' } };
    const from = plane.content.kind === 'still' ? plane.content.art : testArt(1);
    const result: CutResult = {
      cutId: 'cut',
      before: [],
      from,
      recipe: { steps: [], fill: null } as never,
      taken: testArt(3, 120, 90),
      takenAt: [50, 20],
      left: testArt(4, 400, 300),
    };
    const cut = cutPlane(scene, QUAY, testPlaneId('piece'), 'Piece', result);
    const at = places(cut);
    expect([...at.keys()].sort()).toEqual(['Piece/Lamp', 'Quay/Post']);
    expect(near(at.get('Piece/Lamp')!, places(scene).get('Quay/Lamp')!)).toBeLessThan(1e-9);
    expect(near(at.get('Quay/Post')!, places(scene).get('Quay/Post')!)).toBeLessThan(1e-9);
  });

  it('keep their place about the middle where the art is another size', () => {
    const scene = addPin(testScene([testPlane({ id: QUAY }, 400, 300)]), QUAY, LAMP, 'Lamp', {
      x: 100,
      y: 40,
    });
    const other = setPlaneContent(scene, QUAY, { kind: 'still', art: testArt(5, 600, 500), made: null });
    expect(planeOf(other, QUAY)!.pins?.[LAMP]).toMatchObject({ xArtPx: 200, yArtPx: 140 });
  });
});
