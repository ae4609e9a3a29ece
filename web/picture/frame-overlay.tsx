import { type Affine, applyAffine, type Box } from '@keen-ridge/core/geometry';
import type { CameraPose } from '@keen-ridge/core/stage';
import { cameraPoseAt } from '@keen-ridge/core/staging';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { memo } from 'react';
import { SURROUND_GREY, usePreferences } from '../session/choices/preferences.ts';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useSessionState, useShownScene } from '../session/use-session.ts';
import type { ElementSize } from '../ui/use-element-size.ts';
import type { PictureFit } from '../viewport/place.ts';
import { Guides } from './guides.tsx';

const CORNER_PX = 22;

interface OverlayProps {
  fit: PictureFit;
  room: ElementSize;
  look: 'camera' | 'fielding';
  pose: CameraPose | undefined;
}

/** Dims what lies outside the frame, marks its corners, lays the guides over it and outlines the selected planes. */
export function FrameOverlay({ fit, room, look, pose }: OverlayProps) {
  return (
    <svg aria-hidden="true" className="pointer-events-none absolute inset-0 h-full w-full">
      {look === 'camera' && <FrameMask fit={fit} room={room} />}
      {look === 'camera' && <Guides fit={fit} />}
      <SelectionOutlines fit={fit} pose={pose} />
    </svg>
  );
}

const FrameMask = memo(function FrameMask({ fit, room }: { fit: PictureFit; room: ElementSize }) {
  const { widthPx, heightPx } = useSessionState((state) => state.scene.frame);
  const { maskStrength, surround } = usePreferences();
  const grey = SURROUND_GREY[surround];
  const { left, top, width, height } = fit;
  const [right, bottom] = [left + width, top + height];
  const outside = `M0,0H${room.width}V${room.height}H0Z M${left},${top}V${bottom}H${right}V${top}Z`;
  const corner = (x: number, y: number, dx: number, dy: number) =>
    `M${x + dx * CORNER_PX},${y}H${x}V${y + dy * CORNER_PX}`;
  const corners = [
    corner(left, top, 1, 1),
    corner(right, top, -1, 1),
    corner(left, bottom, 1, -1),
    corner(right, bottom, -1, -1),
  ];
  return (
    <>
      <path d={outside} fill={`rgb(${grey} ${grey} ${grey})`} fillOpacity={maskStrength} fillRule="evenodd" />
      <path d={corners.join(' ')} fill="none" stroke="#000" strokeOpacity={0.45} strokeWidth={4} />
      <path d={corners.join(' ')} fill="none" stroke="#fff" strokeWidth={2} />
      <g transform={`translate(${left + 6},${top + 6})`}>
        <rect width={96} height={20} rx={2} fill="#1a1a1a" fillOpacity={0.85} />
        <text x={48} y={14} fill="#fff" textAnchor="middle" className="num">
          {widthPx} × {heightPx}
        </text>
      </g>
    </>
  );
});

function SelectionOutlines({ fit, pose }: { fit: PictureFit; pose: CameraPose | undefined }) {
  const scene = useShownScene();
  const frame = useRestingFrame();
  const selection = useSessionState((state) => state.selection);
  const playing = useSessionState((state) => state.playing);
  const rocking = useSessionState((state) => state.rock !== null);
  if (playing || (rocking && !pose) || selection.length === 0) return null;
  return framePlan(scene, frame, pose ?? cameraPoseAt(scene, frame))
    .planes.filter((plane) => selection.includes(plane.planeId))
    .map((plane) => {
      const facts = plane.shown.kind === 'image' ? plane.shown.art : plane.shown.facts;
      if (plane.state !== 'drawn' || !facts.painted) return null;
      return (
        <path
          key={plane.planeId}
          d={outline(plane.artToFrame, facts.painted, fit)}
          fill="none"
          stroke="var(--color-select)"
          strokeWidth={2}
        />
      );
    });
}

function outline(artToFrame: Affine, { x0, y0, x1, y1 }: Box, fit: PictureFit): string {
  const points = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ].map(([x, y]) => {
    const p = applyAffine(artToFrame, { x: x!, y: y! });
    return `${fit.left + p.x * fit.scale},${fit.top + p.y * fit.scale}`;
  });
  return `M${points.join('L')}Z`;
}
