import type { PlaneId } from '@keen-ridge/core/scene';
import { memo } from 'react';
import { depthColour } from '../../planes/depth-colour.ts';
import { stageWords as say } from '../../words/stage.ts';

/** The camera's view: a straight column, this wide whatever the frame. */
export const COLUMN = { left: 254, width: 84 } as const;
export const BARS = { left: 208, right: 380 } as const;
const BAR_HEIGHT = 8;

export interface StandBarProps {
  readonly id: PlaneId;
  readonly name: string;
  readonly hidden: boolean;
  readonly speed: number;
  /** Ends of the paint along the Stand, px; null when it is not in front. */
  readonly left: number | null;
  readonly right: number | null;
  readonly gapLeft: boolean;
  readonly gapRight: boolean;
  readonly passed: boolean;
  readonly selected: boolean;
  readonly y: number;
  readonly labelY: number;
  readonly labelRight: number;
}

/** One plane on the Stand: solid where it is in the frame, pale where it is spare, hatched where it is missing. */
export const StandBar = memo(function StandBar(props: StandBarProps) {
  const { id, name, hidden, speed, gapLeft, gapRight, passed, selected, y, labelY, labelRight } = props;
  const colour = depthColour(speed || 0.05);
  const [left, right] = [props.left ?? COLUMN.left, props.right ?? COLUMN.left];
  const columnRight = COLUMN.left + COLUMN.width;
  const strip = (x0: number, x1: number, fill: string, opacity = 1) =>
    x1 > x0 ? (
      <rect
        x={x0}
        y={y - BAR_HEIGHT / 2}
        width={x1 - x0}
        height={BAR_HEIGHT}
        fill={fill}
        fillOpacity={opacity}
      />
    ) : null;
  return (
    <g
      data-plane={id}
      data-testid={`bar-${name}`}
      style={{ cursor: 'ns-resize', touchAction: 'none' }}
      opacity={hidden ? 0.35 : 1}
    >
      <path
        d={`M${labelRight},${labelY} L${BARS.left},${y} H${Math.max(BARS.left, left)}`}
        fill="none"
        stroke={selected ? 'var(--color-select)' : 'var(--color-ink-3)'}
      />
      <rect x={BARS.left} y={y - 9} width={BARS.right - BARS.left} height={18} fill="transparent" />
      {passed ? (
        <text
          x={COLUMN.left + COLUMN.width / 2}
          y={y + 4}
          textAnchor="middle"
          fontSize={11}
          fill="var(--color-ink-2)"
        >
          {say.passed}
        </text>
      ) : (
        <>
          {strip(left, right, colour, 0.45)}
          {strip(Math.max(left, COLUMN.left), Math.min(right, columnRight), colour)}
          {gapLeft && strip(COLUMN.left, Math.min(left, columnRight), 'url(#gap-hatch)')}
          {gapRight && strip(Math.max(right, COLUMN.left), columnRight, 'url(#gap-hatch)')}
          {selected && (
            <rect
              x={left - 2}
              y={y - BAR_HEIGHT / 2 - 2}
              width={right - left + 4}
              height={BAR_HEIGHT + 4}
              fill="none"
              stroke="var(--color-select)"
              strokeWidth={2}
            />
          )}
        </>
      )}
    </g>
  );
});
