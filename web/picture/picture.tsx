import { type PaintedPath, type Plane, shownArts } from '@keen-ridge/core/document';
import { applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import { isInside, parsePath } from '@keen-ridge/core/shapes';
import { framePlan } from '@keen-ridge/core/shot';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { SURROUND_GREY, usePreferences } from '../state/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { fitFrame, frameToDevice, type PictureFit } from './fit.ts';
import { FrameOverlay } from './frame-overlay.tsx';
import { pictureScene } from './picture-scene.ts';
import { PictureRenderer, type PictureState } from './renderer.ts';
import { useElementSize } from './use-element-size.ts';

export interface PicturePointer {
  /** Output px of the frame. */
  readonly at: Point;
  readonly event: PointerEvent<HTMLDivElement>;
  /** The nearest plane with paint at the pointer. */
  readonly planeUnder: () => Plane | null;
}

interface PictureProps {
  /** Share of the room left round the frame on each side. */
  margin: number;
  label: string;
  cursor: string;
  onDown?: (pointer: PicturePointer) => void;
  onMove?: (pointer: PicturePointer) => void;
  onUp?: (pointer: PicturePointer) => void;
}

/** Alpha under which a click goes through the paint. */
const CLICKABLE_ALPHA = 40;

const hitsPaths = (paths: readonly PaintedPath[], at: Point): boolean =>
  paths.some(({ path }) => {
    const outlines = parsePath(path);
    return outlines.ok && isInside(outlines.value, at);
  });

/** The shot through the camera, rendered live by the kernel, with what lies outside the frame dimmed. */
export function Picture({ margin, label, cursor, onDown, onMove, onUp }: PictureProps) {
  const whole = useShownScene();
  const solo = useSessionState((state) => state.solo);
  const onion = useSessionState((state) => state.onion);
  const frame = useSessionState((state) => state.frame);
  const scene = useMemo(() => pictureScene(whole, frame, { solo, onion }), [whole, frame, solo, onion]);
  const surround = usePreferences((state) => state.surround);
  const room = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const renderer = useRef<PictureRenderer | null>(null);
  const [state, setState] = useState<PictureState>({ kind: 'loading', done: 0, total: 0 });
  const size = useElementSize(room);
  const fit = fitFrame(scene.frame, size.width, size.height, margin);
  const grey = SURROUND_GREY[surround];

  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, setState);
    renderer.current = made;
    return () => made.close();
  }, []);

  const artShown = scene.planes
    .filter((plane) => !plane.hidden)
    .flatMap((plane) => shownArts(plane.content))
    .map((art) => art.id)
    .join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: loading follows what art is shown, not every edit of the scene
  useEffect(() => {
    void renderer.current?.load(scene);
  }, [artShown]);

  useEffect(() => {
    if (size.width === 0) return;
    const ratio = window.devicePixelRatio;
    const placed = fitFrame(scene.frame, size.width, size.height, margin);
    renderer.current?.request({
      scene,
      frame,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      frameToImage: frameToDevice(placed, ratio),
      grey,
    });
  }, [scene, frame, size.width, size.height, margin, grey]);

  const pointer = (event: PointerEvent<HTMLDivElement>): PicturePointer => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = {
      x: (event.clientX - box.left - fit.left) / fit.scale,
      y: (event.clientY - box.top - fit.top) / fit.scale,
    };
    return { at, event, planeUnder: () => planeAt(at) };
  };
  const planeAt = (at: Point): Plane | null => {
    const hit = framePlan(scene, frame).planes.findLast((plane) => {
      const back = plane.state === 'drawn' ? invertAffine(plane.artToFrame) : null;
      const on = back && applyAffine(back, at);
      if (!on) return false;
      if (plane.shown.kind === 'paths') return hitsPaths(plane.shown.paths, on);
      return (renderer.current?.alphaAt(plane.shown.art.id, on.x, on.y) ?? 0) >= CLICKABLE_ALPHA;
    });
    return scene.planes.find((plane) => plane.id === hit?.planeId) ?? null;
  };

  return (
    <div
      ref={room}
      role="application"
      aria-label={label}
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      style={{ background: `rgb(${grey} ${grey} ${grey})`, cursor }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        onDown?.(pointer(event));
      }}
      onPointerMove={(event) => onMove?.(pointer(event))}
      onPointerUp={(event) => onUp?.(pointer(event))}
      onPointerCancel={(event) => onUp?.(pointer(event))}
    >
      <canvas ref={canvas} data-testid="picture" className="absolute inset-0 h-full w-full" />
      {size.width > 0 && <FrameOverlay fit={fit} room={size} />}
      <PictureNotice state={state} empty={scene.planes.length === 0} fit={fit} />
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
      <p role="status" className="num absolute bottom-3 left-3 bg-ink/85 px-2 py-1 text-white">
        Loading art {state.done} / {state.total}
      </p>
    );
  }
  return null;
}
