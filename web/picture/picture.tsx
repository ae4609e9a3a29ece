import type { Box, Point } from '@keen-ridge/core/geometry';
import type { Plane } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { type CameraPose, homePose } from '@keen-ridge/core/stage';
import { cameraPoseAt, stageFrameOf } from '@keen-ridge/core/staging';
import { shownArts } from '@keen-ridge/core/staging/content';
import { framesOf } from '@keen-ridge/core/staging/frame';
import { type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { SURROUND_GREY, usePreferences } from '../session/choices/preferences.ts';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useSession, useSessionState, useShownScene } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { type DragPoint, useDrag } from '../ui/pointer/drag.ts';
import { type ElementSize, useElementSize } from '../ui/use-element-size.ts';
import { frameToDevice, type PictureFit } from '../viewport/place.ts';
import { useViewport, type Viewport } from '../viewport/use-viewport.ts';
import { ZoomBar } from '../viewport/zoom-bar.tsx';
import { fieldingBox } from './fielding-box.ts';
import { FrameOverlay } from './frame-overlay.tsx';
import { pictureScene } from './live/picture-scene.ts';
import { PictureRenderer, type PictureRequest, type PictureState } from './live/renderer.ts';
import { OtherPictures, useOtherPictures, usePlaneGhosts } from './other-pictures.tsx';
import { planesAt, planesWithin } from './planes-at.ts';

const EVERYWHERE: Box = { x0: -Infinity, y0: -Infinity, x1: Infinity, y1: Infinity };

/** Where the pointer is: output px of the frame, and the drag that it makes. */
export interface PicturePoint {
  readonly at: Point;
  readonly drag: DragPoint;
}

/** A press in the picture. */
export interface PicturePress {
  readonly at: Point;
  readonly event: PointerEvent<HTMLDivElement>;
  /** Planes with paint at the pointer, nearest first. */
  readonly planesUnder: () => readonly Plane[];
  /** Planes whose paint, as far as the picture shows it, lies in a box (output px), nearest first. */
  readonly planesWithin: (box: Box) => readonly Plane[];
}

/** What a press in the picture has grasped; ends like any other drag. */
export interface PictureDrag {
  readonly move?: (to: PicturePoint) => void;
  readonly keep?: () => void;
  readonly click?: (at: PicturePoint) => void;
  readonly drop?: () => void;
}

/** What a layer over the picture is drawn with. */
export interface PictureRoom {
  readonly view: Viewport;
  readonly fit: PictureFit;
  readonly room: ElementSize;
  /** The camera that the picture is seen through, where it is not the shot's own. */
  readonly pose: CameraPose | undefined;
}

interface PictureProps {
  /** Share of the room left round the frame on each side. */
  margin: number;
  label: string;
  cursor: string;
  /** `fielding`: the whole painting from home. */
  look?: 'camera' | 'fielding';
  /** What a press takes hold of. */
  grasp?: (press: PicturePress) => PictureDrag | null;
  slackPx?: number;
  /** Drawn over the picture: handles and marks. */
  over?: (room: PictureRoom) => ReactNode;
}

/** The shot, rendered live by the kernel: through its camera with what lies outside the frame dimmed, or fielded. */
export function Picture({ margin, label, cursor, look = 'camera', grasp, slackPx = 4, over }: PictureProps) {
  const session = useSession();
  const whole = useShownScene();
  const kept = useSessionState((state) => state.scene);
  const solo = useSessionState((state) => state.solo);
  const onion = useSessionState((state) => state.onion);
  const figure = useSessionState((state) => state.figure);
  const others = useOtherPictures();
  // A frame that plays goes to the renderer by itself, unless other pictures are asked for with it.
  const frame = useRestingFrame(others);
  const figureSize = usePreferences((state) => state.figure);
  const soloChannels = useSessionState((state) => state.soloChannels);
  const playing = useSessionState((state) => state.playing);
  const exact = usePreferences((state) => state.playMode === 'every') && playing;
  const ghosts = usePlaneGhosts(frame, whole.lengthFrames);
  const extras = useMemo(
    () => ({ solo, onion, figure, figureSize, soloChannels, ghosts }),
    [solo, onion, figure, figureSize, soloChannels, ghosts],
  );
  const scene = useMemo(() => pictureScene(whole, frame, extras), [whole, frame, extras]);
  const surround = usePreferences((state) => state.surround);
  const room = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const renderer = useRef<PictureRenderer | null>(null);
  const [state, setState] = useState<PictureState>({ kind: 'loading', done: 0, total: 0 });
  const size = useElementSize(room);
  // Measured on what is kept, so that the view rests while something is dragged.
  const content = useMemo(
    () =>
      look === 'fielding'
        ? fieldingBox(kept)
        : { x0: 0, y0: 0, x1: kept.frame.widthPx, y1: kept.frame.heightPx },
    [look, kept],
  );
  const view = useViewport(room, size, kept.frame, content, margin);
  const { left, top, scale } = view.fit;
  const fixedPose = useMemo(
    () => (look === 'fielding' ? homePose(stageFrameOf(kept)) : undefined),
    [look, kept],
  );
  const grey = SURROUND_GREY[surround];

  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, {
      onState: setState,
      ...(look === 'camera'
        ? {
            onDrawn: (drawn) => session.drawn.setState({ frame: drawn }),
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
  }, [session, look]);

  const planes = planesOf(scene);
  const artShown = useMemo(
    () =>
      planes
        .filter((plane) => !plane.hidden)
        .flatMap((plane) => shownArts(plane.content))
        .map((art) => art.id)
        .join(),
    [planes],
  );
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

  const drag = useDrag<HTMLDivElement>(
    (event) => {
      const shownAt = session.state.frame;
      const pose = fixedPose ?? session.swayed.getState().pose ?? cameraPoseAt(scene, shownAt);
      const at = view.at(event);
      // Measured with the view of the press: it rests while something is dragged.
      const pointAt = (point: DragPoint): PicturePoint => ({ at: view.at(point), drag: point });
      const grasped = grasp?.({
        at,
        event,
        planesUnder: () =>
          planesAt(scene, shownAt, pose, at, (artId, x, y) => renderer.current?.alphaAt(artId, x, y) ?? 0),
        planesWithin: (box) =>
          planesWithin(scene, shownAt, pose, box, look === 'fielding' ? EVERYWHERE : content),
      });
      if (!grasped) return null;
      return {
        move: (to) => grasped.move?.(pointAt(to)),
        keep: () => grasped.keep?.(),
        click: (to) => grasped.click?.(pointAt(to)),
        drop: () => grasped.drop?.(),
      };
    },
    { slackPx },
  );

  return (
    <div
      ref={room}
      role="application"
      aria-label={label}
      data-scale={scale}
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      style={{ background: `rgb(${grey} ${grey} ${grey})`, cursor }}
      onPointerDownCapture={view.onPointerDownCapture}
      {...drag}
    >
      <canvas
        ref={canvas}
        data-testid={look === 'fielding' ? 'fielding' : 'picture'}
        className="absolute inset-0 h-full w-full"
      />
      {look === 'camera' && shownBase && <OtherPictures base={shownBase} fit={view.fit} />}
      {size.width > 0 && <FrameOverlay fit={view.fit} room={size} look={look} pose={fixedPose} />}
      {size.width > 0 && over?.({ view, fit: view.fit, room: size, pose: fixedPose })}
      <ZoomBar scale={scale} fitted={view.fitted} toFit={view.toFit} zoomTo={view.zoomTo} />
      <PictureNotice state={state} empty={planesOf(scene).length === 0} fit={view.fit} />
      {solo.length > 0 && <SoloNotice count={solo.length} />}
    </div>
  );
}

/** A picture that leaves planes out must say so, on every step. */
function SoloNotice({ count }: { count: number }) {
  const session = useSession();
  return (
    <div className="absolute left-3 top-3 flex items-center gap-2 border border-rule bg-raised py-1 pl-2 pr-1">
      <span>Only {count === 1 ? 'one plane is' : `${count} planes are`} shown.</span>
      <Button onPointerDown={(event) => event.stopPropagation()} onClick={() => session.setSolo([])}>
        Show all
      </Button>
    </div>
  );
}

function PictureNotice({ state, empty, fit }: { state: PictureState; empty: boolean; fit: PictureFit }) {
  if (state.kind === 'failed') {
    return (
      <p
        role="alert"
        className="absolute inset-x-0 top-1/2 mx-auto w-fit max-w-md border border-fault bg-raised px-4 py-2 text-fault"
      >
        {state.reason}
      </p>
    );
  }
  if (empty) {
    return (
      <p
        className="pointer-events-none absolute inset-x-0 mx-auto w-fit bg-raised/95 px-4 py-2"
        style={{ top: fit.top + fit.height / 2 - 18 }}
      >
        Nothing on the stage yet. Drop a painting anywhere here.
      </p>
    );
  }
  if (state.kind === 'loading' && state.done < state.total) {
    return (
      <p role="status" className="num absolute bottom-3 left-3 bg-black/80 px-2 py-1 text-white">
        Loading art {state.done} / {state.total}
      </p>
    );
  }
  return null;
}
