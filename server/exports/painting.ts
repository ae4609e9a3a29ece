import { sheetBox } from '@keen-ridge/core/export/sheet';
import { compose, scaling, translation } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { homePose } from '@keen-ridge/core/stage';
import { stageFrameOf } from '@keen-ridge/core/staging';
import { type FramePlan, framePlan } from '@keen-ridge/core/staging/frame';
import { pngOfFrame } from '../pictures/encode-frame.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';

/** Longest side of a painting on paper: 200 px to an inch on A4 across. */
const MOST_PX = 2200;

/** The whole painting as it stands at home, on white, as PNG. */
export async function paintingOf(
  renderer: FrameRenderer,
  scene: Scene,
  signal?: AbortSignal,
): Promise<Uint8Array> {
  const { x0, y0, x1, y1 } = sheetBox(scene);
  const scale = Math.min(1, MOST_PX / Math.max(x1 - x0, y1 - y0));
  const widthPx = Math.max(1, Math.round((x1 - x0) * scale));
  const heightPx = Math.max(1, Math.round((y1 - y0) * scale));
  const onPaper = compose(scaling(widthPx / (x1 - x0), heightPx / (y1 - y0)), translation(-x0, -y0));
  const atHome = framePlan(scene, 1, homePose(stageFrameOf(scene)));
  const plan: FramePlan = {
    ...atHome,
    widthPx,
    heightPx,
    // Light belongs to the frame; the painting is larger.
    vignette: 0,
    glow: 0,
    planes: atHome.planes.map((plane) =>
      plane.state === 'drawn'
        ? { ...plane, artToFrame: compose(onPaper, plane.artToFrame), defocusPx: 0 }
        : plane,
    ),
  };
  const asked = { widthPx, heightPx, format: 'straight8', ground: '#ffffff', words: '' } as const;
  return renderer.withArt(scene, () =>
    renderer.usePicture(plan, asked, (rendered) => pngOfFrame(rendered, true), signal),
  );
}
