import type { Point } from '../../geometry/index.ts';
import type { Paint } from '../../paint/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { newPlane } from '../../staging/content/index.ts';
import { coverCard } from '../art/index.ts';
import { addPlanes, movePlanesOnFrame, paintOnFrame } from '../planes/index.ts';

/** A lamp as it comes: a warm light that fades to nothing at its rim. */
const lampPaint = (colour: string): Paint => ({
  kind: 'radial',
  centreX: 0.5,
  centreY: 0.5,
  // Half the side of a square is so much of half its diagonal.
  radius: Math.SQRT1_2,
  space: 'srgb',
  stops: [
    { at: 0, colour, opacity: 1 },
    { at: 0.25, colour, opacity: 0.55 },
    { at: 0.6, colour, opacity: 0.15 },
    { at: 1, colour, opacity: 0 },
  ],
});

export interface NewLamp {
  readonly id: PlaneId;
  readonly name: string;
  readonly colour: string;
  /** Across, stage px. */
  readonly widthSpx: number;
  readonly depthSpx: number;
  /** Where its middle is seen, output px. */
  readonly at: Point;
  readonly frame: number;
}

/** A lamp: a soft round card that is laid over by screening, and flickers a little. */
export function addLamp(scene: Scene, { id, name, colour, widthSpx, depthSpx, at, frame }: NewLamp): Scene {
  const widthPx = Math.max(2, Math.round(widthSpx));
  const content = { kind: 'card', widthPx, heightPx: widthPx, paint: lampPaint(colour) } as const;
  const added = addPlanes(scene, [
    {
      ...newPlane(id, name, content),
      depthSpx,
      mode: 'screen',
      flicker: { on: true, amount: 0.15, frequencyHz: 6, seed: 1, loops: false },
    },
  ]);
  const plane = planeOf(added, id);
  const box = plane && paintOnFrame(added, plane, frame);
  if (!box) return added;
  const by = { x: at.x - (box.x0 + box.x1) / 2, y: at.y - (box.y0 + box.y1) / 2 };
  return movePlanesOnFrame(added, new Set([id]), by, frame);
}

/** Share of the home distance at which a card before the camera stands: in front of all that is drawn but what is about to be passed. */
const BEFORE_LENS = 1 / 50;

/** A card before the camera, in front of everything, that fills the frame: for a fade, a flash, rain. */
export function addCardBeforeCamera(
  scene: Scene,
  card: { readonly id: PlaneId; readonly name: string; readonly paint: Paint },
): Scene {
  const { widthPx, heightPx } = scene.frame;
  const content = { kind: 'card', widthPx, heightPx, paint: card.paint } as const;
  const plane = {
    ...newPlane(card.id, card.name, content),
    mount: { on: 'camera' } as const,
    depthSpx: scene.homeDistanceSpx * (BEFORE_LENS - 1),
  };
  return coverCard(addPlanes(scene, [plane]), card.id);
}
