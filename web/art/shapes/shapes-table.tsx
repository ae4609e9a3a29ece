import { compose, rotation, scaling, translation } from '@keen-ridge/core/geometry';
import type { Paint } from '@keen-ridge/core/paint';
import type { Plane, Shape } from '@keen-ridge/core/scene';
import {
  deleteNode,
  mapOutline,
  type Outline,
  outlinesBox,
  pathData,
  setSmooth,
} from '@keen-ridge/core/shapes';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { changeContent } from '../../edits/art-edits.ts';
import type { Session } from '../../session/session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { PaintEditor } from '../panel/paint-editor.tsx';
import type { NodePlace } from './node-place.ts';
import { outlinesOf, type ShapeTool } from './shape-tool.ts';
import type { Shapes } from './shapes.ts';
import { ShapesSurface } from './shapes-surface.tsx';

const TOOLS: readonly (readonly [ShapeTool, string, string])[] = [
  ['choose', 'Choose', 'Drag shapes, nodes and handles. Double-click an edge for a new node.'],
  ['draw', 'Draw', 'Click for corners, drag for round nodes; click the first node or press Enter to close.'],
  ['ellipse', 'Ellipse', 'Drag from corner to corner.'],
  ['rectangle', 'Rectangle', 'Drag from corner to corner.'],
];

interface ShapesTableProps {
  session: Session;
  plane: Plane;
  content: Shapes;
}

/** Shapes on one plane: drawn, filled, copied, flipped, turned and squashed. */
export function ShapesTable({ session, plane, content }: ShapesTableProps) {
  const [tool, setTool] = useState<ShapeTool>(content.shapes.length === 0 ? 'draw' : 'choose');
  const [chosenId, setChosenId] = useState<string | null>(content.shapes[0]?.id ?? null);
  const [node, setNode] = useState<NodePlace | null>(null);
  const [paint, setPaint] = useState<Paint>({ kind: 'solid', colour: '#4b5d67', opacity: 1 });
  const chosen = content.shapes.find((shape) => shape.id === chosenId) ?? null;

  const keep = (shapes: readonly Shape[], final = true) =>
    changeContent(session, plane.id, { ...content, shapes: [...shapes] }, final);
  const withShape = (id: string, change: (shape: Shape) => Shape) =>
    content.shapes.map((shape) => (shape.id === id ? change(shape) : shape));
  const setOutlines = (id: string, outlines: readonly Outline[], final: boolean) => {
    const path = pathData(outlines);
    if (path === '') {
      keep(content.shapes.filter((shape) => shape.id !== id));
      return;
    }
    keep(
      withShape(id, (shape) => ({ ...shape, path })),
      final,
    );
  };
  const add = (outline: Outline) => {
    const made: Shape = { id: crypto.randomUUID(), path: pathData([outline]), paint };
    keep([made, ...content.shapes]);
    setChosenId(made.id);
    setTool('choose');
  };
  /** Maps the chosen shape about the middle of its own box. */
  const turn = (map: ReturnType<typeof scaling>) => {
    if (!chosen) return;
    const outlines = outlinesOf(chosen);
    const box = outlinesBox(outlines);
    if (!box) return;
    const [cx, cy] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
    const about = compose(translation(cx, cy), compose(map, translation(-cx, -cy)));
    setOutlines(
      chosen.id,
      outlines.map((outline) => mapOutline(outline, about)),
      true,
    );
  };
  const copy = () => {
    if (!chosen) return;
    const by = translation(content.widthPx / 40, content.heightPx / 40);
    const path = pathData(outlinesOf(chosen).map((outline) => mapOutline(outline, by)));
    const made = { ...chosen, id: crypto.randomUUID(), path };
    keep([made, ...content.shapes]);
    setChosenId(made.id);
  };
  const changeNode = (change: (outline: Outline, index: number) => Outline) => {
    if (!chosen || !node) return;
    const outlines = outlinesOf(chosen).map((outline, i) =>
      i === node.outline ? change(outline, node.index) : outline,
    );
    setOutlines(
      chosen.id,
      outlines.filter((outline) => outline.length > 1),
      true,
    );
  };
  const remove = () => {
    if (!chosen) return;
    if (node) {
      changeNode(deleteNode);
      setNode(null);
    } else keep(content.shapes.filter((shape) => shape.id !== chosen.id));
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return;
      if (event.key === 'Delete' || event.key === 'Backspace') remove();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  const order = (by: 1 | -1) => {
    if (!chosen) return;
    const from = content.shapes.indexOf(chosen);
    const rest = content.shapes.filter((shape) => shape !== chosen);
    keep([...rest.slice(0, Math.max(0, from + by)), chosen, ...rest.slice(Math.max(0, from + by))]);
  };

  return (
    <main className="flex min-h-0 flex-1">
      <section
        aria-label="Drawing"
        className="flex w-[300px] shrink-0 flex-col gap-3 overflow-auto border-r border-rule bg-panel px-3 py-3"
      >
        <h1 className="truncate font-semibold">Shapes of {plane.name}</h1>
        <div role="radiogroup" aria-label="Tool" className="grid grid-cols-4 gap-1">
          {TOOLS.map(([kind, word]) => (
            <Button key={kind} className="px-1!" on={tool === kind} onClick={() => setTool(kind)}>
              {word}
            </Button>
          ))}
        </div>
        <p className="text-[12px] text-ink-2">{TOOLS.find(([kind]) => kind === tool)?.[2]}</p>
        <PaintEditor
          key={chosenId ?? 'new'}
          paint={chosen?.paint ?? paint}
          onChange={(next, final) => {
            if (final) setPaint(next);
            if (chosen)
              keep(
                withShape(chosen.id, (shape) => ({ ...shape, paint: next })),
                final,
              );
          }}
        />
        {chosen && (
          <>
            <div className="grid grid-cols-3 gap-1 border-t border-rule pt-3">
              <Button onClick={copy}>Copy</Button>
              <Button onClick={() => turn(scaling(-1, 1))}>Flip E–W</Button>
              <Button onClick={() => turn(scaling(1, -1))}>Flip N–S</Button>
              <Button onClick={() => order(-1)}>Nearer</Button>
              <Button onClick={() => order(1)}>Farther</Button>
              <Button tone="danger" onClick={() => keep(content.shapes.filter((shape) => shape !== chosen))}>
                Delete
              </Button>
            </div>
            <div className="grid grid-cols-3 gap-2">
              <NumberField label="Turn by" unit="°" value={0} onCommit={(v) => turn(rotation(v))} />
              <NumberField
                label="Width to"
                unit="%"
                min={1}
                max={1000}
                value={100}
                onCommit={(v) => turn(scaling(v / 100, 1))}
              />
              <NumberField
                label="Height to"
                unit="%"
                min={1}
                max={1000}
                value={100}
                onCommit={(v) => turn(scaling(1, v / 100))}
              />
            </div>
          </>
        )}
        {chosen && node && (
          <div className="grid grid-cols-3 gap-1 border-t border-rule pt-3">
            <Button onClick={() => changeNode((outline, i) => setSmooth(outline, i, true))}>
              Round node
            </Button>
            <Button onClick={() => changeNode((outline, i) => setSmooth(outline, i, false))}>Straight</Button>
            <Button onClick={remove}>Delete node</Button>
          </div>
        )}
        <span className="flex-1" />
        <Link
          to="../.."
          relative="path"
          className="inline-flex h-[26px] items-center justify-center rounded-[3px] border border-ink bg-ink text-white"
        >
          Done
        </Link>
      </section>
      <ShapesSurface
        session={session}
        plane={plane}
        content={content}
        tool={tool}
        paint={paint}
        chosenId={chosenId}
        node={node}
        onChoose={(id) => {
          setChosenId(id);
          setNode(null);
        }}
        onNode={setNode}
        onOutlines={setOutlines}
        onAdd={add}
      />
    </main>
  );
}
