import { type PlanePicture, planOfPicture, shotPictures } from '@keen-ridge/core/export/gltf';
import type { Scene } from '@keen-ridge/core/scene';
import { pngOfFrame } from '../pictures/encode-frame.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';

/** Pictures of planes as they were painted, no side of them longer than `mostPx`, as PNG by their keys; one after another. */
export async function planePictures(
  renderer: FrameRenderer,
  scene: Scene,
  mostPx: number,
  signal?: AbortSignal,
): Promise<Map<string, Uint8Array>> {
  const pngs = new Map<string, Uint8Array>();
  await renderer.withArt(scene, async () => {
    for (const picture of shotPictures(scene)) {
      signal?.throwIfAborted();
      pngs.set(picture.key, await pngOf(renderer, picture, mostPx, signal));
    }
  });
  return pngs;
}

function pngOf(renderer: FrameRenderer, picture: PlanePicture, mostPx: number, signal?: AbortSignal) {
  const scale = Math.min(1, mostPx / Math.max(picture.widthPx, picture.heightPx));
  const plan = planOfPicture(picture, scale);
  const { widthPx, heightPx } = plan;
  const asked = { widthPx, heightPx, format: 'straight8', ground: 'clear', words: '' } as const;
  return renderer.usePicture(plan, asked, (rendered) => pngOfFrame(rendered, false), signal);
}
