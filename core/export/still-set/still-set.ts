import { type Box, compose, type Point, translation } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { homePose } from '../../stage/index.ts';
import { type FramePlan, framePlan } from '../../staging/frame/index.ts';
import { stageFrameOf } from '../../staging/index.ts';
import { planOfPlane } from '../plan-asked.ts';
import { fieldAt, fieldFrames, sheetBox } from '../sheet/chart.ts';

/** Px of a canvas, and its longest side, at most: more is cut off, the same on both sides. */
const MOST_PX = 96 * 2 ** 20;
const MOST_SIDE_PX = 16_384;

export interface StillCanvas {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Upper left corner, px of the home frame. */
  readonly x0: number;
  readonly y0: number;
  /** Whether paint or fields reach beyond it. */
  readonly isCut: boolean;
}

/**
 * The canvas that everything of a shot stands on at home, an output px to a px of the datum. Its middle is that of the
 * home frame, so that whatever is drawn on a canvas of this size comes back in place, middle on middle.
 */
export function stillCanvas(scene: Scene): StillCanvas {
  const { widthPx, heightPx } = scene.frame;
  const box = sheetBox(scene);
  const half = (from: number, to: number, size: number) =>
    Math.ceil(Math.max(size / 2, size / 2 - from, to - size / 2));
  const [wide, high] = [half(box.x0, box.x1, widthPx), half(box.y0, box.y1, heightPx)];
  const x = Math.min(wide, Math.max(widthPx / 2, MOST_SIDE_PX / 2));
  const y = Math.min(high, Math.max(heightPx / 2, Math.min(MOST_SIDE_PX / 2, Math.floor(MOST_PX / (4 * x)))));
  return {
    // Whole px on both sides of the middle: an odd frame keeps its own half px.
    widthPx: sized(x, widthPx),
    heightPx: sized(y, heightPx),
    x0: widthPx / 2 - sized(x, widthPx) / 2,
    y0: heightPx / 2 - sized(y, heightPx) / 2,
    isCut: x < wide || y < high,
  };
}

/** Twice a half, odd where the frame is. */
const sized = (half: number, framePx: number): number =>
  2 * Math.ceil(half - (framePx % 2) / 2) + (framePx % 2);

/** Everything, or one plane, as it stands at home on frame 1, on the canvas; focus and light of the frame are not in it. */
export function stillPlan(scene: Scene, canvas: StillCanvas, plane: PlaneId | null): FramePlan {
  const atHome = framePlan(scene, 1, homePose(stageFrameOf(scene)));
  const onCanvas = translation(-canvas.x0, -canvas.y0);
  return {
    ...atHome,
    widthPx: canvas.widthPx,
    heightPx: canvas.heightPx,
    vignette: 0,
    glow: 0,
    planes: planOfPlane(atHome, plane).planes.map((one) =>
      one.state === 'drawn' ? { ...one, artToFrame: compose(onCanvas, one.artToFrame), defocusPx: 0 } : one,
    ),
  };
}

export interface StillField {
  readonly frame: number;
  /** Corners on the canvas from the upper left, clockwise. */
  readonly corners: readonly Point[];
}

/** What the camera sees of the datum on its first, keyed and last frames. */
export const stillFields = (scene: Scene, { x0, y0 }: StillCanvas): StillField[] =>
  fieldFrames(scene).flatMap((frame) => {
    const corners = fieldAt(scene, frame)?.map(({ x, y }) => ({ x: x - x0, y: y - y0 }));
    return corners ? [{ frame, corners }] : [];
  });

/** The home frame on the canvas. */
export const homeOnCanvas = ({ frame }: Scene, { x0, y0 }: StillCanvas): Box => ({
  x0: -x0,
  y0: -y0,
  x1: frame.widthPx - x0,
  y1: frame.heightPx - y0,
});

/** What lies beside the pictures, for whoever draws on them. */
export const stillNote = (scene: Scene, canvas: StillCanvas): string =>
  `${JSON.stringify(
    {
      canvas: { widthPx: canvas.widthPx, heightPx: canvas.heightPx, isCut: canvas.isCut },
      homeFrame: homeOnCanvas(scene, canvas),
      fields: stillFields(scene, canvas),
      unit: 'px of the canvas, which are output px on the datum at the home camera',
      howToBringBack:
        'Draw on a canvas of this size and bring the drawings back as numbered PNGs, as painted: their middle is that of the home frame, so they ride on the datum in place.',
    },
    null,
    2,
  )}\n`;
