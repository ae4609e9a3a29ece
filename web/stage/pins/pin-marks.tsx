import { framePlan, pinsOnFrame } from '@keen-ridge/core/staging/frame';
import type { PictureRoom } from '../../picture/picture.tsx';
import { useSessionState, useShownScene } from '../../session/use-session.ts';

/** The pins of all planes over the picture, each with its name. */
export function PinMarks({ fit, room }: Pick<PictureRoom, 'fit' | 'room'>) {
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const pins = pinsOnFrame(scene, framePlan(scene, frame));
  return (
    <svg
      aria-hidden="true"
      data-testid="pins"
      className="pointer-events-none absolute inset-0"
      width={room.width}
      height={room.height}
    >
      {pins.map(({ plane, pin, at }) => {
        const [x, y] = [fit.left + at.x * fit.scale, fit.top + at.y * fit.scale];
        const cross = `M${x - 7} ${y}H${x + 7}M${x} ${y - 7}V${y + 7}`;
        return (
          <g key={`${plane.id}/${pin.id}`} data-pin={pin.name}>
            <path d={cross} stroke="#fff" strokeWidth={3.5} />
            <path d={cross} stroke="var(--color-select)" strokeWidth={1.5} />
            <circle cx={x} cy={y} r={3.5} fill="none" stroke="var(--color-select)" strokeWidth={1.5} />
            <text
              x={x + 10}
              y={y - 6}
              fontSize={12}
              fill="#1a1a1a"
              stroke="#fff"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {pin.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
