import { type Affine, type Box, invertAffine, mapBox, scaling } from '../../geometry/index.ts';
import { type Plane, planeIdSchema, type Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { type Shown, shownAt } from '../../staging/content/index.ts';
import type { FramePlan } from '../../staging/frame/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';

/** One picture of a plane: what it shows on some of its frames. */
export interface PlanePicture {
  /** The same for the same picture, of whatever plane. */
  readonly key: string;
  readonly shown: Shown;
  readonly widthPx: number;
  readonly heightPx: number;
}

export function pictureOf(plane: Plane, shown: Shown): PlanePicture {
  if (shown.kind === 'image') {
    const { id, widthPx, heightPx } = shown.art;
    return { key: id, shown, widthPx, heightPx };
  }
  const { widthPx, heightPx } = shown.facts;
  return { key: `shapes of ${plane.id}`, shown, widthPx, heightPx };
}

/** The pictures that a plane shows over the shot, in the order in which they come, and which one it shows on each frame. */
export function picturesOver(plane: Plane, scene: Scene): { pictures: PlanePicture[]; at: number[] } {
  const pictures: PlanePicture[] = [];
  const at = Array.from({ length: scene.lengthFrames }, (_, i) => {
    const picture = pictureOf(plane, shownAt(plane.content, i + 1, scene.rate));
    const known = pictures.findIndex(({ key }) => key === picture.key);
    return known >= 0 ? known : pictures.push(picture) - 1;
  });
  return { pictures, at };
}

/** Every picture of a shot, once. */
export function shotPictures(scene: Scene): PlanePicture[] {
  const byKey = new Map<string, PlanePicture>();
  for (const plane of planesOf(scene))
    for (const picture of picturesOver(plane, scene).pictures) byKey.set(picture.key, picture);
  return [...byKey.values()];
}

/** A plan of the picture alone, `scale` times its own size, as it was painted: without looks and blurs. */
export function planOfPicture({ shown, widthPx, heightPx }: PlanePicture, scale: number): FramePlan {
  const size = {
    widthPx: Math.max(1, Math.round(widthPx * scale)),
    heightPx: Math.max(1, Math.round(heightPx * scale)),
  };
  return {
    frame: 1,
    ...size,
    pose: { xSpx: 0, ySpx: 0, zSpx: -size.widthPx, zoom: 1, rollDeg: 0 },
    vignette: 0,
    glow: 0,
    light: null,
    planes: [
      {
        planeId: planeIdSchema.parse('picture'),
        shown,
        distanceSpx: size.widthPx,
        speed: 1,
        opacity: 1,
        blurPx: 0,
        defocusPx: 0,
        look: { matrix: null, air: null, filtered: false },
        mode: 'paint',
        softEdgePx: 0,
        repeat: 'none',
        state: 'drawn',
        artToFrame: scaling(size.widthPx / widthPx, size.heightPx / heightPx),
      },
    ],
  };
}

/** Copies of a tiled plane along one axis: past this the rest is left out. */
const MOST_COPIES = 400;

/** The part of a plane's own px that is covered, in whole copies where it is tiled: all that is seen of it in the shot. */
export function coveredBox(
  plane: Plane,
  { widthPx, heightPx }: PlanePicture,
  artToFrame: readonly (Affine | null)[],
  frame: Scene['frame'],
): Box {
  const whole = { x0: 0, y0: 0, x1: widthPx, y1: heightPx };
  if (plane.repeat === 'none') return whole;
  const seen = artToFrame.flatMap((map) => {
    const back = map && invertAffine(map);
    return back ? [mapBox(back, { x0: 0, y0: 0, x1: frame.widthPx, y1: frame.heightPx })] : [];
  });
  const along = (low: number[], high: number[], size: number): [number, number] => {
    const from = Math.max(-MOST_COPIES / 2, Math.floor(low.reduce((p, q) => Math.min(p, q), 0) / size));
    const to = Math.min(MOST_COPIES / 2, Math.ceil(high.reduce((p, q) => Math.max(p, q), size) / size));
    return [from * size, to * size];
  };
  const [x0, x1] = repeatsAcross(plane.repeat)
    ? along(
        seen.map((box) => box.x0),
        seen.map((box) => box.x1),
        widthPx,
      )
    : [0, widthPx];
  const [y0, y1] = repeatsDown(plane.repeat)
    ? along(
        seen.map((box) => box.y0),
        seen.map((box) => box.y1),
        heightPx,
      )
    : [0, heightPx];
  return { x0, y0, x1, y1 };
}
