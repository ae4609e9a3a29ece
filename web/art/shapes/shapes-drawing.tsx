import { compose, type Point, scaling, translation } from '@keen-ridge/core/geometry';
import { mapOutline, type Outline, type PathNode, pathData } from '@keen-ridge/core/shapes';
import { arrowStep } from '../../ui/pointer/drag.ts';
import type { PictureFit } from '../../viewport/place.ts';
import { artWords as say } from '../../words/art.ts';
import type { NodePlace } from './node-place.ts';

interface ShapesDrawingProps {
  fit: PictureFit;
  /** Of the camera's frame, in the plane's px. */
  frameCorners: readonly Point[];
  /** Of the chosen shape. */
  outlines: readonly Outline[];
  /** Whether its nodes are drawn too. */
  nodes: boolean;
  node: NodePlace | null;
  onNode: (place: NodePlace) => void;
  /** Moves a node by so many px of the screen. */
  onNudge: (place: NodePlace, by: Point) => void;
  /** A shape that is being drawn. */
  draft: readonly PathNode[];
  box: Outline | null;
}

/** Outlines, nodes and handles over the painted shapes. Nodes can be reached and moved by keyboard. */
export function ShapesDrawing({
  fit,
  frameCorners,
  outlines,
  nodes,
  node,
  onNode,
  onNudge,
  draft,
  box,
}: ShapesDrawingProps) {
  const screen = (p: Point) => ({ x: p.x * fit.scale + fit.left, y: p.y * fit.scale + fit.top });
  const onScreen = compose(translation(fit.left, fit.top), scaling(fit.scale));
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full">
      <title>{say.outlines}</title>
      <rect
        x={fit.left}
        y={fit.top}
        width={fit.width}
        height={fit.height}
        fill="none"
        stroke="#000"
        strokeOpacity={0.4}
      />
      {frameCorners.length > 0 && (
        <polygon
          points={frameCorners
            .map(screen)
            .map(({ x, y }) => `${x},${y}`)
            .join(' ')}
          fill="none"
          stroke="#fff"
          strokeDasharray="6 4"
          data-testid="frame-on-plane"
        >
          <title>{say.whatTheCameraSeesHere}</title>
        </polygon>
      )}
      {[...outlines, ...(box ? [box] : [])].map((outline, o) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: outlines have no name but their place
          key={o}
          d={pathData([mapOutline(outline, onScreen)])}
          fill="none"
          stroke="var(--color-select)"
          strokeWidth={1.5}
        />
      ))}
      {draft.length > 0 && (
        <path
          d={openPath(mapOutline(draft, onScreen))}
          fill="none"
          stroke="var(--color-select)"
          strokeWidth={1.5}
        />
      )}
      {draft.map((n, i) => {
        const { x, y } = screen(n.at);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: nodes have no name but their place
          <circle key={i} cx={x} cy={y} r={4} fill="#fff" stroke="var(--color-select)" strokeWidth={1.5} />
        );
      })}
      {nodes &&
        outlines.map((outline, o) =>
          outline.map((n, index) => {
            const place = { outline: o, index };
            return (
              <NodeMark
                // biome-ignore lint/suspicious/noArrayIndexKey: nodes have no name but their place
                key={`${o}-${index}`}
                place={place}
                at={screen(n.at)}
                before={screen(n.in)}
                after={screen(n.out)}
                chosen={node?.outline === o && node.index === index}
                onChoose={() => onNode(place)}
                onNudge={(by) => onNudge(place, by)}
              />
            );
          }),
        )}
    </svg>
  );
}

interface NodeMarkProps {
  place: NodePlace;
  at: Point;
  before: Point;
  after: Point;
  chosen: boolean;
  onChoose: () => void;
  onNudge: (by: Point) => void;
}

function NodeMark({ place, at, before, after, chosen, onChoose, onNudge }: NodeMarkProps) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      tabIndex={0}
      aria-label={say.nodeValueValue(
        place.index + 1,
        place.outline > 0 ? ` of outline ${place.outline + 1}` : '',
      )}
      aria-pressed={chosen}
      data-node={`${place.outline}-${place.index}`}
      onFocus={onChoose}
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by) return;
        event.preventDefault();
        onNudge(by);
      }}
    >
      {chosen && (
        <>
          <line x1={before.x} y1={before.y} x2={at.x} y2={at.y} stroke="var(--color-select)" />
          <line x1={after.x} y1={after.y} x2={at.x} y2={at.y} stroke="var(--color-select)" />
          <circle cx={before.x} cy={before.y} r={3.5} fill="var(--color-select)" />
          <circle cx={after.x} cy={after.y} r={3.5} fill="var(--color-select)" />
        </>
      )}
      <rect
        x={at.x - 4}
        y={at.y - 4}
        width={8}
        height={8}
        fill={chosen ? 'var(--color-select)' : '#fff'}
        stroke="var(--color-select)"
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
