import type { Box, Point } from '@keen-ridge/core/geometry';
import type { Plane } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { type CameraPose, homePose } from '@keen-ridge/core/stage';
import { cameraPoseAt, fieldingBox, stageFrameOf } from '@keen-ridge/core/staging';
import { type PointerEvent, type ReactNode, useMemo, useRef } from 'react';
import { SURROUND_GREY, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { type DragPoint, useDrag } from '../ui/pointer/drag.ts';
import { type ElementSize, useElementSize } from '../ui/use-element-size.ts';
import type { PictureFit } from '../viewport/place.ts';
import { useViewport, type Viewport } from '../viewport/use-viewport.ts';
import { ZoomBar } from '../viewport/zoom-bar.tsx';
import { FrameOverlay } from './frame-overlay.tsx';
import { OtherPictures } from './other-pictures.tsx';
import { PictureNotice, SoloNotice } from './picture-notices.tsx';
import { planesAt, planesWithin } from './planes-at.ts';
import { usePictureRenderer } from './use-picture-renderer.ts';
import { usePictureSource } from './use-picture-source.ts';

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
  const kept = useSessionState((state) => state.scene);
  const source = usePictureSource();
  const { scene } = source;
  const surround = usePreferences((state) => state.surround);
  const room = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
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
  const fixedPose = useMemo(
    () => (look === 'fielding' ? homePose(stageFrameOf(kept)) : undefined),
    [look, kept],
  );
  const grey = SURROUND_GREY[surround];

  const { renderer, state, shownBase } = usePictureRenderer(canvas, source, {
    size,
    fit: view.fit,
    grey,
    fixedPose,
    look,
  });

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
      data-scale={view.fit.scale}
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
      <ZoomBar scale={view.fit.scale} fitted={view.fitted} toFit={view.toFit} zoomTo={view.zoomTo} />
      <PictureNotice state={state} empty={planesOf(scene).length === 0} fit={view.fit} />
      <SoloNotice />
    </div>
  );
}
