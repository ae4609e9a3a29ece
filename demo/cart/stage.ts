import { addCard, type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { addPlanes, setPlaneMount } from '@keen-ridge/core/edits/planes';
import { closeLoop, runWorld, setPlanesRepeat } from '@keen-ridge/core/edits/runs';
import { newScene, type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { CART_NOTES, withNotes } from '../left-so.ts';

export const CART_SHOT = '030 Mail cart along the sea wall';

/** Depths of the strips by name, stage px; road, cart and pony are the datum. */
const DEPTHS_SPX: Readonly<Record<string, number>> = {
  Thistles: -700,
  'Sea wall': 350,
  Sea: 3000,
  'Far headland': 5200,
};
/** The world runs to the west at this speed, px a frame on the datum. */
const WORLD_PX = -16;
const LENGTH_FRAMES = 192;
const id = (text: string) => planeIdSchema.parse(text);

export interface CartArt {
  /** The strips, near to far. */
  readonly strips: readonly PaintedLayer[];
  readonly cart: PaintedLayer;
  readonly pony: PaintedLayer;
  readonly wheels: PaintedLayer;
}

/** A cart that goes on the spot while the world runs past: strips without end, a walk, wheels, a loop of 8 s. */
export function cartScene({ strips, cart, pony, wheels }: CartArt): Scene {
  const empty = newScene({
    widthPx: 1920,
    heightPx: 1080,
    rate: { num: 24, den: 1 },
    lengthFrames: LENGTH_FRAMES,
  });
  const plane = (layer: PaintedLayer, name: string): Plane => planeFromLayer(id(`cart-${name}`), layer);
  const world = strips.map((layer) => plane(layer, layer.name.toLowerCase().replaceAll(' ', '-')));
  const carried = [plane(pony, 'pony'), rolling(plane(wheels, 'wheels')), plane(cart, 'cart')];
  const near = world.filter(({ name }) => name === 'Thistles');
  const flat = addPlanes(empty, [...near, ...carried, ...world.filter((strip) => !near.includes(strip))]);
  const staged = world.reduce(
    (scene, strip) =>
      setPlaneDepth(scene, strip.id, {
        depthSpx: DEPTHS_SPX[strip.name] ?? 0,
        atFrame: 1,
        holdPicture: true,
      }),
    flat,
  );
  const riding = ['pony', 'wheels'].reduce((scene, name) => {
    const mounted = setPlaneMount(scene, id(`cart-${name}`), { on: 'plane', plane: id('cart-cart') }, 1);
    return mounted.ok ? mounted.value : scene;
  }, staged);
  const repeated = setPlanesRepeat(riding, new Set(world.map((strip) => strip.id)), 'across');
  return withNotes(withSky(closeLoop(runWorld(repeated, WORLD_PX), 'speeds')), CART_NOTES);
}

/** The drawings turn the wheel by one of its 8 spokes; 28 of them a second roll 7 times round the rim, 74 px, in 8 s. */
const rolling = (plane: Plane): Plane =>
  plane.content.kind === 'moving'
    ? { ...plane, content: { ...plane.content, rate: { num: 28, den: 1 } } }
    : plane;

/** The sky is too far to move at all: it rides on the camera. */
function withSky(scene: Scene): Scene {
  const sky = id('cart-sky');
  const carded = addCard(scene, {
    id: sky,
    name: 'Evening card',
    // Farther than anything is likely to be pushed: what lies behind it is hidden by it.
    depthSpx: 60_000,
    before: null,
    paint: {
      kind: 'linear',
      angleDeg: 180,
      space: 'oklab',
      stops: [
        { at: 0, colour: '#27315f', opacity: 1 },
        { at: 0.3, colour: '#6a5a8c', opacity: 1 },
        { at: 0.5, colour: '#f0a878', opacity: 1 },
        { at: 1, colour: '#ffd9a0', opacity: 1 },
      ],
    },
  });
  const mounted = setPlaneMount(carded, sky, { on: 'camera' }, 1);
  return mounted.ok ? mounted.value : carded;
}
