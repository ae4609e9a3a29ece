import { setPlanesHidden } from '@keen-ridge/core/edits/planes';
import { compose, scaling, translation } from '@keen-ridge/core/geometry';
import type { Plane } from '@keen-ridge/core/scene';
import { planeOf, planesOf, withEachPlane } from '@keen-ridge/core/scene/records';
import { useEffect, useRef } from 'react';
import { PictureRenderer } from '../../picture/live/renderer.ts';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useShownScene } from '../../session/use-session.ts';
import type { ElementSize } from '../../ui/use-element-size.ts';
import type { PictureFit } from '../../viewport/place.ts';

/** The plane by itself, drawn by the kernel at the size that it is looked at. */
export function PlaneAlone({ plane, fit, size }: { plane: Plane; fit: PictureFit; size: ElementSize }) {
  const session = useSession();
  const canvas = useRef<HTMLCanvasElement>(null);
  const renderer = useRef<PictureRenderer | null>(null);
  const scene = useShownScene();
  const grey = SURROUND_GREY[usePreferences((state) => state.surround)];
  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, { onState: () => undefined });
    renderer.current = made;
    return () => made.close();
  }, []);
  useEffect(() => {
    if (size.width === 0) return;
    const now = planeOf(scene, plane.id);
    if (!now) return;
    const others = planesOf(scene)
      .filter((p) => p.id !== plane.id)
      .map((p) => p.id);
    // Mounted on the camera at home, one stage px is one px of the frame: the surface's view does the rest.
    const { widthPx, heightPx } = scene.frame;
    const alone = setPlanesHidden(
      withEachPlane(scene, (p) =>
        p.id === plane.id
          ? {
              ...p,
              mount: ON_CAMERA,
              depthSpx: 0,
              run: null,
              repeat: 'none' as const,
              hidden: false,
              transform: UNPLACED,
            }
          : p,
      ),
      new Set(others),
      true,
    );
    const ratio = window.devicePixelRatio;
    const toOrigin = translation(-widthPx / 2, -heightPx / 2);
    const onSurface = compose(translation(fit.left, fit.top), scaling(fit.scale));
    renderer.current?.request({
      scene: alone,
      frame: session.state.frame,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      frameToImage: compose(scaling(ratio), compose(onSurface, toOrigin)),
      grey,
    });
    void renderer.current?.load(alone);
  }, [scene, plane.id, fit.left, fit.top, fit.scale, size.width, size.height, grey, session]);
  return <canvas ref={canvas} data-testid="shapes-picture" className="absolute inset-0 h-full w-full" />;
}

const ON_CAMERA = { on: 'camera' } as const;

/** Art px are stage px. */
const UNPLACED = {
  xSpx: 0,
  ySpx: 0,
  scaleX: 1,
  scaleY: 1,
  rotationDeg: 0,
  skew: 0,
  anchorXArtPx: 0,
  anchorYArtPx: 0,
};
