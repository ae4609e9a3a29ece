import { setPlanesHidden } from '@keen-ridge/core/edits/planes';
import { compose, type Point, scaling, translation } from '@keen-ridge/core/geometry';
import type { Paint } from '@keen-ridge/core/paint';
import type { Plane, Shape } from '@keen-ridge/core/scene';
import { planeOf, planesOf, withEachPlane } from '@keen-ridge/core/scene/records';
import {
  addNode,
  cubicAt,
  isInside,
  isSmooth,
  mapOutline,
  moveHandle,
  moveNode,
  type Outline,
  type PathNode,
  pathData,
} from '@keen-ridge/core/shapes';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { PictureRenderer } from '../../picture/live/renderer.ts';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import type { Session } from '../../session/session.ts';
import { useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useSurface } from '../surface/use-view.ts';
import type { NodePlace } from './node-place.ts';
import { boxOutline, outlinesOf, type ShapeTool } from './shape-tool.ts';
import type { Shapes } from './shapes.ts';

interface ShapesSurfaceProps {
  session: Session;
  plane: Plane;
  content: Shapes;
  tool: ShapeTool;
  paint: Paint;
  chosenId: string | null;
  node: NodePlace | null;
  onChoose: (id: string | null) => void;
  onNode: (node: NodePlace | null) => void;
  onOutlines: (id: string, outlines: readonly Outline[], final: boolean) => void;
  onAdd: (outline: Outline) => void;
}

type Drag =
  | {
      readonly kind: 'shape';
      readonly id: string;
      readonly from: Point;
      readonly outlines: readonly Outline[];
    }
  | {
      readonly kind: 'node' | 'in' | 'out';
      readonly id: string;
      readonly place: NodePlace;
      readonly outlines: readonly Outline[];
      readonly smooth: boolean;
    }
  | { readonly kind: 'box'; readonly from: Point }
  | { readonly kind: 'handle'; readonly at: Point };

/** How near a click must be to a node or edge, CSS px. */
const NEAR_PX = 9;

/** The plane's own px with its shapes as the kernel draws them, and nodes and handles to drag. */
export function ShapesSurface(props: ShapesSurfaceProps) {
  const { session, plane, content, tool, chosenId, node, onChoose, onNode, onOutlines, onAdd } = props;
  const surface = useSurface(content.widthPx, content.heightPx);
  const { view, toArt } = surface;
  const [drag, setDrag] = useState<Drag | null>(null);
  const [moved, setMoved] = useState<readonly Outline[] | null>(null);
  const [draft, setDraft] = useState<PathNode[]>([]);
  const [corner, setCorner] = useState<Point | null>(null);
  const chosen = content.shapes.find((shape) => shape.id === chosenId);
  const outlines = moved ?? (chosen ? outlinesOf(chosen) : []);

  const finishDraft = () => {
    if (draft.length > 1) onAdd(draft);
    setDraft([]);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return;
      if (event.key === 'Enter' && draft.length > 1) finishDraft();
      if (event.key === 'Escape') setDraft([]);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  const shapeAt = (at: Point): Shape | undefined =>
    content.shapes.find((shape) => isInside(outlinesOf(shape), at));
  const near = (p: Point, q: Point): boolean => Math.hypot(p.x - q.x, p.y - q.y) * view.scale < NEAR_PX;

  /** What of the chosen shape lies under the pointer. */
  const gripAt = (at: Point): { kind: 'node' | 'in' | 'out'; place: NodePlace } | null => {
    for (const [o, outline] of outlines.entries()) {
      for (const [index, n] of outline.entries()) {
        const place = { outline: o, index };
        const handles = node?.outline === o && node.index === index;
        if (handles && !near(n.out, n.at) && near(n.out, at)) return { kind: 'out', place };
        if (handles && !near(n.in, n.at) && near(n.in, at)) return { kind: 'in', place };
        if (near(n.at, at)) return { kind: 'node', place };
      }
    }
    return null;
  };
  const onDown = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = toArt(event);
    if (tool === 'draw') {
      const [first] = draft;
      if (first && draft.length > 1 && near(first.at, at)) {
        finishDraft();
        return;
      }
      setDraft([...draft, { at, in: at, out: at }]);
      setDrag({ kind: 'handle', at });
      return;
    }
    if (tool !== 'choose') {
      setDrag({ kind: 'box', from: at });
      setCorner(at);
      return;
    }
    const grip = chosen && gripAt(at);
    if (chosen && grip) {
      const n = outlines[grip.place.outline]?.[grip.place.index];
      onNode(grip.place);
      setDrag({ ...grip, id: chosen.id, outlines, smooth: n ? isSmooth(n) : false });
      return;
    }
    const hit = chosen && edgeAt(outlines, at, NEAR_PX / view.scale) ? chosen : shapeAt(at);
    onChoose(hit?.id ?? null);
    if (hit) setDrag({ kind: 'shape', id: hit.id, from: at, outlines: outlinesOf(hit) });
  };
  const dragged = (at: Point): readonly Outline[] | null => {
    if (!drag || drag.kind === 'box' || drag.kind === 'handle') return null;
    if (drag.kind === 'shape') {
      const by = translation(at.x - drag.from.x, at.y - drag.from.y);
      return drag.outlines.map((outline) => mapOutline(outline, by));
    }
    const { kind, place, smooth } = drag;
    return drag.outlines.map((outline, i) => {
      if (i !== place.outline) return outline;
      return kind === 'node'
        ? moveNode(outline, place.index, at)
        : moveHandle(outline, place.index, kind, at, smooth);
    });
  };
  const onMove = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || !drag) return;
    const at = toArt(event);
    if (drag.kind === 'box') setCorner(at);
    else if (drag.kind === 'handle')
      setDraft((was) => [
        ...was.slice(0, -1),
        { at: drag.at, in: { x: 2 * drag.at.x - at.x, y: 2 * drag.at.y - at.y }, out: at },
      ]);
    else {
      const next = dragged(at);
      setMoved(next);
      if (next) onOutlines(drag.id, next, false);
    }
  };
  const onUp = (event: PointerEvent<HTMLDivElement>) => {
    if (surface.pans(event) || !drag) return;
    const at = toArt(event);
    if (drag.kind === 'box' && (tool === 'ellipse' || tool === 'rectangle')) {
      if (!near(drag.from, at)) onAdd(boxOutline(tool, drag.from, at));
      setCorner(null);
    } else if (drag.kind !== 'handle' && drag.kind !== 'box' && moved) onOutlines(drag.id, moved, true);
    setMoved(null);
    setDrag(null);
  };
  const onDoubleClick = (event: { clientX: number; clientY: number }) => {
    if (tool !== 'choose' || !chosen) return;
    const place = edgeAt(outlines, toArt(event), NEAR_PX / view.scale);
    if (!place) return;
    const next = outlines.map((outline, i) =>
      i === place.outline ? addNode(outline, place.index, place.t) : outline,
    );
    onOutlines(chosen.id, next, true);
    onNode({ outline: place.outline, index: place.index + 1 });
  };

  const screen = (p: Point) => ({ x: p.x * view.scale + view.left, y: p.y * view.scale + view.top });
  const onScreen = compose(translation(view.left, view.top), scaling(view.scale));
  const box =
    drag?.kind === 'box' && corner && tool !== 'choose' && tool !== 'draw'
      ? boxOutline(tool, drag.from, corner)
      : null;
  return (
    <div
      ref={surface.ref}
      role="application"
      aria-label="The shapes of this plane. Wheel zooms, Space or the middle button pans."
      data-testid="shapes-surface"
      data-scale={view.scale}
      data-left={view.left}
      data-top={view.top}
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      style={{ cursor: tool === 'choose' ? 'default' : 'crosshair' }}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onDoubleClick={onDoubleClick}
    >
      <PlaneAlone session={session} plane={plane} surface={surface} />
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
        <rect
          x={view.left}
          y={view.top}
          width={content.widthPx * view.scale}
          height={content.heightPx * view.scale}
          fill="none"
          stroke="#000"
          strokeOpacity={0.4}
        />
        {[...outlines, ...(box ? [box] : [])].map((outline, o) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: outlines have no name but their place
            key={o}
            d={pathData([mapOutline(outline, onScreen)])}
            fill="none"
            stroke="#0b6e75"
            strokeWidth={1.5}
          />
        ))}
        {draft.length > 0 && (
          <path d={openPath(mapOutline(draft, onScreen))} fill="none" stroke="#0b6e75" strokeWidth={1.5} />
        )}
        {draft.map((n, i) => {
          const { x, y } = screen(n.at);
          // biome-ignore lint/suspicious/noArrayIndexKey: nodes have no name but their place
          return <circle key={i} cx={x} cy={y} r={4} fill="#fff" stroke="#0b6e75" strokeWidth={1.5} />;
        })}
        {tool === 'choose' &&
          outlines.map((outline, o) =>
            outline.map((n, i) => (
              <NodeMark
                // biome-ignore lint/suspicious/noArrayIndexKey: nodes have no name but their place
                key={`${o}-${i}`}
                at={screen(n.at)}
                before={screen(n.in)}
                after={screen(n.out)}
                chosen={node?.outline === o && node.index === i}
              />
            )),
          )}
      </svg>
      <div className="absolute bottom-2 right-2 flex gap-1">
        <Button onClick={surface.fit}>Fit</Button>
        <Button onClick={() => surface.zoomTo(1 / window.devicePixelRatio)}>100 %</Button>
      </div>
    </div>
  );
}

function NodeMark({
  at,
  before,
  after,
  chosen,
}: {
  at: Point;
  before: Point;
  after: Point;
  chosen: boolean;
}) {
  return (
    <g>
      {chosen && (
        <>
          <line x1={before.x} y1={before.y} x2={at.x} y2={at.y} stroke="#0b6e75" />
          <line x1={after.x} y1={after.y} x2={at.x} y2={at.y} stroke="#0b6e75" />
          <circle cx={before.x} cy={before.y} r={3.5} fill="#0b6e75" />
          <circle cx={after.x} cy={after.y} r={3.5} fill="#0b6e75" />
        </>
      )}
      <rect
        x={at.x - 4}
        y={at.y - 4}
        width={8}
        height={8}
        fill={chosen ? '#0b6e75' : '#fff'}
        stroke="#0b6e75"
        strokeWidth={1.5}
      />
    </g>
  );
}

const openPath = (outline: Outline): string =>
  outline
    .map((n, i) => {
      const before = outline[i - 1];
      return before
        ? `C${before.out.x} ${before.out.y} ${n.in.x} ${n.in.y} ${n.at.x} ${n.at.y}`
        : `M${n.at.x} ${n.at.y}`;
    })
    .join(' ');

/** The place of an outline nearest to a point, if it is within reach. */
function edgeAt(outlines: readonly Outline[], at: Point, reach: number): (NodePlace & { t: number }) | null {
  let best: (NodePlace & { t: number; away: number }) | null = null;
  for (const [o, outline] of outlines.entries()) {
    for (const [index, n] of outline.entries()) {
      const next = outline[(index + 1) % outline.length] as PathNode;
      for (let t = 0.02; t < 1; t += 0.02) {
        const p = cubicAt(n.at, n.out, next.in, next.at, t);
        const away = Math.hypot(p.x - at.x, p.y - at.y);
        if (away < (best?.away ?? reach)) best = { outline: o, index, t, away };
      }
    }
  }
  return best;
}

/** The plane by itself, drawn by the kernel at the size that it is looked at. */
function PlaneAlone({
  session,
  plane,
  surface,
}: {
  session: Session;
  plane: Plane;
  surface: ReturnType<typeof useSurface>;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const renderer = useRef<PictureRenderer | null>(null);
  const scene = useSessionState((state) => state.preview ?? state.scene);
  const grey = SURROUND_GREY[usePreferences((state) => state.surround)];
  useEffect(() => {
    if (!canvas.current) return;
    const made = new PictureRenderer(canvas.current, { onState: () => undefined });
    renderer.current = made;
    return () => made.close();
  }, []);
  const { view, size } = surface;
  useEffect(() => {
    if (size.width === 0) return;
    const now = planeOf(scene, plane.id);
    if (!now) return;
    const others = planesOf(scene)
      .filter((p) => p.id !== plane.id)
      .map((p) => p.id);
    // Mounted on the camera at home, one stage px is one px of the frame: the surface's view does the rest.
    const { widthPx, heightPx } = scene.frame;
    const alone = setPlanesHidden(
      withEachPlane(scene, (p) =>
        p.id === plane.id
          ? {
              ...p,
              mount: ON_CAMERA,
              depthSpx: 0,
              run: null,
              repeat: 'none' as const,
              hidden: false,
              transform: UNPLACED,
            }
          : p,
      ),
      new Set(others),
      true,
    );
    const ratio = window.devicePixelRatio;
    const toOrigin = translation(-widthPx / 2, -heightPx / 2);
    const onSurface = compose(translation(view.left, view.top), scaling(view.scale));
    renderer.current?.request({
      scene: alone,
      frame: session.state.frame,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      frameToImage: compose(scaling(ratio), compose(onSurface, toOrigin)),
      grey,
    });
    void renderer.current?.load(alone);
  }, [scene, plane.id, view.left, view.top, view.scale, size.width, size.height, grey, session]);
  return <canvas ref={canvas} data-testid="shapes-picture" className="absolute inset-0 h-full w-full" />;
}

const ON_CAMERA = { on: 'camera' } as const;

/** Art px are stage px. */
const UNPLACED = {
  xSpx: 0,
  ySpx: 0,
  scaleX: 1,
  scaleY: 1,
  rotationDeg: 0,
  skew: 0,
  anchorXArtPx: 0,
  anchorYArtPx: 0,
};
