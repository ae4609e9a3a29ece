import type { Plane, PlaneId } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { shownAt } from '@keen-ridge/core/staging/content';
import { type ArtSight, cellsPath, framePath, framesOf, SIGHTS } from '@keen-ridge/core/survey';
import { useMemo, useRef } from 'react';
import { PlaneThumbnail } from '../planes/plane-thumbnail.tsx';
import { SURROUND_GREY, usePreferences } from '../session/choices/preferences.ts';
import { useSight, useSurvey } from '../session/survey/use-survey.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { useElementSize } from '../ui/use-element-size.ts';
import type { PictureFit } from '../viewport/place.ts';
import { useViewport } from '../viewport/use-viewport.ts';
import { ZoomBar } from '../viewport/zoom-bar.tsx';
import { surveyWords as say } from '../words/survey.ts';
import { onArtWords } from './on-art-words.ts';

/** A plane's own art: what of it the shot ever sees, what is missing, and where the frame goes on it. */
export function OnTheArt({ planeId }: { planeId: PlaneId | null }) {
  const grey = SURROUND_GREY[usePreferences((state) => state.surround)];
  const plane = useSessionState(({ scene }) => (planeId ? planeOf(scene, planeId) : undefined));
  const sight = useSight(plane ? plane.id : null);
  const { isOld, answer } = useSurvey();
  const words = onArtWords(plane, sight);
  return (
    <div
      className={`relative flex min-h-0 flex-1 flex-col ${isOld ? 'opacity-60' : ''}`}
      style={{ background: `rgb(${grey} ${grey} ${grey})` }}
      data-testid="on-the-art"
      data-ready={sight !== undefined && !isOld}
    >
      {plane && sight ? (
        <ArtPicture plane={plane} sight={sight} />
      ) : (
        <p className="m-auto rounded-[3px] bg-raised px-4 py-2">{words.empty}</p>
      )}
      {plane && sight && (
        <p className="num border-t border-rule bg-bar px-3 py-1.5 text-ink-2">
          <span className="font-semibold text-ink">{plane.name}</span> {words.says(answer?.needs ?? [])}
        </p>
      )}
    </div>
  );
}

function ArtPicture({ plane, sight }: { plane: Plane; sight: ArtSight }) {
  const { canvas } = sight;
  const room = useRef<HTMLDivElement>(null);
  const size = useElementSize(room);
  const whole = useMemo(() => ({ x0: 0, y0: 0, x1: canvas.widthPx, y1: canvas.heightPx }), [canvas]);
  const view = useViewport(room, size, canvas, whole, 0.1);
  const { fit } = view;
  return (
    <div
      ref={room}
      className="relative min-h-0 flex-1 touch-none overflow-hidden"
      role="img"
      aria-label={say.theArtOfNameDark(plane.name)}
      onPointerDownCapture={view.onPointerDownCapture}
    >
      {size.width > 0 && (
        <>
          <Paint plane={plane} sight={sight} fit={fit} />
          <Sight sight={sight} fit={fit} />
        </>
      )}
      <ZoomBar scale={fit.scale} fitted={view.fitted} toFit={view.toFit} zoomTo={view.zoomTo} />
    </div>
  );
}

interface PaintProps {
  plane: Plane;
  sight: ArtSight;
  fit: PictureFit;
}

/** The paint as it is, where it lies on the canvas. */
function Paint({ plane, sight: { canvas, worst }, fit }: PaintProps) {
  const rate = useSessionState(({ scene }) => scene.rate);
  const shown = shownAt(plane.content, worst?.frame ?? 1, rate);
  const facts = shown.kind === 'image' ? shown.art : shown.facts;
  const style = {
    left: fit.left + canvas.xPx * fit.scale,
    top: fit.top + canvas.yPx * fit.scale,
    width: facts.widthPx * fit.scale,
    height: facts.heightPx * fit.scale,
  };
  return (
    <div className="absolute" style={style}>
      {shown.kind === 'image' ? (
        <img src={`/api/art/${shown.art.id}/preview`} alt="" draggable={false} className="h-full w-full" />
      ) : (
        <PlaneThumbnail content={plane.content} className="h-full w-full bg-transparent!" />
      )}
    </div>
  );
}

/** How far down each label stands from the one before: frames may begin at one place. */
const LABEL_STEP = 20;

function Sight({ sight, fit }: Omit<PaintProps, 'plane'>) {
  const paths = useMemo(
    () => ({
      never: cellsPath(sight, SIGHTS.never),
      missing: cellsPath(sight, SIGHTS.missing),
      frames: framesOf(sight).map((at) => ({ ...at, d: framePath(sight, at) })),
    }),
    [sight],
  );
  const { canvas } = sight;
  return (
    <svg aria-hidden="true" className="pointer-events-none absolute inset-0 h-full w-full">
      <defs>
        <pattern
          id="art-hatch"
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform={`scale(${1 / fit.scale}) rotate(45)`}
        >
          <rect width={7} height={7} fill="#fff" fillOpacity={0.25} />
          <rect width={3.5} height={7} fill="#b3261e" />
        </pattern>
      </defs>
      <g transform={`translate(${fit.left},${fit.top}) scale(${fit.scale})`}>
        <path d={paths.never} fill="#000" fillOpacity={0.5} data-testid="never-seen" />
        <path d={paths.missing} fill="url(#art-hatch)" data-testid="missing" />
        <rect
          width={canvas.widthPx}
          height={canvas.heightPx}
          fill="none"
          stroke="#fff"
          strokeOpacity={0.6}
          vectorEffect="non-scaling-stroke"
        />
        {paths.frames.map(({ frame, isWorst, d }) => (
          <path
            key={frame}
            d={d}
            fill="none"
            stroke={isWorst ? '#ff8a80' : '#fff'}
            strokeWidth={isWorst ? 2 : 1.25}
            vectorEffect="non-scaling-stroke"
            data-testid="frame-on-art"
          />
        ))}
      </g>
      {paths.frames.map(({ frame, isWorst, corners: [corner] }, i) =>
        corner ? (
          <g
            key={frame}
            transform={`translate(${fit.left + (corner.x + canvas.xPx) * fit.scale},${fit.top + (corner.y + canvas.yPx) * fit.scale + i * LABEL_STEP})`}
          >
            <rect width={46} height={18} fill={isWorst ? '#b3261e' : '#1a1a1a'} fillOpacity={0.85} />
            <text x={23} y={13} textAnchor="middle" fill="#fff" className="num text-[11px]">
              f {frame}
            </text>
          </g>
        ) : null,
      )}
    </svg>
  );
}

/** The plane whose art is looked at: the one that the finding is about, or else the one that is chosen. */
export function useLookedAtPlane(ofFinding: PlaneId | null): PlaneId | null {
  const session = useSession();
  const chosen = useSessionState(({ selection }) => [...selection][0] ?? null);
  return ofFinding ?? chosen ?? session.state.scene.order[0] ?? null;
}
