import type { CoarseFill, CutPieces } from '@keen-ridge/core/cut';
import type { Point } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import type { CopyStroke, SelectionStep } from '@keen-ridge/core/scene';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Command } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import { type Drag, useDrag } from '../../ui/pointer/drag.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { useViewport } from '../../viewport/use-viewport.ts';
import { ZoomBar } from '../../viewport/zoom-bar.tsx';
import { artWords as say } from '../../words/art.ts';
import type { Shown } from './cut-tool.ts';
import type { ToolSettings } from './tool-settings.ts';

type Points = [number, number][];

interface CutSurfaceProps {
  image: Raster<'straight'>;
  mask: Uint8Array | null;
  pieces: CutPieces | null;
  /** The filling while it is being made, from coarse to fine. */
  coarse: CoarseFill | null;
  shown: Shown;
  settings: ToolSettings;
  onStep: (step: SelectionStep) => void;
  onCopy: (stroke: CopyStroke) => void;
}

/** The painting, what is chosen of it, and the tool at work. */
export function CutSurface({
  image,
  mask,
  pieces,
  coarse,
  shown,
  settings,
  onStep,
  onCopy,
}: CutSurfaceProps) {
  const { widthPx, heightPx } = image;
  const room = useRef<HTMLDivElement>(null);
  const size = useElementSize(room);
  const whole = useMemo(() => ({ x0: 0, y0: 0, x1: widthPx, y1: heightPx }), [widthPx, heightPx]);
  const viewport = useViewport(room, size, image, whole, 0.04);
  const view = viewport.fit;
  const grey = SURROUND_GREY[usePreferences((state) => state.surround)];
  const [line, setLine] = useState<Points>([]);
  const [source, setSource] = useState<Point | null>(null);
  const { tool, mode } = settings;

  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const { x, y } = viewport.at(event);
    return [Math.round(x * 100) / 100, Math.round(y * 100) / 100];
  };
  const close = (points: Points) => {
    setLine([]);
    if (points.length >= 3) onStep({ kind: 'outline', mode, points });
  };
  /** A line that follows the pointer from the press on. */
  const stroke = (first: [number, number], onEnd: (points: Points) => void): Drag => {
    let points: Points = [first];
    setLine(points);
    return {
      move: (to) => {
        points = [...points, at(to)];
        setLine(points);
      },
      keep: () => {
        setLine([]);
        onEnd(points);
      },
      click: () => {
        setLine([]);
        if (tool === 'copy') onEnd(points);
      },
      drop: () => setLine([]),
    };
  };
  const drag = useDrag<HTMLDivElement>(
    (event) => {
      const point = at(event);
      const { tolerance, contiguous } = settings;
      if (tool === 'colour')
        return { click: () => onStep({ kind: 'colour', mode, at: point, tolerance, contiguous }) };
      if (tool === 'polygon') return { click: () => setLine((was) => [...was, point]) };
      if (tool === 'lasso') return stroke(point, close);
      const from = source;
      if (event.altKey || !from) return { click: () => setSource({ x: point[0], y: point[1] }) };
      return stroke(point, (points) =>
        onCopy({ points, radiusPx: settings.brushPx, offset: [from.x - point[0], from.y - point[1]] }),
      );
    },
    { slackPx: tool === 'lasso' || tool === 'copy' ? 1 : 6 },
  );
  const corners = useRef({ line, close, setLine });
  corners.current = { line, close, setLine };
  const commands = useMemo((): readonly Command[] => {
    const drawing = () => corners.current.line.length > 0;
    const group = say.cornersOfACut;
    return [
      {
        id: 'corners.close',
        words: say.closeTheOutline,
        group,
        keys: ['Enter'],
        when: drawing,
        run: () => corners.current.close(corners.current.line),
      },
      {
        id: 'corners.back',
        words: say.takeBackTheLastCorner,
        group,
        keys: ['Backspace', 'Delete', 'Ctrl+Z'],
        repeats: true,
        when: drawing,
        run: () => corners.current.setLine((was) => was.slice(0, -1)),
      },
      {
        id: 'corners.drop',
        words: say.cancelTheOutline,
        group,
        keys: ['Escape'],
        when: drawing,
        run: () => corners.current.setLine([]),
      },
    ];
  }, []);
  useCommands('part', commands);

  const visible =
    shown === 'left' && pieces ? pieces.left : shown === 'taken' && pieces ? pieces.taken : image;
  const [left, top] = shown === 'taken' && pieces ? pieces.takenAt : [0, 0];
  const path = line.map(([x, y]) => `${x * view.scale + view.left},${y * view.scale + view.top}`).join(' ');
  return (
    <div
      ref={room}
      role="application"
      aria-label={say.thePaintingToCutWheel}
      data-testid="cut-surface"
      data-scale={view.scale}
      data-left={view.left}
      data-top={view.top}
      data-masked={mask ? 'true' : 'false'}
      className="relative min-h-0 flex-1 cursor-crosshair touch-none overflow-hidden"
      style={{ background: `rgb(${grey} ${grey} ${grey})` }}
      onPointerDownCapture={viewport.onPointerDownCapture}
      {...drag}
      onDoubleClick={() => tool === 'polygon' && close(line.slice(0, -1))}
    >
      <RasterCanvas
        image={visible}
        testId="cut-picture"
        style={place(view, left, top, visible.widthPx, visible.heightPx)}
      />
      {coarse && (
        <RasterCanvas
          key={coarse.pxEach}
          image={coarse.image}
          testId="coarse-fill"
          style={place(
            view,
            coarse.left,
            coarse.top,
            coarse.image.widthPx * coarse.pxEach,
            coarse.image.heightPx * coarse.pxEach,
          )}
        />
      )}
      {mask && !coarse && (
        <MaskCanvas
          mask={mask}
          widthPx={image.widthPx}
          heightPx={image.heightPx}
          style={place(view, 0, 0, image.widthPx, image.heightPx)}
        />
      )}
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
        {line.length > 0 && (
          <>
            <polyline points={path} fill="rgb(11 110 117 / 0.25)" stroke="#fff" strokeWidth={3} />
            <polyline
              points={path}
              fill="none"
              stroke="var(--color-select)"
              strokeWidth={tool === 'copy' ? 2 * settings.brushPx * view.scale : 1.5}
              strokeLinecap="round"
              strokeLinejoin="round"
              opacity={tool === 'copy' ? 0.35 : 1}
            />
          </>
        )}
        {tool === 'copy' && source && (
          <circle
            cx={source.x * view.scale + view.left}
            cy={source.y * view.scale + view.top}
            r={Math.max(4, settings.brushPx * view.scale)}
            fill="none"
            stroke="var(--color-signal)"
            strokeWidth={2}
            strokeDasharray="4 3"
          />
        )}
      </svg>
      <ZoomBar scale={view.scale} fitted={viewport.fitted} toFit={viewport.toFit} zoomTo={viewport.zoomTo} />
    </div>
  );
}

const place = (
  view: { scale: number; left: number; top: number },
  x: number,
  y: number,
  width: number,
  height: number,
) => ({
  left: view.left + x * view.scale,
  top: view.top + y * view.scale,
  width: width * view.scale,
  height: height * view.scale,
  imageRendering: view.scale >= 2 ? ('pixelated' as const) : ('auto' as const),
});

interface CanvasProps {
  style: ReturnType<typeof place>;
}

function RasterCanvas({ image, testId, style }: CanvasProps & { image: Raster<'straight'>; testId: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pixels = new Uint8ClampedArray(Uint8Array.from(image.data).buffer);
    canvas.current
      ?.getContext('2d')
      ?.putImageData(new ImageData(pixels, image.widthPx, image.heightPx), 0, 0);
  }, [image]);
  return (
    <canvas
      ref={canvas}
      data-testid={testId}
      width={image.widthPx}
      height={image.heightPx}
      className="pointer-events-none absolute max-w-none outline outline-1 outline-black/40"
      style={style}
    />
  );
}

/** The chosen part in the colour of selection, half clear. */
function MaskCanvas({
  mask,
  widthPx,
  heightPx,
  style,
}: CanvasProps & { mask: Uint8Array; widthPx: number; heightPx: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const image = useMemo(() => {
    const pixels = new Uint8ClampedArray(widthPx * heightPx * 4);
    for (let i = 0; i < mask.length; i++) {
      pixels[i * 4] = 0;
      pixels[i * 4 + 1] = 190;
      pixels[i * 4 + 2] = 205;
      pixels[i * 4 + 3] = (mask[i] as number) * 0.6;
    }
    return new ImageData(pixels, widthPx, heightPx);
  }, [mask, widthPx, heightPx]);
  useEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(image, 0, 0);
  }, [image]);
  return (
    <canvas
      ref={canvas}
      width={widthPx}
      height={heightPx}
      className="pointer-events-none absolute max-w-none"
      style={style}
    />
  );
}
