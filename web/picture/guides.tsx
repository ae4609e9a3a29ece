import { memo } from 'react';
import { type Aspect, usePreferences } from '../session/choices/preferences.ts';
import type { PictureFit } from '../viewport/place.ts';

/** Shares of the frame's width and height: SMPTE ST 2046-1; SMPTE RP 218 for the older set (from memory). */
const SAFE_SHARES = {
  modern: { action: 0.93, title: 0.9 },
  older: { action: 0.9, title: 0.8 },
} as const;

/** Width over height. */
const ASPECT_RATIOS: Readonly<Record<Exclude<Aspect, 'none'>, number>> = {
  '2.39': 2.39,
  '1.85': 1.85,
  '4:3': 4 / 3,
  '9:16': 9 / 16,
};

/** The guides that are switched on, over the frame. */
export const Guides = memo(function Guides({ fit }: { fit: PictureFit }) {
  const { safeAreas, customSafe, fieldChart, thirds, centre, aspect } = usePreferences();
  const shares = safeAreas === 'off' ? null : safeAreas === 'custom' ? customSafe : SAFE_SHARES[safeAreas];
  return (
    <>
      {aspect !== 'none' && <AspectMask fit={fit} ratio={ASPECT_RATIOS[aspect]} />}
      {fieldChart && <FieldChart fit={fit} />}
      {thirds && <Thirds fit={fit} />}
      {shares && (
        <>
          <SafeBox fit={fit} share={shares.action} word="action" dashed={false} />
          <SafeBox fit={fit} share={shares.title} word="title" dashed />
        </>
      )}
      {centre && <Centre fit={fit} />}
    </>
  );
});

/** A line that reads on light and on dark paint. */
function Line({ d, width = 1, dash }: { d: string; width?: number; dash?: string | undefined }) {
  return (
    <>
      <path d={d} fill="none" stroke="#000" strokeOpacity={0.4} strokeWidth={width + 1.5} />
      <path d={d} fill="none" stroke="#fff" strokeOpacity={0.9} strokeWidth={width} strokeDasharray={dash} />
    </>
  );
}

function SafeBox({
  fit,
  share,
  word,
  dashed,
}: {
  fit: PictureFit;
  share: number;
  word: string;
  dashed: boolean;
}) {
  const [w, h] = [fit.width * share, fit.height * share];
  const [x, y] = [fit.left + (fit.width - w) / 2, fit.top + (fit.height - h) / 2];
  return (
    <g data-testid={`safe-${word}`} data-width={w} data-height={h}>
      <Line d={`M${x},${y}h${w}v${h}h${-w}Z`} dash={dashed ? '5 4' : undefined} />
      <text
        x={x + w - 4}
        y={dashed ? y + h - 4 : y + 11}
        textAnchor="end"
        fill="#fff"
        className="num"
        style={{ fontSize: 9 }}
      >
        {word} {Math.round(share * 100)}
      </text>
    </g>
  );
}

function Thirds({ fit: { left, top, width, height } }: { fit: PictureFit }) {
  const d = [1, 2]
    .map((i) => `M${left + (width * i) / 3},${top}v${height}M${left},${top + (height * i) / 3}h${width}`)
    .join('');
  return <Line d={d} />;
}

function Centre({ fit: { left, top, width, height } }: { fit: PictureFit }) {
  const [x, y] = [left + width / 2, top + height / 2];
  return <Line d={`M${x - 14},${y}h28M${x},${y - 14}v28`} width={1.5} />;
}

function AspectMask({ fit, ratio }: { fit: PictureFit; ratio: number }) {
  const { left, top, width, height } = fit;
  const w = Math.min(width, height * ratio);
  const h = Math.min(height, width / ratio);
  const [x, y] = [left + (width - w) / 2, top + (height - h) / 2];
  return (
    <path
      d={`M${left},${top}h${width}v${height}h${-width}Z M${x},${y}v${h}h${w}v${-h}Z`}
      fill="#000"
      fillOpacity={0.55}
      fillRule="evenodd"
      data-testid="aspect-mask"
    />
  );
}

/** Half the count of fields across: field n is the middle n/12 of the frame. */
const FIELDS = 12;

/** The 12-field chart: fields counted from the middle, N at the top, S, E and W (common practice, no source). */
function FieldChart({ fit: { left, top, width, height } }: { fit: PictureFit }) {
  const [cx, cy] = [left + width / 2, top + height / 2];
  const boxes = Array.from({ length: FIELDS }, (_, i) => {
    const share = (i + 1) / FIELDS;
    const [w, h] = [width * share, height * share];
    return `M${cx - w / 2},${cy - h / 2}h${w}v${h}h${-w}Z`;
  });
  const letters = [
    { word: 'N', x: cx, y: top + 15 },
    { word: 'S', x: cx, y: top + height - 6 },
    { word: 'E', x: left + width - 10, y: cy + 4 },
    { word: 'W', x: left + 10, y: cy + 4 },
  ];
  const numbers = [4, 6, 8, 10].map((field) => ({
    word: String(field),
    x: cx + (width * field) / FIELDS / 2 - 7,
    y: cy - 4,
  }));
  return (
    <g data-testid="field-chart">
      <path d={boxes.join('')} fill="none" stroke="#000" strokeOpacity={0.35} strokeWidth={1.6} />
      <path d={boxes.join('')} fill="none" stroke="#fff" strokeOpacity={0.6} strokeWidth={0.7} />
      <Line d={`M${left},${cy}h${width}M${cx},${top}v${height}`} width={0.8} />
      {[...letters, ...numbers].map(({ word, x, y }) => (
        <text
          key={`${word}${x}`}
          x={x}
          y={y}
          textAnchor="middle"
          className="num"
          fill="#fff"
          stroke="#000"
          strokeWidth={2.5}
          strokeOpacity={0.5}
          paintOrder="stroke"
        >
          {word}
        </text>
      ))}
    </g>
  );
}
