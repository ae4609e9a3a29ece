import type { CutPieces } from '@keen-ridge/core/cut';
import type { Point } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import type { CopyStroke, SelectionStep } from '@keen-ridge/core/scene';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import { Button } from '../../ui/button.tsx';
import { useSurface } from '../surface/use-view.ts';
import type { Shown } from './cut-tool.ts';
import type { ToolSettings } from './tool-settings.ts';

type Points = [number, number][];

interface CutSurfaceProps {
  image: Raster<'straight'>;
  mask: Uint8Array | null;
  pieces: CutPieces | null;
  shown: Shown;
  settings: ToolSettings;
  onStep: (step: SelectionStep) => void;
  onCopy: (stroke: CopyStroke) => void;
}

/** The painting, what is chosen of it, and the tool at work. */
export function CutSurface({ image, mask, pieces, shown, settings, onStep, onCopy }: CutSurfaceProps) {
  const surface = useSurface(image.widthPx, image.heightPx);
  const { view, toArt } = surface;
  const grey = SURROUND_GREY[usePreferences((state) => state.surround)];
  const [line, setLine] = useState<Points>([]);
  const [source, setSource] = useState<Point | null>(null);
  const drawing = useRef(false);
  const { tool, mode } = settings;

  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const { x, y } = toArt(event);
    return [Math.round(x * 100) / 100, Math.round(y * 100) / 100];
  };
  const close = (points: Points) => {
    setLine([]);
    if (points.length >= 3) onStep({ kind: 'outline', mode, points });
  };
  const onDown = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || event.button !== 0) return;
    const point = at(event);
    if (tool === 'colour') {
      onStep({
        kind: 'colour',
        mode,
        at: point,
        tolerance: settings.tolerance,
        contiguous: settings.contiguous,
      });
      return;
    }
    if (tool === 'polygon') {
      setLine((was) => [...was, point]);
      return;
    }
    if (tool === 'copy' && (event.altKey || !source)) {
      setSource({ x: point[0], y: point[1] });
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    drawing.current = true;
    setLine([point]);
  };
  const onMove = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || !drawing.current) return;
    const point = at(event);
    setLine((was) => [...was, point]);
  };
  const onUp = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || !drawing.current) return;
    drawing.current = false;
    const [first] = line;
    if (tool === 'lasso') close(line);
    else if (tool === 'copy' && source && first) {
      onCopy({
        points: line,
        radiusPx: settings.brushPx,
        offset: [source.x - first[0], source.y - first[1]],
      });
      setLine([]);
    }
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement || tool !== 'polygon' || line.length === 0) return;
      if (event.key === 'Enter') {
        setLine([]);
        if (line.length >= 3) onStep({ kind: 'outline', mode, points: line });
      }
      if (event.key === 'Escape') setLine([]);
      if (event.key === 'Backspace') setLine(line.slice(0, -1));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [tool, mode, line, onStep]);

  const visible =
    shown === 'left' && pieces ? pieces.left : shown === 'taken' && pieces ? pieces.taken : image;
  const [left, top] = shown === 'taken' && pieces ? pieces.takenAt : [0, 0];
  const path = line.map(([x, y]) => `${x * view.scale + view.left},${y * view.scale + view.top}`).join(' ');
  return (
    <div
      ref={surface.ref}
      role="application"
      aria-label="The painting to cut. Wheel zooms, Space or the middle button pans."
      data-testid="cut-surface"
      data-scale={view.scale}
      data-left={view.left}
      data-top={view.top}
      data-masked={mask ? 'true' : 'false'}
      className="relative min-h-0 flex-1 cursor-crosshair touch-none overflow-hidden"
      style={{ background: `rgb(${grey} ${grey} ${grey})` }}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onDoubleClick={() => tool === 'polygon' && close(line.slice(0, -1))}
    >
      <RasterCanvas
        image={visible}
        testId="cut-picture"
        style={place(view, left, top, visible.widthPx, visible.heightPx)}
      />
      {mask && (
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
              stroke="#0b6e75"
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
            stroke="#c8401a"
            strokeWidth={2}
            strokeDasharray="4 3"
          />
        )}
      </svg>
      <div className="absolute bottom-2 right-2 flex gap-1">
        <Button onClick={surface.fit}>Fit</Button>
        <Button onClick={() => surface.zoomTo(1 / window.devicePixelRatio)}>100 %</Button>
      </div>
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
      className="absolute max-w-none outline outline-1 outline-black/40"
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
