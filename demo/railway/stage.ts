import { addCard, type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { pasteLook } from '@keen-ridge/core/edits/look';
import { addPlanes, copyOfPlane } from '@keen-ridge/core/edits/planes';
import { newScene, type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { RAILWAY_NOTES, withNotes } from '../left-so.ts';

export const RAILWAY_SHOT = '020 Cliff railway';

/** Depths by name, stage px; the cliff, its track and the car are the datum. */
const DEPTHS_SPX: Readonly<Record<string, number>> = {
  Terraces: 900,
  Sea: 2600,
  'Far coast': 6200,
  'Cloud banks': 12_500,
};
const SKY_SPX = 21_000;
const id = (text: string) => planeIdSchema.parse(text);

export interface RailwayArt {
  readonly layers: readonly PaintedLayer[];
  /** The lamp's light as a moving layer. */
  readonly flicker: PaintedLayer;
  /** The piece of the art shelf. */
  readonly pine: PaintedLayer;
}

/** A rise from the water to the rim of the cliff: a painting, a card, a moving plane, and one shelf piece twice. */
export function railwayScene({ layers, flicker, pine }: RailwayArt): Scene {
  const empty = newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 144 });
  const planes = [flicker, ...layers].map((layer, i) => planeFromLayer(id(`railway-${i + 1}`), layer));
  const flat = addPlanes(empty, planes);
  const staged = planes.reduce(
    (scene, plane) =>
      setPlaneDepth(scene, plane.id, {
        depthSpx: DEPTHS_SPX[plane.name] ?? 0,
        atFrame: 1,
        holdPicture: true,
      }),
    flat,
  );
  const from = setCamera(staged, { panY: 820, truck: 0 }, { frame: 1, keying: true });
  const moved = setCamera(from, { panY: -760, truck: 120 }, { frame: 132, keying: true });
  const whole = addCard(withPines(moved, pine), {
    id: id('railway-sky'),
    name: 'Dusk card',
    depthSpx: SKY_SPX,
    before: null,
    paint: {
      kind: 'linear',
      angleDeg: 180,
      space: 'oklab',
      stops: [
        { at: 0, colour: '#131d3a', opacity: 1 },
        { at: 0.38, colour: '#2f4078', opacity: 1 },
        { at: 0.54, colour: '#a5809f', opacity: 1 },
        { at: 0.62, colour: '#f2b380', opacity: 1 },
        { at: 1, colour: '#ffd9a0', opacity: 1 },
      ],
    },
  });
  return withNotes(intoNight(whole), RAILWAY_NOTES);
}

/** From dusk at the water to night at the rim: air, light and glow keyed at both ends. */
function intoNight(scene: Scene): Scene {
  const at = (frame: number) => ({ frame, keying: true });
  const dusk = pasteLook(scene, { of: 'camera', values: { ...DUSK } }, new Set(), at(1));
  return pasteLook(dusk, { of: 'camera', values: { ...NIGHT } }, new Set(), at(132));
}

const DUSK = {
  airColour: '#b08aa0',
  visibility: 60_000,
  brightness: 1,
  tint: '#fff0e0',
  tintStrength: 0.2,
  glow: 0.08,
  vignette: 0.05,
} as const;
const NIGHT = {
  airColour: '#1c2a4a',
  visibility: 26_000,
  brightness: 0.62,
  tint: '#8fa6dc',
  tintStrength: 0.6,
  glow: 0.3,
  vignette: 0.3,
} as const;

/** The same pine twice, close to the camera on either side, so that nobody takes the one for the other. */
function withPines(scene: Scene, pine: PaintedLayer): Scene {
  const right: Plane = {
    ...planeFromLayer(id('railway-pine'), pine),
    depthSpx: -760,
    transform: {
      ...planeFromLayer(id('railway-pine'), pine).transform,
      xSpx: 590,
      ySpx: 640,
      scaleX: -0.62,
      scaleY: 0.62,
    },
  };
  const once = addPlanes(scene, [right]);
  const look = { flipX: true, flipY: false, turnDeg: -7, squashX: 0.94, squashY: 0.82, shiftXSpx: -1230 };
  const copy = copyOfPlane(once, right.id, id('railway-pine-2'), look);
  const left = copy && { ...copy, depthSpx: -620, transform: { ...copy.transform, ySpx: -420 } };
  return left ? addPlanes(once, [left]) : once;
}
