import { invertAffine, type Point } from '@keen-ridge/core/geometry';
import type { Plane } from '@keen-ridge/core/scene';
import { addNode, type Outline, type PathNode } from '@keen-ridge/core/shapes';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { frameOnArt } from '@keen-ridge/core/survey';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import type { Command } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';
import { useSessionState, useShownScene } from '../../session/use-session.ts';
import { type Drag, useDrag } from '../../ui/pointer/drag.ts';
import { type BeginTrial, setOnce, trialDrag } from '../../ui/trial.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { useViewport } from '../../viewport/use-viewport.ts';
import { ZoomBar } from '../../viewport/zoom-bar.tsx';
import { artWords as say } from '../../words/art.ts';
import type { NodePlace } from './node-place.ts';
import { PlaneAlone } from './plane-alone.tsx';
import { edgeAt, type Grip, gripAt, pulled, shapeAt } from './shape-grips.ts';
import { boxOutline, outlinesOf, type ShapeTool } from './shape-tool.ts';
import type { Shapes } from './shapes.ts';
import { ShapesDrawing } from './shapes-drawing.tsx';

interface ShapesSurfaceProps {
  plane: Plane;
  content: Shapes;
  tool: ShapeTool;
  chosenId: string | null;
  node: NodePlace | null;
  onChoose: (id: string | null) => void;
  onNode: (node: NodePlace | null) => void;
  /** Tries outlines of one shape. */
  trialOf: (id: string) => BeginTrial<readonly Outline[]>;
  onAdd: (outline: Outline) => void;
}

/** How near a click must be to a node or edge, CSS px. */
const NEAR_PX = 12;

/** The plane's own px with its shapes as the kernel draws them, and nodes and handles to drag. */
export function ShapesSurface(props: ShapesSurfaceProps) {
  const { plane, content, tool, chosenId, node, onChoose, onNode, trialOf, onAdd } = props;
  const { widthPx, heightPx } = content;
  const room = useRef<HTMLDivElement>(null);
  const size = useElementSize(room);
  const whole = useMemo(() => ({ x0: 0, y0: 0, x1: widthPx, y1: heightPx }), [widthPx, heightPx]);
  const view = useViewport(room, size, content, whole, 0.04);
  const { fit } = view;
  const reach = NEAR_PX / fit.scale;
  const [draft, setDraft] = useState<readonly PathNode[]>([]);
  const [box, setBox] = useState<Outline | null>(null);
  const frameCorners = useFrameOnPlane(plane);
  const chosen = content.shapes.find((shape) => shape.id === chosenId);
  const outlines = useMemo(() => (chosen ? outlinesOf(chosen) : []), [chosen]);
  const finishDraft = () => {
    if (draft.length > 1) onAdd([...draft]);
    setDraft([]);
  };
  useDraftCommands(draft, setDraft, finishDraft);

  const draw = (at: Point): Drag => {
    const [first] = draft;
    if (first && draft.length > 1 && Math.hypot(first.at.x - at.x, first.at.y - at.y) < reach)
      return { click: finishDraft };
    setDraft([...draft, { at, in: at, out: at }]);
    return {
      move: (to) => {
        const out = view.at(to);
        setDraft([...draft, { at, in: { x: 2 * at.x - out.x, y: 2 * at.y - out.y }, out }]);
      },
      drop: () => setDraft(draft),
    };
  };
  const makeBox = (kind: 'ellipse' | 'rectangle', from: Point): Drag => {
    let made: Outline | null = null;
    return {
      move: (to) => {
        made = boxOutline(kind, from, view.at(to));
        setBox(made);
      },
      keep: () => {
        setBox(null);
        if (made) onAdd(made);
      },
      drop: () => setBox(null),
    };
  };
  const pull = (id: string, from: readonly Outline[], grip: Grip): Drag =>
    trialDrag(trialOf(id), (to) => pulled(from, grip, view.at(to)));
  const drag = useDrag<HTMLDivElement>((event) => {
    const at = view.at(event);
    if (tool === 'draw') return draw(at);
    if (tool !== 'choose') return makeBox(tool, at);
    const grip = gripAt(outlines, node, at, reach);
    if (chosen && grip) {
      onNode(grip.place);
      return pull(chosen.id, outlines, grip);
    }
    const hit = chosen && edgeAt(outlines, at, reach) ? chosen : shapeAt(content.shapes, at);
    onChoose(hit?.id ?? null);
    return hit ? pull(hit.id, outlinesOf(hit), { kind: 'shape', from: at }) : null;
  });
  const onDoubleClick = (event: PointerEvent | React.MouseEvent) => {
    if (tool !== 'choose' || !chosen) return;
    const place = edgeAt(outlines, view.at(event), reach);
    if (!place) return;
    const next = outlines.map((outline, i) =>
      i === place.outline ? addNode(outline, place.index, place.t) : outline,
    );
    setOnce(trialOf(chosen.id), next);
    onNode({ outline: place.outline, index: place.index + 1 });
  };
  const nudge = (place: NodePlace, by: Point) => {
    const at = outlines[place.outline]?.[place.index]?.at;
    if (!chosen || !at) return;
    const to = { x: at.x + by.x / fit.scale, y: at.y + by.y / fit.scale };
    setOnce(trialOf(chosen.id), pulled(outlines, { kind: 'node', place, smooth: false }, to));
  };
  return (
    <div
      ref={room}
      role="application"
      aria-label={say.theShapesOfThisPlane}
      data-testid="shapes-surface"
      data-scale={fit.scale}
      data-left={fit.left}
      data-top={fit.top}
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      style={{ cursor: tool === 'choose' ? 'default' : 'crosshair' }}
      onPointerDownCapture={view.onPointerDownCapture}
      onDoubleClick={onDoubleClick}
      {...drag}
    >
      <PlaneAlone plane={plane} fit={fit} size={size} />
      <ShapesDrawing
        fit={fit}
        frameCorners={frameCorners}
        outlines={outlines}
        nodes={tool === 'choose'}
        node={node}
        onNode={onNode}
        onNudge={nudge}
        draft={draft}
        box={box}
      />
      <ZoomBar scale={fit.scale} fitted={view.fitted} toFit={view.toFit} zoomTo={view.zoomTo} />
    </div>
  );
}

/** Where the camera's frame lies on the plane at this frame, in the plane's px; nothing where it sees none of it. */
function useFrameOnPlane({ id }: Plane): readonly Point[] {
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  return useMemo(() => {
    const plan = framePlan(scene, frame).planes.find(({ planeId }) => planeId === id);
    const back = plan?.state === 'drawn' ? invertAffine(plan.artToFrame) : null;
    return back ? frameOnArt(back, scene.frame) : [];
  }, [scene, frame, id]);
}

/** What the keyboard does with a shape that is being drawn. */
function useDraftCommands(
  draft: readonly PathNode[],
  onDraft: (draft: readonly PathNode[]) => void,
  onFinish: () => void,
): void {
  const latest = useRef({ draft, onDraft, onFinish });
  latest.current = { draft, onDraft, onFinish };
  const commands = useMemo((): readonly Command[] => {
    const drawing = () => latest.current.draft.length > 0;
    const dropLast = () => latest.current.onDraft(latest.current.draft.slice(0, -1));
    const group = say.aShapeThatIsDrawn;
    return [
      {
        id: 'draft.finish',
        words: say.closeTheShape,
        group,
        keys: ['Enter'],
        when: () => latest.current.draft.length > 1,
        run: () => latest.current.onFinish(),
      },
      {
        id: 'draft.back',
        words: say.takeBackTheLastNode,
        group,
        keys: ['Backspace', 'Delete', 'Ctrl+Z'],
        repeats: true,
        when: drawing,
        run: dropLast,
      },
      {
        id: 'draft.drop',
        words: say.cancelTheShape,
        group,
        keys: ['Escape'],
        when: drawing,
        run: () => latest.current.onDraft([]),
      },
    ];
  }, []);
  useCommands('part', commands);
}
