import { artsDrawn } from '@keen-ridge/core/picture';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { CameraPose } from '@keen-ridge/core/stage';
import { framesOf } from '@keen-ridge/core/staging/frame';
import { type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { useSession } from '../session/use-session.ts';
import type { ElementSize } from '../ui/use-element-size.ts';
import { frameToDevice, type PictureFit } from '../viewport/place.ts';
import { pictureScene } from './live/picture-scene.ts';
import { PictureRenderer, type PictureRequest, type PictureState } from './live/renderer.ts';
import type { PictureSource } from './use-picture-source.ts';

interface PictureView {
  readonly size: ElementSize;
  readonly fit: PictureFit;
  /** Grey laid under the stage, 8-bit. */
  readonly grey: number;
  /** Where it is seen from, if not through the shot's own camera. */
  readonly fixedPose: CameraPose | undefined;
  readonly look: 'camera' | 'fielding';
}

interface LivePicture {
  readonly renderer: RefObject<PictureRenderer | null>;
  readonly state: PictureState;
  /** What was asked for last, where other pictures are asked for with it. */
  readonly shownBase: PictureRequest | null;
}

/** Keeps a canvas in step with what it shows: scene, frame, view and sway. */
export function usePictureRenderer(
  canvas: RefObject<HTMLCanvasElement | null>,
  { whole, extras, scene, frame, others, playing, exact }: PictureSource,
  { size, fit: { left, top, scale }, grey, fixedPose, look }: PictureView,
): LivePicture {
  const session = useSession();
  const renderer = useRef<PictureRenderer | null>(null);
  const [state, setState] = useState<PictureState>({ kind: 'loading', done: 0, total: 0 });
  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, {
      onState: setState,
      ...(look === 'camera'
        ? {
            onDrawn: (drawn, whole) =>
              session.drawn.setState(whole ? { frame: drawn, whole } : { frame: drawn }),
            onCached: (frames) => session.preroll.setState({ frames }),
          }
        : {}),
    });
    renderer.current = made;
    const end = session.preroll.subscribe(({ wanted }) => made.renderAhead(wanted ? framesOf(wanted) : []));
    return () => {
      end();
      if (look === 'camera') session.preroll.setState({ frames: new Set(), wanted: null });
      made.close();
    };
  }, [session, look, canvas]);

  const planes = planesOf(scene);
  const artShown = useMemo(() => artsDrawn(planes.filter((plane) => !plane.hidden)).join(), [planes]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: loading follows what art is shown, not every edit of the scene
  useEffect(() => {
    void renderer.current?.load(scene);
  }, [artShown]);

  const base = useRef<PictureRequest | null>(null);
  const [shownBase, setShownBase] = useState<PictureRequest | null>(null);
  useEffect(() => {
    if (size.width === 0) return;
    const ratio = window.devicePixelRatio;
    base.current = {
      scene,
      frame,
      pose: fixedPose,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      frameToImage: frameToDevice({ left, top, scale }, ratio),
      grey,
      exact,
    };
    if (look === 'camera') session.drawn.setState({ frame: 0 });
    setShownBase(others ? base.current : null);
    const swayed = fixedPose ? null : session.swayed.getState().pose;
    const sways = swayed && { ...base.current, pose: swayed, moving: true };
    renderer.current?.request(sways ?? base.current);
  }, [
    scene,
    frame,
    size.width,
    size.height,
    left,
    top,
    scale,
    grey,
    fixedPose,
    session,
    exact,
    look,
    others,
  ]);
  useEffect(() => {
    if (!playing || others) return;
    const show = () => {
      const at = session.state.frame;
      if (!base.current || base.current.frame === at) return;
      if (look === 'camera') session.drawn.setState({ frame: 0 });
      base.current = { ...base.current, frame: at, scene: pictureScene(whole, at, extras) };
      renderer.current?.request(base.current);
    };
    show();
    return session.store.subscribe(show);
  }, [playing, others, whole, extras, session, look]);
  // The sway changes with every frame of the display: it goes to the renderer without drawing the page anew.
  useEffect(() => {
    if (fixedPose) return;
    return session.swayed.subscribe(({ pose }) => {
      if (base.current)
        renderer.current?.request(pose ? { ...base.current, pose, moving: true } : base.current);
    });
  }, [session, fixedPose]);

  return { renderer, state, shownBase };
}
