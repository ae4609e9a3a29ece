import { artsDrawn } from '@keen-ridge/core/picture';
import type { PlaneId } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { type CSSProperties, useEffect, useMemo, useRef } from 'react';
import { usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { arrowStep, useDrag } from '../ui/pointer/drag.ts';
import type { PictureFit } from '../viewport/place.ts';
import { pictureWords as say } from '../words/picture.ts';
import { PictureRenderer, type PictureRequest } from './live/renderer.ts';

const NOTHING = { planes: [] as readonly PlaneId[], frames: [] as readonly number[] };

/** Frames round `frame` that are laid over the picture, within the shot. */
function useGhostFrames(frame: number, lengthFrames: number): readonly number[] {
  const { before, after, step } = usePreferences((state) => state.ghosts);
  return useMemo(() => {
    const offsets = Array.from({ length: before + after + 1 }, (_, i) => i - before).filter((i) => i !== 0);
    return offsets.map((i) => frame + i * step).filter((at) => at >= 1 && at <= lengthFrames);
  }, [frame, lengthFrames, before, after, step]);
}

/** The chosen planes at other frames, where ghosts of planes are on. Not while the shot plays. */
export function usePlaneGhosts(frame: number, lengthFrames: number): typeof NOTHING {
  const of = usePreferences((state) => state.ghosts.of);
  const planes = useSessionState((state) => state.selection);
  const playing = useSessionState((state) => state.playing);
  const frames = useGhostFrames(frame, lengthFrames);
  return useMemo(
    () => (of === 'planes' && !playing && planes.length > 0 ? { planes, frames } : NOTHING),
    [of, playing, planes, frames],
  );
}

/** Whether there is any picture beside the one: ghosts of frames, or a wipe. */
export function useOtherPictures(): boolean {
  const of = usePreferences((state) => state.ghosts.of);
  const playing = useSessionState((state) => state.playing);
  const wiped = useSessionState((state) => state.wipe !== null);
  return wiped || (of === 'frame' && !playing);
}

/** Whole frames laid over the picture, and what a wipe shows beside it: rendered like the picture, by the same pool. */
export function OtherPictures({ base, fit }: { base: PictureRequest; fit: PictureFit }) {
  const of = usePreferences((state) => state.ghosts.of);
  const playing = useSessionState((state) => state.playing);
  const wipe = useSessionState((state) => state.wipe);
  const frames = useGhostFrames(base.frame, base.scene.lengthFrames);
  return (
    <>
      {of === 'frame' &&
        !playing &&
        frames.map((frame) => (
          <PictureLayer
            key={frame}
            request={{ ...base, frame }}
            style={{ opacity: 0.45 / frames.length + 0.05 }}
          />
        ))}
      {wipe && (
        <>
          <PictureLayer
            testId="wipe"
            request={{ ...base, scene: wipe.scene ?? base.scene, frame: wipe.frame ?? base.frame }}
            style={{ clipPath: `inset(0 0 0 ${fit.left + wipe.at * fit.width}px)` }}
          />
          <WipeLine fit={fit} />
        </>
      )}
    </>
  );
}

function PictureLayer({
  request,
  style,
  testId,
}: {
  request: PictureRequest;
  style: CSSProperties;
  testId?: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const renderer = useRef<PictureRenderer | null>(null);
  const { scene, frame, widthPx, heightPx, frameToImage, grey } = request;
  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, { onState: () => undefined });
    renderer.current = made;
    return () => made.close();
  }, []);
  const arts = artsDrawn(planesOf(scene)).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: loading follows what art is shown, not every edit of the scene
  useEffect(() => {
    void renderer.current?.load(scene);
  }, [arts]);
  useEffect(() => {
    renderer.current?.request({ scene, frame, widthPx, heightPx, frameToImage, grey });
  }, [scene, frame, widthPx, heightPx, frameToImage, grey]);
  return (
    <canvas
      ref={canvas}
      data-testid={testId}
      className="pointer-events-none absolute inset-0 h-full w-full"
      style={style}
    />
  );
}

const STEP = 0.02;

/** The line between the picture and what it is compared with: dragged, or moved with the arrow keys. */
function WipeLine({ fit }: { fit: PictureFit }) {
  const session = useSession();
  const wipe = useSessionState((state) => state.wipe);
  const to = (at: number) => wipe && session.setWipe({ ...wipe, at: Math.min(1, Math.max(0, at)) });
  const drag = useDrag<HTMLDivElement>(
    (down) => {
      const box = down.currentTarget.parentElement?.getBoundingClientRect();
      if (!box) return null;
      return {
        move: ({ clientX }) => to((clientX - box.left - fit.left) / fit.width),
        drop: () => session.setWipe(wipe),
      };
    },
    { slackPx: 1 },
  );
  if (!wipe) return null;
  const x = fit.left + wipe.at * fit.width;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={say.wipeBetweenNowAndWord(wipe.word)}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe.at * 100)}
      className="absolute inset-y-0 z-10 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: x }}
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by?.x) return;
        event.preventDefault();
        to(wipe.at + by.x * STEP);
      }}
      {...drag}
    >
      <div className="mx-auto h-full w-0.5 bg-white shadow-[0_0_0_1px_rgb(0_0_0/0.5)]" />
      <span className="absolute top-2 right-3 whitespace-nowrap bg-black/80 px-1.5 py-0.5 text-white">
        {say.now}
      </span>
      <span className="absolute top-2 left-3 whitespace-nowrap bg-black/80 px-1.5 py-0.5 text-white">
        {wipe.word}
      </span>
    </div>
  );
}
